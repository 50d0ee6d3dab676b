using MathNet.Numerics.Distributions;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>Compares two setups of a machine under one load; see this folder's README and docs/science.md, “Verdicts”.</summary>
public static class Comparer
{
    private const double MattersC = 2,
        MattersShare = 0.03;

    /// <summary>Scatter of a score between runs, as a share, and the degrees of freedom that this is worth.</summary>
    private const double ScoreScatter = 0.01,
        ScoreDegrees = 6;

    /// <summary>
    /// Checks that the sides are comparable, then compares own resistances at one fan speed, one room and one other heat.
    /// </summary>
    /// <param name="before">Runs of the setup that is the reference.</param>
    /// <param name="after">Runs of the setup that is held against it.</param>
    /// <param name="bench">How far runs of this bench scatter; an average bench's where nothing was learnt.</param>
    /// <param name="subject">Whose cooling is judged.</param>
    public static ComparisonResult Compare(
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Repeatability? bench = null,
        Subject subject = Subject.Processor
    )
    {
        ComparisonResult result = Of(before, after, bench ?? Repeatability.Prior, subject);
        bool card =
            subject == Subject.Processor
            && before.Count > 0
            && after.Count > 0
            && before.Concat(after).All(run => run.Analysis.Graphics is { PowerW: not null });
        return card ? result with { Graphics = Of(before, after, bench ?? Repeatability.Prior, Subject.Graphics) } : result;
    }

    private static ComparisonResult Of(
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Repeatability bench,
        Subject subject
    )
    {
        (IReadOnlyList<Obstacle> obstacles, Reading[] then, Reading[] now, AlignedSetups? together) = Align(before, after, subject);
        if (together is not { } aligned)
        {
            return new ComparisonResult(
                Verdict.NotComparable,
                false,
                false,
                obstacles,
                SideOf(then, before.Count, null, null),
                SideOf(now, after.Count, null, null)
            );
        }

        double reference = aligned.ReferencePowerW,
            change = aligned.MeanOf(1) - aligned.MeanOf(0),
            changeC = change * reference;
        Design designThen = aligned.DesignOf(0),
            designNow = aligned.DesignOf(1);
        Repeatability scatter = aligned.Learn(bench);
        double systematic = aligned.SystematicC(0, 1);
        Spread spread = Precision.Of(scatter, [designThen, designNow], systematic);
        double half = spread.HalfWidth;
        double? fanPart = aligned.FanPartOf(1) * reference;
        Verdict verdict =
            Math.Abs(changeC) <= half ? Verdict.NoMeasurableChange
            : changeC < 0 ? Verdict.Improved
            : Verdict.Worse;
        double? limit = then[0].LimitC;
        Side sideThen = SideOf(then, before.Count, aligned.MeanOf(0), Sustainable(aligned, 0, limit)),
            sideNow = SideOf(now, after.Count, aligned.MeanOf(1), Sustainable(aligned, 1, now[0].LimitC));
        (double Percent, double HalfWidth)? score = subject == Subject.Processor ? ScoreChange(then, now) : null;
        Change all = new(change, half / reference, changeC, half, reference)
        {
            FanPartC = fanPart,
            AsItRunsC = changeC + (fanPart ?? 0),
            SustainablePowerW = sideNow.SustainablePowerW - sideThen.SustainablePowerW,
            ClockMHz = sideNow.ClockMHz - sideThen.ClockMHz,
            ScorePercent = score?.Percent,
            ScoreHalfWidthPercent = score?.HalfWidth,
        };
        // A limit counts as gone when it would be gone in the room of the before runs as well.
        bool InThatRoom(Reading run) => run.TemperatureC + aligned.RoomC - run.RoomC >= run.LimitC - Limits.NearC;
        bool heldThen = then.Any(run => run.AtLimit),
            heldNow = now.Any(run => run.AtLimit);
        bool gone = heldThen && !heldNow && !now.Any(InThatRoom),
            came = heldNow && !heldThen && now.Any(InThatRoom);
        bool measurable = verdict != Verdict.NoMeasurableChange;
        bool more =
            Math.Abs(all.ClockMHz ?? 0) >= MattersShare * (sideThen.ClockMHz ?? double.PositiveInfinity)
            || (score is var (percent, width) && Math.Abs(percent) >= Math.Max(100 * MattersShare, width));
        return new ComparisonResult(
            verdict,
            true,
            more || (measurable && (Math.Abs(changeC) >= MattersC || Math.Abs(all.AsItRunsC) >= MattersC || gone || came)),
            obstacles,
            sideThen,
            sideNow,
            all,
            spread.SmallestDetectable
        )
        {
            Wanted =
                measurable ? null
                : Precision.Wanted(scatter, designThen, designNow, systematic, changeC) is var (mounts, runs) ? new Wanted(mounts, runs)
                : null,
            Noise = Noise.Between(then, now, aligned, changeC),
            ByBand = subject == Subject.Processor ? ByBand(before, after, aligned) : null,
            LimitGone = gone,
            LimitCame = came,
        };
    }

