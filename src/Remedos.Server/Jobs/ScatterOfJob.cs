using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Server.Records;

namespace Remedos.Server.Jobs;

/// <summary>What each job's re-mounts and repeats teach about this bench, kept by the changes of its runs; verdicts use the sums.</summary>
internal static class ScatterOfJob
{
    /// <summary>Reckons a job's share.</summary>
    /// <param name="context">In the change's transaction.</param>
    /// <param name="job">With its setups.</param>
    /// <param name="runs">Its runs that stand.</param>
    /// <param name="led">Logs of those that a bay led.</param>
    /// <param name="kept">What it gave until now; null for nothing.</param>
    /// <param name="moved">Told by how much the workshop's sums move.</param>
    public static void Share(
        RemedosContext context,
        Job job,
        IReadOnlyList<Run> runs,
        IReadOnlySet<Guid> led,
        BenchScatter? kept,
        Moved moved
    )
    {
        ShownScatter shown = Shown(job, runs);
        LedRuns taken = LedRuns.Of(runs, led);
        ShownScatter before = kept is null ? ShownScatter.Nothing : Of(kept);
        LedRuns takenBefore = kept is null ? default : new LedRuns(kept.LedRuns, kept.LedLogSum, kept.LedLogSquares);
        if (shown == before && taken == takenBefore)
        {
            return;
        }

        if (kept is null)
        {
            kept = new BenchScatter { WorkshopId = job.WorkshopId, JobId = job.Id };
            context.BenchScatters.Add(kept);
        }

        (kept.MountSquares, kept.MountDegrees, kept.WithinSquares, kept.WithinDegrees) = (
            shown.MountSquares,
            shown.MountDegrees,
            shown.WithinSquares,
            shown.WithinDegrees
        );
        (kept.LedRuns, kept.LedLogSum, kept.LedLogSquares) = (taken.Count, taken.LogSum, taken.LogSquares);
        moved.Scatter = moved.Scatter.Plus(shown.Less(before));
        moved.Led = moved.Led.Plus(taken.Less(takenBefore));
    }

    /// <summary>What a job's re-mounts and repeats show.</summary>
    internal static ShownScatter Shown(Job job, IReadOnlyList<Run> runs) =>
        JobSetups
            .Facts(job, JobSetups.Seen(runs))
            .Where(setup => !setup.Failed)
            .Aggregate(ShownScatter.Nothing, (sum, setup) => sum.Plus(ShownScatter.Of(setup.Runs)));

    /// <summary>What the workshop has learnt from all its jobs but one: a job's own scatter enters its verdict by itself.</summary>
    public static async Task<Repeatability> OfWorkshopAsync(
        RemedosContext context,
        Guid workshop,
        Guid? but,
        CancellationToken cancellation
    )
    {
        var found = await context
            .RecordStands.AsNoTracking()
            .Where(one => one.WorkshopId == workshop)
            .Select(all => new
            {
                All = all,
                Own = context.BenchScatters.FirstOrDefault(one => one.WorkshopId == workshop && one.JobId == but),
            })
            .SingleOrDefaultAsync(cancellation);
        ShownScatter sums = found is null ? ShownScatter.Nothing : Of(found.All);
        return (found?.Own is { } own ? sums.Less(Of(own)) : sums).Over(Repeatability.Prior);
    }

    /// <summary>The latest machines that the bench's figures are made of.</summary>
    public static async Task<IReadOnlyList<MachineOfBench>> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        CancellationToken cancellation
    )
    {
        var shown = await context
            .BenchScatters.AsNoTracking()
            .Where(one => one.WorkshopId == workshop.Id && one.MountDegrees + one.WithinDegrees > 0)
            // Ids follow time: the latest are found without reading them all.
            .OrderByDescending(one => one.JobId)
            .Take(RecordsEndpoints.MostBehind)
            .Join(
                context.Jobs.Where(job => job.WorkshopId == workshop.Id),
                one => one.JobId,
                job => job.Id,
                (one, job) =>
                    new
                    {
                        one.JobId,
                        job.Number,
                        one.MountDegrees,
                        one.WithinDegrees,
                    }
            )
            .OrderByDescending(one => one.Number)
            .ToListAsync(cancellation);
        return
        [
            .. shown.Select(one => new MachineOfBench(one.JobId, JobSheets.Tag(workshop, one.Number), one.MountDegrees, one.WithinDegrees)),
        ];
    }

    /// <summary>What all jobs have shown.</summary>
    public static ShownScatter Of(RecordStand all) => new(all.MountSquares, all.MountDegrees, all.WithinSquares, all.WithinDegrees);

    /// <summary>
    /// The bench as the records tell it, to a tenth of a degree: finer steps would move every figure that leans on it with every run.
    /// </summary>
    public static Repeatability AsTold(Repeatability bench) =>
        bench with
        {
            MountC = Math.Max(0.1, Math.Round(bench.MountC, 1)),
            WithinC = Math.Max(0.1, Math.Round(bench.WithinC, 1)),
        };

    private static ShownScatter Of(BenchScatter kept) => new(kept.MountSquares, kept.MountDegrees, kept.WithinSquares, kept.WithinDegrees);
}

/// <summary>Runs that a bay led: how the minutes they took lie to those planned.</summary>
/// <param name="LogSum">Of the logarithms of taken over planned; and of their squares.</param>
internal readonly record struct LedRuns(int Count, double LogSum, double LogSquares)
{
    /// <summary>Of a job's runs those that a bay led; a clock that was forgotten says nothing.</summary>
    public static LedRuns Of(IReadOnlyList<Run> runs, IReadOnlySet<Guid> led)
    {
        double[] logs =
        [
            .. runs.Where(run => led.Contains(run.LogFileId))
                .DistinctBy(run => run.LogFileId)
                .Select(run => Spread.LogRatio(run.Analysis.DurationSeconds / 60, WorkMinutes.Run - WorkMinutes.RunHands))
                .OfType<double>(),
        ];
        return new LedRuns(logs.Length, logs.Sum(), logs.Sum(log => log * log));
    }

    public LedRuns Plus(LedRuns other) => new(Count + other.Count, LogSum + other.LogSum, LogSquares + other.LogSquares);

    public LedRuns Less(LedRuns part) => new(Count - part.Count, LogSum - part.LogSum, LogSquares - part.LogSquares);
}
