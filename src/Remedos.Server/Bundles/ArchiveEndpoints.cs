using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Files;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bundles;

/// <summary>What was read in from an archive.</summary>
public sealed record ArchiveAnswer(string Workshop, int Jobs, int Runs, int Parts);

/// <summary>A whole workshop as one file: written while it is sent, and read into an empty one.</summary>
internal static class ArchiveEndpoints
{
    private const string RecordName = "workshop.json";

    public static void MapArchive(this RouteGroupBuilder api)
    {
        RouteGroupBuilder archive = api.MapGroup("/archive").WithTags("bundles");
        archive
            .MapGet("/", WriteAsync)
            .WithName("getArchive")
            .Heavy()
            .ForLeads()
            .Produces(StatusCodes.Status200OK, contentType: BundleEndpoints.Zip);
        archive
            .MapPost("/", ReadAsync)
            .WithName("restoreArchive")
            .Heavy()
            .ForLeads()
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<PushStreamHttpResult> WriteAsync(
        HttpContext http,
        Caller caller,
        BundleWriter writer,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return ZipAnswer.Of(
            http,
            caller,
            $"{GivenName.Of(who.Workshop.Name, "workshop")} {who.Today(clock.GetUtcNow()):yyyy-MM-dd}.zip",
            async (zip, seen) =>
            {
                var jobs = await seen
                    .Jobs.Where(job => job.WorkshopId == who.Workshop.Id)
                    .OrderBy(job => job.Number)
                    .Select(job => new { job.Id, job.Number })
                    .ToListAsync(cancellation);
                List<string> folders = [];
                foreach (var job in jobs)
                {
                    folders.Add($"jobs/{job.Number:0000}/");
                    await writer.WriteJobAsync(zip, folders[^1], seen, who.Workshop, job.Id, archive: true, cancellation);
                }

                WorkshopRecord record = await RecordAsync(seen, who.Workshop.Id, cancellation);
                await writer.FinishAsync(
                    zip,
                    "",
                    Manifest.Workshop,
                    who.Workshop,
                    (RecordName, BundleJson.Write(record)),
                    [],
                    [],
                    folders,
                    cancellation
                );
            },
            cancellation
        );
    }

    private static async Task<WorkshopRecord> RecordAsync(RemedosContext context, Guid workshop, CancellationToken cancellation)
    {
        List<PartEvent> changes = await context
            .PartEvents.AsNoTracking()
            .Where(e => e.WorkshopId == workshop)
            .OrderBy(e => e.Id)
            .ToListAsync(cancellation);
        ILookup<Guid, PartEvent> ofPart = changes.ToLookup(change => change.PartId);
        return new WorkshopRecord(
            await context.Workshops.AsNoTracking().SingleAsync(w => w.Id == workshop, cancellation),
            BundleWriter.PeopleOf(await context.People.AsNoTracking().Where(p => p.WorkshopId == workshop).ToListAsync(cancellation)),
            [
                .. (await context.Parts.AsNoTracking().Where(p => p.WorkshopId == workshop).ToListAsync(cancellation))
                    .OrderBy(part => part.Id)
                    .Select(part => new PartRecord(
                        part.Id,
                        part.Kind,
                        part.Name,
                        part.Values,
                        part.ChangedAt,
                        part.RetiredAt,
                        EventRows.Of(ofPart[part.Id])
                    )),
            ],
            [
                .. (await context.RememberedRoles.AsNoTracking().Where(r => r.WorkshopId == workshop).ToListAsync(cancellation)).OrderBy(
                    one => one.Fingerprint,
                    StringComparer.Ordinal
                ),
            ],
            await context.Bays.Where(b => b.WorkshopId == workshop).OrderBy(b => b.Number).Select(b => b.Number).ToListAsync(cancellation),
            EventRows.Of(
                await context
                    .WorkshopEvents.AsNoTracking()
                    .Where(e => e.WorkshopId == workshop)
                    .OrderBy(e => e.Id)
                    .ToListAsync(cancellation)
            )
        );
    }

    private static async Task<Results<Ok<ArchiveAnswer>, ProblemHttpResult>> ReadAsync(
        string? fileName,
        HttpContext http,
        IFileStore files,
        Caller caller,
        WriteDoor door,
        QueueBell bell,
        CancellationToken cancellation
    )
    {
        string name = GivenName.Of(fileName ?? "", "workshop.zip");
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            if (await RestoreArchive.WhyNotEmptyAsync(context, cancellation) is { } full)
            {
                return Refusal.Conflict(full);
            }
        }

        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature)
        {
            feature.MaxRequestBodySize = Math.Max(0, files.Room / 2);
        }

        try
        {
            await using Stream content = files.OpenScratch();
            await http.Request.Body.CopyToAsync(content, cancellation);
            await using BundleZip zip = await BundleZip.OpenAsync(content, files.Room, cancellation);
            Manifest manifest = await zip.ManifestAsync("", Manifest.Workshop, cancellation);
            WorkshopRecord record = BundleJson.Read<WorkshopRecord>(
                await zip.RecordAsync("", manifest, cancellation),
                manifest.Record.Path
            );
            await LookAsync(zip, manifest, files.Room, cancellation);
            ArchiveAnswer? answer = null;
            return await door.WriteAsync(
                async write =>
                {
                    if (await RestoreArchive.WhyNotEmptyAsync(write.Context, cancellation) is { } full)
                    {
                        return Refusal.Conflict(full);
                    }

                    answer = await BundleReader.OfBundleAsync(() => RestoreArchive.PutAsync(write, zip, manifest, record, files));
                    write.Once(bell.Ring);
                    return null;
                },
                () => Task.FromResult(answer!),
                cancellation
            );
        }
        catch (BundleException problem)
        {
            return Refusal.Of($"“{name}” {problem.Message}");
        }
    }

    /// <summary>Looks at every job before the first is put in.</summary>
    private static async Task LookAsync(BundleZip zip, Manifest manifest, long room, CancellationToken cancellation)
    {
        long sum = 0;
        HashSet<Guid> ids = [];
        foreach (string folder in manifest.Jobs)
        {
            GivenJob given = await BundleReader.ReadAsync(zip, folder, cancellation);
            sum += await zip.VerifyAsync(folder, given.Manifest, cancellation);
            if (sum > room)
            {
                throw new BundleException($"unpacks to more than there is room for on the server’s disk ({room / 1e6:0} MB).");
            }

            if (!ids.Add(given.Record.Job.Id))
            {
                throw new BundleException($"holds the job of {folder} twice.");
            }
        }
    }
}
