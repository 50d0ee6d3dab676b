using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
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
    /// <param name="kept">What it gave until now; null for nothing.</param>
    /// <param name="moved">Told by how much the workshop's sums move.</param>
    public static void Share(RemedosContext context, Job job, IReadOnlyList<Run> runs, BenchScatter? kept, Moved moved)
    {
        ShownScatter shown = ShownScatter.Nothing;
        foreach (SetupFacts setup in JobSetups.Facts(job, JobSetups.Seen(runs)).Where(setup => !setup.Failed))
        {
            shown = shown.Plus(ShownScatter.Of(setup.Runs));
        }

        ShownScatter before = kept is null ? ShownScatter.Nothing : Of(kept);
        if (shown == before)
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
        moved.Scatter = moved.Scatter.Plus(shown.Less(before));
    }

    /// <summary>What the workshop has learnt from all its jobs but one: a job's own scatter enters its verdict by itself.</summary>
    public static async Task<Repeatability> OfWorkshopAsync(
        RemedosContext context,
        Guid workshop,
        Guid? but,
        CancellationToken cancellation
    )
    {
        RecordStand? all = await context.RecordStands.AsNoTracking().SingleOrDefaultAsync(one => one.WorkshopId == workshop, cancellation);
        BenchScatter? own = but is null
            ? null
            : await context
                .BenchScatters.AsNoTracking()
                .SingleOrDefaultAsync(one => one.WorkshopId == workshop && one.JobId == but, cancellation);
        ShownScatter sums = all is null
            ? ShownScatter.Nothing
            : new ShownScatter(all.MountSquares, all.MountDegrees, all.WithinSquares, all.WithinDegrees);
        return (own is null ? sums : sums.Less(Of(own))).Over(Repeatability.Prior);
    }

    private static ShownScatter Of(BenchScatter kept) => new(kept.MountSquares, kept.MountDegrees, kept.WithinSquares, kept.WithinDegrees);
}
