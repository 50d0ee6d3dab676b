using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Comparison;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Queue;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Queue;

namespace Remedos.Server.Records;

/// <summary>Keeps shares and totals with the change that moves them; see this folder's README.</summary>
internal sealed class KeepRecords(IMemoryCache remembered)
{
    /// <summary>Machines that a changed part is in are reckoned with its change up to here; more of them in the background.</summary>
    private const int AtOnce = 50;

    /// <summary>Jobs that are held in memory together.</summary>
    private const int InMemory = 200;

    /// <summary>Reckons what a change has moved, before it is committed.</summary>
    /// <param name="context">In the change's transaction, all saved.</param>
    /// <param name="workshop">Whose.</param>
    /// <param name="now">When.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task FollowAsync(RemedosContext context, Guid workshop, DateTimeOffset now, CancellationToken cancellation)
    {
        Touched touched = context.Touched;
        Moved moved = new() { Elsewhere = touched.Settings || touched.Parts.Count > 0 || touched.IsQuiet };
        if (touched.Jobs.Count == 0 && !moved.Elsewhere)
        {
            return;
        }

        Workshop own = await context.Workshops.SingleAsync(one => one.Id == workshop, cancellation);
        if (own.PracticeOf is not null)
        {
            // What was only practised teaches nothing.
            return;
        }

        HashSet<Guid> machines = [.. touched.Machines];
        if (touched.Parts.Count > 0)
        {
            List<Guid> with = await WithPartsAsync(context, workshop, touched.Parts, cancellation);
            if (with.Count > AtOnce)
            {
                await WorkQueue.AddAsync(context, workshop, WorkItem.Relearn, workshop, now, null, 0, null, cancellation);
            }
            else
            {
                machines.UnionWith(with);
            }

            moved.Coolers.UnionWith(
                await context
                    .LeagueTotals.Where(total => total.WorkshopId == workshop)
                    .Select(total => total.Cooler)
                    .Where(cooler => touched.Parts.Select(RecordKey.Of).Contains(cooler))
                    .ToListAsync(cancellation)
            );
        }

        Guid[][] some = [.. touched.Jobs.Union(machines).Order().Chunk(InMemory)];
        foreach (Guid[] ids in some)
        {
            await SharesAsync(context, own, ids, [.. ids.Where(machines.Contains)], touched.Repairs, moved, cancellation);
            await context.SaveChangesAsync(cancellation);
            if (some.Length > 1)
            {
                // An archive brings thousands: all is saved, and none is needed any more.
                context.ChangeTracker.Clear();
            }
        }

        await TotalAsync(context, workshop, moved, touched.Jobs.Count == 1 ? touched.Jobs.First() : null, now, cancellation);
    }

    /// <summary>
    /// Reckons shares of some jobs, and after the last of them all totals; for what was there before its records were kept. Until then the
    /// stand's revision stays what it was: a server that ends on the way begins again.
    /// </summary>
    /// <param name="context">In a transaction.</param>
    /// <param name="workshop">Whose.</param>
    /// <param name="jobs">Which.</param>
    /// <param name="last">Whether these are the last of them all.</param>
    /// <param name="now">When.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task RelearnAsync(
        RemedosContext context,
        Guid workshop,
        IReadOnlyList<Guid> jobs,
        bool last,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Moved moved = new() { Elsewhere = last };
        Workshop own = await context.Workshops.SingleAsync(one => one.Id == workshop, cancellation);
        await SharesAsync(context, own, [.. jobs], jobs.ToHashSet(), jobs.ToHashSet(), moved, cancellation);
        await context.SaveChangesAsync(cancellation);
        if (!last)
        {
            Add(moved, await LockAsync(context, workshop, cancellation));
            await context.SaveChangesAsync(cancellation);
            return;
        }

