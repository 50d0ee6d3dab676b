using System.Text.Json;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bundles;

/// <summary>A job as a bundle: written, and read in.</summary>
internal static class BundleEndpoints
{
    public const string Zip = "application/zip";

    /// <summary>So many times the largest log is what a job may unpack to.</summary>
    private const int LogsOfAJob = 4;

    public static void AddBundles(this IServiceCollection services) => services.AddSingleton<BundleWriter>().AddSingleton<WriteArchive>();

    public static void MapBundles(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{id:guid}/bundle", WriteAsync)
            .WithName("getBundle")
            .Heavy()
            .WithTags("bundles")
            .Produces(StatusCodes.Status200OK, contentType: Zip)
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapPost("/jobs/bundle", ReadAsync)
            .WithName("addBundle")
            .Heavy()
            .WithTags("bundles")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/schemas/{name}", Results<ContentHttpResult, ProblemHttpResult> (string name) =>
                BundleJson.Schemas.TryGetValue(name, out string? schema)
                    ? TypedResults.Content(schema, "application/schema+json; charset=utf-8")
                    : Refusal.None("schema")
            )
            .WithName("getSchema")
            .WithTags("bundles")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapArchive();
    }

    private static async Task<Results<PushStreamHttpResult, ProblemHttpResult>> WriteAsync(
        Guid id,
        HttpContext http,
        Caller caller,
        BundleWriter writer,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return
            await context
                .Jobs.Where(job => job.WorkshopId == workshop.Id && job.Id == id)
                .Select(job => (int?)job.Number)
                .SingleOrDefaultAsync(cancellation)
                is not { } number
            ? JobEndpoints.NoSuchJob()
            : ZipAnswer.Of(
                http,
                caller,
                $"{JobSheets.Tag(workshop, number)}.zip",
                (zip, seen) => writer.WriteJobAsync(zip, "", seen, workshop, id, archive: false, cancellation),
                cancellation
            );
    }

    /// <summary>Reads a job in under the next number.</summary>
    /// <param name="again">Whether a job that is here already is read in once more, as another one.</param>
    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> ReadAsync(
        string? fileName,
        bool? again,
        HttpContext http,
        IConfiguration configuration,
        IFileStore files,
        WriteDoor door,
        JobSheets sheets,
        QueueBell bell,
        CancellationToken cancellation
    )
    {
        string name = GivenName.Of(fileName ?? "", "job.zip");
        long largest = UploadLimit.Of(configuration);
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature)
        {
            feature.MaxRequestBodySize = largest;
        }

        try
        {
            await using Stream content = files.OpenScratch();
            await http.Request.Body.CopyToAsync(content, cancellation);
            await using BundleZip zip = await BundleZip.OpenAsync(content, Math.Min(LogsOfAJob * largest, files.Room), cancellation);
            GivenJob given = await BundleReader.ReadAsync(zip, "", cancellation);
            await zip.VerifyAsync("", given.Manifest, cancellation);
            // A link leads to the server that made it.
            given = given with { Record = given.Record with { Links = [] } };
            // Before the first row is locked: a file that nothing leads to harms nobody.
            await zip.KeepAsync("", given.Manifest, files, cancellation);
            Guid id = Guid.Empty;
            return await door.WriteAsync(
                async write =>
                {
                    Workshop workshop = await write.WorkshopAsync();
                    int? here = await write
                        .Context.Jobs.Where(job => job.WorkshopId == write.WorkshopId && job.Id == given.Record.Job.Id)
                        .Select(job => (int?)job.Number)
                        .SingleOrDefaultAsync(cancellation);
                    if (here is { } number && again != true)
                    {
                        return TypedResults.Problem(
                            $"“{name}” is here already, as {JobSheets.Tag(workshop, number)}.",
                            statusCode: StatusCodes.Status409Conflict,
                            extensions: [new("job", given.Record.Job.Id)]
                        );
                    }

                    string from = given.Manifest.From;
                    Job job = await BundleReader.OfBundleAsync(async () =>
                        await BundleReader.AddAsync(
                            write,
                            given,
                            workshop.NextJobNumber++,
                            from,
                            await BundleReader.AddPeopleAsync(write, given.Record.People, from),
                            anew: here is not null
                        )
                    );
                    write.Event(
                        job,
                        JobEvents.ReadIn,
                        after: JsonSerializer.Serialize($"{given.Record.Tag} of {from}", RemedosContext.Json)
                    );
                    id = job.Id;
                    write.Once(bell.Ring);
                    return null;
                },
                async () => (await sheets.FindAsync(id, cancellation))!,
                cancellation
            );
        }
        catch (BundleException problem)
        {
            return Refusal.Of($"“{name}” {problem.Message}");
        }
    }
}
