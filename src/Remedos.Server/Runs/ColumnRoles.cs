using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>What a workshop has said of the columns of a header.</summary>
internal static class ColumnRoles
{
    /// <summary>Why a column cannot be given a role, as a refusal; null when it can.</summary>
    public static ProblemHttpResult? Refuse(string role, bool mayBeTime, out ChannelRole parsed) =>
        ChannelRoles.TryParse(role, out parsed) && (mayBeTime || parsed != ChannelRole.Time)
            ? null
            : Refusal.Of($"“{role}” is no role that a column can be given.");

    /// <summary>
    /// Gives a column of a run's log a role: for its header, for this run, and for all other runs of the file in the background.
    /// </summary>
    /// <param name="reading">The run's original as it reads with that role.</param>
    public static async Task ApplyAsync(Write write, RunReader reader, Run run, RunReading reading, int column, string role)
    {
        string sha256 = await RunReader.Sha256Async(write.Context, run.WorkshopId, run.LogFileId, write.Cancellation);
        await RememberAsync(
            write,
            (await reader.ColumnsAsync(write.Context, run.WorkshopId, sha256, write.Cancellation))!.HeaderFingerprint,
            column,
            role
        );
        await reading.ApplyAsync(write.Context, run, samplesToo: true, write.Cancellation);
        await SpreadAsync(write, run, sha256);
    }

    /// <summary>Keeps a column's role for its header, beside what was said of other columns, by whomever and in whatever moment.</summary>
    public static async Task RememberAsync(Write write, string fingerprint, int column, string role)
    {
        string said = JsonSerializer.Serialize(new Dictionary<int, string> { [column] = role }, RemedosContext.Json);
        await write.Context.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO remembered_roles (workshop_id, fingerprint, roles, changed_at)
            VALUES ({write.WorkshopId}, {fingerprint}, {said}::jsonb, {write.Now})
            ON CONFLICT (workshop_id, fingerprint) DO UPDATE
            SET roles = remembered_roles.roles || EXCLUDED.roles, changed_at = EXCLUDED.changed_at
            """,
            write.Cancellation
        );
        write.Event("columns", fingerprint, null, said);
    }

    /// <summary>What was said of the columns of a header; null for nothing.</summary>
    public static async Task<Dictionary<int, ChannelRole>?> OfAsync(
        RemedosContext context,
        Guid workshopId,
        string fingerprint,
        CancellationToken cancellation
    )
    {
        IReadOnlyDictionary<int, string>? roles = (
            await context
                .RememberedRoles.AsNoTracking()
                .SingleOrDefaultAsync(r => r.WorkshopId == workshopId && r.Fingerprint == fingerprint, cancellation)
        )?.Roles;
        return roles
            ?.Where(pair => ChannelRoles.TryParse(pair.Value, out _))
            .ToDictionary(pair => pair.Key, pair => ChannelRoles.TryParse(pair.Value, out ChannelRole role) ? role : ChannelRole.Other);
    }

    /// <summary>Has the other runs of the same file read anew in the background.</summary>
    private static async Task SpreadAsync(Write write, Run run, string sha256)
    {
        RemedosContext context = write.Context;
        var others = await context
            .Runs.Where(r => r.WorkshopId == run.WorkshopId && r.Id != run.Id)
            .Join(
                context.LogFiles.Where(f => f.WorkshopId == run.WorkshopId && f.Sha256 == sha256),
                r => r.LogFileId,
                f => f.Id,
                (r, f) => new { r.Id, f.Bytes }
            )
            .ToListAsync(write.Cancellation);
        foreach (var other in others)
        {
            await WorkQueue.AddAsync(
                context,
                run.WorkshopId,
                WorkItem.RereadRun,
                other.Id,
                write.Now,
                null,
                other.Bytes,
                null,
                write.Cancellation
            );
        }
    }
}
