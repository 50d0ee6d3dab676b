using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>What a technician says a column of a log is that could not be read.</summary>
public sealed record ImportRoleChange(string Role);

/// <summary>The column desk of a log that could not be read: say which column is the time or the processor's temperature, and it is read again.</summary>
internal static class ImportDesk
{
    public static async Task<Results<Ok<ColumnAnswer[]>, ProblemHttpResult>> ListAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        return await FindAsync(context, id, bench, cancellation) is not { } import
            ? RunEndpoints.NoSuchImport()
            : reader.Columns(import.WorkshopId, await reader.Sha256Async(context, import.LogFileId, cancellation)) is { } columns
                ? TypedResults.Ok(columns.Columns.Select(column => ColumnDesk.Answer(column, null)).ToArray())
                : RunChanges.Refused("This file is no table, so it has no columns.");
    }

    /// <summary>Remembers the role for the header and puts the import back into the queue.</summary>
    public static async Task<Results<NoContent, ProblemHttpResult>> SayAsync(
        Guid id, int column, ImportRoleChange change, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, ImportBell bell, TimeProvider clock, CancellationToken cancellation)
    {
        if (ColumnRoles.Refuse(change.Role, mayBeTime: true, out _) is { } refused)
        {
            return refused;
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await FindAsync(context, id, bench, cancellation) is not { } import)
        {
            return RunEndpoints.NoSuchImport();
        }

        LogColumns? columns = reader.Columns(import.WorkshopId, await reader.Sha256Async(context, import.LogFileId, cancellation));
        if (columns?.Columns.SingleOrDefault(c => c.Column == column) is not { } before)
        {
            return RunChanges.Refused("This file has no such column.");
        }

        (_, Person person) = await bench.WhoAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        await ColumnRoles.RememberAsync(context, import.WorkshopId, columns.HeaderFingerprint, column, change.Role, now, cancellation);
        Job job = await context.Jobs.SingleAsync(j => j.Id == import.JobId, cancellation);
        context.Append(job, person.Id, now, JobEvents.ImportRole, $"{import.Id}/{column}", JsonSerializer.Serialize(before.Role.Name()), JsonSerializer.Serialize(change.Role));
        await context.SaveTouchingJobAsync(job, cancellation);
        await context.Imports.Where(i => i.Id == id && i.State == Import.Failed)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.State, Import.Queued).SetProperty(i => i.Problem, (string?)null), cancellation);
        bell.Ring();
        return TypedResults.NoContent();
    }

    private static async Task<Import?> FindAsync(RemedosContext context, Guid id, Bench bench, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        return await context.Imports.AsNoTracking().SingleOrDefaultAsync(i => i.Id == id && i.WorkshopId == workshop.Id && i.State == Import.Failed, cancellation);
    }
}
