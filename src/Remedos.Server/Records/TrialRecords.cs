using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Learning;
using Remedos.Core.Signals;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Records;

/// <summary>What pastes, ways to put them on and mounting kits do in each other's place, within machines.</summary>
internal static class TrialRecords
{
    /// <summary>Figures nearer than this are the same one, °C.</summary>
    private const double Same = 1e-9;

    /// <summary>Reckons what a job's setups say.</summary>
    internal static void Share(RemedosContext context, Job job, IReadOnlyList<Run> runs, IReadOnlyList<TrialShare> kept, Moved moved)
    {
        Dictionary<(TrialKind, string, string), Trial> now = Shown(job, runs)
            .ToDictionary(trial => (trial.Kind, RecordKey.Of(trial.One), RecordKey.Of(trial.Other)));
        foreach (TrialShare gone in kept.Where(share => !now.ContainsKey((share.Kind, share.One, share.Other))))
        {
            moved.Trials.Add((gone.Kind, gone.One, gone.Other));
            context.Remove(gone);
        }

        foreach (((TrialKind kind, string one, string other), Trial trial) in now)
        {
            TrialShare? share = kept.FirstOrDefault(before => before.Kind == kind && before.One == one && before.Other == other);
            if (share is null)
            {
                share = new TrialShare
                {
                    WorkshopId = job.WorkshopId,
                    JobId = job.Id,
                    Kind = kind,
                    One = one,
                    Other = other,
                    OneName = trial.One,
                    OtherName = trial.Other,
                };
                context.Add(share);
            }
            else if (IsSame(share, trial))
            {
                continue;
            }

            (share.OneName, share.OtherName, share.Runs, share.HalfLifeHours) = (trial.One, trial.Other, trial.Runs, trial.HalfLifeHours);
            (share.ChangeC, share.MountWeight, share.WithinWeight, share.RestVariance) = (
                trial.ChangeC,
                trial.MountWeight,
                trial.WithinWeight,
                trial.RestVariance
            );
            moved.Trials.Add((kind, one, other));
        }
    }

    /// <summary>What a job's setups say of each other.</summary>
    internal static IReadOnlyList<Trial> Shown(Job job, IReadOnlyList<Run> runs) =>
        LikeTrials.Of([
            .. JobSetups
                .Facts(job, JobSetups.Seen(runs))
                .Select(facts => new TriedSetup(
                    facts,
                    JobSetups.Effective(job, JobSetups.Standing(job).Single(setup => setup.Number == facts.Number))
                )),
        ]);

    /// <summary>Reckons totals from their shares; the caller has the stand's lock.</summary>
    /// <param name="moved">Which; null for all, when the bench repeats itself otherwise than before.</param>
    /// <param name="bench">As the stand has it now.</param>
    internal static async Task TotalAsync(
        RemedosContext context,
        Guid workshop,
        IReadOnlySet<(TrialKind Kind, string One, string Other)>? moved,
        Repeatability bench,
        CancellationToken cancellation
    )
    {
        string[] some = [.. moved?.Select(pair => pair.One).Distinct() ?? []];
        List<TrialShare> shares = await context
            .TrialShares.Where(share => share.WorkshopId == workshop && (moved == null || some.Contains(share.One)))
            .OrderBy(share => share.JobId)
            .ToListAsync(cancellation);
        List<TrialTotal> kept = await context
            .TrialTotals.Where(total => total.WorkshopId == workshop && (moved == null || some.Contains(total.One)))
            .ToListAsync(cancellation);
        ILookup<(TrialKind, string, string), TrialShare> byPair = shares.ToLookup(share => (share.Kind, share.One, share.Other));
        foreach (
            (TrialKind kind, string one, string other) in moved
                ?? byPair.Select(pair => pair.Key).Union(kept.Select(total => (total.Kind, total.One, total.Other)))
        )
        {
            TrialShare[] its = [.. byPair[(kind, one, other)]];
            TrialTotal? total = kept.Find(before => before.Kind == kind && before.One == one && before.Other == other);
            if (Pooled.Of([.. its.Select(share => FigureOf(share, bench))]) is not { } change)
            {
                if (total is not null)
                {
                    context.Remove(total);
                }

                continue;
            }

            if (total is null)
            {
                total = new TrialTotal
                {
                    WorkshopId = workshop,
                    Kind = kind,
                    One = one,
                    Other = other,
                    OneName = its[^1].OneName,
                    OtherName = its[^1].OtherName,
                    Change = change,
                };
                context.Add(total);
            }

            double[] halves = [.. its.Select(share => share.HalfLifeHours).OfType<double>()];
            (total.OneName, total.OtherName, total.Change) = (its[^1].OneName, its[^1].OtherName, change);
            total.HalfLifeHours = halves.Length == 0 ? null : Statistics.Median(halves);
        }
    }

