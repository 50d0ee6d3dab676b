using Remedos.Core.Logs;

namespace Remedos.Core.Runs;

/// <summary>A limit that the processor ran into.</summary>
/// <param name="Kind">thermal or power.</param>
/// <param name="FirstSeconds">Of the first cut, since the log's first row.</param>
/// <param name="ShareOfLoad">Share of the load phase spent so, 0…1.</param>
/// <param name="ClockLossPercent">Mean loss of clock while so against the same load unhindered; null without a clock.</param>
/// <param name="UnhinderedPowerW">Power just before the first cut, W; null when unknown.</param>
public sealed record Limit(string Kind, double FirstSeconds, double ShareOfLoad, double? ClockLossPercent, double? UnhinderedPowerW)
{
    public const string Thermal = "thermal", Power = "power";

    /// <summary>Mean loss of score while so, as of the clock; null without a score.</summary>
    public double? ScoreLossPercent { get; init; }
}

/// <summary>Finds thermal and power limits within a load phase (docs/science.md, “Limits”).</summary>
public static class Limits
{
    /// <summary>This near to the limit counts as at it, °C: sensors round and controllers hover.</summary>
    private const double NearC = 1.5;

    /// <summary>A power plateau counts only this far clear of the limit, °C.</summary>
    private const double ClearC = 3;

    private const double SmallestThermalLoss = 0.03, SmallestPowerDrop = 0.08;

    public static IReadOnlyList<Limit> Find(Log log, Phase load, Series temperature, double? limitC)
    {
        Series? power = Series.Of(log, ChannelRole.CpuPower), clock = Series.Of(log, ChannelRole.CpuClock);
        Series? flag = Series.Of(log, ChannelRole.ThrottleFlag), score = Series.Of(log, ChannelRole.Score);
        List<Limit> found = [];
        if (Thermal(load, temperature.Median(3), power, clock, score, flag, limitC) is { } thermal)
        {
            found.Add(thermal);
        }

        if (power is not null && PowerPlateau(load, temperature, power, clock, score, limitC) is { } plateau)
        {
            found.Add(plateau);
        }

        return found;
    }

    private static Limit? Thermal(Phase load, Series temperature, Series? power, Series? clock, Series? score, Series? flag, double? limitC)
    {
        int first = temperature.IndexAt(load.StartSeconds) + 1, last = temperature.IndexAt(load.EndSeconds);
        bool flags = flag is not null && flag.Between(load.StartSeconds, load.EndSeconds).ContainsAnyExcept(0.0);
        bool Flagged(int i) => flags && flag!.Values[i] > 0;
        // A logger that reports throttling knows better than a reading that hovers near the limit.
        bool Near(int i) => !flags && limitC is { } limit && temperature.Values[i] >= limit - NearC;
        int touch = Enumerable.Range(first, Math.Max(0, last - first + 1)).FirstOrDefault(i => Near(i) || Flagged(i), -1);
        if (touch < 0 || (power is null && clock is null))
        {
            return null;
        }

        (double Level, double Noise)? clockBefore = Unhindered(clock, first, touch, last), powerBefore = Unhindered(power, first, touch, last);
        bool Below(Series? series, (double Level, double Noise)? before, int i, double share) =>
            series is not null && before is { } level && series.Values[i] < level.Level - Math.Max(share * level.Level, 2 * level.Noise);
        bool[] held = new bool[last + 1];
        int clearly = 0;
        for (int i = touch; i <= last; i++)
        {
            held[i] = Flagged(i) || (Near(i) && (Below(clock, clockBefore, i, 0.004) || Below(power, powerBefore, i, 0.01)));
            clearly += held[i] && (Below(clock, clockBefore, i, SmallestThermalLoss) || Below(power, powerBefore, i, SmallestThermalLoss)) ? 1 : 0;
        }

        // One cold row in a hundred is a burst of the load, not a controller at work.
        if (clearly < Math.Max(5, 0.01 * (last - first)))
        {
            return null;
        }

        int firstHeld = Array.IndexOf(held, true);
        double share = Share(held, temperature.Time, load);
        return new Limit(Limit.Thermal, temperature.Time[firstHeld], share, Loss(clock, held, clockBefore?.Level), powerBefore?.Level)
        {
            ScoreLossPercent = Loss(score, held, Unhindered(score, first, touch, last)?.Level),
        };
    }

