namespace Remedos.Core.Money;

/// <summary>What the workshop asks. Money in the currency's minor unit.</summary>
/// <param name="LabourMinorPerHour">Without tax.</param>
public sealed record Rates(long LabourMinorPerHour, double TaxPercent)
{
    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    public string? Problem() =>
        LabourMinorPerHour is < 0 or > 100_000_000 ? "labourMinorPerHour: an hour costs 0 to 1,000,000."
        : TaxPercent is not (>= 0 and <= 60) ? $"taxPercent: {TaxPercent:0.##} is outside 0 to 60 %."
        : null;
}

/// <summary>A line of a quote, without tax.</summary>
public sealed record QuoteLine(string What, long NetMinor);

/// <summary>Parts, labour and tax.</summary>
public sealed record Quote(IReadOnlyList<QuoteLine> Lines, double Minutes, long NetMinor, long TaxMinor, long TotalMinor)
{
    /// <summary>Adds it up.</summary>
    /// <param name="parts">At the library's prices, which are without tax.</param>
    public static Quote Of(IReadOnlyList<QuoteLine> parts, double minutes, Rates rates)
    {
        List<QuoteLine> lines = [.. parts.Where(part => part.NetMinor != 0)];
        if (minutes > 0)
        {
            lines.Add(
                // By whole minutes, as they are printed.
                new QuoteLine(
                    $"Labour, {minutes:0} min",
                    StatementLine.Of("Labour", Math.Round(minutes), StatementLine.Minutes, rates.LabourMinorPerHour).NetMinor
                )
            );
        }

        long net = lines.Sum(line => line.NetMinor),
            tax = Statement.TaxOf(net, rates.TaxPercent);
        return new Quote(lines, minutes, net, tax, net + tax);
    }
}
