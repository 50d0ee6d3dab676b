using Remedos.Core.Money;
using Remedos.Core.Repair;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;

namespace Remedos.Server.Reports;

/// <summary>What a quote or bill begins with: what the owner chose and saw, and the minutes as they were.</summary>
internal static class ProposedPaper
{
    /// <summary>
    /// Lines of the choice with its labour as quoted, or as logged once it was done; parts used beside them, at the library's price where
    /// it has one, else at none yet.
    /// </summary>
    public static IReadOnlyList<StatementLine> Of(Job job, Rates rates, IReadOnlyList<Part> library)
    {
        QuoteLine[] parts = [.. (job.Choice?.Lines ?? []).Where(line => !IsLabour(line))];
        string[] used =
        [
            .. job.Repair.PartsUsed.Where(one => !Array.Exists(parts, part => part.What.Equals(one, StringComparison.OrdinalIgnoreCase))),
        ];
        double minutes = job.Repair.Minutes ?? QuotedMinutes(job.Choice?.Lines, rates);
        return
        [
            .. Statement.LinesOf(parts, 0, rates),
            .. used.Select(one => StatementLine.Of(one, 1, null, PriceOf(one, library))),
            .. Statement.LinesOf([], minutes, rates),
        ];
    }

    private static long PriceOf(string name, IReadOnlyList<Part> library) =>
        library.FirstOrDefault(part => part.Name.Equals(name, StringComparison.OrdinalIgnoreCase))?.Values.PriceMinor
        ?? (name.Equals(Paste, StringComparison.OrdinalIgnoreCase) ? RepairRow.Of(RepairRow.Remount).PartsMinor : 0);

    private const string Paste = "paste";

    private static bool IsLabour(QuoteLine line) => line.What.StartsWith("Labour, ", StringComparison.Ordinal);

    private static double QuotedMinutes(IReadOnlyList<QuoteLine>? lines, Rates rates) =>
        rates.LabourMinorPerHour > 0 && lines?.FirstOrDefault(IsLabour) is { } labour
            ? Math.Round(60.0 * labour.NetMinor / rates.LabourMinorPerHour)
            : 0;
}
