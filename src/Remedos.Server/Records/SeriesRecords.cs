using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Jobs;
using Remedos.Server.Rechecks;

namespace Remedos.Server.Records;

/// <summary>What was found in machines with the same cooler.</summary>
internal static class SeriesRecords
{
    /// <summary>The record of the series of a job's cooler, its own share left out; null for none.</summary>
    public static async Task<SeriesRecord?> WithoutAsync(RemedosContext context, Job job, CancellationToken cancellation)
    {
        if (string.IsNullOrWhiteSpace(job.Parts.Cooler))
        {
            return null;
        }

        string key = RecordKey.Of(job.Parts.Cooler);
        var found = await context
            .SeriesTotals.AsNoTracking()
            .Where(total => total.WorkshopId == job.WorkshopId && total.Series == key)
            .Select(total => new
            {
                Total = total,
                Own = context.SeriesShares.FirstOrDefault(share =>
                    share.WorkshopId == job.WorkshopId && share.JobId == job.Id && share.Series == key
                ),
            })
            .SingleOrDefaultAsync(cancellation);
        return found is null ? null : Without(found.Total, found.Own);
    }

    /// <summary>A series without one machine; null where no other is left.</summary>
    public static SeriesRecord? Without(SeriesTotal total, SeriesShare? own)
    {
        int machines = total.Machines - (own is null ? 0 : 1);
        return machines == 0
            ? null
            : new SeriesRecord(
                total.Name,
                machines,
                total
                    .Causes.Select(cause => (cause.Key, Count: cause.Value - (own?.Causes.Count(one => one == cause.Key) ?? 0)))
                    .Where(cause => cause.Count > 0)
                    .ToDictionary(cause => cause.Key, cause => cause.Count, StringComparer.Ordinal)
            );
    }

    /// <summary>Reckons what a job gives to the record of its cooler's series.</summary>
    internal static void Share(RemedosContext context, Workshop workshop, Job job, SeriesShare? kept, Moved moved)
    {
        SeriesShare? now =
            job.Repair.Causes.Count == 0 || string.IsNullOrWhiteSpace(job.Parts.Cooler)
                ? null
                : new SeriesShare
                {
                    WorkshopId = job.WorkshopId,
                    JobId = job.Id,
                    Series = RecordKey.Of(job.Parts.Cooler),
                    Name = job.Parts.Cooler.Trim(),
                    Causes = job.Repair.Causes,
                    Number = job.Number,
                    CameAt = job.CreatedAt,
                    Since = job.BuiltOn ?? job.Warranty.PurchasedOn,
                    Serial = RecordKey.OfSerial(job),
                    Tagged = JobSheets.NumberOf(workshop, job.Serial),
                };
        if (kept is not null)
        {
            if (now is null)
            {
                moved.Series.Add(kept.Series);
                moved.Found.Add((kept.Serial, kept.Tagged));
                context.Remove(kept);
            }
            else if (!IsSame(kept, now))
            {
                moved.Series.UnionWith([kept.Series, now.Series]);
                moved.Found.UnionWith([(kept.Serial, kept.Tagged), (now.Serial, now.Tagged)]);
                (kept.Series, kept.Name, kept.Causes) = (now.Series, now.Name, now.Causes);
                (kept.Since, kept.Serial, kept.Tagged) = (now.Since, now.Serial, now.Tagged);
            }
        }
        else if (now is not null)
        {
            moved.Series.Add(now.Series);
            moved.Found.Add((now.Serial, now.Tagged));
            context.Add(now);
        }
    }

    /// <summary>Reckons a series' total from its shares; the caller has the stand's lock.</summary>
    internal static async Task TotalAsync(RemedosContext context, Guid workshop, string series, CancellationToken cancellation)
    {
        List<SeenCooler> coolers = await SeriesLives.ReadAsync(
            context,
            workshop,
            context.SeriesShares.Where(share => share.WorkshopId == workshop && share.Series == series),
            cancellation
        );
        SeriesShare[] shares = [.. coolers.Select(one => one.Share)];
        SeriesTotal? kept = await context.SeriesTotals.FindAsync([workshop, series], cancellation);
        if (shares.Length == 0)
        {
            if (kept is not null)
            {
                context.Remove(kept);
            }

            return;
        }

        Dictionary<string, int> causes = shares
            .SelectMany(share => share.Causes)
            .GroupBy(cause => cause, StringComparer.Ordinal)
            .ToDictionary(cause => cause.Key, cause => cause.Count(), StringComparer.Ordinal);
        SeriesSeen? seen = SeriesLives.Of(coolers);
        IReadOnlyList<SeenAge> ages = SeenAge.Of(seen?.Machines.Select(machine => machine.Unit) ?? []);
        if (kept is null)
        {
            context.Add(
                new SeriesTotal
                {
                    WorkshopId = workshop,
                    Series = series,
                    Name = shares[^1].Name,
                    Machines = shares.Length,
                    Causes = causes,
                    Wear = seen?.Wear.Summary,
                    Ages = ages,
                }
            );
            return;
        }

        await context.Entry(kept).ReloadAsync(cancellation);
        (kept.Name, kept.Machines, kept.Causes) = (shares[^1].Name, shares.Length, causes);
        (kept.Wear, kept.Ages) = (seen?.Wear.Summary, ages);
    }

    private static bool IsSame(SeriesShare one, SeriesShare other) =>
        one.Series == other.Series
        && one.Name == other.Name
        && one.Since == other.Since
        && one.Serial == other.Serial
        && one.Tagged == other.Tagged
        && one.Causes.SequenceEqual(other.Causes, StringComparer.Ordinal);
}
