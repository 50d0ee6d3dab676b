using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Photos;

/// <summary>Pictures on a job: of the machine as it came in, and of the proof of purchase.</summary>
internal static class PhotoEndpoints
{
    private const long LargestBytes = 40_000_000;

    public static void MapPhotos(this RouteGroupBuilder api)
    {
        RouteGroupBuilder photos = api.MapGroup("/jobs/{id:guid}/photos").WithTags("photos");
        photos.MapPost("/", AddAsync).WithName("addPhoto").WithMetadata(new RequestSizeLimitAttribute(LargestBytes)).ProducesProblem(StatusCodes.Status404NotFound).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        photos.MapGet("/{photo:guid}", ShowAsync).WithName("getPhoto").ExcludeFromDescription();
        photos.MapPut("/{photo:guid}/kind", SetKindAsync).WithName("setPhotoKind");
        photos.MapDelete("/{photo:guid}", RemoveAsync).WithName("removePhoto");
    }

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> AddAsync(
        Guid id, [FromQuery] string kind, [FromQuery] string fileName, HttpContext http, Session.Bench bench, FileStore files, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        string name = fileName.Split('/', '\\')[^1].Replace("\0", "", StringComparison.Ordinal);
        name = name.Length == 0 ? "picture" : name[..Math.Min(name.Length, 255)];
        if (kind is not (JobPhoto.Photo or JobPhoto.Proof))
        {
            return RunChanges.Refused("A picture is either of the machine or of the proof of purchase.");
        }

        if (http.Request.ContentLength > LargestBytes)
        {
            return RunChanges.Refused($"“{name}” has {http.Request.ContentLength / 1e6:0} MB; pictures up to {LargestBytes / 1e6:0} MB are taken.");
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await context.Jobs.SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation) is not { } job)
        {
            return JobEndpoints.NoSuchJob();
        }

        (string sha256, long bytes) = await files.SaveAsync(http.Request.Body, cancellation);
        if (await TypeOfAsync(files, sha256, cancellation) is not { } type)
        {
            return RunChanges.Refused($"“{name}” is no picture. JPEG, PNG, WebP and AVIF are shown; a log goes to the before or the after run.");
        }

        JobPhoto? known = await context.JobPhotos.SingleOrDefaultAsync(p => p.JobId == id && p.Sha256 == sha256, cancellation);
        if (known is { RemovedAt: null })
        {
            return TypedResults.Problem($"“{name}” is already on this job.", statusCode: StatusCodes.Status409Conflict);
        }

        DateTimeOffset now = clock.GetUtcNow();
        if (known is not null)
        {
            (known.RemovedAt, known.Kind) = (null, kind);
        }
        else
        {
            known = new() { Id = Guid.CreateVersion7(now), WorkshopId = workshop.Id, JobId = id, PersonId = person.Id, Kind = kind, Name = name, MediaType = type, Sha256 = sha256, Bytes = bytes, AddedAt = now };
            context.JobPhotos.Add(known);
        }

        context.Append(job, person.Id, now, JobEvents.PhotoAdded, known.Id.ToString());
        await context.SaveTouchingJobAsync(job, cancellation);
        return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
    }

    private static async Task<string?> TypeOfAsync(FileStore files, string sha256, CancellationToken cancellation)
    {
        byte[] head = new byte[PictureKind.HeadBytes];
        await using FileStream file = files.Open(sha256);
        int read = await file.ReadAtLeastAsync(head, head.Length, throwOnEndOfStream: false, cancellation);
        return PictureKind.Of(head.AsSpan(0, read));
    }

    private static async Task<Results<FileStreamHttpResult, ProblemHttpResult>> ShowAsync(Guid id, Guid photo, HttpResponse response, Session.Bench bench, FileStore files, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await context.JobPhotos.AsNoTracking().SingleOrDefaultAsync(p => p.Id == photo && p.JobId == id && p.WorkshopId == workshop.Id, cancellation) is not { } known)
        {
            return NoSuchPhoto();
        }

        // It never changes under its id.
        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.File(files.Open(known.Sha256), known.MediaType);
    }

    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> SetKindAsync(Guid id, Guid photo, PhotoKind kind, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation) =>
        kind.Kind is not (JobPhoto.Photo or JobPhoto.Proof) ? Task.FromResult<Results<Ok<JobSheet>, ProblemHttpResult>>(RunChanges.Refused("A picture is either of the machine or of the proof of purchase."))
        : ChangeAsync(id, photo, bench, contexts, sheets, (context, job, person, known) =>
        {
            context.Append(job, person.Id, clock.GetUtcNow(), JobEvents.PhotoKind, known.Id.ToString(), JsonSerializer.Serialize(known.Kind), JsonSerializer.Serialize(kind.Kind));
            known.Kind = kind.Kind;
        }, clock, cancellation);

    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> RemoveAsync(Guid id, Guid photo, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation) =>
        ChangeAsync(id, photo, bench, contexts, sheets, (context, job, person, known) =>
        {
            DateTimeOffset now = clock.GetUtcNow();
            known.RemovedAt = now;
            context.Append(job, person.Id, now, JobEvents.PhotoRemoved, known.Id.ToString());
        }, clock, cancellation);

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> ChangeAsync(
        Guid id, Guid photo, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, Action<RemedosContext, Job, Person, JobPhoto> change, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job? job = await context.Jobs.SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
        JobPhoto? known = await context.JobPhotos.SingleOrDefaultAsync(p => p.Id == photo && p.JobId == id && p.RemovedAt == null, cancellation);
        if (job is null || known is null)
        {
            return NoSuchPhoto();
        }

        job.ChangedAt = clock.GetUtcNow();
        change(context, job, person, known);
        await context.SaveTouchingJobAsync(job, cancellation);
        return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
    }

    private static ProblemHttpResult NoSuchPhoto() => TypedResults.Problem("There is no such picture on this job.", statusCode: StatusCodes.Status404NotFound);
}

/// <summary>What a picture shows: photo or proof.</summary>
public sealed record PhotoKind(string Kind);
