using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Photos;

/// <summary>Pictures on a job: of the machine as it came in, and of the proof of purchase.</summary>
internal static class PhotoEndpoints
{
    public static void MapPhotos(this RouteGroupBuilder api)
    {
        RouteGroupBuilder photos = api.MapGroup("/jobs/{id:guid}/photos").WithTags("photos");
        photos
            .MapPost("/", AddAsync)
            .WithName("addPhoto")
            .WithMetadata(new RequestSizeLimitAttribute(Pictures.LargestBytes))
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        photos.MapGet("/{photo:guid}", ShowAsync).WithName("getPhoto").ExcludeFromDescription();
        photos.MapPut("/{photo:guid}/kind", SetKindAsync).WithName("setPhotoKind");
        photos.MapDelete("/{photo:guid}", RemoveAsync).WithName("removePhoto");
    }

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> AddAsync(
        Guid id,
        [FromQuery] string kind,
        [FromQuery] string fileName,
        HttpContext http,
        Caller caller,
        Pictures pictures,
        JobDoor door,
        CancellationToken cancellation
    )
    {
        string name = GivenName.Of(fileName, "picture");
        if (kind is not (JobPhoto.Photo or JobPhoto.Proof))
        {
            return Refusal.Of("A picture is either of the machine or of the proof of purchase.");
        }

        if (http.Request.ContentLength > Pictures.LargestBytes)
        {
            return Refusal.Of(
                $"“{name}” has {http.Request.ContentLength / 1e6:0} MB; pictures up to {Pictures.LargestBytes / 1e6:0} MB are taken."
            );
        }

        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            Guid workshop = context.Workshop!.Value;
            if (!await context.Jobs.AnyAsync(job => job.WorkshopId == workshop && job.Id == id, cancellation))
            {
                return JobEndpoints.NoSuchJob();
            }
        }

        using MemoryStream content = new();
        await http.Request.Body.CopyToAsync(content, cancellation);
        (KeptPicture? kept, string? problem) = await pictures.KeepAsync(content.ToArray(), cancellation);
        return kept is null
            ? Refusal.Of($"“{name}” {problem}")
            : await door.ChangeAsync(
                id,
                async (write, job) =>
                {
                    // The job's row is locked, so the same picture from two pages is one.
                    JobPhoto? known = await write.Context.JobPhotos.SingleOrDefaultAsync(
                        p => p.WorkshopId == job.WorkshopId && p.JobId == id && p.GivenSha256 == kept.GivenSha256,
                        cancellation
                    );
                    if (known is { RemovedAt: null })
                    {
                        return Refusal.Conflict($"“{name}” is already on this job.");
                    }

                    if (known is not null)
                    {
                        (known.RemovedAt, known.Kind) = (null, kind);
                    }
                    else
                    {
                        known = new JobPhoto
                        {
                            Id = Guid.CreateVersion7(write.Now),
                            WorkshopId = job.WorkshopId,
                            JobId = id,
                            PersonId = write.PersonId,
                            Kind = kind,
                            Name = name,
                            MediaType = kept.MediaType,
                            GivenSha256 = kept.GivenSha256,
                            Sha256 = kept.Sha256,
                            ThumbnailSha256 = kept.ThumbnailSha256,
                            Bytes = kept.Bytes,
                            AddedAt = write.Now,
                        };
                        write.Context.JobPhotos.Add(known);
                    }

                    write.Event(job, JobEvents.PhotoAdded, known.Id.ToString());
                    return null;
                },
                cancellation
            );
    }

    /// <summary>A picture; with small, its thumbnail. One that was taken off is not shown any more.</summary>
    private static async Task<Results<FileStreamHttpResult, ProblemHttpResult>> ShowAsync(
        Guid id,
        Guid photo,
        bool? small,
        HttpResponse response,
        Caller caller,
        IFileStore files,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Guid workshop = context.Workshop!.Value;
        JobPhoto? known = await context
            .JobPhotos.AsNoTracking()
            .SingleOrDefaultAsync(p => p.WorkshopId == workshop && p.Id == photo && p.JobId == id && p.RemovedAt == null, cancellation);
        if (known is null)
        {
            return NoSuchPhoto();
        }

        // It never changes under its id, but it can be taken off: it is asked for again each day.
        response.Headers.CacheControl = "private, max-age=86400";
        return TypedResults.File(
            await files.OpenAsync(small == true ? known.ThumbnailSha256 : known.Sha256, cancellation),
            known.MediaType
        );
    }

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> SetKindAsync(
        Guid id,
        Guid photo,
        PhotoKind kind,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        kind.Kind is not (JobPhoto.Photo or JobPhoto.Proof)
            ? Refusal.Of("A picture is either of the machine or of the proof of purchase.")
            : await ChangeAsync(
                id,
                photo,
                door,
                (write, job, known) =>
                {
                    write.Event(
                        job,
                        JobEvents.PhotoKind,
                        known.Id.ToString(),
                        JsonSerializer.Serialize(known.Kind),
                        JsonSerializer.Serialize(kind.Kind)
                    );
                    known.Kind = kind.Kind;
                },
                cancellation
            );

    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> RemoveAsync(
        Guid id,
        Guid photo,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        ChangeAsync(
            id,
            photo,
            door,
            (write, job, known) =>
            {
                known.RemovedAt = write.Now;
                write.Event(job, JobEvents.PhotoRemoved, known.Id.ToString());
            },
            cancellation
        );

    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Guid photo,
        JobDoor door,
        Action<Write, Job, JobPhoto> change,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            async (write, job) =>
            {
                JobPhoto? known = await write.Context.JobPhotos.SingleOrDefaultAsync(
                    p => p.WorkshopId == job.WorkshopId && p.Id == photo && p.JobId == id && p.RemovedAt == null,
                    cancellation
                );
                if (known is null)
                {
                    return NoSuchPhoto();
                }

                change(write, job, known);
                return null;
            },
            cancellation
        );

    private static ProblemHttpResult NoSuchPhoto() => Refusal.None("picture on this job");
}

/// <summary>What a picture shows: photo or proof.</summary>
public sealed record PhotoKind(string Kind);
