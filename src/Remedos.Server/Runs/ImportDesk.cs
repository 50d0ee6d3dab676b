using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>What a technician says a column of a log is that could not be read.</summary>
public sealed record ImportRoleChange(string Role);

/// <summary>
/// The column desk of a log that could not be read: say which column is the time or the processor's temperature, and it is read again.
/// </summary>
internal static class ImportDesk
{
    public static async Task<Results<Ok<ColumnAnswer[]>, ProblemHttpResult>> ListAsync(
        Guid id,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await FailedAsync(context, id, cancellation) is not { } import)
        {
            return RunEndpoints.NoSuchImport();
        }

        return await reader.ColumnsAsync(context, import.WorkshopId, import.Sha256, cancellation) is { } columns
            ? TypedResults.Ok(columns.Columns.Select(column => ColumnDesk.Answer(column, null)).ToArray())
            : Refusal.Of("This file is no table, so it has no columns.");
    }

    /// <summary>Remembers the role for the header and puts the import back into the queue.</summary>
    public static async Task<Results<NoContent, ProblemHttpResult>> SayAsync(
        Guid id,
        int column,
        ImportRoleChange change,
        WriteDoor door,
        RunReader reader,
        QueueBell bell,
        CancellationToken cancellation
    )
    {
        if (ColumnRoles.Refuse(change.Role, mayBeTime: true, out _) is { } refused)
        {
            return refused;
        }

        Results<Ok<bool>, ProblemHttpResult> done = await door.WriteAsync(
            async write =>
            {
                if (
                    await FailedAsync(write.Context, id, cancellation) is not { } found
                    || await write.JobAsync(found.JobId) is not { } job
                    || await FailedAsync(write.Context, id, cancellation) is not { } import
                )
                {
                    return RunEndpoints.NoSuchImport();
                }

                LogColumns? columns = await reader.ColumnsAsync(write.Context, import.WorkshopId, import.Sha256, cancellation);
                if (columns?.Columns.SingleOrDefault(c => c.Column == column) is not { } before)
                {
                    return Refusal.Of("This file has no such column.");
                }

                if (
                    await write.Context.Imports.AnyAsync(
                        i =>
                            i.WorkshopId == import.WorkshopId
                            && i.JobId == job.Id
                            && i.Sha256 == import.Sha256
                            && (i.State == Import.Queued || i.State == Import.Reading),
                        cancellation
                    )
                )
                {
                    return Refusal.Conflict("This log is on its way to the job already.");
                }

                await ColumnRoles.RememberAsync(write, columns.HeaderFingerprint, column, change.Role);
                write.Event(
                    job,
                    JobEvents.ImportRole,
                    $"{import.Id}/{column}",
                    JsonSerializer.Serialize(before.Role.Name()),
                    JsonSerializer.Serialize(change.Role)
                );
                await write
                    .Context.Imports.Where(i => i.WorkshopId == import.WorkshopId && i.Id == id)
                    .ExecuteUpdateAsync(
                        set => set.SetProperty(i => i.State, Import.Queued).SetProperty(i => i.Problem, (string?)null),
                        cancellation
                    );
                long bytes = await write
                    .Context.LogFiles.Where(f => f.WorkshopId == import.WorkshopId && f.Id == import.LogFileId)
                    .Select(f => f.Bytes)
                    .SingleAsync(cancellation);
                await WorkQueue.AddAsync(
                    write.Context,
                    import.WorkshopId,
                    WorkItem.ImportLog,
                    id,
                    write.Now,
                    null,
                    bytes,
                    null,
                    cancellation
                );
                write.Once(bell.Ring);
                return null;
            },
            () => Task.FromResult(true),
            cancellation
        );
        return done.Result is ProblemHttpResult problem ? problem : TypedResults.NoContent();
    }

    private static Task<Import?> FailedAsync(RemedosContext context, Guid id, CancellationToken cancellation)
    {
        Guid workshop = context.Workshop!.Value;
        return context
            .Imports.AsNoTracking()
            .SingleOrDefaultAsync(i => i.WorkshopId == workshop && i.Id == id && i.State == Import.Failed, cancellation);
    }
}
