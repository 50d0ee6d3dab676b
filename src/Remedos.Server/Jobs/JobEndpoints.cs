using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

internal static class JobEndpoints
{
    public static void AddJobs(this IServiceCollection services)
    {
        services.AddScoped<PairView>();
        services.AddScoped<JobSheets>();
        services.AddScoped<TagMaker>();
        services.AddScoped<JobTags>();
        services.AddSingleton<RenewTags>();
        if (!Pages.IsGeneratingDocuments)
        {
            services.AddHostedService(provider => provider.GetRequiredService<RenewTags>());
        }

        services.AddScoped<SheetState>();
        services.AddScoped<JobDoor>();
    }

    public static void MapJobs(this RouteGroupBuilder api)
    {
        RouteGroupBuilder jobs = api.MapGroup("/jobs").WithTags("jobs");
        jobs.MapGet("/", ListAsync).WithName("listJobs").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        jobs.MapGet("/{id:guid}", FindAsync).WithName("getJob");
        jobs.MapPost("/", CreateJob.HandleAsync).WithName("createJob");
        jobs.MapPatch("/{id:guid}/fields/{field}", SaveField.HandleAsync)
            .WithName("saveField")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        jobs.MapPost("/{id:guid}/take-over/{earlier:guid}", EarlierJobs.TakeOverAsync).WithName("takeOverMachine");
        jobs.MapGet("/{id:guid}/code.svg", CodeAsync).WithName("getJobCode").ExcludeFromDescription();
        MapTable("runs", "getRunsCsv", RunsCsv.HandleAsync);
        MapTable("setups", "getSetupsCsv", SetupsCsv.HandleAsync);
        MapTable("series", "getSeriesCsv", SeriesCsv.HandleAsync);
        jobs.MapSetups();
        jobs.MapGet("/{id:guid}/history", JobHistory.HandleAsync).WithName("getHistory");
        jobs.MapPost("/{id:guid}/undo/{eventId:long}", UndoChange.HandleAsync).WithName("undoChange");

        void MapTable(string name, string operation, Delegate handler) =>
            jobs.MapGet($"/{{id:guid}}/{name}.csv", handler)
                .WithName(operation)
                .Produces(StatusCodes.Status200OK, contentType: CsvTable.MediaType)
                .ProducesProblem(StatusCodes.Status404NotFound);
    }

    public static ProblemHttpResult NoSuchJob() => Refusal.None("job");

    private static async Task<Results<Ok<IReadOnlyList<JobTag>>, StatusCodeHttpResult, ProblemHttpResult>> ListAsync(
        HttpContext http,
        Caller caller,
        JobTags tags,
        string? search,
        Guid? after,
        CancellationToken cancellation
    )
    {
        if (JobSearch.Of(search, out string? problem) is not { } words)
        {
            return Refusal.Of(problem!);
        }

        JobTagPage page = await tags.ListAsync(words, after, cancellation);
        if (page.Next is { } next)
        {
            Dictionary<string, string?> rest = new() { ["search"] = search, ["after"] = next.ToString() };
            http.Response.Headers.Link = $"<{http.Request.Path}{QueryString.Create(rest)}>; rel=\"next\"";
        }

        if (EntityTag.IsKnown(http, page.State))
        {
            return EntityTag.NotModified;
        }

        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return TypedResults.Ok(await page.TagsAsync(context));
    }

    /// <summary>The job's address as a picture that a telephone or a scanner reads, for the tag on the machine.</summary>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> CodeAsync(
        Guid id,
        HttpRequest request,
        JobSheets sheets,
        PublicAddress address,
        CancellationToken cancellation
    ) => await sheets.FindAsync(id, cancellation) is null ? NoSuchJob() : QrPicture.Of($"{address.For(request)}/jobs/{id}");

    private static async Task<Results<Ok<JobSheet>, StatusCodeHttpResult, ProblemHttpResult>> FindAsync(
        Guid id,
        HttpContext http,
        SheetState states,
        JobSheets sheets,
        CancellationToken cancellation
    )
    {
        // Read before the sheet: what is changed meanwhile makes the tag an old one, never the sheet.
        if (await states.OfAsync(id, cancellation) is not { } state)
        {
            return NoSuchJob();
        }

        if (EntityTag.IsKnown(http, state))
        {
            return EntityTag.NotModified;
        }

        return await sheets.FindAsync(id, cancellation) is { } sheet ? TypedResults.Ok(sheet) : NoSuchJob();
    }
}
