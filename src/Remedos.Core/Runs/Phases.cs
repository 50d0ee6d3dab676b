using System.Text.Json.Serialization;
using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>What a stretch of a run is.</summary>
[JsonConverter(typeof(KebabEnum<PhaseKind>))]
public enum PhaseKind
{
    /// <summary>Nothing to do.</summary>
    Idle,

    /// <summary>At work.</summary>
    Load,

    /// <summary>After the work.</summary>
    CoolDown,
}

/// <summary>A stretch of a run.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="StartSeconds">Since the log's first row.</param>
/// <param name="EndSeconds">Since the log's first row.</param>
public sealed record Phase(PhaseKind Kind, double StartSeconds, double EndSeconds)
{
    /// <summary>How long it lasts, s.</summary>
    public double LengthSeconds => EndSeconds - StartSeconds;
}

/// <summary>Where a technician says that the load begins and ends, seconds since the run's first row.</summary>
public sealed record LoadEdges(double StartSeconds, double EndSeconds)
{
    /// <summary>Why no load can have these edges, as a sentence; null when one can.</summary>
    public string? Problem =>
        !(StartSeconds >= 0) || !double.IsFinite(EndSeconds) ? "The load must lie within the run."
        : EndSeconds - StartSeconds < Phases.ShortestLoadSeconds
            ? $"A load lasts at least {Phases.ShortestLoadSeconds:0} s; from {StartSeconds:0} to {EndSeconds:0} s is too short."
        : null;
}

/// <summary>Finds where a run idles, works and cools down.</summary>
public static class Phases
{
    /// <summary>Bursts shorter than this are background work, not a load block.</summary>
    public const double ShortestLoadSeconds = 45;

    private const double SmoothingSeconds = 9,
        LongestDipSeconds = 20,
        EdgeLevelSeconds = 30;

    /// <summary>
    /// A load that has begun goes on above this share of the way from idle to its full level: a budget that runs out, or a machine that
    /// protects itself, leaves a third of its watts and is still at work.
    /// </summary>
    private const double GoesOnShare = 0.2;

    /// <summary>A load in percent that never gets here keeps a few cores busy; then the watts tell more.</summary>
    private const double BusyPercent = 50;

    /// <summary>
    /// What tells work from idle, best first, with the smallest step that is one. A load in percent has two levels by nature.
    /// </summary>
    private static readonly (ChannelRole Role, double SmallestStep, double LeastHigh)[] Processor =
    [
        (ChannelRole.CpuLoad, 20, BusyPercent),
        (ChannelRole.CpuPower, 6, 0),
        (ChannelRole.CpuClock, 300, 0),
        (ChannelRole.CpuTemperature, 8, 0),
        (ChannelRole.CoreTemperature, 8, 0),
        (ChannelRole.CpuControlTemperature, 8, 0),
    ];

    private static readonly (ChannelRole Role, double SmallestStep, double LeastHigh)[] Card =
    [
        (ChannelRole.GpuPower, 15, 0),
        (ChannelRole.GpuLoad, 20, BusyPercent),
        (ChannelRole.GpuTemperature, 8, 0),
    ];

    /// <summary>
    /// Splits the first driver that shows work (load, else power, else clock, else temperature), smoothed by a running median, into idle
    /// and
    /// not idle: a load begins half way from idle to full and goes on until a fifth of it, so that a boost is part of a load and never the
    /// whole. Each edge then moves to the sample where the raw signal crosses it.
    /// </summary>
    /// <returns>Phases in order, without gaps; one idle phase when no load shows.</returns>
    public static IReadOnlyList<Phase> Find(Log log)
    {
        if (Loads(log, Processor) is { Count: > 0 } loads)
        {
            return Around(loads, log);
        }

        // No two levels at all: a log that was started and stopped within the load is one load block.
        bool busy = Series.Of(log, ChannelRole.CpuLoad) is { } load && Statistics.Median(load.Values) > 60;
        return [new Phase(busy ? PhaseKind.Load : PhaseKind.Idle, 0, log.DurationSeconds)];
    }

    /// <summary>As <see cref="Find"/>, by what the graphics card does; one idle phase when it rests throughout.</summary>
    public static IReadOnlyList<Phase> OfCard(Log log) =>
        Loads(log, Card) is { Count: > 0 } loads
            ? Around(loads, log)
            :
            [
                new Phase(
                    Series.Of(log, ChannelRole.GpuLoad) is { } load && Statistics.Median(load.Values) > 60
                        ? PhaseKind.Load
                        : PhaseKind.Idle,
                    0,
                    log.DurationSeconds
                ),
            ];

    private static List<(int First, int Last)> Loads(Log log, (ChannelRole Role, double SmallestStep, double LeastHigh)[] drivers)
    {
        foreach ((ChannelRole role, double smallest, double leastHigh) in drivers)
        {
            if (Series.Of(log, role) is { } driver && Split(driver, log, smallest, leastHigh) is { Count: > 0 } loads)
            {
                return loads;
            }
        }

        return [];
    }

    /// <summary>The phases of a run whose load was marked by hand; null when too little of it lies within the log.</summary>
    public static IReadOnlyList<Phase>? Around(LoadEdges edges, Log log)
    {
        double start = Math.Max(0, edges.StartSeconds),
            end = Math.Min(log.DurationSeconds, edges.EndSeconds);
        Phase[] phases =
        [
            new(PhaseKind.Idle, 0, start),
            new(PhaseKind.Load, start, end),
            new(PhaseKind.CoolDown, end, log.DurationSeconds),
        ];
        return end - start < ShortestLoadSeconds ? null : [.. phases.Where(phase => phase.LengthSeconds > 0)];
    }

