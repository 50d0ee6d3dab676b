using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Bundles;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Reports;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Owners;

/// <summary>An owner, and the jobs that name this one.</summary>
public sealed record OwnerAnswer(string? Owner, string? Contact, IReadOnlyList<OwnersJob> Jobs);

/// <summary>A job of an owner.</summary>
public sealed record OwnersJob(Guid Id, string Tag, string? Machine, DateTimeOffset CreatedAt, DateTimeOffset? HandedOverAt);

/// <summary>Whose data go.</summary>
public sealed record Erasure(IReadOnlyList<Guid> Jobs);

/// <summary>What was erased.</summary>
/// <param name="KeptBills">Bills that still name the owner, and until which day.</param>
public sealed record ErasureAnswer(int Jobs, int Pictures, int Links, IReadOnlyList<KeptBill> KeptBills);

/// <summary>A bill that is kept by law.</summary>
public sealed record KeptBill(string Number, DateOnly Until);

/// <summary>What an owner may ask for: all that is kept of him, and that it be erased. A lead does it.</summary>
internal static class OwnerEndpoints
{
    private const int Most = 30,
        MostJobs = 200;

    public static void MapOwners(this RouteGroupBuilder api)
    {
        RouteGroupBuilder owners = api.MapGroup("/owners").WithTags("people").ForLeads();
        owners.MapGet("/", FindAsync).WithName("findOwners");
        owners
            .MapGet("/file", FileAsync)
            .WithName("getOwnersData")
            .Heavy()
            .Produces(StatusCodes.Status200OK, contentType: BundleEndpoints.Zip)
            .ProducesProblem(StatusCodes.Status404NotFound);
        owners.MapPost("/erasure", EraseAsync).WithName("eraseOwner").FreshlyProved().ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Ok<OwnerAnswer[]>> FindAsync(string q, Caller caller, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        string like = $"%{JobSheets.Literally(q.Trim())}%",
            letters = like.ToLowerInvariant();
        var found = await context
            .Jobs.Where(job => job.WorkshopId == who.Workshop.Id)
            // By the index of its letters first, then in the owner alone.
            .Where(job => EF.Functions.Like(job.Found!, letters, "\\"))
            .Where(job => EF.Functions.ILike(job.Owner ?? "", like, "\\") || EF.Functions.ILike(job.Contact ?? "", like, "\\"))
            .Where(job => job.Owner != null || job.Contact != null)
            .OrderByDescending(job => job.Number)
            .Take(MostJobs)
            .Select(job => new
            {
                job.Owner,
                job.Contact,
                job.Id,
                job.Number,
                job.Machine,
                job.CreatedAt,
                job.HandedOverAt,
            })
            .ToListAsync(cancellation);
        return TypedResults.Ok(
            found
                .GroupBy(job => (job.Owner?.Trim().ToUpperInvariant(), job.Contact?.Trim().ToUpperInvariant()))
                .Take(Most)
                .Select(one => new OwnerAnswer(
                    one.First().Owner,
                    one.First().Contact,
                    [
                        .. one.Select(job => new OwnersJob(
                            job.Id,
                            JobSheets.Tag(who.Workshop, job.Number),
                            job.Machine,
                            job.CreatedAt,
                            job.HandedOverAt
                        )),
                    ]
                ))
                .ToArray()
        );
    }

    private static async Task<Results<PushStreamHttpResult, ProblemHttpResult>> FileAsync(
        [FromQuery] Guid[] jobs,
        HttpContext http,
        Caller caller,
        BundleWriter writer,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        var found = await context
            .Jobs.Where(job => job.WorkshopId == who.Workshop.Id && jobs.Contains(job.Id))
            .OrderBy(job => job.Number)
            .Select(job => new { job.Id, job.Number })
            .ToListAsync(cancellation);
        return found.Count == 0 || found.Count != jobs.Distinct().Count()
            ? JobEndpoints.NoSuchJob()
            : ZipAnswer.Of(
                http,
                caller,
                "owner.zip",
                async (zip, seen) =>
                {
                    foreach (var job in found)
                    {
                        string folder = $"{JobSheets.Tag(who.Workshop, job.Number)}/";
                        await writer.WriteJobAsync(zip, folder, seen, who.Workshop, job.Id, archive: false, cancellation);
                    }
                },
                cancellation
            );
    }

    private static async Task<Results<Ok<ErasureAnswer>, ProblemHttpResult>> EraseAsync(
        Erasure erasure,
        Caller caller,
        WriteDoor door,
        IDbContextFactory<RemedosContext> contexts,
        IFileStore files,
        AccessLog log,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Erased? erased = null;
        Guid[] jobs = [.. erasure.Jobs.Distinct().Take(MostJobs)];
        List<string> tags = [];
        return await door.WriteAsync(
            async write =>
            {
                tags.Clear();
                foreach (Guid id in jobs)
                {
                    if (await write.JobAsync(id) is not { } job)
                    {
                        return JobEndpoints.NoSuchJob();
                    }

                    tags.Add(JobSheets.Tag(who.Workshop, job.Number));
                }

                write.Context.ChangeTracker.Clear();
                erased = await OwnerErasure.EraseAsync(write.Context, who.Workshop, jobs, write.Now, cancellation);
                return null;
            },
            async () =>
            {
                await using RemedosContext every = await contexts.CreateDbContextAsync(CancellationToken.None);
                await OwnerErasure.RemoveFilesAsync(every, files, erased!.Files, CancellationToken.None);
                foreach (string tag in tags)
                {
                    await log.WriteAsync(who, AccessKinds.OwnerErased, tag, CancellationToken.None);
                }

                return new ErasureAnswer(
                    erased.Jobs,
                    erased.Pictures,
                    erased.Links,
                    [
                        .. erased.KeptBills.Select(bill => new KeptBill(
                            PaperEndpoints.NameOf(bill),
                            DateOnly.FromDateTime(who.At(bill.MadeAt.AddYears(who.Workshop.KeepBillsYears)).Date)
                        )),
                    ]
                );
            },
            cancellation
        );
    }
}