    /// <summary>All pairs and settlings, those that most machines say something of first.</summary>
    public static async Task<IReadOnlyList<TrialOfRecord>> ListAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    ) =>
        [
            .. (await context.TrialTotals.AsNoTracking().Where(total => total.WorkshopId == workshop).ToListAsync(cancellation))
                .OrderBy(total => total.Kind)
                .ThenByDescending(total => total.Change.Machines)
                .ThenBy(total => total.One, StringComparer.Ordinal)
                .ThenBy(total => total.Other, StringComparer.Ordinal)
                .Select(total => new TrialOfRecord(
                    total.Kind,
                    total.OneName,
                    total.OtherName,
                    TrialWords.Of(total.Kind, total.OneName, total.OtherName, total.Change, total.HalfLifeHours),
                    total.Change.Machines,
                    total.Change.Mean,
                    total.Change.HalfWidth,
                    total.Change.BetweenSd,
                    total.HalfLifeHours
                )),
        ];

    /// <summary>What is told clear of chance of pastes and ways to put them on, in sentences; null for nothing.</summary>
    public static async Task<string?> PastesAsync(RemedosContext context, Guid workshop, CancellationToken cancellation)
    {
        TrialOfRecord[] told =
        [
            .. (await ListAsync(context, workshop, cancellation))
                .Where(trial => trial.Kind is TrialKind.Paste or TrialKind.PasteMethod && Math.Abs(trial.Change) > trial.HalfWidth)
                .OrderByDescending(trial => trial.Machines)
                .Take(MostTold),
        ];
        return told.Length == 0 ? null : string.Join(' ', told.Select(trial => trial.Sentence));
    }

    /// <summary>More of them nobody reads with paste in his hand.</summary>
    private const int MostTold = 2;

    /// <summary>The machines that a pair's figure is made of, the latest first.</summary>
    public static async Task<IReadOnlyList<MachineOfTrial>> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        TrialKind kind,
        string one,
        string other,
        CancellationToken cancellation
    )
    {
        (string first, string second) = (RecordKey.Of(one), RecordKey.Of(other));
        Repeatability bench = ScatterOfJob.AsTold(await ScatterOfJob.OfWorkshopAsync(context, workshop.Id, but: null, cancellation));
        var shares = await context
            .TrialShares.AsNoTracking()
            .Where(share => share.WorkshopId == workshop.Id && share.Kind == kind && share.One == first && share.Other == second)
            .Join(
                context.Jobs.Where(job => job.WorkshopId == workshop.Id),
                share => share.JobId,
                job => job.Id,
                (share, job) => new { Share = share, job.Number }
            )
            .OrderByDescending(both => both.Number)
            .Take(RecordsEndpoints.MostBehind)
            .ToListAsync(cancellation);
        return
        [
            .. shares.Select(both => new MachineOfTrial(
                both.Share.JobId,
                JobSheets.Tag(workshop, both.Number),
                both.Share.ChangeC,
                FigureOf(both.Share, bench).HalfWidth,
                both.Share.Runs
            )),
        ];
    }

    private static Figure FigureOf(TrialShare share, Repeatability bench) =>
        Trial.FigureOf(share.ChangeC, share.MountWeight, share.WithinWeight, share.RestVariance, bench);

    private static bool IsSame(TrialShare share, Trial trial) =>
        share.OneName == trial.One
        && share.OtherName == trial.Other
        && share.Runs == trial.Runs
        && Math.Abs(share.ChangeC - trial.ChangeC) < Same
        && Math.Abs(share.MountWeight - trial.MountWeight) < Same
        && Math.Abs(share.WithinWeight - trial.WithinWeight) < Same
        && Math.Abs(share.RestVariance - trial.RestVariance) < Same
        && Math.Abs((share.HalfLifeHours ?? -1) - (trial.HalfLifeHours ?? -1)) < Same;
}
