using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>What each job's re-mounts and repeats teach about this bench, kept by the changes of its runs; verdicts add them up.</summary>
internal static class ScatterOfJob
{
    /// <summary>Reckons a job's share anew, within the change that touched its runs.</summary>
    public static async Task KeepAsync(Write write, Job job)
    {
        await write.Context.SaveChangesAsync(write.Cancellation);
        List<Run> runs = await write
            .Context.Runs.Where(run => run.WorkshopId == job.WorkshopId && run.JobId == job.Id && run.RemovedAt == null)
            .ToListAsync(write.Cancellation);
        ShownScatter shown = ShownScatter.Nothing;
        foreach (SetupFacts setup in JobSetups.Facts(job, JobSetups.Seen(runs)).Where(setup => !setup.Failed))
        {
            shown = shown.Plus(ShownScatter.Of(setup.Runs));
        }

        BenchScatter? kept = await write.Context.BenchScatters.SingleOrDefaultAsync(
            one => one.WorkshopId == job.WorkshopId && one.JobId == job.Id,
            write.Cancellation
        );
        if (kept is null && shown is { MountDegrees: 0, WithinDegrees: 0 })
        {
            return;
        }

        if (kept is null)
        {
            kept = new BenchScatter { WorkshopId = job.WorkshopId, JobId = job.Id };
            write.Context.BenchScatters.Add(kept);
        }

        (kept.MountSquares, kept.MountDegrees, kept.WithinSquares, kept.WithinDegrees) = (
            shown.MountSquares,
            shown.MountDegrees,
            shown.WithinSquares,
            shown.WithinDegrees
        );
    }

    /// <summary>What the workshop has learnt from all its jobs but one: a job's own scatter enters its verdict by itself.</summary>
    public static async Task<Repeatability> OfWorkshopAsync(
        RemedosContext context,
        Guid workshop,
        Guid? but,
        CancellationToken cancellation
    )
    {
        var all = await context
            .BenchScatters.Where(one => one.WorkshopId == workshop && one.JobId != but)
            .GroupBy(_ => 1)
            .Select(group => new
            {
                Mount = group.Sum(one => one.MountSquares),
                MountOf = group.Sum(one => one.MountDegrees),
                Within = group.Sum(one => one.WithinSquares),
                WithinOf = group.Sum(one => one.WithinDegrees),
            })
            .SingleOrDefaultAsync(cancellation);
        return all is null
            ? Repeatability.Prior
            : new ShownScatter(all.Mount, all.MountOf, all.Within, all.WithinOf).Over(Repeatability.Prior);
    }
}
