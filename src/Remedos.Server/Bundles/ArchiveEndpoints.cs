using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;
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
        WriteArchive writer,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return ZipAnswer.Of(
            http,
            caller,
            $"{GivenName.Of(who.Workshop.Name, "workshop")} {who.Today(clock.GetUtcNow()):yyyy-MM-dd}.zip",
            (zip, seen) => writer.WriteAsync(zip, seen, who.Workshop, cancellation),
            cancellation
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
        long sum = await zip.VerifyAsync("", manifest, cancellation);
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
