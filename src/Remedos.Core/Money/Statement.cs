namespace Remedos.Core.Money;

/// <summary>A line of a quote or a bill.</summary>
/// <param name="Quantity">In its unit.</param>
/// <param name="Unit">min, or null for pieces.</param>
/// <param name="UnitMinor">For one, without tax; for minutes, of an hour.</param>
/// <param name="NetMinor">The line's own sum, without tax.</param>
public sealed record StatementLine(string What, double Quantity, string? Unit, long UnitMinor, long NetMinor)
{
    /// <summary>Minutes at the bench.</summary>
    public const string Minutes = "min";

    /// <summary>A line that adds up by itself.</summary>
    public static StatementLine Of(string what, double quantity, string? unit, long unitMinor) =>
        new(
            what,
            quantity,
            unit,
            unitMinor,
            (long)Math.Round((decimal)quantity * unitMinor / (unit == Minutes ? 60 : 1), MidpointRounding.AwayFromZero)
        );
}

/// <summary>
/// What a quote or a bill says. Net is the sum of its lines as they are printed, tax is taken once of that sum, and the total is their sum:
/// what is printed adds up (docs/science.md, “What it costs”).
/// </summary>
/// <param name="Currency">Three letters.</param>
/// <param name="Billed">Name and address of who pays, as typed; null for nobody noted.</param>
public sealed record Statement(
    string Title,
    string? Billed,
    string Currency,
    IReadOnlyList<StatementLine> Lines,
    double TaxPercent,
    long NetMinor,
    long TaxMinor,
    long TotalMinor
)
{
    private const int MostLines = 60,
        LongestText = 300;

    private const long MostMinor = 1_000_000_000_000;

    private const double MostQuantity = 100_000;

    /// <summary>Adds lines up.</summary>
    public static Statement Of(string title, string? billed, string currency, IReadOnlyList<StatementLine> lines, double taxPercent)
    {
        long net = lines.Sum(line => line.NetMinor),
            tax = TaxOf(net, taxPercent);
        return new Statement(title, billed, currency, lines, taxPercent, net, tax, net + tax);
    }

    /// <summary>Tax of a sum, to the minor unit, halves upwards.</summary>
    public static long TaxOf(long netMinor, double taxPercent) =>
        (long)Math.Round(netMinor * (decimal)taxPercent / 100, MidpointRounding.AwayFromZero);

    /// <summary>A quote's lines as those of a statement: pieces at their price, labour by the minute.</summary>
    public static IReadOnlyList<StatementLine> LinesOf(IReadOnlyList<QuoteLine> parts, double minutes, Rates rates)
    {
        List<StatementLine> lines =
        [
            .. parts.Where(part => part.NetMinor != 0).Select(part => StatementLine.Of(part.What, 1, null, part.NetMinor)),
        ];
        if (minutes > 0)
        {
            lines.Add(StatementLine.Of("Labour", Math.Round(minutes), StatementLine.Minutes, rates.LabourMinorPerHour));
        }

        return lines;
    }

    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    public static string? Problem(IReadOnlyList<StatementLine> lines) =>
        lines.Count is 0 or > MostLines
            ? $"A quote or a bill has 1 to {MostLines} lines."
            : lines.Select((line, i) => ProblemOf(line, i + 1)).FirstOrDefault(one => one is not null)
                ?? (lines.Sum(line => line.NetMinor) < 0 ? "It comes to less than nothing: look at the lines with a minus." : null);

    private static string? ProblemOf(StatementLine line, int number) =>
        line.What.Trim().Length is 0 or > LongestText ? $"Line {number} says in 1 to {LongestText} letters what it is for."
        : line.Quantity is not (> 0 and <= MostQuantity) ? $"Line {number}: how many is more than 0 and at most {MostQuantity:0}."
        : line.UnitMinor is < -MostMinor or > MostMinor ? $"Line {number}: that price cannot be."
        : line.Unit is not (null or StatementLine.Minutes) ? $"Line {number}: “{line.Unit}” is neither pieces nor minutes."
        : null;
}
