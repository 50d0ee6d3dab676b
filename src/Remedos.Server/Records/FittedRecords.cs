using Microsoft.EntityFrameworkCore;
using Remedos.Core.Jobs;
using Remedos.Core.Learning;
using Remedos.Core.Signals;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;

namespace Remedos.Server.Records;

/// <summary>How what was fitted here fares: taken off again at once, or back with its machine later.</summary>
internal static class FittedRecords
{
    /// <summary>A part in one machine, and the first visit after which found that it no longer does what it is for.</summary>
    /// <param name="BackBy">That visit's job; null where it did not come back.</param>
    public sealed record Fitted(
        Guid JobId,
        string Name,
        int Number,
        DateTimeOffset FittedAt,
        bool TakenOff,
        Guid? BackBy,
        int? BackNumber,
        DateTimeOffset? BackAt
    )
    {
        public double? MonthsUntilBack => BackAt is { } back ? Math.Max(0, (back - FittedAt).TotalDays / JobCases.DaysAMonth) : null;
    }

    /// <summary>Reckons what a job gives.</summary>
    internal static void Share(RemedosContext context, Job job, IReadOnlyList<FittedShare> kept, Moved moved)
    {
        FittedShare[] now = [.. Of(job)];
        foreach (FittedShare gone in kept.Where(share => !Array.Exists(now, one => one.Kind == share.Kind && one.Part == share.Part)))
        {
            Move(gone);
            context.Remove(gone);
        }

        foreach (FittedShare share in now)
        {
            if (kept.FirstOrDefault(one => one.Kind == share.Kind && one.Part == share.Part) is not { } before)
            {
                Move(share);
                context.Add(share);
            }
            else if (
                (before.Name, before.Serial, before.FittedAt, before.TakenOff) != (share.Name, share.Serial, share.FittedAt, share.TakenOff)
            )
            {
                Move(share);
                (before.Name, before.Serial, before.FittedAt, before.TakenOff) = (share.Name, share.Serial, share.FittedAt, share.TakenOff);
            }
        }

        void Move(FittedShare share)
        {
            moved.Fitted.Add((share.Kind, share.Part));
            if (share.Kind == FittedKind.Cooler)
            {
                // Coolers of its series are as old as their fitting.
                moved.Series.Add(share.Part);
            }
        }
    }

    /// <summary>What was found in a machine may bring back what was fitted into it before.</summary>
    internal static async Task FollowFindsAsync(RemedosContext context, Guid workshop, Moved moved, CancellationToken cancellation)
    {
        string[] serials = [.. moved.Found.Select(share => share.Serial).OfType<string>().Distinct()];
        int[] tags = [.. moved.Found.Select(share => share.Tagged).OfType<int>().Distinct()];
        if (serials.Length == 0 && tags.Length == 0)
        {
            return;
        }

        var parts = await context
            .FittedShares.Where(share => share.WorkshopId == workshop && (serials.Contains(share.Serial!) || tags.Contains(share.Number)))
            .Select(share => new { share.Kind, share.Part })
            .Distinct()
            .ToListAsync(cancellation);
        moved.Fitted.UnionWith(parts.Select(one => (one.Kind, one.Part)));
    }

    /// <summary>Reckons a part's total; the caller has the stand's lock.</summary>
    internal static async Task TotalAsync(
        RemedosContext context,
        Guid workshop,
        FittedKind kind,
        string part,
        CancellationToken cancellation
    )
    {
        List<Fitted> all = await AllAsync(context, workshop, kind, part, cancellation);
        FittedTotal? kept = await context.FittedTotals.FindAsync([workshop, kind, part], cancellation);
        if (all.Count == 0)
        {
            if (kept is not null)
            {
                context.Remove(kept);
            }

            return;
        }

        double[] months = [.. all.Select(one => one.MonthsUntilBack).OfType<double>()];
        FittedParts seen = new(
            all.Count,
            all.Count(one => one.TakenOff),
            months.Length,
            months.Length == 0 ? null : Statistics.Median(months)
        );
        if (kept is null)
        {
            context.Add(
                new FittedTotal
                {
                    WorkshopId = workshop,
                    Kind = kind,
                    Part = part,
                    Name = all[^1].Name,
                    Seen = seen,
                }
            );
            return;
        }

        await context.Entry(kept).ReloadAsync(cancellation);
        (kept.Name, kept.Seen) = (all[^1].Name, seen);
    }