    /// <summary>Brings two setups together; nothing is aligned where something blocks.</summary>
    internal static (IReadOnlyList<Obstacle> Obstacles, Reading[] Then, Reading[] Now, AlignedSetups? Aligned) Align(
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after,
        Subject subject
    )
    {
        IReadOnlyList<Obstacle> obstacles = Obstacles.Between(before, after, subject);
        Reading[] then = Readings(before, subject, "before"),
            now = Readings(after, subject, "after");
        bool blocked = obstacles.Any(obstacle => obstacle.Severity == ObstacleWeight.Blocking) || then.Length == 0 || now.Length == 0;
        return (obstacles, then, now, blocked ? null : new AlignedSetups([then, now], [true, Obstacles.SameFan(before, after)]));
    }

    internal static Reading[] Readings(IReadOnlyList<ConditionedRun> runs, Subject subject, string side) =>
        [.. runs.Select((run, i) => Reading.Of(run with { Mount = run.Mount ?? $"{side} {i}" }, subject, i)).OfType<Reading>()];

    /// <summary>Watts at the limit in the reference's room, with the fans as they ran.</summary>
    private static double? Sustainable(AlignedSetups aligned, int setup, double? limitC)
    {
        double own = aligned.MeanOf(setup) + (aligned.FanPartOf(setup) ?? 0);
        return limitC is { } limit && own > 0 && limit - aligned.RoomC - aligned.OtherHeatOf(setup) is > 0 and { } room ? room / own : null;
    }

    private static Side SideOf(Reading[] runs, int count, double? resistance, double? sustainable) =>
        new(
            count,
            runs.Select(run => run.Mount).Distinct().Count(),
            resistance ?? (runs.Length == 0 ? null : runs.Average(run => run.RiseC / run.PowerW)),
            runs.Length > 0 && runs.All(run => run.Fan is not null) ? runs.Average(run => run.Fan!.Rpm) : null
        )
        {
            TemperatureC = runs.Length == 0 ? null : runs.Average(run => run.TemperatureC),
            PowerW = runs.Length == 0 ? null : runs.Average(run => run.PowerW),
            ClockMHz = runs.Average(run => run.ClockMHz),
            Score = runs.All(run => run.Score is > 0) ? runs.Average(run => run.Score) : null,
            RoomC = runs.Length == 0 ? null : runs.Average(run => run.RoomC),
            AtLimit = runs.Any(run => run.AtLimit),
            LimitC = runs.FirstOrDefault()?.LimitC,
            SustainablePowerW = sustainable,
        };

    /// <summary>
    /// Change of the mean score in percent of the before runs', with half of its 95 % interval; null where a run has none.
    /// </summary>
    private static (double Percent, double HalfWidth)? ScoreChange(Reading[] then, Reading[] now)
    {
        if (!then.Concat(now).All(run => run.Score is > 0))
        {
            return null;
        }

        double[] before = [.. then.Select(run => run.Score!.Value)],
            after = [.. now.Select(run => run.Score!.Value)];
        double mean = before.Average();
        double Squares(double[] scores) => scores.Sum(score => Math.Pow((score - scores.Average()) / mean, 2));
        double degrees = ScoreDegrees + before.Length + after.Length - 2;
        double sd = Math.Sqrt(((ScoreDegrees * ScoreScatter * ScoreScatter) + Squares(before) + Squares(after)) / degrees);
        return (
            100 * ((after.Average() / mean) - 1),
            100 * sd * Math.Sqrt((1.0 / before.Length) + (1.0 / after.Length)) * StudentT.InvCDF(0, 1, degrees, 0.975)
        );
    }

    /// <summary>
    /// Which stretch of the heat path shrank or swelled, at the before runs' fan speed; null unless every run tells its bands.
    /// </summary>
    private static BandChange[]? ByBand(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after, AlignedSetups aligned)
    {
        if (before.Concat(after).Any(run => run.Analysis.HeatPath is null))
        {
            return null;
        }

        // The fan acts behind the fins, in the bulk band.
        double MoreAt(ConditionedRun run, HeatStep band, bool fan) =>
            fan && band == HeatStep.Bulk && aligned.ReferenceRpm is { } rpm && run.Analysis.FanResistance is { } part
                ? part.MoreAt(rpm)
                : 0;
        (double Value, double HalfWidth) Mean(IReadOnlyList<ConditionedRun> runs, HeatStep band, bool fan)
        {
            (double Value, double Half)[] all =
            [
                .. runs.Select(run => (run.Analysis.HeatPath!.Single(b => b.Band == band), run))
                    .Select(pair => (pair.Item1.ResistanceCPerW + MoreAt(pair.run, band, fan), pair.Item1.HalfWidthCPerW)),
            ];
            // What the fit's borders and model leave open is the same in every run of a machine: only the rest averages out.
            double scatter = Variance([.. all.Select(one => one.Value)]) / all.Length;
            return (all.Average(one => one.Value), Math.Sqrt(all.Average(one => one.Half * one.Half) + (1.96 * 1.96 * scatter)));
        }

        return
        [
            .. HeatBand.All.Select(band =>
            {
                ((double then, double u), (double now, double v)) = (
                    Mean(before, band, aligned.FanAligned[0]),
                    Mean(after, band, aligned.FanAligned[1])
                );
                return new BandChange(band, now - then, Math.Sqrt((u * u) + (v * v)));
            }),
        ];
    }

    private static double Variance(double[] values) =>
        values.Length < 2 ? 0 : values.Sum(value => Math.Pow(value - values.Average(), 2)) / (values.Length - 1);
}
