using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Learning;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Jobs;
using Remedos.Server.Records;

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

        string series = RecordKey.Of(name);
        List<SeriesShare> shares = await context
            .SeriesShares.AsNoTracking()
            .Where(share => share.WorkshopId == job.WorkshopId && share.Series == series && share.JobId != job.Id)
            .ToListAsync(cancellation);
        return new SeriesLife(Of(shares)?.Wear ?? new SeriesWear(name, Survival.Of([]), []), Since(job));
    }

    /// <summary>One series; null while of none of its machines the age is known.</summary>
    /// <param name="shares">What each of its machines gives.</param>
    public static SeriesSeen? Of(IReadOnlyCollection<SeriesShare> shares)
    {
        // A machine that came again is one cooler: what was found last counts.
        SeriesShare[] last =
        [
            .. shares
                .Where(share => share.Since is not null)
                .GroupBy(share => share.Serial ?? share.JobId.ToString())
                .Select(visits => visits.MaxBy(share => share.CameAt)!),
        ];
        if (last.Length == 0)
        {
            return null;
        }

        SeenMachine[] machines =
        [
            .. last.Select(share => new SeenMachine(
                    share.JobId,
                    share.Number,
                    Math.Max(0, (DateOnly.FromDateTime(share.CameAt.UtcDateTime).DayNumber - share.Since!.Value.DayNumber) / DaysAMonth),
                    share.Causes.Any(WornOut.Contains)
                ))
                .OrderBy(machine => machine.Months),
        ];
        KeyValuePair<string, int>[] causes =
        [
            .. last.SelectMany(share => share.Causes.Where(WornOut.Contains))
                .GroupBy(cause => cause, StringComparer.Ordinal)
                .Select(cause => KeyValuePair.Create(cause.Key, cause.Count()))
                .OrderByDescending(cause => cause.Value)
                .ThenBy(cause => cause.Key, StringComparer.Ordinal),
        ];
        return new SeriesSeen(
            new SeriesWear(
                last.MaxBy(share => share.Number)!.Name,
                Survival.Of([.. machines.Select(machine => new SeenUnit(machine.Months, machine.Failed))]),
                causes
            ),
            machines
        );
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
