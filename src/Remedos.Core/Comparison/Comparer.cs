using MathNet.Numerics.Distributions;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>A run with the conditions under which it was made.</summary>
public sealed record ConditionedRun(RunAnalysis Analysis, RunConditions Conditions)
{
    /// <summary>How much of what a forecast adds may be wrong, as half of a 95 % interval.</summary>
    private const double ForecastShare = 0.5;

    /// <summary>The resistance to compare by, °C/W: of a run that was stopped before it was level, that of where it was going.</summary>
    public ResistanceFigures? ComparedResistance
    {
        get
        {
            if (Analysis is not { Load: { Settled: false, ForecastFinalTemperatureC: { } final, SustainedPowerW: { } watts } load, AmbientC: { } room, Resistance: { } measured })
            {
                return Analysis.Resistance;
            }

            double open = ForecastShare * (final - load.SustainedTemperatureC) / watts;
            return new ResistanceFigures((final - room) / watts, Math.Sqrt((measured.HalfWidthCPerW * measured.HalfWidthCPerW) + (open * open)));
        }
    }
}

/// <summary>Compares the runs before a repair with those after it (docs/science.md, “Before and after”).</summary>
public static class Comparer
{
    /// <summary>Standard deviation of a run on an average bench, mounts and days included, °C at reference power.</summary>
    public const double DefaultRepeatabilityC = 1.0;

    private const double MattersC = 2, MattersClockShare = 0.03;

    /// <summary>Checks that the sides are comparable, then compares resistances and turns the change into °C at reference power.</summary>
    /// <param name="before">One run or more.</param>
    /// <param name="after">One run or more.</param>
    /// <param name="repeatabilityC">The bench's standard deviation of a run at reference power, °C; used where a side has a single run.</param>
    public static ComparisonResult Compare(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after, double repeatabilityC = DefaultRepeatabilityC)
    {
        IReadOnlyList<Obstacle> obstacles = Obstacles.Between(before, after);
        Side sideBefore = SideOf(before), sideAfter = SideOf(after);
        if (obstacles.Any(obstacle => obstacle.Severity == Obstacle.Blocking) || sideBefore.ResistanceCPerW is null || sideAfter.ResistanceCPerW is null)
        {
            return new ComparisonResult(ComparisonResult.NotComparable, false, false, obstacles, sideBefore, sideAfter, null, null, null, null);
        }

        double reference = before.Average(run => run.Analysis.Load!.SustainedPowerW!.Value);
        double change = sideAfter.ResistanceCPerW.Value - sideBefore.ResistanceCPerW.Value;
        (double u, double degrees) = Uncertainty(before, after, repeatabilityC / reference);
        double t = StudentT.InvCDF(0, 1, degrees, 0.975);
        double half = t * u;
        double? clock = MeanClock(after) - MeanClock(before);
        string verdict = Math.Abs(change) <= half ? ComparisonResult.NoMeasurableChange : change < 0 ? ComparisonResult.Improved : ComparisonResult.Worse;
        bool limitChanged = before.Any(run => run.Analysis.ThermalLimit is not null) != after.Any(run => run.Analysis.ThermalLimit is not null);
        bool matters = verdict != ComparisonResult.NoMeasurableChange &&
            (Math.Abs(change) * reference >= MattersC || limitChanged || (clock is { } mhz && Math.Abs(mhz) >= MattersClockShare * MeanClock(before)));
        return new ComparisonResult(
            verdict,
            true,
            matters,
            obstacles,
            sideBefore,
            sideAfter,
            new Change(change, half, change * reference, half * reference, reference, MeanSustainable(after) - MeanSustainable(before), clock, 100 * ((MeanScore(after) / MeanScore(before)) - 1)),
            half * reference,
            verdict == ComparisonResult.NoMeasurableChange ? MoreRuns(change * reference, repeatabilityC, Math.Min(before.Count, after.Count)) : null,
            ByBand(before, after));
    }