    /// <summary>Every machine that a part went into, in the order of their numbers.</summary>
    internal static Task<List<Fitted>> AllAsync(
        RemedosContext context,
        Guid workshop,
        FittedKind kind,
        string part,
        CancellationToken cancellation
    )
    {
        string named = kind.ToString();
        string[] faults = [.. FittedParts.FaultsOf(kind)];
        return context
            .Database.SqlQuery<Fitted>(
                $"""
                SELECT f.job_id, f.name, f.number, f.fitted_at, f.taken_off,
                  back.job_id AS back_by, back.number AS back_number, back.came_at AS back_at
                FROM fitted_shares f
                LEFT JOIN LATERAL (
                  SELECT s.job_id, s.number, s.came_at FROM series_shares s
                  WHERE s.workshop_id = {workshop} AND NOT f.taken_off AND s.number > f.number
                    AND (s.serial = f.serial OR s.tagged = f.number) AND s.causes ?| {faults}
                  ORDER BY s.number LIMIT 1
                ) back ON true
                WHERE f.workshop_id = {workshop} AND f.kind = {named} AND f.part = {part}
                ORDER BY f.number
                """
            )
            .ToListAsync(cancellation);
    }

    /// <summary>All that was fitted here, what came back or off most often first.</summary>
    public static async Task<IReadOnlyList<PartOfRecord>> ListAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    ) =>
        [
            .. (await context.FittedTotals.AsNoTracking().Where(total => total.WorkshopId == workshop).ToListAsync(cancellation))
                .OrderByDescending(total => total.Seen.CameBack + total.Seen.TakenOff)
                .ThenByDescending(total => total.Seen.Fitted)
                .ThenBy(total => total.Name, StringComparer.Ordinal)
                .Select(total => new PartOfRecord(
                    total.Kind,
                    total.Name,
                    total.Seen.Fitted,
                    total.Seen.TakenOff,
                    total.Seen.CameBack,
                    total.Seen.MonthsUntilBack
                )),
        ];

    /// <summary>The machines that a part's figure is made of, the latest first.</summary>
    public static async Task<IReadOnlyList<MachineOfPart>> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        FittedKind kind,
        string part,
        CancellationToken cancellation
    ) =>
        [
            .. (await AllAsync(context, workshop.Id, kind, RecordKey.Of(part), cancellation))
                .OrderByDescending(one => one.BackBy is not null)
                .ThenByDescending(one => one.TakenOff)
                .ThenByDescending(one => one.Number)
                .Take(RecordsEndpoints.MostBehind)
                .Select(one => new MachineOfPart(
                    one.JobId,
                    JobSheets.Tag(workshop, one.Number),
                    one.TakenOff,
                    one.BackBy,
                    one.BackNumber is { } number ? JobSheets.Tag(workshop, number) : null,
                    one.MonthsUntilBack
                )),
        ];

    /// <summary>What the machine left with, and what it gave up on the way.</summary>
    private static IEnumerable<FittedShare> Of(Job job)
    {
        List<(FittedKind Kind, string Name, Setup Setup, bool TakenOff)> parts = [];
        foreach (FittedKind kind in Enum.GetValues<FittedKind>())
        {
            parts.AddRange(
                JobSetups
                    .Standing(job)
                    .Where(setup => setup is { Number: > 1, FailedWhy: not null } && NameIn(setup.Difference, kind) is not null)
                    .Select(setup => (kind, NameIn(setup.Difference, kind)!, setup, true))
            );
            if (
                job.HandedOverAt is not null
                && JobSetups.BroughtBy(job, difference => AnyIn(difference, kind)) is { } left
                && NameIn(left.Difference, kind) is { } name
            )
            {
                parts.Add((kind, name, left, false));
            }
        }

        return parts
            .GroupBy(part => (part.Kind, Part: RecordKey.Of(part.Name)))
            // What was put on once more and stayed has stayed.
            .Select(same => same.MinBy(part => part.TakenOff))
            .Select(part => new FittedShare
            {
                WorkshopId = job.WorkshopId,
                JobId = job.Id,
                Kind = part.Kind,
                Part = RecordKey.Of(part.Name),
                Name = part.Name.Trim(),
                Number = job.Number,
                Serial = RecordKey.OfSerial(job),
                FittedAt = JobSetups.Standing(part.Setup)[0].MountedAt ?? part.Setup.CreatedAt,
                TakenOff = part.TakenOff,
            });
    }

    /// <summary>The name of what a setup changed; null for nothing, or for a paste that nobody named.</summary>
    private static string? NameIn(SetupDifference difference, FittedKind kind) =>
        AnyIn(difference, kind) is { } name && RecordKey.Of(name) != LikeTrials.UnnamedPaste ? name : null;

    private static string? AnyIn(SetupDifference difference, FittedKind kind)
    {
        string? name = kind switch
        {
            FittedKind.Cooler => difference.Cooler,
            FittedKind.Paste => difference.Paste,
            _ => difference.MountingKit,
        };
        return string.IsNullOrWhiteSpace(name) ? null : name;
    }
}
