using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>A stretch of a log that is a run by itself, seconds since the log's first row.</summary>
public sealed record RunStretch(double StartSeconds, double EndSeconds);

/// <summary>Tells how many runs a log holds: repeats of the same load are repeated runs.</summary>
public static class RunStretches
{
    /// <summary>A block shorter than this, or than half of the longest, is part of a run and no repeat.</summary>
    private const double ShortestRepeatSeconds = 180,
        ShortestShare = 0.5;

    /// <summary>Repeats are of about the same power; a warm-up at half load is none.</summary>
    private const double SmallestPowerShare = 0.8;

    /// <summary>More than this is a machine in daily use, not a protocol that was repeated.</summary>
    private const int MostRuns = 12;

    /// <summary>
    /// One stretch for each repeat, from the end of the load before it (its cool-down is this one's idle) to the start of the load after
    /// it,
    /// never across a gap in the recording. The whole log when it holds one run, or when its load was marked by hand.
    /// </summary>
    public static IReadOnlyList<RunStretch> Of(Log log, RunConditions? conditions = null)
    {
        Phase[] loads = [.. Phases.Find(log).Where(phase => phase.Kind == PhaseKind.Load)];
        RunStretch[] one = [new(0, log.DurationSeconds)];
        if (loads.Length < 2 || conditions?.Load is not null)
        {
            return one;
        }

        Series? power = Series.Of(log, ChannelRole.CpuPower);
        double longest = loads.Max(load => load.LengthSeconds),
            strongest = loads.Max(load => Power(load) ?? 0);
        double? Power(Phase load) =>
            power is null ? null : Statistics.Median(power.Between(load.StartSeconds + (load.LengthSeconds / 2), load.EndSeconds));
        Phase[] repeats =
        [
            .. loads.Where(load =>
                load.LengthSeconds >= Math.Max(ShortestRepeatSeconds, ShortestShare * longest)
                && (Power(load) ?? strongest) >= SmallestPowerShare * strongest
            ),
        ];
        // A protocol may begin with a warm-up; a machine in daily use has blocks of every length.
        int others = loads.Count(load => load.LengthSeconds >= ShortestRepeatSeconds) - repeats.Length;
        if (repeats.Length is < 2 or > MostRuns || others >= repeats.Length)
        {
            return one;
        }

        double[] gaps = [.. Enumerable.Range(1, log.Samples - 1).Where(log.IsGapBefore).Select(row => log.TimeSeconds[row])];
        return
        [
            .. repeats.Select(
                (load, k) =>
                    new RunStretch(
                        Math.Max(k == 0 ? 0 : repeats[k - 1].EndSeconds, gaps.LastOrDefault(gap => gap <= load.StartSeconds)),
                        Math.Min(k == repeats.Length - 1 ? log.DurationSeconds : repeats[k + 1].StartSeconds, BeforeGap(load.EndSeconds))
                    )
            ),
        ];

        // The last row before the first gap after a time.
        double BeforeGap(double seconds) =>
            gaps.FirstOrDefault(gap => gap > seconds, double.NaN) is var next && double.IsNaN(next)
                ? log.DurationSeconds
                : log.TimeSeconds[Array.BinarySearch(log.TimeSeconds, next) - 1];
    }
}
