using Microsoft.AspNetCore.Http.HttpResults;

namespace Remedos.Server.Jobs;

internal static class JobEndpoints
{
    public static void AddJobs(this IServiceCollection services)
    {
        services.AddScoped<JobSheets>();
        services.AddSingleton<JobValidator>();
    }

    public static void MapJobs(this RouteGroupBuilder api)
    {
        RouteGroupBuilder jobs = api.MapGroup("/jobs").WithTags("jobs");
        jobs.MapGet("/", async (JobSheets sheets, string? search, CancellationToken cancellation) => TypedResults.Ok(await sheets.ListAsync(search, cancellation))).WithName("listJobs");
        jobs.MapGet("/{id:guid}", FindAsync).WithName("getJob");
        jobs.MapPost("/", CreateJob.HandleAsync).WithName("createJob");
        jobs.MapPatch("/{id:guid}/fields/{field}", SaveField.HandleAsync).WithName("saveField").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        jobs.MapPost("/{id:guid}/undo/{eventId:long}", UndoChange.HandleAsync).WithName("undoChange");
    }

    public static ProblemHttpResult NoSuchJob() => TypedResults.Problem("There is no such job.", statusCode: StatusCodes.Status404NotFound);

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> FindAsync(Guid id, JobSheets sheets, CancellationToken cancellation) =>
        await sheets.FindAsync(id, cancellation) is { } sheet ? TypedResults.Ok(sheet) : NoSuchJob();
}
