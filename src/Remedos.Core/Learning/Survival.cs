namespace Remedos.Core.Learning;

/// <summary>A part as it was last seen.</summary>
/// <param name="Months">Its age then.</param>
/// <param name="Failed">Whether it had failed; otherwise it still worked, and is counted up to there.</param>
public sealed record SeenUnit(double Months, bool Failed);

/// <summary>Parts that were last seen at one age: many of them in a row, so that they can be kept.</summary>
/// <param name="Units">How many.</param>
/// <param name="Failed">How many of those had failed.</param>
public sealed record SeenAge(double Months, int Units, int Failed)
{
    /// <summary>Some parts by their ages, the youngest first.</summary>
    public static IReadOnlyList<SeenAge> Of(IEnumerable<SeenUnit> units) =>
        [
            .. units
                .GroupBy(unit => unit.Months)
                .OrderBy(age => age.Key)
                .Select(age => new SeenAge(age.Key, age.Count(), age.Count(unit => unit.Failed))),
        ];

    /// <summary>What is left of some ages without these parts; one that is not among them takes nothing away.</summary>
    public static IReadOnlyList<SeenAge> Without(IReadOnlyList<SeenAge> ages, IEnumerable<SeenUnit> units)
    {
        ILookup<double, SeenUnit> gone = units.ToLookup(unit => unit.Months);
        return
        [
            .. ages.Select(age =>
                    age with
                    {
                        Units = Math.Max(0, age.Units - gone[age.Months].Count()),
                        Failed = Math.Max(0, age.Failed - gone[age.Months].Count(unit => unit.Failed)),
                    }
                )
                .Where(age => age.Units > 0),
        ];
    }
}

/// <summary>An age at which parts failed.</summary>
/// <param name="AtRisk">Those that were seen at this age or later.</param>
/// <param name="Share">That still works beyond it.</param>
/// <param name="StandardError">Of the share, by Greenwood (1926).</param>
/// <param name="Low">Of the 95 % interval, on the scale log(−log): it stays between 0 and 1 (Kalbfleisch and Prentice 1980).</param>
/// <param name="High">The same, its upper end.</param>
public sealed record SurvivalStep(double Months, int AtRisk, int Failed, double Share, double StandardError, double Low, double High);

/// <summary>
/// How long parts of a series last, by Kaplan and Meier (1958): parts that still work count for as long as they were seen.
/// </summary>
/// <param name="Steps">By age.</param>
public sealed record Survival(int Units, int Failures, IReadOnlyList<SurvivalStep> Steps)
{
    /// <summary>The curve of what was seen.</summary>
    public static Survival Of(IEnumerable<SeenUnit> units) => OfAges(SeenAge.Of(units));

    /// <summary>Likewise of parts by their ages.</summary>
    /// <param name="ages">The youngest first, none twice.</param>
    public static Survival OfAges(IReadOnlyList<SeenAge> ages)
    {
        int units = ages.Sum(age => age.Units);
        List<SurvivalStep> steps = [];
        double share = 1,
            greenwood = 0;
        int seen = 0;
        foreach ((double months, int seenThen, int failed) in ages)
        {
            int atRisk = units - seen;
            seen += seenThen;
            if (failed == 0)
            {
                continue;
            }

            share *= 1 - ((double)failed / atRisk);
            greenwood += (double)failed / ((double)atRisk * (atRisk - failed));
            if (share <= 0)
            {
                steps.Add(new SurvivalStep(months, atRisk, failed, 0, 0, 0, 0));
                break;
            }

            double spread = Figure.Sigma95 * Math.Sqrt(greenwood) / Math.Abs(Math.Log(share));
            steps.Add(
                new SurvivalStep(
                    months,
                    atRisk,
                    failed,
                    share,
                    share * Math.Sqrt(greenwood),
                    Math.Pow(share, Math.Exp(spread)),
                    Math.Pow(share, Math.Exp(-spread))
                )
            );
        }

        return new Survival(units, steps.Sum(step => step.Failed), steps);
    }

    /// <summary>The age by which a share has failed, months; null where it was not seen to come so far.</summary>
    public double? MonthsUntilFailed(double share) => Steps.FirstOrDefault(step => step.Share <= 1 - share + 1e-12)?.Months;
}
