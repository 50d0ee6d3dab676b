using Microsoft.EntityFrameworkCore;
using Remedos.Core.Handover;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Records;

namespace Remedos.Server.Rechecks;

/// <summary>How long coolers like a job's last, from what this workshop has seen of them.</summary>
internal static class SeriesLives
{
    /// <summary>The record of the cooler that is on a machine; null where it has no name.</summary>
    /// <param name="job">With its setups; it is not counted itself.</param>
    public static async Task<SeriesLife?> OfAsync(RemedosContext context, Job job, CancellationToken cancellation)
    {
        if (JobSetups.Now(job).Cooler?.Trim() is not { Length: > 0 } name)
        {
            return null;
        }

        return new SeriesLife(
            await WithoutAsync(context, job, name, cancellation) ?? new SeriesWear(name, Survival.Of([]), []),
            Since(job)
        );
    }

    /// <summary>
    /// The kept record of a series without what a job's own machine gave to it, at this visit and at others; null where no other machine
    /// tells anything.
    /// </summary>
    public static async Task<SeriesWear?> WithoutAsync(RemedosContext context, Job job, string cooler, CancellationToken cancellation)
    {
        string key = RecordKey.Of(cooler);
        SeriesTotal? total = await context
            .SeriesTotals.AsNoTracking()
            .SingleOrDefaultAsync(one => one.WorkshopId == job.WorkshopId && one.Series == key, cancellation);
        if (total?.Wear is not { } wear)
        {
            return null;
        }

        IReadOnlyList<SeenMachine> own = Of(
            await ReadAsync(context, job.WorkshopId, await OwnAsync(context, job, key, cancellation), cancellation)
        )?.Machines
            ?? [];
        IReadOnlyList<SeenAge> ages = SeenAge.Without(total.Ages, own.Select(machine => machine.Unit));
        return ages.Count == 0
            ? null
            : new SeriesWear(
                wear.Name,
                Survival.OfAges(ages),
                [
                    .. wear
                        .Causes.Select(cause =>
                            KeyValuePair.Create(cause.Key, cause.Value - own.Count(one => one.Causes.Contains(cause.Key)))
                        )
                        .Where(cause => cause.Value > 0),
                ]
            );
    }

    /// <summary>What the visits of a job's machine gave to a series, by serial number and old tag.</summary>
    private static async Task<IQueryable<SeriesShare>> OwnAsync(RemedosContext context, Job job, string key, CancellationToken cancellation)
    {
        Workshop workshop = await context.Workshops.AsNoTracking().SingleAsync(one => one.Id == job.WorkshopId, cancellation);
        string? serial = RecordKey.OfSerial(job);
        int first = JobSheets.NumberOf(workshop, job.Serial) ?? job.Number;
        IQueryable<SeriesShare> all = context.SeriesShares.Where(share => share.WorkshopId == job.WorkshopId && share.Series == key);
        IQueryable<Guid> then = context.Jobs.Where(one => one.WorkshopId == job.WorkshopId && one.Number == first).Select(one => one.Id);
        // Each by an index of its own.
        List<Guid> ids = await all.Where(share => share.JobId == job.Id || then.Contains(share.JobId))
            .Select(share => share.JobId)
            .Union(all.Where(share => share.Tagged == first).Select(share => share.JobId))
            .Union(all.Where(share => share.Serial != null && share.Serial == serial).Select(share => share.JobId))
            .ToListAsync(cancellation);
        return all.Where(share => ids.Contains(share.JobId));
    }

