using System.Text.Json.Serialization;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>What holds a chip back.</summary>
[JsonConverter(typeof(KebabEnum<LimitKind>))]
public enum LimitKind
{
    /// <summary>Its own heat.</summary>
    Thermal,

    /// <summary>Its budget of watts.</summary>
    Power,
}

/// <summary>A limit that a chip ran into.</summary>
/// <param name="Kind">What held it.</param>
/// <param name="FirstSeconds">Of the first cut, since the log's first row; the load's start where it was held from there.</param>
/// <param name="ShareOfLoad">Share of the load phase spent so, 0…1.</param>
/// <param name="ClockLossPercent">Mean loss of clock while so against the same load unhindered; null where that is not known.</param>
/// <param name="UnhinderedPowerW">Power just before the first cut, or the rated power where there was no such moment, W; null when
/// unknown.</param>
public sealed record Limit(LimitKind Kind, double FirstSeconds, double ShareOfLoad, double? ClockLossPercent, double? UnhinderedPowerW)
{
    /// <summary>Mean loss of score while so, as of the clock; null without a score.</summary>
    public double? ScoreLossPercent { get; init; }

    /// <summary>Whether the load had no unhindered moment: held from its first row.</summary>
    public bool AtOnce { get; init; }
}

/// <summary>What limits are found in; all series on one time base.</summary>
public sealed record LimitSignals(Series Temperature, Series? Power, Series? Clock = null, Series? Score = null, Series? Flag = null);

/// <summary>Finds thermal and power limits within a load phase (docs/science.md, “Limits”). All spans are seconds, not rows.</summary>
public static class Limits
{
    /// <summary>This near to the limit counts as at it, °C: sensors round and controllers hover.</summary>
    public const double NearC = 1.5;

    /// <summary>A logger's flag is believed this near to the limit, °C; far below it, a thermometer is the better witness.</summary>
    public const double FlagNearC = 5;

    /// <summary>A power plateau counts only this far clear of the limit, °C.</summary>
    private const double ClearC = 3;

    private const double SmallestThermalLoss = 0.03,
        SmallestPowerDrop = 0.08;

    /// <summary>Blips shorter than this are smoothed away, s.</summary>
    private const double BlipSeconds = 3;

    /// <summary>With less than this before the first touch there was no unhindered stretch, s.</summary>
    private const double UnhinderedSeconds = 3;

    /// <summary>Held for less is a burst of the load and no controller at work: s, and share of the load.</summary>
    private const double ShortestHeldSeconds = 5,
        ShortestHeldShare = 0.01;

    /// <summary>The last stretch before a touch or a fall: a boost may have run out earlier, s.</summary>
    private const double BeforeTouchSeconds = 120,
        BeforeFallSeconds = 20;

    /// <summary>A boost that counts lasts so long, and what follows it so long, s.</summary>
    private const double ShortestBoostSeconds = 10,
        ShortestPlateauSeconds = 30;

    /// <summary>Limits of a load, in the order of their kinds.</summary>
    /// <param name="signals">Temperature and what may have been cut.</param>
    /// <param name="load">The load phase.</param>
    /// <param name="limitC">Where the chip protects itself, °C; null when unknown: then only a flag tells of heat.</param>
    /// <param name="ratedPowerW">What a load that was never unhindered is held against, W; null when unknown.</param>
    public static IReadOnlyList<Limit> Find(LimitSignals signals, Phase load, double? limitC, double? ratedPowerW)
    {
        (int first, int last) = Rows(signals.Temperature, load);
        if (last - first < 2)
        {
            return [];
        }

        int width = 1 + (2 * (int)Math.Round(BlipSeconds / 2 / Math.Max(Interval(signals.Temperature), 0.01)));
        LimitSignals smooth = signals with { Temperature = signals.Temperature.Median(Math.Max(3, width)) };
        return [.. new[] { ThermalOf(smooth, load, limitC, ratedPowerW), PowerOf(signals, load, limitC) }.OfType<Limit>()];
    }

    /// <summary>Whether a flag was raised only where the temperature is far from its limit.</summary>
    public static bool IsFlagDoubtful(LimitSignals signals, Phase load, double? limitC)
    {
        if (signals.Flag is not { } flag || limitC is not { } limit)
        {
            return false;
        }

        (int first, int last) = Rows(signals.Temperature, load);
        bool raised = false,
            near = false;
        for (int i = first; i <= last; i++)
        {
            raised |= flag.Values[i] > 0;
            near |= flag.Values[i] > 0 && signals.Temperature.Values[i] >= limit - FlagNearC;
        }

        return raised && !near;
    }

