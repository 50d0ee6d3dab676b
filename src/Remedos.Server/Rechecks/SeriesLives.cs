using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Learning;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Rechecks;

/// <summary>How long coolers like a job's last, from what this workshop has seen of them.</summary>
internal static class SeriesLives
{
    private const double DaysAMonth = 30.44;

    /// <summary>Faults of the cooler itself that wear brings; what a cleaning or new paste cures is none.</summary>
    private static readonly string[] WornOut =
    [
        .. DiagnosisTables.Causes.Where(cause => cause.Repair is RepairRow.ReplaceLoop or RepairRow.ReplaceFan).Select(cause => cause.Id),
    ];

    /// <summary>The record of the cooler that is on a machine; null where it has no name.</summary>
    /// <param name="job">With its setups; it is not counted itself.</param>
    public static async Task<SeriesLife?> OfAsync(RemedosContext context, Job job, CancellationToken cancellation)
    {
        if (JobSetups.Now(job).Cooler?.Trim() is not { Length: > 0 } name)
        {
            return null;
        }

        string alike = JobSheets.Literally(name);
        IReadOnlyList<SeriesSeen> seen = await SeenAsync(
            context.Jobs.Where(j =>
                j.WorkshopId == job.WorkshopId && j.Id != job.Id && EF.Functions.ILike((j.Parts.Cooler ?? "").Trim(), alike, "\\")
            ),
            cancellation
        );
        return new SeriesLife(seen.Count > 0 ? seen[0].Wear : new SeriesWear(name, Survival.Of([]), []), Since(job));
    }

    /// <summary>Every series that machines came in with, those that failed most first.</summary>
    public static Task<IReadOnlyList<SeriesSeen>> AllAsync(RemedosContext context, Guid workshop, CancellationToken cancellation) =>
        SeenAsync(context.Jobs.Where(j => j.WorkshopId == workshop && j.Parts.Cooler != null), cancellation);

    private static async Task<IReadOnlyList<SeriesSeen>> SeenAsync(IQueryable<Job> jobs, CancellationToken cancellation)
    {
        var seen = await jobs.AsNoTracking()
            .Select(j => new
            {
                j.Id,
                j.Number,
                j.Serial,
                j.CreatedAt,
                Cooler = j.Parts.Cooler!,
                Since = j.BuiltOn ?? j.Warranty.PurchasedOn,
                j.Repair.Causes,
            })
            .ToListAsync(cancellation);
        return
        [
            .. seen.Where(one => one.Since is not null && one.Causes.Count > 0 && one.Cooler.Trim().Length > 0)
                .GroupBy(one => one.Cooler.Trim(), StringComparer.OrdinalIgnoreCase)
                .Select(series =>
                {
                    // A machine that came again is one cooler: what was found last counts.
                    var last = series
                        .GroupBy(one => one.Serial is { Length: > 0 } serial ? serial : one.Id.ToString())
                        .Select(visits => visits.MaxBy(one => one.CreatedAt)!)
                        .ToList();
                    SeenUnit[] units =
                    [
                        .. last.Select(one => new SeenUnit(
                            Math.Max(
                                0,
                                (DateOnly.FromDateTime(one.CreatedAt.UtcDateTime).DayNumber - one.Since!.Value.DayNumber) / DaysAMonth
                            ),
                            one.Causes.Any(WornOut.Contains)
                        )),
                    ];
                    KeyValuePair<string, int>[] causes =
                    [
                        .. last.SelectMany(one => one.Causes.Where(WornOut.Contains))
                            .GroupBy(cause => cause, StringComparer.Ordinal)
                            .Select(cause => KeyValuePair.Create(cause.Key, cause.Count()))
                            .OrderByDescending(cause => cause.Value)
                            .ThenBy(cause => cause.Key, StringComparer.Ordinal),
                    ];
                    return new SeriesSeen(
                        new SeriesWear(series.Key, Survival.Of(units), causes),
                        [
                            .. last.Zip(units)
                                .OrderBy(pair => pair.Second.Months)
                                .Select(pair => new SeenMachine(pair.First.Id, pair.First.Number, pair.Second.Months, pair.Second.Failed)),
                        ]
                    );
                })
                .OrderByDescending(one => one.Wear.Life.Failures)
                .ThenBy(one => one.Wear.Name, StringComparer.Ordinal),
        ];
    }

    /// <summary>When the cooler that is on it was new: with the machine, or with the setup that brought it.</summary>
    private static DateOnly? Since(Job job) =>
        JobSetups.Standing(job).LastOrDefault(setup => setup is { FailedWhy: null, Difference.Cooler: not null }) is { } brought
            ? DateOnly.FromDateTime((JobSetups.Standing(brought)[0].MountedAt ?? brought.CreatedAt).UtcDateTime)
            : job.BuiltOn ?? job.Warranty.PurchasedOn;
}

/// <summary>A series with the machines that its record is made of.</summary>
internal sealed record SeriesSeen(SeriesWear Wear, IReadOnlyList<SeenMachine> Machines);

/// <summary>One machine of a record.</summary>
/// <param name="Months">Its cooler's age when it came in.</param>
/// <param name="Failed">Whether the cooler had worn out.</param>
internal sealed record SeenMachine(Guid Job, int Number, double Months, bool Failed);