        await EverythingAsync(context, workshop, moved, cancellation);
        await TotalAsync(context, workshop, moved, by: null, now, cancellation);
    }

    /// <summary>Reckons what jobs give.</summary>
    /// <param name="machines">Those of them of which more than words has changed.</param>
    /// <param name="repairs">Those of them of which something was done.</param>
    private async Task SharesAsync(
        RemedosContext context,
        Workshop own,
        Guid[] ids,
        HashSet<Guid> machines,
        IReadOnlySet<Guid> repairs,
        Moved moved,
        CancellationToken cancellation
    )
    {
        Guid workshop = own.Id;
        // What a change is about it holds already.
        List<Job> jobs =
        [
            .. context
                .ChangeTracker.Entries<Job>()
                .Select(entry => entry.Entity)
                .Where(job => ids.Contains(job.Id) && job.Setups.Count > 0),
        ];
        jobs.AddRange(await context.LockedAsync(workshop, [.. ids.Except(jobs.Select(job => job.Id))], cancellation));
        Dictionary<Guid, SeriesShare> finds = await context
            .SeriesShares.Where(share => share.WorkshopId == workshop && ids.Contains(share.JobId))
            .ToDictionaryAsync(share => share.JobId, cancellation);
        foreach (Job job in jobs)
        {
            SeriesRecords.Share(context, own, job, finds.GetValueOrDefault(job.Id), moved);
        }

        ILookup<Guid, FittedShare> fitted = (
            await context.FittedShares.Where(share => share.WorkshopId == workshop && ids.Contains(share.JobId)).ToListAsync(cancellation)
        ).ToLookup(share => share.JobId);
        foreach (Job job in jobs)
        {
            FittedRecords.Share(context, job, [.. fitted[job.Id]], moved);
        }

        await RepairsAsync(context, workshop, [.. jobs.Where(job => repairs.Contains(job.Id))], moved, cancellation);
        if (machines.Count == 0)
        {
            return;
        }

        // A run that is read anew leaves the job's own row as it is.
        await context.KeptTags.Where(tag => tag.WorkshopId == workshop && machines.Contains(tag.JobId)).ExecuteDeleteAsync(cancellation);
        ILookup<Guid, Run> runs = (
            await context
                .Runs.AsNoTracking()
                .Where(run => run.WorkshopId == workshop && machines.Contains(run.JobId) && run.RemovedAt == null)
                .OrderBy(run => run.ImportedAt)
                .ToListAsync(cancellation)
        ).ToLookup(run => run.JobId);
        Dictionary<Guid, BenchScatter> scatters = await context
            .BenchScatters.Where(one => one.WorkshopId == workshop && machines.Contains(one.JobId))
            .ToDictionaryAsync(one => one.JobId, cancellation);
        ILookup<Guid, LeagueShare> shown = (
            await context
                .LeagueShares.Where(share => share.WorkshopId == workshop && machines.Contains(share.JobId))
                .ToListAsync(cancellation)
        ).ToLookup(share => share.JobId);
        ILookup<Guid, TrialShare> tried = (
            await context
                .TrialShares.Where(share => share.WorkshopId == workshop && machines.Contains(share.JobId))
                .ToListAsync(cancellation)
        ).ToLookup(share => share.JobId);
        Guid[] logs = [.. runs.SelectMany(its => its).Select(run => run.LogFileId).Distinct()];
        HashSet<Guid> led =
        [
            .. await context
                .LogFiles.Where(file => file.WorkshopId == workshop && logs.Contains(file.Id) && file.Bay != null)
                .Select(file => file.Id)
                .ToListAsync(cancellation),
        ];
        IReadOnlyList<Part> parts = await PartShelf.OfAsync(context, remembered, workshop, cancellation);
        foreach (Job job in jobs.Where(job => machines.Contains(job.Id)))
        {
            Run[] its = [.. runs[job.Id].Where(run => run.LeftOut is null)];
            ScatterOfJob.Share(context, job, its, led, scatters.GetValueOrDefault(job.Id), moved);
            TrialRecords.Share(context, job, its, [.. tried[job.Id]], moved);
            LeagueRecords.Share(context, job, its, parts, [.. shown[job.Id]], moved);
        }
    }

    /// <summary>What was done to some machines, by rounds.</summary>
    private static async Task RepairsAsync(RemedosContext context, Guid workshop, Job[] jobs, Moved moved, CancellationToken cancellation)
    {
        if (jobs.Length == 0)
        {
            return;
        }

        Guid[] ids = [.. jobs.Select(job => job.Id)];
        await context
            .Plans.Include(plan => plan.Marks)
            .Where(plan => plan.WorkshopId == workshop && ids.Contains(plan.JobId) && plan.RemovedAt == null)
            .LoadAsync(cancellation);
        await context
            .Rounds.Where(round => round.WorkshopId == workshop && ids.Contains(round.JobId) && round.RemovedAt == null)
            .LoadAsync(cancellation);
        ILookup<Guid, RepairShare> kept = (
            await context.RepairShares.Where(share => share.WorkshopId == workshop && ids.Contains(share.JobId)).ToListAsync(cancellation)
        ).ToLookup(share => share.JobId);
        foreach (Job job in jobs)
        {
            RepairRecords.Share(context, job, [.. kept[job.Id]], moved);
        }
    }

    private async Task TotalAsync(
        RemedosContext context,
        Guid workshop,
        Moved moved,
        Guid? by,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        if (!moved.Any)
        {
            return;
        }

        RecordStand stand = await LockAsync(context, workshop, cancellation);
        Repeatability before = ScatterOfJob.AsTold(ScatterOfJob.Of(stand).Over(Repeatability.Prior));
        stand.Revision++;
        Add(moved, stand);
        // Under the stand's lock: of a machine's two visits that are saved at once the second sees the first.
        await FittedRecords.FollowFindsAsync(context, workshop, moved, cancellation);
        foreach (string series in moved.Series)
        {
            await SeriesRecords.TotalAsync(context, workshop, series, cancellation);
        }

        foreach (string act in moved.Acts)
        {
            await RepairRecords.TotalAsync(context, workshop, act, cancellation);
        }

        foreach ((FittedKind kind, string part) in moved.Fitted)
        {
            await FittedRecords.TotalAsync(context, workshop, kind, part, cancellation);
        }

        Repeatability bench = ScatterOfJob.AsTold(ScatterOfJob.Of(stand).Over(Repeatability.Prior));
        bool scattersElse = moved.All || (bench.MountC, bench.WithinC) != (before.MountC, before.WithinC);
        if (scattersElse || moved.Trials.Count > 0)
        {
            await TrialRecords.TotalAsync(context, workshop, scattersElse ? null : moved.Trials, bench, cancellation);
        }

        if (moved.Coolers.Count > 0)
        {
            IReadOnlyList<Part> parts = await PartShelf.OfAsync(context, remembered, workshop, cancellation);
            foreach (string cooler in moved.Coolers)
            {
                await LeagueRecords.TotalAsync(context, workshop, cooler, parts, by, now, cancellation);
            }
        }

        await context.SaveChangesAsync(cancellation);
    }

    /// <summary>The workshop's stand, which nobody else changes before this change is over.</summary>
    private static async Task<RecordStand> LockAsync(RemedosContext context, Guid workshop, CancellationToken cancellation)
    {
        await context.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO record_stands (workshop_id, revision, mount_squares, mount_degrees, within_squares, within_degrees)
            VALUES ({workshop}, 0, 0, 0, 0, 0) ON CONFLICT DO NOTHING
            """,
            cancellation
        );
        RecordStand stand = (
            await context
                .RecordStands.FromSql($"SELECT * FROM record_stands WHERE workshop_id = {workshop} FOR UPDATE")
                .IgnoreQueryFilters()
                .ToListAsync(cancellation)
        ).Single();
        // It may have been read before somebody else moved it.
        await context.Entry(stand).ReloadAsync(cancellation);
        return stand;
    }

    private static void Add(Moved moved, RecordStand stand)
    {
        stand.MountSquares += moved.Scatter.MountSquares;
        stand.MountDegrees += moved.Scatter.MountDegrees;
        stand.WithinSquares += moved.Scatter.WithinSquares;
        stand.WithinDegrees += moved.Scatter.WithinDegrees;
        stand.LedRuns += moved.Led.Count;
        stand.LedLogSum += moved.Led.LogSum;
        stand.LedLogSquares += moved.Led.LogSquares;
    }

    /// <summary>Counts everything as moved that is kept, or should be.</summary>
    private static async Task EverythingAsync(RemedosContext context, Guid workshop, Moved moved, CancellationToken cancellation)
    {
        moved.Series.UnionWith(
            await context
                .SeriesShares.Where(share => share.WorkshopId == workshop)
                .Select(share => share.Series)
                .Union(context.SeriesTotals.Where(total => total.WorkshopId == workshop).Select(total => total.Series))
                .ToListAsync(cancellation)
        );
        moved.Coolers.UnionWith(
            await context
                .LeagueShares.Where(share => share.WorkshopId == workshop)
                .Select(share => share.Cooler)
                .Union(context.LeagueTotals.Where(total => total.WorkshopId == workshop).Select(total => total.Cooler))
                .ToListAsync(cancellation)
        );
        moved.Acts.UnionWith(
            await context
                .RepairShares.Where(share => share.WorkshopId == workshop)
                .Select(share => share.Act)
                .Union(context.RepairTotals.Where(total => total.WorkshopId == workshop).Select(total => total.Act))
                .ToListAsync(cancellation)
        );
        var fitted = await context
            .FittedShares.Where(share => share.WorkshopId == workshop)
            .Select(share => new { share.Kind, share.Part })
            .Union(context.FittedTotals.Where(total => total.WorkshopId == workshop).Select(total => new { total.Kind, total.Part }))
            .ToListAsync(cancellation);
        moved.Fitted.UnionWith(fitted.Select(one => (one.Kind, one.Part)));
        moved.All = true;
    }

    /// <summary>Machines that were worked on and have one of these parts.</summary>
    private static Task<List<Guid>> WithPartsAsync(
        RemedosContext context,
        Guid workshop,
        IReadOnlyCollection<string> names,
        CancellationToken cancellation
    )
    {
        string[] keys = [.. names.Select(RecordKey.Of)];
        return context
            .Jobs.Where(job =>
                job.WorkshopId == workshop
                && job.Setups.Any(setup => setup.Number > 1)
                && (
                    keys.Contains(job.Parts.Processor!.Trim().ToLower())
                    || keys.Contains(job.Parts.Case!.Trim().ToLower())
                    || keys.Contains(job.Parts.Graphics!.Trim().ToLower())
                    || keys.Contains(job.Parts.Board!.Trim().ToLower())
                    || keys.Contains(job.Parts.Memory!.Trim().ToLower())
                    || keys.Contains(job.Parts.Cooler!.Trim().ToLower())
                    || job.Setups.Any(setup => keys.Contains(setup.Difference.Cooler!.Trim().ToLower()))
                )
            )
            .OrderBy(job => job.Number)
            .Select(job => job.Id)
            .Take(AtOnce + 1)
            .ToListAsync(cancellation);
    }
}