    private static Limit? ThermalOf(LimitSignals s, Phase load, double? limitC, double? ratedPowerW)
    {
        (int first, int last) = Rows(s.Temperature, load);
        bool Flagged(int i) => s.Flag is { } flag && flag.Values[i] > 0 && !(s.Temperature.Values[i] < limitC - FlagNearC);
        bool flags = Enumerable.Range(first, Math.Max(0, last - first + 1)).Any(Flagged);
        // A logger that reports throttling knows better than a reading that hovers near the limit.
        bool Near(int i) => flags ? Flagged(i) : s.Temperature.Values[i] >= limitC - NearC;
        int touch = Enumerable.Range(first, Math.Max(0, last - first + 1)).FirstOrDefault(Near, -1);
        if (touch < 0 || (s.Power is null && s.Clock is null))
        {
            return null;
        }

        double[] time = s.Temperature.Time;
        bool atOnce = touch <= first + 1 || time[touch] - time[first] < UnhinderedSeconds;
        Level? clock = atOnce ? HighestClock(s.Clock, first, last) : Unhindered(s.Clock, first, touch);
        Level? power = atOnce ? (ratedPowerW is { } rated ? new Level(rated, 0) : null) : Unhindered(s.Power, first, touch);
        bool[] held = new bool[last + 1];
        double heldSeconds = 0,
            clearSeconds = 0;
        for (int i = touch; i <= last; i++)
        {
            bool near = Near(i);
            held[i] = near && (flags || atOnce || Below(s.Clock, clock, i, 0.004) || Below(s.Power, power, i, 0.01));
            double seconds = time[i] - time[i - 1];
            heldSeconds += held[i] ? seconds : 0;
            clearSeconds +=
                held[i] && (Below(s.Clock, clock, i, SmallestThermalLoss) || Below(s.Power, power, i, SmallestThermalLoss)) ? seconds : 0;
        }

        double shortest = Math.Max(ShortestHeldSeconds, ShortestHeldShare * load.LengthSeconds);
        // Held from the first row there may be nothing to measure the loss against; that it is held is plain all the same.
        bool told = atOnce
            ? heldSeconds >= shortest && (flags || !HoldsRated(s.Power, held, ratedPowerW))
            : (flags ? heldSeconds : clearSeconds) >= shortest;
        return !told
            ? null
            : new Limit(
                LimitKind.Thermal,
                atOnce ? load.StartSeconds : time[Array.IndexOf(held, true)],
                Share(held, time, load),
                Loss(s.Clock, held, clock?.Value),
                power?.Value
            )
            {
                ScoreLossPercent = atOnce ? null : Loss(s.Score, held, Unhindered(s.Score, first, touch)?.Value),
                AtOnce = atOnce,
            };
    }

    private static Limit? PowerOf(LimitSignals s, Phase load, double? limitC)
    {
        if (s.Power is not { } power || load.LengthSeconds < ShortestBoostSeconds + ShortestPlateauSeconds)
        {
            return null;
        }

        (int first, int last) = Rows(power, load);
        double[] time = power.Time;
        ReadOnlySpan<double> values = power.Values.AsSpan(first, Math.Max(0, last - first + 1));
        if (BestSplit(values, time.AsSpan(first, values.Length), load) is not { } split)
        {
            return null;
        }

        int at = first + split;
        double fall = time[at - 1];
        double high = Statistics.Median(power.Between(Math.Max(load.StartSeconds, fall - BeforeFallSeconds), fall));
        double low = Statistics.Median(power.Between(time[at], time[at] + 60));
        double afterwards = Statistics.Median(values[split..]);
        double edge =
            Statistics.Median(power.Between(Math.Max(load.StartSeconds, fall - 5), fall))
            - Statistics.Median(power.Between(time[at], time[at] + 8));
        // A fall that the limit forced is heat; what counts is how clear of it the plateau stands once the chip has come down.
        bool clear =
            limitC is null
            || (
                s.Temperature.MeanBetween(time[at] + 5, time[at] + 65) < limitC - ClearC
                && s.Temperature.MeanBetween(time[at] + 5, load.EndSeconds) < limitC - ClearC
            );
        if (!clear || edge <= 0.6 * (high - low) || low > high * (1 - SmallestPowerDrop) || afterwards > high * (1 - SmallestPowerDrop))
        {
            return null;
        }

        bool[] held = new bool[last + 1];
        for (int i = at; i <= last; i++)
        {
            held[i] = power.Values[i] < (high + low) / 2 && !(s.Temperature.Values[i] >= limitC - NearC);
        }

        double? Before(Series? series) => series is null ? null : Statistics.Quantile(series.Values.AsSpan(first, split), 0.9);
        return new Limit(LimitKind.Power, fall, Share(held, time, load), Loss(s.Clock, held, Before(s.Clock)), high)
        {
            ScoreLossPercent = Loss(s.Score, held, Before(s.Score)),
        };
    }

