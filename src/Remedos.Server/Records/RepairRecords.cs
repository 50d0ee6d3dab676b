using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Planning;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Jobs;

namespace Remedos.Server.Records;

/// <summary>What repairs take here, and whether they end the matter.</summary>
internal static class RepairRecords
{
    /// <summary>Reckons what a job's rounds give.</summary>
    /// <param name="job">With its plans and rounds.</param>
    internal static void Share(RemedosContext context, Job job, IReadOnlyList<RepairShare> kept, Moved moved)
    {
        RepairShare[] now = [.. Enumerable.Range(1, job.Round).Select(round => Of(job, round)).OfType<RepairShare>()];
        foreach (RepairShare gone in kept.Where(share => !Array.Exists(now, one => one.Round == share.Round)))
        {
            moved.Acts.Add(gone.Act);
            context.Remove(gone);
        }

        foreach (RepairShare share in now)
        {
            if (kept.FirstOrDefault(one => one.Round == share.Round) is not { } before)
            {
                moved.Acts.Add(share.Act);
                context.Add(share);
            }
            else if (!IsSame(before, share))
            {
                moved.Acts.UnionWith([before.Act, share.Act]);
                (before.Act, before.PlannedMinutes, before.TakenMinutes, before.Solved) = (
                    share.Act,
                    share.PlannedMinutes,
                    share.TakenMinutes,
                    share.Solved
                );
            }
        }
    }

    /// <summary>Reckons a repair from its shares.</summary>
    internal static async Task TotalAsync(RemedosContext context, Guid workshop, string act, CancellationToken cancellation)
    {
        IQueryable<RepairShare> shares = context.RepairShares.Where(share => share.WorkshopId == workshop && share.Act == act);
        var counts = await shares
            .GroupBy(share => share.Act)
            .Select(all => new
            {
                Repairs = all.Count(),
                Judged = all.Count(share => share.Solved != null),
                Solved = all.Count(share => share.Solved == true),
            })
            .SingleOrDefaultAsync(cancellation);
        RepairTotal? total = await context.RepairTotals.FindAsync([workshop, act], cancellation);
        if (counts is null)
        {
            if (total is not null)
            {
                context.Remove(total);
            }

            return;
        }

        if (total is null)
        {
            context.Add(total = new RepairTotal { WorkshopId = workshop, Act = act });
        }
        else
        {
            await context.Entry(total).ReloadAsync(cancellation);
        }

        // By the database: a repair may have been done ten thousand times. What is no work is left out as Spread.LogRatio does.
        var logged = await shares
            .Where(share => share.PlannedMinutes > 0)
            .Select(share => new
            {
                share.Act,
                Planned = share.PlannedMinutes!.Value,
                Taken = share.TakenMinutes!.Value,
                Ratio = share.TakenMinutes!.Value / share.PlannedMinutes!.Value,
            })
            .Where(one => one.Ratio >= Spread.LeastRatio && one.Ratio <= Spread.MostRatio)
            .GroupBy(one => one.Act)
            .Select(all => new
            {
                Count = all.Count(),
                Planned = all.Sum(one => one.Planned),
                Taken = all.Sum(one => one.Taken),
                Log = all.Sum(one => Math.Log(one.Ratio)),
                Squares = all.Sum(one => Math.Log(one.Ratio) * Math.Log(one.Ratio)),
            })
            .SingleOrDefaultAsync(cancellation);
        (total.Repairs, total.Judged, total.Solved) = (counts.Repairs, counts.Judged, counts.Solved);
        (total.Logged, total.PlannedMinutes, total.TakenMinutes) = (logged?.Count ?? 0, logged?.Planned ?? 0, logged?.Taken ?? 0);
        (total.LogSum, total.LogSquares) = (logged?.Log ?? 0, logged?.Squares ?? 0);
    }

