using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>Takes a change back, from the event log, unless something newer stands on it. The undo is an event like any other.</summary>
internal static class UndoChange
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id, long eventId, Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job? job = await context.Jobs.SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
        JobEvent? change = await context.JobEvents.AsNoTracking().SingleOrDefaultAsync(e => e.Id == eventId && e.JobId == id, cancellation);
        if (job is null || change is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        DateTimeOffset now = clock.GetUtcNow();
        bool undone = change.Kind switch
        {
            JobEvents.Field => UndoField(context, job, change, person.Id, now),
            JobEvents.RunAdded or JobEvents.RunRestored => await SetRemovedAsync(context, job, change, person.Id, now, removed: true, cancellation),
            JobEvents.RunRemoved => await SetRemovedAsync(context, job, change, person.Id, now, removed: false, cancellation),
            _ => false,
        };
        if (!undone)
        {
            return TypedResults.Problem("This cannot be undone: it has been changed again since.", statusCode: StatusCodes.Status409Conflict);
        }

        await context.SaveChangesAsync(cancellation);
        return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
    }

    private static bool UndoField(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now)
    {
        JobField field = JobFields.Find(change.Subject!)!;
        string current = field.Json(job);
        // jsonb may write the same value in other words (1 and 1.0): compare what the field makes of it.
        Job scratch = new();
        field.TrySet(scratch, JsonSerializer.Deserialize<JsonElement>(change.After!));
        if (current != field.Json(scratch))
        {
            return false;
        }

        field.TrySet(job, JsonSerializer.Deserialize<JsonElement>(change.Before!));
        context.Append(job, personId, now, JobEvents.Field, field.Name, current, change.Before);
        return true;
    }

    private static async Task<bool> SetRemovedAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, bool removed, CancellationToken cancellation)
    {
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == Guid.Parse(change.Subject!) && r.JobId == job.Id, cancellation);
        if (run is null || run.RemovedAt is not null == removed)
        {
            return false;
        }

        run.RemovedAt = removed ? now : null;
        context.Append(job, personId, now, removed ? JobEvents.RunRemoved : JobEvents.RunRestored, change.Subject);
        return true;
    }
}
