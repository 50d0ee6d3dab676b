using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

internal static class RunEndpoints
{
    public static void AddRuns(this IServiceCollection services)
    {
        services.AddSingleton<RunReader>();
        services.AddScoped<RunDoor>();
        services.AddSingleton<IWorkHandler, ImportLog>();
        services.AddSingleton<IWorkHandler, RereadRun>();
        services.AddSingleton<IWorkHandler, Records.RelearnRecords>();
    }

    public static void MapRuns(this RouteGroupBuilder api)
    {
        api.MapPost("/jobs/{id:guid}/logs", AddLog.HandleAsync)
            .WithTags("runs")
            .WithName("addLog")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge);
        RouteGroupBuilder imports = api.MapGroup("/imports").WithTags("runs");
        imports.MapDelete("/{id:guid}", StopImportAsync).WithName("stopImport");
        imports
            .MapGet("/{id:guid}/columns", ImportDesk.ListAsync)
            .WithName("listImportColumns")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        imports
            .MapPut("/{id:guid}/columns/{column:int}/role", ImportDesk.SayAsync)
            .WithName("setImportRole")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        RouteGroupBuilder runs = api.MapGroup("/runs").WithTags("runs");
        runs.MapGet("/{id:guid}/trace", GetTrace.HandleAsync).WithName("getTrace");
        runs.MapGet("/{id:guid}/fit", GetFit.HandleAsync).WithName("getFit").Heavy();
        runs.MapPut("/{id:guid}/marks", SetMarks.HandleAsync)
            .WithName("setMarks")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapPut("/{id:guid}/left-out", LeaveOut.HandleAsync)
            .WithName("leaveRunOut")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapGet("/{id:guid}/original", OriginalAsync).WithName("getOriginal");
        runs.MapGet("/{id:guid}/tidy", TidyAsync).WithName("getTidyLog");
        runs.MapGet("/{id:guid}/conditions", ConditionsAsync).WithName("getConditionsFile");
        runs.MapPut("/{id:guid}/conditions", SetConditions.HandleAsync)
            .WithName("setConditions")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapGet("/{id:guid}/columns", ColumnDesk.ListAsync).WithName("listColumns");
        runs.MapPut("/{id:guid}/columns/{column:int}/role", ColumnDesk.SayAsync)
            .WithName("setRole")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapPut("/{id:guid}/mount", MoveRun.HandleAsync)
            .WithName("moveRun")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        runs.MapDelete("/{id:guid}", RemoveAsync).WithName("removeRun");
    }

    public static ProblemHttpResult NoSuchRun() => Refusal.None("run");

    public static ProblemHttpResult NoSuchImport() => Refusal.None("import");

    public static ProblemHttpResult ChangedElsewhere() =>
        Refusal.Conflict("This run was changed elsewhere just now. It is shown anew; change it again if that still holds.");

    /// <summary>A run of the caller's workshop, to look at.</summary>
    public static Task<Run?> FindAsync(RemedosContext context, Guid id, CancellationToken cancellation)
    {
        Guid workshop = context.Workshop!.Value;
        return context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.WorkshopId == workshop && r.Id == id, cancellation);
    }

    /// <summary>Stops an import that waits or reads; puts a failed one away.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> StopImportAsync(
        Guid id,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        Results<Ok<bool>, ProblemHttpResult> done = await door.WriteAsync(
            async write =>
            {
                int stopped = await write
                    .Context.Imports.Where(i => i.WorkshopId == write.WorkshopId && i.Id == id)
                    .ExecuteUpdateAsync(
                        set =>
                            set.SetProperty(i => i.CancelRequested, true)
                                .SetProperty(
                                    i => i.State,
                                    i => i.State == Import.Reading || i.State == Import.Done ? i.State : Import.Cancelled
                                ),
                        cancellation
                    );
                return stopped == 1 ? null : NoSuchImport();
            },
            () => Task.FromResult(true),
            cancellation
        );
        return done.Result is ProblemHttpResult problem ? problem : TypedResults.NoContent();
    }

    private static async Task<Results<FileStreamHttpResult, ProblemHttpResult>> OriginalAsync(
        Guid id,
        Caller caller,
        IFileStore files,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await WithFileAsync(context, id, cancellation) is var (_, file)
            ? TypedResults.File(await files.OpenAsync(file.Sha256, cancellation), "application/octet-stream", file.Name)
            : NoSuchRun();
    }

    /// <summary>The run as one tidy table, written as it is made; docs/formats.md.</summary>
    private static async Task<Results<PushStreamHttpResult, ProblemHttpResult>> TidyAsync(
        Guid id,
        HttpContext http,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await WithFileAsync(context, id, cancellation) is not var (run, file))
        {
            return NoSuchRun();
        }

        Log log = await reader.ReadAsync(context, run, cancellation);
        // A table of a day at ten a second is not kept in memory twice: it is written as it is made, by a writer that cannot wait.
        http.Features.GetRequiredFeature<IHttpBodyControlFeature>().AllowSynchronousIO = true;
        return TypedResults.Stream(
            async body =>
            {
                await using StreamWriter text = new(body, bufferSize: 1 << 16, leaveOpen: true);
                await Task.Run(() => TidyLog.Write(log, text));
            },
            "text/csv",
            Path.ChangeExtension(file.Name, null) + ".tidy.csv"
        );
    }

    /// <summary>The conditions of a run, as they stand beside a log.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ConditionsAsync(
        Guid id,
        Caller caller,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await WithFileAsync(context, id, cancellation) is not var (run, file))
        {
            return NoSuchRun();
        }

        // Beside its log, the mount has to have a name: it says which runs share one.
        Job job = await context
            .Jobs.AsNoTracking()
            .WithSetups()
            .SingleAsync(j => j.WorkshopId == run.WorkshopId && j.Id == run.JobId, cancellation);
        string? mount = JobSetups.OfMount(job, run.MountId) is var (setup, its) ? $"{JobSetups.Name(setup)}, mount {its.Number}" : null;
        return TypedResults.File(
            System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(run.Conditions with { Mount = mount }, RemedosContext.Json),
            "application/json",
            Path.ChangeExtension(file.Name, null) + ".tidy.conditions.json"
        );
    }

    private static async Task<(Run Run, LogFile File)?> WithFileAsync(RemedosContext context, Guid id, CancellationToken cancellation) =>
        await FindAsync(context, id, cancellation) is { } run
            ? (
                run,
                await context
                    .LogFiles.AsNoTracking()
                    .SingleAsync(f => f.WorkshopId == run.WorkshopId && f.Id == run.LogFileId, cancellation)
            )
            : null;

    /// <summary>Takes a run off the sheet; undo brings it back.</summary>
    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> RemoveAsync(Guid id, RunDoor door, CancellationToken cancellation) =>
        door.ChangeAsync(
            id,
            null,
            at =>
            {
                if (at.Run.RemovedAt is not null)
                {
                    return Task.FromResult<ProblemHttpResult?>(NoSuchRun());
                }

                at.Run.RemovedAt = at.Write.Now;
                at.Event(JobEvents.RunRemoved, at.Run.Id.ToString());
                return Task.FromResult<ProblemHttpResult?>(null);
            },
            cancellation
        );
}