    /// <summary>All repairs that were done here, the most frequent first.</summary>
    public static async Task<IReadOnlyList<RepairOfRecord>> ListAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    ) =>
        [
            .. (
                await context
                    .RepairTotals.AsNoTracking()
                    .Where(total => total.WorkshopId == workshop)
                    .OrderByDescending(total => total.Repairs)
                    .ThenBy(total => total.Act)
                    .ToListAsync(cancellation)
            ).Select(total => new RepairOfRecord(
                total.Act,
                RepairRow.All.FirstOrDefault(row => row.Id == total.Act)?.Name ?? total.Act,
                total.Repairs,
                total.Logged,
                total.Logged == 0 ? null : total.PlannedMinutes / total.Logged,
                total.Logged == 0 ? null : total.TakenMinutes / total.Logged,
                total.Judged,
                total.Solved
            )),
        ];

    /// <summary>The repairs that a figure is made of, the latest machine first.</summary>
    public static async Task<IReadOnlyList<MachineOfRepair>> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        string act,
        CancellationToken cancellation
    )
    {
        var shares = await context
            .RepairShares.AsNoTracking()
            .Where(share => share.WorkshopId == workshop.Id && share.Act == act)
            .Join(
                context.Jobs.Where(job => job.WorkshopId == workshop.Id),
                share => share.JobId,
                job => job.Id,
                (share, job) => new { Share = share, job.Number }
            )
            .OrderByDescending(one => one.Number)
            .ThenBy(one => one.Share.Round)
            .Take(RecordsEndpoints.MostBehind)
            .ToListAsync(cancellation);
        return
        [
            .. shares.Select(one => new MachineOfRepair(
                one.Share.JobId,
                JobSheets.Tag(workshop, one.Number),
                one.Share.Round,
                one.Share.PlannedMinutes,
                one.Share.TakenMinutes,
                one.Share.Solved
            )),
        ];
    }

    /// <summary>How minutes lie to those planned: of runs that a bay led, and of repairs, over all of them.</summary>
    public static async Task<IReadOnlyDictionary<WorkKind, Spread>> SpreadsAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    )
    {
        RecordStand? stand = await context
            .RecordStands.AsNoTracking()
            .SingleOrDefaultAsync(one => one.WorkshopId == workshop, cancellation);
        var sums = await context
            .RepairTotals.Where(total => total.WorkshopId == workshop && total.Logged > 0)
            .GroupBy(total => total.WorkshopId)
            .Select(all => new
            {
                Logged = all.Sum(total => total.Logged),
                Sum = all.Sum(total => total.LogSum),
                Squares = all.Sum(total => total.LogSquares),
            })
            .SingleOrDefaultAsync(cancellation);
        return new Dictionary<WorkKind, Spread>
        {
            [WorkKind.Repair] = Spread.Learnt(WorkKind.Repair, sums?.Logged ?? 0, sums?.Sum ?? 0, sums?.Squares ?? 0),
            [WorkKind.Run] = Spread.Learnt(WorkKind.Run, stand?.LedRuns ?? 0, stand?.LedLogSum ?? 0, stand?.LedLogSquares ?? 0),
        };
    }

    private static RepairShare? Of(Job job, int round)
    {
        Round? over = job.Rounds.Find(one => one.Number == round && one.RemovedAt is null);
        Plan? plan = job.Plans.Where(one => one.RemovedAt is null && one.Round == round).MaxBy(one => one.Number);
        bool worked = plan is { Progress: { UnderHands: false } } && plan.Standing.Count > 0,
            done = round < job.Round || (job.HandedOverAt is not null && !string.IsNullOrWhiteSpace(job.Repair.Done));
        IReadOnlyList<string> causes = over?.Note.Causes ?? (round == job.Round ? job.Repair.Causes : []);
        string? act =
            plan?.Facts.Acts is [{ } first, ..] ? first
            : causes.Count > 0 ? DiagnosisTables.CauseOf(causes[0]).Repair
            : null;
        return act is null || !(worked || done)
            ? null
            : new RepairShare
            {
                WorkshopId = job.WorkshopId,
                JobId = job.Id,
                Round = round,
                Act = act,
                PlannedMinutes = worked ? plan!.Progress.MinutesPlannedOfTaken : null,
                TakenMinutes = worked ? plan!.Progress.MinutesTaken : null,
                Solved =
                    over is not null ? (over.Reason == RoundReason.NewFinding ? null : false)
                    : job.HandedOverAt is not null ? true
                    : null,
            };
    }

    private static bool IsSame(RepairShare one, RepairShare other) =>
        one.Act == other.Act
        && one.PlannedMinutes == other.PlannedMinutes
        && one.TakenMinutes == other.TakenMinutes
        && one.Solved == other.Solved;
}
