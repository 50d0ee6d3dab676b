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
            moved.FittedIn.Add(share.JobId);
            if (share.Kind == FittedKind.Cooler)
            {
                // Coolers of its series are as old as their fitting.
                moved.Series.Add(share.Part);
            }
        }
    }

    /// <summary>
    /// What was found in a machine may bring back what was fitted into it before: keeps with each part the first visit that did, for those
    /// that may have moved.
    /// </summary>
    internal static async Task FollowFindsAsync(RemedosContext context, Guid workshop, Moved moved, CancellationToken cancellation)
    {
        string[] serials = [.. moved.Found.Select(machine => machine.Serial).OfType<string>()];
        int[] tags = [.. moved.Found.Select(machine => machine.Tagged).OfType<int>()];
        Guid[] jobs = [.. moved.FittedIn];
        if (!moved.All && serials.Length + tags.Length + jobs.Length == 0)
        {
            return;
        }

        string[] coolers = [.. FittedParts.FaultsOf(FittedKind.Cooler)],
            pastes = [.. FittedParts.FaultsOf(FittedKind.Paste)],
            kits = [.. FittedParts.FaultsOf(FittedKind.MountingKit)];
        List<PartKey> parts = await context
            .Database.SqlQuery<PartKey>(
                $"""
                UPDATE fitted_shares f SET back_by = now.back_by, back_number = now.back_number, back_at = now.back_at
                FROM (
                  SELECT o.job_id, o.kind, o.part, back.job_id AS back_by, back.number AS back_number, back.came_at AS back_at
                  FROM fitted_shares o
                  LEFT JOIN LATERAL (
                    SELECT s.job_id, s.number, s.came_at FROM series_shares s
                    WHERE s.workshop_id = {workshop} AND NOT o.taken_off AND s.number > o.number
                      AND (s.serial = o.serial OR s.tagged = o.number)
                      AND s.causes ?| CASE o.kind WHEN 'Cooler' THEN {coolers} WHEN 'Paste' THEN {pastes} ELSE {kits} END
                    ORDER BY s.number LIMIT 1
                  ) back ON true
                  WHERE o.workshop_id = {workshop}
                    AND ({moved.All} OR o.job_id = ANY({jobs}) OR o.serial = ANY({serials}) OR o.number = ANY({tags}))
                ) now
                WHERE f.workshop_id = {workshop} AND f.job_id = now.job_id AND f.kind = now.kind AND f.part = now.part
                  AND f.back_by IS DISTINCT FROM now.back_by
                RETURNING f.kind, f.part
                """
            )
            .ToListAsync(cancellation);
        moved.Fitted.UnionWith(parts.Select(one => (Enum.Parse<FittedKind>(one.Kind), one.Part)));
    }

    private sealed record PartKey(string Kind, string Part);

    /// <summary>Reckons a part's total; the caller has the stand's lock.</summary>
    internal static async Task TotalAsync(
        RemedosContext context,
        Guid workshop,
        FittedKind kind,
        string part,
        CancellationToken cancellation
    )
    {
        IQueryable<FittedShare> all = Of(context, workshop, kind, part);
        string? name = await NewestNameAsync(takenOff: false) ?? await NewestNameAsync(takenOff: true);
        FittedTotal? kept = await context.FittedTotals.FindAsync([workshop, kind, part], cancellation);
        if (name is null)
        {
            if (kept is not null)
            {
                context.Remove(kept);
            }

            return;
        }

        int stayed = await all.CountAsync(share => !share.TakenOff, cancellation),
            takenOff = await all.CountAsync(share => share.TakenOff, cancellation);
        var back = await all.Where(share => share.BackBy != null)
            .Select(share => new { share.FittedAt, BackAt = share.BackAt!.Value })
            .ToListAsync(cancellation);
        FittedParts seen = new(
            stayed + takenOff,
            takenOff,
            back.Count,
            back.Count == 0 ? null : Statistics.Median([.. back.Select(one => Months(one.FittedAt, one.BackAt))])
        );
        if (kept is null)
        {
            context.Add(
                new FittedTotal
                {
                    WorkshopId = workshop,
                    Kind = kind,
                    Part = part,
                    Name = name,
                    Seen = seen,
                }
            );
            return;
        }

        await context.Entry(kept).ReloadAsync(cancellation);
        (kept.Name, kept.Seen) = (name, seen);

        Task<string?> NewestNameAsync(bool takenOff) =>
            all.Where(share => share.TakenOff == takenOff)
                .OrderByDescending(share => share.Number)
                .Select(share => share.Name)
                .FirstOrDefaultAsync(cancellation);
    }

    /// <summary>Every machine that a part went into.</summary>
    private static IQueryable<FittedShare> Of(RemedosContext context, Guid workshop, FittedKind kind, string part) =>
        context.FittedShares.AsNoTracking().Where(share => share.WorkshopId == workshop && share.Kind == kind && share.Part == part);

    private static double Months(DateTimeOffset fitted, DateTimeOffset back) =>
        Math.Max(0, (back - fitted).TotalDays / JobCases.DaysAMonth);

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

    /// <summary>The machines that a part's figure is made of: those that came back, those that gave it up, the latest first.</summary>
    public static async Task<IReadOnlyList<MachineOfPart>> BehindAsync(
        RemedosContext context,
        Workshop workshop,
        FittedKind kind,
        string part,
        CancellationToken cancellation
    )
    {
        IQueryable<FittedShare> all = Of(context, workshop.Id, kind, RecordKey.Of(part));
        List<FittedShare> shown = await all.Where(share => share.BackBy != null)
            .OrderByDescending(share => share.Number)
            .Take(RecordsEndpoints.MostBehind)
            .ToListAsync(cancellation);
        shown.AddRange(
            await all.Where(share => share.BackBy == null)
                .OrderByDescending(share => share.TakenOff)
                .ThenByDescending(share => share.Number)
                .Take(RecordsEndpoints.MostBehind - shown.Count)
                .ToListAsync(cancellation)
        );
        return
        [
            .. shown.Select(one => new MachineOfPart(
                one.JobId,
                JobSheets.Tag(workshop, one.Number),
                one.TakenOff,
                one.BackBy,
                one.BackNumber is { } number ? JobSheets.Tag(workshop, number) : null,
                one.BackAt is { } back ? Months(one.FittedAt, back) : null
            )),
        ];
    }

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
