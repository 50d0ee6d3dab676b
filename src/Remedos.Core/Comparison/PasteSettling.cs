using MathNet.Numerics.Distributions;

namespace Remedos.Core.Comparison;

/// <summary>How a mount's paste settled: several runs of one mount over hours and days, alike but for its age.</summary>
/// <param name="GainC">What it gains from the first run on until it is at rest, at the first run's power, °C; negative is cooler.</param>
/// <param name="HalfWidthC">Half of the 95 % interval of that, °C.</param>
/// <param name="HalfLifeHours">Until half of what it gains has come, h.</param>
/// <param name="HalfLifeLowHours">Lower end of its 95 % interval, h.</param>
/// <param name="HalfLifeHighHours">Upper end; null where the runs do not bound it.</param>
/// <param name="LeftC">What is still to come after the last run, °C.</param>
public sealed record PasteSettling(
    double GainC,
    double HalfWidthC,
    double HalfLifeHours,
    double HalfLifeLowHours,
    double? HalfLifeHighHours,
    double LeftC,
    int Runs
)
{
    /// <summary>At which these are degrees, W.</summary>
    internal double PowerW { get; init; }

    private const int FewestRuns = 3;

    private const double ShortestSpanHours = 12,
        ShortestHalfLife = 0.5,
        LongestHalfLife = 500,
        PerDecade = 12;

    /// <summary>
    /// Fits y(t) = level + gain·2^(−t/half-life) to the own resistances of a mount's runs at one power, by least squares over a grid of
    /// half-lives; the half-life's interval is
    /// that of the profile likelihood, with the bench's scatter within a mount as a prior for the runs' own.
    /// </summary>
    /// <param name="runs">Alike, of one mount; those whose paste's age is not known are passed over.</param>
    /// <param name="bench">What is known of the scatter of repeats.</param>
    /// <returns>Null with fewer than three ages over half a day.</returns>
    public static PasteSettling? Of(IReadOnlyList<ConditionedRun> runs, Repeatability bench)
    {
        ConditionedRun[] aged = [.. runs.Where(run => run.Conditions.HoursSinceMount is not null)];
        Reading[] readings = Comparer.Readings([.. aged.Select(run => run with { Mount = "one" })], Subject.Processor, "");
        double[] hours = [.. aged.Select(run => run.Conditions.HoursSinceMount!.Value)];
        if (readings.Length != aged.Length || hours.Distinct().Count() < FewestRuns || hours.Max() - hours.Min() < ShortestSpanHours)
        {
            return null;
        }

        AlignedSetups aligned = new([readings], [true]);
        double[] values = [.. aligned.Values[0].Select(value => value * aligned.ReferencePowerW)];
        Fit best = default;
        List<(double HalfLife, double Squares)> profile = [];
        for (double halfLife = ShortestHalfLife; halfLife <= LongestHalfLife; halfLife *= Math.Pow(10, 1 / PerDecade))
        {
            Fit fit = LineOf(hours, values, halfLife);
            profile.Add((halfLife, fit.Squares));
            best = best.HalfLife == 0 || fit.Squares < best.Squares ? fit : best;
        }

        double degrees = bench.WithinDegrees + Math.Max(0, values.Length - 3);
        double variance = ((bench.WithinDegrees * bench.WithinC * bench.WithinC) + best.Squares) / degrees;
        double t = StudentT.InvCDF(0, 1, degrees, 0.975);
        double[] within = [.. profile.Where(one => one.Squares - best.Squares <= t * t * variance).Select(one => one.HalfLife)];
        double first = hours.Min(),
            last = hours.Max();
        // From the first run to rest, and what of it is left after the last.
        double At(double age) => best.Slope * Math.Pow(2, -age / best.HalfLife);
        return new PasteSettling(
            -At(first),
            t * Math.Sqrt(variance / best.Spread) * Math.Pow(2, -first / best.HalfLife),
            best.HalfLife,
            within.Min(),
            within.Max() > LongestHalfLife * 0.8 ? null : within.Max(),
            -At(last),
            values.Length
        )
        {
            PowerW = aligned.ReferencePowerW,
        };
    }

    private readonly record struct Fit(double HalfLife, double Slope, double Spread, double Squares);

    /// <summary>The least squares line of the values over 2^(−t/half-life).</summary>
    private static Fit LineOf(double[] hours, double[] values, double halfLife)
    {
        double[] decay = [.. hours.Select(t => Math.Pow(2, -t / halfLife))];
        double meanX = decay.Average(),
            meanY = values.Average();
        double spread = decay.Sum(x => (x - meanX) * (x - meanX));
        double slope = spread <= 0 ? 0 : decay.Zip(values, (x, y) => (x - meanX) * (y - meanY)).Sum() / spread;
        double squares = decay.Zip(values, (x, y) => Math.Pow(y - meanY - (slope * (x - meanX)), 2)).Sum();
        return new Fit(halfLife, slope, Math.Max(spread, 1e-12), squares);
    }
}
