using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

internal static class RunEndpoints
{
    public static void AddRuns(this IServiceCollection services, IConfiguration configuration)
    {
        services.AddSingleton(new FileStore(configuration.GetValue<string>("FileStore") ?? Path.Combine(Path.GetTempPath(), "remedos-files")));
        services.AddSingleton<RunReader>();
        services.AddScoped<RunChanges>();
        services.AddSingleton<ImportBell>();
        services.AddSingleton<ConditionsValidator>();
        if (!Hosting.Pages.IsGeneratingDocuments)
        {
            services.AddHostedService<Importer>();
            services.AddHostedService<Rereader>();
        }
    }

    public static void MapRuns(this RouteGroupBuilder api)
    {
        api.MapPost("/jobs/{id:guid}/logs", AddLog.HandleAsync).WithTags("runs").WithName("addLog").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status413PayloadTooLarge);
        RouteGroupBuilder imports = api.MapGroup("/imports").WithTags("runs");
        imports.MapDelete("/{id:guid}", StopImportAsync).WithName("stopImport");
        imports.MapGet("/{id:guid}/columns", ImportDesk.ListAsync).WithName("listImportColumns").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        imports.MapPut("/{id:guid}/columns/{column:int}/role", ImportDesk.SayAsync).WithName("setImportRole").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        RouteGroupBuilder runs = api.MapGroup("/runs").WithTags("runs");
        runs.MapGet("/{id:guid}/trace", GetTrace.HandleAsync).WithName("getTrace");
        runs.MapGet("/{id:guid}/fit", GetFit.HandleAsync).WithName("getFit");
        runs.MapPut("/{id:guid}/marks", SetMarks.HandleAsync).WithName("setMarks").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapGet("/{id:guid}/original", OriginalAsync).WithName("getOriginal");
        runs.MapGet("/{id:guid}/tidy", TidyAsync).WithName("getTidyLog");
        runs.MapGet("/{id:guid}/conditions", ConditionsAsync).WithName("getConditionsFile");
        runs.MapPut("/{id:guid}/conditions", SetConditions.HandleAsync).WithName("setConditions").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapGet("/{id:guid}/columns", ColumnDesk.ListAsync).WithName("listColumns");
        runs.MapPut("/{id:guid}/columns/{column:int}/role", ColumnDesk.SayAsync).WithName("setRole").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapDelete("/{id:guid}", RemoveAsync).WithName("removeRun");
    }

    public static ProblemHttpResult NoSuchRun() => TypedResults.Problem("There is no such run.", statusCode: StatusCodes.Status404NotFound);

    public static ProblemHttpResult NoSuchImport() => TypedResults.Problem("There is no such import.", statusCode: StatusCodes.Status404NotFound);

    /// <summary>Stops an import that waits or reads; puts a failed one away.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> StopImportAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        int stopped = await context.Imports.Where(i => i.Id == id && i.WorkshopId == workshop.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.CancelRequested, true).SetProperty(i => i.State, i => i.State == Import.Reading || i.State == Import.Done ? i.State : Import.Cancelled), cancellation);
        return stopped == 1 ? TypedResults.NoContent() : NoSuchImport();
    }

    private static async Task<Results<FileStreamHttpResult, ProblemHttpResult>> OriginalAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, FileStore files, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        LogFile? file = await context.Runs.Where(r => r.Id == id && r.WorkshopId == workshop.Id)
            .Join(context.LogFiles, r => r.LogFileId, f => f.Id, (r, f) => f).AsNoTracking().SingleOrDefaultAsync(cancellation);
        return file is null ? NoSuchRun() : TypedResults.File(files.Open(file.Sha256), "application/octet-stream", file.Name);
    }

    /// <summary>The run as one tidy table; docs/formats.md.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> TidyAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, CancellationToken cancellation)
    {
        if (await FindAsync(id, bench, contexts, cancellation) is not var (run, file))
        {
            return NoSuchRun();
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Log log = await reader.ReadAsync(context, run, cancellation);
        using MemoryStream bytes = new();
        await using (StreamWriter text = new(bytes, leaveOpen: true))
        {
            TidyLog.Write(log, text);
        }

        return TypedResults.File(bytes.ToArray(), "text/csv", Path.ChangeExtension(file.Name, null) + ".tidy.csv");
    }

    /// <summary>The conditions of a run, as they stand beside a log.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ConditionsAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation) =>
        await FindAsync(id, bench, contexts, cancellation) is not var (run, file)
            ? NoSuchRun()
            : TypedResults.File(System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(run.Conditions, RemedosContext.Json), "application/json", Path.ChangeExtension(file.Name, null) + ".tidy.conditions.json");

    private static async Task<(Run Run, LogFile File)?> FindAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        return run is null ? null : (run, await context.LogFiles.AsNoTracking().SingleAsync(f => f.Id == run.LogFileId, cancellation));
    }

    /// <summary>Takes a run off the sheet; undo brings it back.</summary>
    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> RemoveAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id && r.RemovedAt == null, cancellation);
        if (run is null)
        {
            return NoSuchRun();
        }

        Job job = await context.Jobs.SingleAsync(j => j.Id == run.JobId, cancellation);
        run.RemovedAt = clock.GetUtcNow();
        context.Append(job, person.Id, run.RemovedAt.Value, JobEvents.RunRemoved, run.Id.ToString());
        await context.SaveTouchingJobAsync(job, cancellation);
        return TypedResults.Ok((await sheets.FindAsync(run.JobId, cancellation))!);
    }
}