    /// <summary>
    /// What the machines of a series give, by their numbers; a cooler that was fitted here is as old as its fitting, not its machine.
    /// </summary>
    /// <param name="asked">Which.</param>
    public static async Task<List<SeenCooler>> ReadAsync(
        RemedosContext context,
        Guid workshop,
        IQueryable<SeriesShare> asked,
        CancellationToken cancellation
    )
    {
        List<SeriesShare> shares = await asked.AsNoTracking().OrderBy(share => share.Number).ToListAsync(cancellation);
        IQueryable<FittedShare> fitted = context.FittedShares.Where(share =>
            share.WorkshopId == workshop && share.Kind == FittedKind.Cooler && !share.TakenOff
        );
        // Each by its own index; together they would be looked for through all that was fitted.
        var put = (
            await (
                from share in asked
                from one in fitted
                where
                    share.Serial != null
                    && one.Serial != null
                    && one.Serial == share.Serial
                    && one.Part == share.Series
                    && one.Number < share.Number
                select new
                {
                    share.JobId,
                    share.Number,
                    FittedIn = one.Number,
                    one.FittedAt,
                }
            ).ToListAsync(cancellation)
        )
            .Concat(
                await asked
                    .Where(share => share.Tagged != null)
                    .Join(
                        fitted,
                        share => new { share.Series, Number = share.Tagged },
                        one => new { Series = one.Part, Number = (int?)one.Number },
                        (share, one) =>
                            new
                            {
                                share.JobId,
                                share.Number,
                                FittedIn = one.Number,
                                one.FittedAt,
                            }
                    )
                    .ToListAsync(cancellation)
            )
            .ToLookup(one => one.JobId);
        return
        [
            .. shares.Select(share =>
                put[share.JobId].MaxBy(one => one.FittedIn) is { } last
                    ? new SeenCooler(share, DateOnly.FromDateTime(last.FittedAt.UtcDateTime), last.FittedIn)
                    : new SeenCooler(share, share.Since, null)
            ),
        ];
    }

    /// <summary>One series; null while of none of its machines the age is known.</summary>
    /// <param name="shares">What each of its machines gives.</param>
    public static SeriesSeen? Of(IReadOnlyCollection<SeenCooler> shares)
    {
        // A machine that came again with the same cooler is one: what was found last counts.
        SeenCooler[] last =
        [
            .. shares
                .Where(one => one.Since is not null)
                .GroupBy(one => (MachineOf(one.Share), one.FittedIn))
                .Select(visits => visits.MaxBy(one => one.Share.CameAt)!),
        ];
        if (last.Length == 0)
        {
            return null;
        }

        SeenMachine[] machines =
        [
            .. last.Select(one => new SeenMachine(
                    one.Share.JobId,
                    one.Share.Number,
                    Math.Max(
                        0,
                        (DateOnly.FromDateTime(one.Share.CameAt.UtcDateTime).DayNumber - one.Since!.Value.DayNumber) / JobCases.DaysAMonth
                    ),
                    [.. one.Share.Causes.Where(FittedParts.WornOut.Contains)]
                ))
                .OrderBy(machine => machine.Months),
        ];
        KeyValuePair<string, int>[] causes =
        [
            .. machines
                .SelectMany(machine => machine.Causes)
                .GroupBy(cause => cause, StringComparer.Ordinal)
                .Select(cause => KeyValuePair.Create(cause.Key, cause.Count()))
                .OrderByDescending(cause => cause.Value)
                .ThenBy(cause => cause.Key, StringComparer.Ordinal),
        ];
        return new SeriesSeen(
            new SeriesWear(last.MaxBy(one => one.Share.Number)!.Share.Name, Survival.Of(machines.Select(machine => machine.Unit)), causes),
            machines
        );
    }

    /// <summary>By which visits of one machine are known.</summary>
    private static string MachineOf(SeriesShare share) => share.Tagged is { } first ? $"#{first}" : share.Serial ?? $"#{share.Number}";

    /// <summary>When the cooler that is on it was new: with the machine, or with the setup that brought it.</summary>
    private static DateOnly? Since(Job job) =>
        JobSetups.BroughtBy(job, difference => difference.Cooler) is { } brought
            ? DateOnly.FromDateTime((JobSetups.Standing(brought)[0].MountedAt ?? brought.CreatedAt).UtcDateTime)
            : job.BuiltOn ?? job.Warranty.PurchasedOn;
}

/// <summary>A cooler as a visit found it.</summary>
/// <param name="Since">When it was new; null when unknown.</param>
/// <param name="FittedIn">The job that put it on, by its number; null where it came with the machine.</param>
internal sealed record SeenCooler(SeriesShare Share, DateOnly? Since, int? FittedIn);

/// <summary>A series with the machines that its record is made of.</summary>
internal sealed record SeriesSeen(SeriesWear Wear, IReadOnlyList<SeenMachine> Machines);

/// <summary>One machine of a record.</summary>
/// <param name="Months">Its cooler's age when it came in.</param>
/// <param name="Causes">Of what the cooler had worn out; none while it had not.</param>
internal sealed record SeenMachine(Guid Job, int Number, double Months, IReadOnlyList<string> Causes)
{
    public bool Failed => Causes.Count > 0;

    /// <summary>As a curve counts it.</summary>
    public SeenUnit Unit => new(Months, Failed);
}
