namespace Remedos.Core.Learning;

/// <summary>What this workshop has seen of coolers of one series: how long they last, and of what they fail.</summary>
/// <param name="Life">Of those whose age is known.</param>
/// <param name="Causes">In how many of them each fault of the cooler was found, the most frequent first.</param>
public sealed record SeriesWear(string Name, Survival Life, IReadOnlyList<KeyValuePair<string, int>> Causes)
{
    /// <summary>Fewer machines than this tell nothing of a series.</summary>
    public const int FewestMachines = Diagnosis.SeriesRecord.FewestMachines;

    /// <summary>Fewer failures than this make no curve.</summary>
    private const int FewestFailures = 3;

    private const double Quarter = 0.25,
        Half = 0.5;

    /// <summary>What a maker vouches for, months; and the share that may fail within it before a series is called a poor one.</summary>
    private const double EarlyMonths = 24,
        EarlyShare = 0.1;

    /// <summary>Whether there is enough for a curve.</summary>
    public bool IsEnough => Life.Units >= FewestMachines && Life.Failures >= FewestFailures;

    /// <summary>The age by which one in four had failed, months; null where it was not seen to come so far, or too few were seen.</summary>
    public double? QuarterMonths => IsEnough ? Life.MonthsUntilFailed(Quarter) : null;

    /// <summary>Whether the records show, at 95 %, that more than one in ten fail within two years.</summary>
    public bool FailsEarly =>
        IsEnough && Life.Steps.LastOrDefault(step => step.Months <= EarlyMonths) is { } step && step.High < 1 - EarlyShare;

    /// <summary>Its figures without the curve.</summary>
    public SeriesSummary Summary =>
        new(Name, Life.Units, Life.Failures, IsEnough, QuarterMonths, IsEnough ? Life.MonthsUntilFailed(Half) : null, FailsEarly, Causes);

    /// <summary>In words.</summary>
    public string Sentence => Summary.Sentence;
}

/// <summary>The figures of a series' record.</summary>
/// <param name="Units">Coolers whose age is known.</param>
/// <param name="Failures">How many of them had failed.</param>
/// <param name="IsEnough">Whether there is enough for a curve.</param>
/// <param name="QuarterMonths">The age by which one in four had failed; null where it was not seen to come so far.</param>
/// <param name="HalfMonths">The same of one half.</param>
/// <param name="FailsEarly">Whether more than one in ten are shown to fail within two years.</param>
/// <param name="Causes">In how many of them each fault of the cooler was found, the most frequent first.</param>
public sealed record SeriesSummary(
    string Name,
    int Units,
    int Failures,
    bool IsEnough,
    double? QuarterMonths,
    double? HalfMonths,
    bool FailsEarly,
    IReadOnlyList<KeyValuePair<string, int>> Causes
)
{
    /// <summary>In words: “6 of 7 had failed; one in four by 33 months, half by 35.”</summary>
    public string Sentence
    {
        get
        {
            string seen = Failures == 0 ? $"none of {Units} had failed" : $"{Failures} of {Units} had failed";
            string ages = (QuarterMonths, HalfMonths) switch
            {
                ({ } quarter, { } half) => $"; one in four by {quarter:0} months, half by {half:0}",
                ({ } quarter, null) => $"; one in four by {quarter:0} months",
                _ when IsEnough => "",
                _ => ", too few to tell how long they last",
            };
            return $"{char.ToUpperInvariant(seen[0])}{seen[1..]}{ages}."
                + (FailsEarly ? " It fails early: more than one in ten within two years." : "");
        }
    }
}
