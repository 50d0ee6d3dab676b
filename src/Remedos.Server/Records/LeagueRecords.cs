using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Learning;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Records;

/// <summary>What coolers did on this bench, by their names.</summary>
internal static class LeagueRecords
{
    /// <summary>Ratios nearer than this are the same one.</summary>
    private const double Same = 1e-12;

    private const double DaysAYear = 365.25;

    /// <summary>What stands for the id of the cooler whose runs are looked at.</summary>
    private const string Measured = "measured";

    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(30);

    /// <summary>Everything that was learnt, by the cooler's name; made anew where a figure has moved.</summary>
    public static async Task<IReadOnlyDictionary<string, LeagueEntry>> LearntAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Guid workshop,
        ReferenceStand stand,
        CancellationToken cancellation
    ) => (await remembered.GetOrCreateAsync((typeof(LeagueRecords), workshop, stand.League), entry =>
            {
                entry.SlidingExpiration = Remembered;
                return LearntAsync(context, workshop, cancellation);
            }))!;

    /// <summary>The same, read now.</summary>
    public static async Task<IReadOnlyDictionary<string, LeagueEntry>> LearntAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    )
    {
        var all = await context
            .LeagueTotals.AsNoTracking()
            .Where(total => total.WorkshopId == workshop)
            .LeftJoin(
                context.Jobs.Where(job => job.WorkshopId == workshop),
                total => total.MovedBy,
                job => job.Id,
                (total, job) => new { Total = total, Number = job == null ? (int?)null : job.Number }
            )
            .ToListAsync(cancellation);
        if (all.Count == 0)
        {
            return new Dictionary<string, LeagueEntry>();
        }

        Workshop own = await context.Workshops.AsNoTracking().SingleAsync(one => one.Id == workshop, cancellation);
        return all.ToDictionary(
            one => one.Total.Name,
            one =>
                one.Total.Before is { } before
                    ? one.Total.Entry.After(
                        before,
                        WorkshopClock.At(own, one.Total.MovedAt).ToString("d MMMM yyyy", CultureInfo.InvariantCulture),
                        one.Number is { } number ? JobSheets.Tag(own, number) : null
                    )
                    : one.Total.Entry,
            StringComparer.OrdinalIgnoreCase
        );
    }

    /// <summary>The machines that a cooler's figure is made of.</summary>
    public static async Task<CoolerBehind> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        string cooler,
        CancellationToken cancellation
    )
    {
        string key = RecordKey.Of(cooler);
        var shares = await context
            .LeagueShares.AsNoTracking()
            .Where(share => share.WorkshopId == workshop.Id && share.Cooler == key)
            .Join(
                context.Jobs.Where(job => job.WorkshopId == workshop.Id),
                share => share.JobId,
                job => job.Id,
                (share, job) =>
                    new
                    {
                        job.Id,
                        job.Number,
                        job.CreatedAt,
                        share.LogRatio,
                        share.Runs,
                    }
            )
            .OrderByDescending(one => one.Number)
            .ToListAsync(cancellation);
        return new CoolerBehind(
            Trend.Words(
                Trend.Of([.. shares.Select(one => ((one.CreatedAt - DateTimeOffset.UnixEpoch).TotalDays / DaysAYear, one.LogRatio))])
            ),
            [.. shares.Select(one => new MachineOfCooler(one.Id, JobSheets.Tag(workshop, one.Number), Math.Exp(one.LogRatio), one.Runs))]
        );
    }

    /// <summary>Reckons what a job shows of the coolers that were on it after a repair.</summary>
    internal static void Share(
        RemedosContext context,
        Job job,
        IReadOnlyList<Run> runs,
        IReadOnlyList<Part> parts,
        List<LeagueShare> kept,
        Moved moved
    )
    {
        Dictionary<string, (string Name, double LogRatio, int Runs)> shown = Shown(job, runs, parts);
        foreach (LeagueShare gone in kept.Where(share => !shown.ContainsKey(share.Cooler)))
        {
            moved.Coolers.Add(gone.Cooler);
            context.Remove(gone);
        }

        foreach ((string cooler, (_, double ratio, int count)) in shown)
        {
            LeagueShare? share = kept.Find(one => one.Cooler == cooler);
            if (share is null)
            {
                share = new LeagueShare
                {
                    WorkshopId = job.WorkshopId,
                    JobId = job.Id,
                    Cooler = cooler,
                };
                context.Add(share);
            }
            else if (Math.Abs(share.LogRatio - ratio) < Same && share.Runs == count)
            {
                continue;
            }

            (share.LogRatio, share.Runs) = (ratio, count);
            moved.Coolers.Add(cooler);
        }
    }

    /// <summary>Reckons a cooler's total from its shares; the caller has the stand's lock.</summary>
    internal static async Task TotalAsync(
        RemedosContext context,
        Guid workshop,
        string cooler,
        IReadOnlyList<Part> parts,
        Guid? by,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        List<double> ratios = await context
            .LeagueShares.Where(share => share.WorkshopId == workshop && share.Cooler == cooler)
            .OrderBy(share => share.JobId)
            .Select(share => share.LogRatio)
            .ToListAsync(cancellation);
        Part? part = Machine.Find(parts, PartKind.Cooler, cooler);
        LeagueTotal? kept = await context.LeagueTotals.FindAsync([workshop, cooler], cancellation);
        if (ratios.Count == 0 || part?.Values.Cooler is not { } values)
        {
            if (kept is not null)
            {
                context.Remove(kept);
            }

            return;
        }

        LeagueEntry entry = CoolerLeague.Pool(values, ratios.Count, ratios.Sum());
        if (kept is null)
        {
            context.Add(
                new LeagueTotal
                {
                    WorkshopId = workshop,
                    Cooler = cooler,
                    Name = part.Name,
                    Entry = entry,
                    MovedAt = now,
                    MovedBy = by,
                }
            );
            return;
        }

        await context.Entry(kept).ReloadAsync(cancellation);
        kept.Name = part.Name;
        if (kept.Entry != entry)
        {
            (kept.Before, kept.Entry, kept.MovedAt, kept.MovedBy) = (kept.Entry, entry, now, by);
        }
    }

    /// <summary>By the cooler's key: usual runs of setups that stand after the first, for there the machine is sound.</summary>
    internal static Dictionary<string, (string Name, double LogRatio, int Runs)> Shown(
        Job job,
        IReadOnlyList<Run> runs,
        IReadOnlyList<Part> parts
    )
    {
        List<(string Cooler, double Ratio)> ratios = [];
        foreach (Run run in runs.Where(run => run.Conditions.IsUsual && run.Analysis.ThermalLimit is null))
        {
            if (
                JobSetups.OfMount(job, run.MountId)?.Setup is { Number: > 1, FailedWhy: null } setup
                && JobSetups.Effective(job, setup).Cooler is { } name
                && Machine.Find(parts, PartKind.Cooler, name)?.Values.Cooler is { } cooler
                && Machine.BuildOf(MachineNames.Of(job, name), parts, WhatIf.Nothing, out _) is { } build
                && CoolerLeague.LogRatio(
                    new LeagueRun(job.Id, build with { CurrentCooler = Measured }, cooler with { Id = Measured }, run.Analysis)
                )
                    is { } ratio
            )
            {
                ratios.Add((name, ratio));
            }
        }

        return ratios
            .GroupBy(pair => RecordKey.Of(pair.Cooler), StringComparer.Ordinal)
            .ToDictionary(
                cooler => cooler.Key,
                cooler => (cooler.First().Cooler.Trim(), cooler.Average(pair => pair.Ratio), cooler.Count()),
                StringComparer.Ordinal
            );
    }
}