    private static Limit? PowerPlateau(Phase load, Series temperature, Series power, Series? clock, Series? score, double? limitC)
    {
        int first = power.IndexAt(load.StartSeconds) + 1, last = power.IndexAt(load.EndSeconds);
        int count = last - first + 1;
        if (count < 60)
        {
            return null;
        }

        // The one step that explains most of the phase: the split with the least squared error on both sides.
        ReadOnlySpan<double> values = power.Values.AsSpan(first, count);
        double total = 0, squares = 0;
        foreach (double value in values)
        {
            total += value;
            squares += value * value;
        }

        double before = 0, best = double.PositiveInfinity;
        int split = -1;
        for (int i = 1; i < count; i++)
        {
            before += values[i - 1];
            double error = squares - (before * before / i) - ((total - before) * (total - before) / (count - i));
            if (i >= 4 && count - i >= 20 && error < best)
            {
                (best, split) = (error, i);
            }
        }

        double high = Statistics.Median(values[Math.Max(0, split - 20)..split]);
        double low = Statistics.Median(values[split..Math.Min(count, split + 60)]);
        double afterwards = Statistics.Median(values[split..]);
        int at = first + split;
        bool clear = limitC is null || (temperature.MeanBetween(power.Time[at] - 5, power.Time[at]) < limitC - ClearC && temperature.MeanBetween(power.Time[at] + 5, power.Time[at] + 65) < limitC - ClearC);
        bool step = Statistics.Median(values[Math.Max(0, split - 5)..split]) - Statistics.Median(values[split..Math.Min(count, split + 8)]) > 0.6 * (high - low);
        if (!clear || !step || low > high * (1 - SmallestPowerDrop) || afterwards > high * (1 - SmallestPowerDrop))
        {
            return null;
        }

        bool[] held = new bool[last + 1];
        for (int i = at; i <= last; i++)
        {
            held[i] = power.Values[i] < (high + low) / 2 && (limitC is null || temperature.Values[i] < limitC - NearC);
        }

        double? Before(Series? series) => series is null ? null : Statistics.Quantile(series.Values.AsSpan(first, split), 0.9);
        return new Limit(Limit.Power, power.Time[at - 1], Share(held, power.Time, load), Loss(clock, held, Before(clock)), high)
        {
            ScoreLossPercent = Loss(score, held, Before(score)),
        };
    }

    /// <summary>Level and scatter of a series in the load before it first touched the limit; of its first seconds when it touched at once.</summary>
    private static (double Level, double Noise)? Unhindered(Series? series, int first, int touch, int last)
    {
        if (series is null)
        {
            return null;
        }

        int from = Math.Min(first + 1, last), to = Math.Max(touch, Math.Min(first + 5, last));
        // Only the last stretch before the touch: a boost budget may have run out earlier.
        from = Math.Max(from, to - 120);
        ReadOnlySpan<double> window = series.Values.AsSpan(from, Math.Max(1, to - from));
        double level = Statistics.Quantile(window, 0.9);
        return (level, 0.25 * (level - Statistics.Quantile(window, 0.1)));
    }

    private static double Share(bool[] held, double[] time, Phase load)
    {
        double seconds = 0;
        for (int i = 1; i < held.Length; i++)
        {
            seconds += held[i] ? time[i] - time[i - 1] : 0;
        }

        return Math.Min(1, seconds / load.LengthSeconds);
    }

    private static double? Loss(Series? series, bool[] held, double? unhindered)
    {
        if (series is null || unhindered is not > 0)
        {
            return null;
        }

        double sum = 0;
        int count = 0;
        for (int i = 0; i < held.Length; i++)
        {
            sum += held[i] ? series.Values[i] : 0;
            count += held[i] ? 1 : 0;
        }

        return Math.Max(0, 100 * (1 - (sum / count / unhindered.Value)));
    }
}