    /// <summary>
    /// The one step that explains most of the phase: the split with the least squared error on both sides; null where none leaves time
    /// enough.
    /// </summary>
    private static int? BestSplit(ReadOnlySpan<double> values, ReadOnlySpan<double> time, Phase load)
    {
        double total = 0,
            squares = 0;
        foreach (double value in values)
        {
            total += value;
            squares += value * value;
        }

        double before = 0,
            best = double.PositiveInfinity;
        int? split = null;
        for (int i = 1; i < values.Length; i++)
        {
            before += values[i - 1];
            double error = squares - (before * before / i) - ((total - before) * (total - before) / (values.Length - i));
            if (
                time[i - 1] - load.StartSeconds >= ShortestBoostSeconds
                && load.EndSeconds - time[i - 1] >= ShortestPlateauSeconds
                && error < best
            )
            {
                (best, split) = (error, i);
            }
        }

        return split;
    }

    private readonly record struct Level(double Value, double Noise);

    private static bool Below(Series? series, Level? level, int i, double share) =>
        series is not null && level is { } known && series.Values[i] < known.Value - Math.Max(share * known.Value, 2 * known.Noise);

    /// <summary>Level and scatter of a series in the load before it first touched the limit.</summary>
    private static Level? Unhindered(Series? series, int first, int touch)
    {
        if (series is null)
        {
            return null;
        }

        // The first row of a load still holds some of its idle.
        int from = Math.Max(first + 1, series.IndexAt(series.Time[touch] - BeforeTouchSeconds));
        ReadOnlySpan<double> window = series.Values.AsSpan(from, Math.Max(1, touch - from));
        double level = Statistics.Quantile(window, 0.9);
        return new Level(level, 0.25 * (level - Statistics.Quantile(window, 0.1)));
    }

    /// <summary>
    /// The highest clock outside the load, where it is higher than what the load was left; null when the log does not tell.
    /// </summary>
    private static Level? HighestClock(Series? clock, int first, int last)
    {
        if (clock is null)
        {
            return null;
        }

        double highest = clock.Values.Max(),
            within = Statistics.Median(clock.Values.AsSpan(first, last - first + 1));
        return highest > within * 1.005 ? new Level(highest, 0) : null;
    }

    /// <summary>A chip that holds its rated power at its limit has lost nothing that it was promised.</summary>
    private static bool HoldsRated(Series? power, bool[] held, double? ratedPowerW) =>
        ratedPowerW is { } rated && power is not null && MeanWhile(power, held) >= (1 - SmallestThermalLoss) * rated;

    private static (int First, int Last) Rows(Series series, Phase load) =>
        (series.IndexAt(load.StartSeconds) + 1, Math.Min(series.IndexAt(load.EndSeconds), series.Time.Length - 1));

    private static double Interval(Series series) =>
        series.Time.Length < 2 ? 1 : (series.Time[^1] - series.Time[0]) / (series.Time.Length - 1);

    private static double Share(bool[] held, double[] time, Phase load)
    {
        double seconds = 0;
        for (int i = 1; i < held.Length; i++)
        {
            seconds += held[i] ? time[i] - time[i - 1] : 0;
        }

        return Math.Min(1, seconds / load.LengthSeconds);
    }

    private static double? MeanWhile(Series series, bool[] held)
    {
        double sum = 0;
        int count = 0;
        for (int i = 0; i < held.Length; i++)
        {
            sum += held[i] ? series.Values[i] : 0;
            count += held[i] ? 1 : 0;
        }

        return count == 0 ? null : sum / count;
    }

    private static double? Loss(Series? series, bool[] held, double? unhindered) =>
        series is not null && unhindered is > 0 && MeanWhile(series, held) is { } mean
            ? Math.Max(0, 100 * (1 - (mean / unhindered.Value)))
            : null;
}
