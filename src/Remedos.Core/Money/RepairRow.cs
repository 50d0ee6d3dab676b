using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Money;

/// <summary>What a repair takes.</summary>
/// <param name="Id">As in the table of causes.</param>
/// <param name="Settles">How often it ends the matter where its cause is there.</param>
public sealed record RepairRow(string Id, double Minutes, long PartsMinor, double Settles, string Reason)
{
    /// <summary>Every repair there is.</summary>
    public static IReadOnlyList<RepairRow> All { get; } = Load();

    private static RepairRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Money.repairs.json")!;
        RepairRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.RepairRowArray)!;
        return Diagnosis
                .DiagnosisTables.Causes.Select(cause => cause.Repair)
                .Distinct()
                .FirstOrDefault(repair => rows.All(row => row.Id != repair))
                is { } missing
                ? throw new InvalidDataException($"repairs.json: “{missing}” is missing.")
            : rows.FirstOrDefault(row => row is not { Minutes: > 0, PartsMinor: >= 0, Settles: > 0 and <= 1, Reason.Length: > 10 })
                is { } wrong
                ? throw new InvalidDataException($"repairs.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.")
            : rows;
    }
}
