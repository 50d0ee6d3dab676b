using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Queue;

namespace Remedos.Server.Queue;

/// <summary>Puts work into the queue, inside the transaction that wants it done.</summary>
internal static class WorkQueue
{
    /// <summary>Adds an item; one that waits for the same thing already is to be done anew, also if somebody has it in hand.</summary>
    /// <param name="context">In its transaction.</param>
    /// <param name="workshopId">Whose.</param>
    /// <param name="kind">Of <see cref="WorkItem.Kinds"/>.</param>
    /// <param name="subjectId">What it is about.</param>
    /// <param name="now">The present.</param>
    /// <param name="payload">What else the work needs; null for nothing.</param>
    /// <param name="weight">How much there is to read, bytes.</param>
    /// <param name="notBefore">Null for at once.</param>
    /// <param name="cancellation">Stops it.</param>
    public static Task AddAsync(
        RemedosContext context,
        Guid workshopId,
        string kind,
        Guid subjectId,
        DateTimeOffset now,
        object? payload,
        long weight,
        DateTimeOffset? notBefore,
        CancellationToken cancellation
    )
    {
        string? json = payload is null ? null : JsonSerializer.Serialize(payload, RemedosContext.Json);
        short urgency = UrgencyOf(kind);
        return context.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO work_items (workshop_id, id, kind, subject_id, payload, urgency, weight, created_at, not_before, attempts)
            VALUES ({workshopId}, {Guid.CreateVersion7(now)}, {kind}, {subjectId}, {json}::jsonb, {urgency}, {weight}, {now}, {notBefore
                ?? now}, 0)
            ON CONFLICT (workshop_id, kind, subject_id) DO UPDATE SET
                payload = EXCLUDED.payload, weight = EXCLUDED.weight, not_before = EXCLUDED.not_before, attempts = 0,
                lease_owner = NULL, lease_until = NULL, last_error = NULL, set_aside_at = NULL
            """,
            cancellation
        );
    }

    /// <summary>Has runs read anew that an older reading made, or whose columns have been overruled since.</summary>
    public static Task<int> AddStaleRunsAsync(RemedosContext context, int version, DateTimeOffset now, CancellationToken cancellation)
    {
        short urgency = UrgencyOf(WorkItem.RereadRun);
        return context.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO work_items (workshop_id, id, kind, subject_id, urgency, weight, created_at, not_before, attempts)
            SELECT r.workshop_id, gen_random_uuid(), {WorkItem.RereadRun}, r.id, {urgency}, f.bytes, {now}, {now}, 0
            FROM runs r JOIN log_files f ON f.workshop_id = r.workshop_id AND f.id = r.log_file_id
            WHERE r.analysis_version < {version}
            ON CONFLICT (workshop_id, kind, subject_id) DO NOTHING
            """,
            cancellation
        );
    }

    private static short UrgencyOf(string kind) => (short)WorkItem.Kinds.ToList().IndexOf(kind);
}