    private static List<(int First, int Last)> Split(Series driver, Log log, double smallest, double leastHigh)
    {
        int width = 1 + (2 * (int)Math.Round(SmoothingSeconds / 2 / Math.Max(log.IntervalSeconds, 0.01)));
        double[] smooth = driver.Median(Math.Min(width, 201)).Values;
        if (TwoLevels(smooth) is not var (low, high) || high < leastHigh || high - low < Math.Max(smallest, 0.2 * Math.Abs(low)))
        {
            return [];
        }

        // Below the middle there may be two levels more: idle, and a load that has been cut down.
        double[] lower = [.. smooth.Where(value => value <= (low + high) / 2)];
        if (TwoLevels(lower) is var (idle, cut) && cut - idle >= Math.Max(smallest, GoesOnShare * (high - idle)))
        {
            low = idle;
        }

        double begins = (low + high) / 2,
            goesOn = low + (GoesOnShare * (high - low));
        List<(int First, int Last)> blocks = [];
        for (int i = 0; i < smooth.Length; i++)
        {
            if (smooth[i] <= begins)
            {
                continue;
            }

            int first = i;
            while (i + 1 < smooth.Length && smooth[i + 1] > goesOn && !log.IsGapBefore(i + 1))
            {
                i++;
            }

            if (blocks.Count > 0 && driver.Time[first] - driver.Time[blocks[^1].Last] < LongestDipSeconds)
            {
                blocks[^1] = (blocks[^1].First, i);
            }
            else
            {
                blocks.Add((first, i));
            }
        }

        return
        [
            .. blocks
                .Where(block => driver.Time[block.Last] - driver.Time[block.First] >= ShortestLoadSeconds)
                .Select(block => Refine(driver, log, block, low, width)),
        ];
    }

    /// <summary>The two levels of a signal (two-means); null when it has one.</summary>
    private static (double Low, double High)? TwoLevels(double[] values)
    {
        if (values.Length < 2)
        {
            return null;
        }

        double[] sorted = [.. values];
        Array.Sort(sorted);
        double[] sums = new double[sorted.Length + 1];
        for (int i = 0; i < sorted.Length; i++)
        {
            sums[i + 1] = sums[i] + sorted[i];
        }

        double low = sorted[(int)(0.02 * (sorted.Length - 1))],
            high = sorted[(int)(0.95 * (sorted.Length - 1))];
        for (int round = 0; round < 30; round++)
        {
            double middle = (low + high) / 2;
            int below = Array.BinarySearch(sorted, Math.BitIncrement(middle));
            below = below < 0 ? ~below : Array.IndexOf(sorted, sorted[below]);
            if (below == 0 || below == sorted.Length)
            {
                return null;
            }

            (low, high) = (sums[below] / below, (sums[^1] - sums[below]) / (sorted.Length - below));
        }

        return (low, high);
    }

    /// <summary>
    /// Moves both edges to the least-squares change point of the raw signal, since the median rounds corners by half its width:
    /// between two levels that is where the running sum of (value − middle) is largest. Clipping keeps a spike from deciding.
    /// </summary>
    private static (int First, int Last) Refine(Series driver, Log log, (int First, int Last) block, double idle, int reach)
    {
        double[] raw = driver.Values,
            time = driver.Time;
        int middle = (block.First + block.Last) / 2;
        // Each edge lies half way between idle and the level beside it: a load may begin with a boost and end on what was left of it.
        double early = Statistics.Median(driver.Between(time[block.First], Math.Min(time[middle], time[block.First] + EdgeLevelSeconds)));
        double late = Statistics.Median(driver.Between(Math.Max(time[middle], time[block.Last] - EdgeLevelSeconds), time[block.Last]));
        int first = Edge(Math.Min(middle, block.First + reach), Math.Max(0, block.First - reach), early);
        int last = Edge(Math.Max(middle, block.Last - reach), Math.Min(raw.Length - 1, block.Last + reach), late);
        return (first, last);

        int Edge(int inside, int outside, double level)
        {
            double threshold = (idle + level) / 2,
                step = Math.Abs(level - idle);
            int edge = inside,
                direction = Math.Sign(outside - inside);
            double sum = 0,
                best = double.NegativeInfinity;
            for (int i = inside; i != outside + direction && (i == inside || !log.IsGapBefore(Math.Max(i, i - direction))); i += direction)
            {
                sum += Math.Clamp(raw[i] - threshold, -step / 2, step / 2);
                (edge, best) = sum > best ? (i, sum) : (edge, best);
            }

            return edge;
        }
    }

    private static List<Phase> Around(List<(int First, int Last)> loads, Log log)
    {
        double[] time = log.TimeSeconds;
        List<Phase> phases = [];
        double at = time[0];
        foreach ((int first, int last) in loads)
        {
            // Loggers report power as the mean since the row before, so the load began after the last low row; after a gap nobody knows.
            double start = first > 0 && !log.IsGapBefore(first) ? time[first - 1] : time[first];
            if (start > at)
            {
                phases.Add(new Phase(phases.Count == 0 ? PhaseKind.Idle : PhaseKind.CoolDown, at, start));
            }

            phases.Add(new Phase(PhaseKind.Load, start, time[last]));
            at = time[last];
        }

        if (time[^1] > at)
        {
            phases.Add(new Phase(PhaseKind.CoolDown, at, time[^1]));
        }

        return phases;
    }
}
