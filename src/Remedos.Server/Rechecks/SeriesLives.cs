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
        var seen = await context
            .Jobs.AsNoTracking()
            .Where(j =>
                j.WorkshopId == job.WorkshopId
                && j.Id != job.Id
                && j.Parts.Cooler != null
                && EF.Functions.ILike(j.Parts.Cooler.Trim(), alike, "\\")
            )
            .Select(j => new
            {
                j.Id,
                j.Serial,
                j.CreatedAt,
                Since = j.BuiltOn ?? j.Warranty.PurchasedOn,
                j.Repair.Causes,
            })
            .ToListAsync(cancellation);
        SeenUnit[] units =
        [
            .. seen.Where(one => one.Since is not null && one.Causes.Count > 0)
                // A machine that came again is one cooler: what was found last counts.
                .GroupBy(one => one.Serial is { Length: > 0 } serial ? serial : one.Id.ToString())
                .Select(visits => visits.MaxBy(one => one.CreatedAt)!)
                .Select(one => new SeenUnit(
                    Math.Max(0, (DateOnly.FromDateTime(one.CreatedAt.UtcDateTime).DayNumber - one.Since!.Value.DayNumber) / DaysAMonth),
                    one.Causes.Any(WornOut.Contains)
                )),
        ];
        return new SeriesLife(name, Survival.Of(units), Since(job));
    }

    /// <summary>When the cooler that is on it was new: with the machine, or with the setup that brought it.</summary>
    private static DateOnly? Since(Job job) =>
        JobSetups.Standing(job).LastOrDefault(setup => setup is { FailedWhy: null, Difference.Cooler: not null }) is { } brought
            ? DateOnly.FromDateTime((JobSetups.Standing(brought)[0].MountedAt ?? brought.CreatedAt).UtcDateTime)
            : job.BuiltOn ?? job.Warranty.PurchasedOn;
}
