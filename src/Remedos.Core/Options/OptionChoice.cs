using Remedos.Core.Money;

namespace Remedos.Core.Options;

/// <summary>What the owner chose, with the quote they saw; who noted it and when stands in the job's history.</summary>
/// <param name="Option">Of <see cref="OptionRow"/>.</param>
/// <param name="Title">As it was called then.</param>
/// <param name="Cooler">The one that goes on, by name; null for none.</param>
/// <param name="Currency">Three letters.</param>
public sealed record OptionChoice(
    string Option,
    string Title,
    string? Cooler,
    long TotalMinor,
    string Currency,
    IReadOnlyList<QuoteLine> Lines
)
{
    private const int LongestTitle = 200,
        MostLines = 20;

    private const long MostMinor = 1_000_000_000_000;

    /// <summary>What it comes to in the order of work; null for a claim, which is nothing done here.</summary>
    public DecisionRoute? Route =>
        Option switch
        {
            OptionRow.AnotherCooler or OptionRow.LikeForLike or OptionRow.UsedPart => DecisionRoute.Cooler,
            OptionRow.CapPower => DecisionRoute.Cap,
            OptionRow.Leave => DecisionRoute.Leave,
            OptionRow.WarrantyClaim => null,
            _ => DecisionRoute.Repair,
        };

    /// <summary>What is done for it; null where nothing is.</summary>
    public string? Act => OptionRow.All.FirstOrDefault(row => row.Id == Option)?.Act;

    /// <summary>What cannot be, as a sentence; null when all is well.</summary>
    public string? Problem() =>
        OptionRow.All.All(row => row.Id != Option)
            ? $"“{Option}” is no option; known are {string.Join(", ", OptionRow.All.Select(row => row.Id))}."
        : Title.Length is 0 or > LongestTitle || Cooler?.Length > LongestTitle ? $"An option is called by 1 to {LongestTitle} letters."
        : TotalMinor is < 0 or > MostMinor
        || Lines.Count > MostLines
        || Lines.Any(line => line.NetMinor < 0 || line.What.Length > LongestTitle)
            ? $"A quote has up to {MostLines} lines, and costs nothing or more."
        : Currency.Length != 3 ? "A currency is told by three letters."
        : null;
}
