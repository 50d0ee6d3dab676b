using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Runs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>Takes a change back, from the event log, unless something newer stands on it. The undo is an event like any other.</summary>
internal static class UndoChange
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id, long eventId, Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, RunReader reader, TimeProvider clock, CancellationToken cancellation)
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
            JobEvents.Conditions or JobEvents.LoadEdges => await UndoConditionsAsync(context, job, change, person.Id, now, reader, cancellation),
            JobEvents.Marks => await UndoMarksAsync(context, job, change, person.Id, now, cancellation),
            JobEvents.PhotoAdded or JobEvents.PhotoRestored => await SetPhotoRemovedAsync(context, job, change, person.Id, now, removed: true, cancellation),
            JobEvents.PhotoRemoved => await SetPhotoRemovedAsync(context, job, change, person.Id, now, removed: false, cancellation),
            JobEvents.PhotoKind => await UndoPhotoKindAsync(context, job, change, person.Id, now, cancellation),
            JobEvents.Role => await UndoRoleAsync(context, job, change, person.Id, now, reader, cancellation),
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

    private static async Task<bool> UndoConditionsAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, RunReader reader, CancellationToken cancellation)
    {
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == Guid.Parse(change.Subject!) && r.JobId == job.Id, cancellation);
        RunConditions before = JsonSerializer.Deserialize<RunConditions>(change.Before!, RemedosContext.Json)!, after = JsonSerializer.Deserialize<RunConditions>(change.After!, RemedosContext.Json)!;
        if (run is null || run.Conditions != after)
        {
            return false;
        }

        run.Conditions = before;
        await reader.AnalyzeAnewAsync(context, run, cancellation);
        context.Append(job, personId, now, change.Kind, change.Subject, change.After, change.Before);
        return true;
    }

    private static async Task<bool> UndoMarksAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, CancellationToken cancellation)
    {
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == Guid.Parse(change.Subject!) && r.JobId == job.Id, cancellation);
        RunMark[] before = JsonSerializer.Deserialize<RunMark[]>(change.Before!, RemedosContext.Json)!, after = JsonSerializer.Deserialize<RunMark[]>(change.After!, RemedosContext.Json)!;
        if (run is null || !run.Marks.SequenceEqual(after))
        {
            return false;
        }

        run.Marks = before;
        context.Append(job, personId, now, JobEvents.Marks, change.Subject, change.After, change.Before);
        return true;
    }

    private static async Task<bool> UndoRoleAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, RunReader reader, CancellationToken cancellation)
    {
        string[] subject = change.Subject!.Split('/');
        (int column, string before, string after) = (int.Parse(subject[1]), JsonSerializer.Deserialize<string>(change.Before!)!, JsonSerializer.Deserialize<string>(change.After!)!);
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == Guid.Parse(subject[0]) && r.JobId == job.Id, cancellation);
        if (run is null || run.Analysis.Channels.SingleOrDefault(c => c.Column == column)?.Role != after)
        {
            return false;
        }

        string sha256 = await reader.Sha256Async(context, run.LogFileId, cancellation);
        await ColumnRoles.RememberAsync(context, run.WorkshopId, reader.Columns(run.WorkshopId, sha256)!.HeaderFingerprint, column, before, now, cancellation);
        await reader.AnalyzeAnewAsync(context, run, cancellation);
        await ColumnRoles.SpreadAsync(context, run, sha256, cancellation);
        context.Append(job, personId, now, JobEvents.Role, change.Subject, change.After, change.Before);
        return true;
    }

    private static async Task<bool> UndoPhotoKindAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, CancellationToken cancellation)
    {
        JobPhoto? photo = await context.JobPhotos.SingleOrDefaultAsync(p => p.Id == Guid.Parse(change.Subject!) && p.JobId == job.Id && p.RemovedAt == null, cancellation);
        if (photo?.Kind != JsonSerializer.Deserialize<string>(change.After!))
        {
            return false;
        }

        photo!.Kind = JsonSerializer.Deserialize<string>(change.Before!)!;
        context.Append(job, personId, now, JobEvents.PhotoKind, change.Subject, change.After, change.Before);
        return true;
    }

    private static async Task<bool> SetPhotoRemovedAsync(RemedosContext context, Job job, JobEvent change, Guid personId, DateTimeOffset now, bool removed, CancellationToken cancellation)
    {
        JobPhoto? photo = await context.JobPhotos.SingleOrDefaultAsync(p => p.Id == Guid.Parse(change.Subject!) && p.JobId == job.Id, cancellation);
        if (photo is null || photo.RemovedAt is not null == removed)
        {
            return false;
        }

        photo.RemovedAt = removed ? now : null;
        context.Append(job, personId, now, removed ? JobEvents.PhotoRemoved : JobEvents.PhotoRestored, change.Subject);
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