    /// <summary>Which stretch of the heat path shrank or swelled; null unless every run tells its bands.</summary>
    private static BandChange[]? ByBand(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        if (before.Concat(after).Any(run => run.Analysis.HeatPath is null))
        {
            return null;
        }

        (double Value, double HalfWidth) Mean(IReadOnlyList<ConditionedRun> runs, string band)
        {
            HeatBand[] bands = [.. runs.Select(run => run.Analysis.HeatPath!.Single(b => b.Band == band))];
            return (bands.Average(b => b.ResistanceCPerW), Math.Sqrt(bands.Average(b => Square(b.HalfWidthCPerW)) / bands.Length));
        }

        return
        [
            .. new[] { HeatBand.Chip, HeatBand.Cooler, HeatBand.Bulk }.Select(band =>
            {
                ((double then, double u), (double now, double v)) = (Mean(before, band), Mean(after, band));
                return new BandChange(band, now - then, Math.Sqrt(Square(u) + Square(v)));
            }),
        ];
    }

    /// <summary>
    /// Standard uncertainty of the difference of means and its degrees of freedom. Two runs or more on both sides: Welch (1947), from their
    /// scatter, no smaller than what a single run is known to. Else the bench's repeatability stands in, as if known well.
    /// </summary>
    private static (double U, double Degrees) Uncertainty(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after, double repeatabilityCPerW)
    {
        double within = Math.Sqrt(Square(MeanStandardUncertainty(before)) / before.Count + (Square(MeanStandardUncertainty(after)) / after.Count));
        if (before.Count < 2 || after.Count < 2)
        {
            double between = repeatabilityCPerW * Math.Sqrt((1.0 / before.Count) + (1.0 / after.Count));
            return (Math.Sqrt(Square(within) + Square(between)), 1000);
        }

        double varianceBefore = Variance(before) / before.Count, varianceAfter = Variance(after) / after.Count;
        double welch = Math.Sqrt(varianceBefore + varianceAfter);
        double degrees = Square(varianceBefore + varianceAfter) /
            ((Square(varianceBefore) / (before.Count - 1)) + (Square(varianceAfter) / (after.Count - 1)));
        return welch > within ? (welch, Math.Max(1, degrees)) : (within, 1000);
    }

    /// <summary>Runs still needed on each side until a change of this size would be clear of zero; null when it would take more than twenty.</summary>
    private static int? MoreRuns(double changeC, double repeatabilityC, int have)
    {
        double needed = 2 * Square(1.96 * repeatabilityC / Math.Max(Math.Abs(changeC), 1e-9));
        int more = (int)Math.Ceiling(Math.Min(needed, 1000)) - have;
        return more is > 0 and <= 20 ? more : null;
    }

    private static Side SideOf(IReadOnlyList<ConditionedRun> runs) =>
        new(runs.Count, runs.Count > 0 && runs.All(run => run.ComparedResistance is not null) ? runs.Average(run => run.ComparedResistance!.ValueCPerW) : null);

    private static double MeanStandardUncertainty(IReadOnlyList<ConditionedRun> runs) =>
        Math.Sqrt(runs.Average(run => Square(run.ComparedResistance!.HalfWidthCPerW / 1.96)));

    private static double Variance(IReadOnlyList<ConditionedRun> runs)
    {
        double mean = runs.Average(run => run.ComparedResistance!.ValueCPerW);
        return runs.Sum(run => Square(run.ComparedResistance!.ValueCPerW - mean)) / (runs.Count - 1);
    }

    private static double? MeanClock(IReadOnlyList<ConditionedRun> runs) => runs.Average(run => run.Analysis.Load?.SustainedClockMHz);

    private static double? MeanScore(IReadOnlyList<ConditionedRun> runs) =>
        runs.All(run => run.Analysis.Load?.SustainedScore is > 0) ? runs.Average(run => run.Analysis.Load!.SustainedScore) : null;

    private static double? MeanSustainable(IReadOnlyList<ConditionedRun> runs) => runs.Average(run => run.Analysis.SustainablePowerW);

    private static double Square(double x) => x * x;
}
