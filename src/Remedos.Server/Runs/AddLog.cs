using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>Takes a log as the request's body, keeps it, and puts it into the queue.</summary>
internal static class AddLog
{
    public static async Task<Results<Accepted<ImportAnswer>, ProblemHttpResult>> HandleAsync(
        Guid id, [FromQuery] string side, [FromQuery] string fileName, HttpContext http, IConfiguration configuration, Caller caller, IFileStore files, WriteDoor door, QueueBell bell, CancellationToken cancellation)
    {
        long limit = UploadLimit.Of(configuration);
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature)
        {
            feature.MaxRequestBodySize = limit;
        }

        string name = GivenName.Of(fileName, "log.csv");
        if (side is not ("before" or "after"))
        {
            return Refusal.Of("A run is either a before or an after run.");
        }

        if (http.Request.ContentLength > limit)
        {
            return TypedResults.Problem(
                $"“{name}” has {http.Request.ContentLength / 1e6:0} MB; logs up to {limit / 1e6:0} MB are taken. Record at one sample a second, or cut it.",
                statusCode: StatusCodes.Status413PayloadTooLarge);
        }

        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            Guid workshop = context.Workshop!.Value;
            if (!await context.Jobs.AnyAsync(j => j.WorkshopId == workshop && j.Id == id, cancellation))
            {
                return JobEndpoints.NoSuchJob();
            }
        }

        (string sha256, long bytes) = await files.SaveAsync(http.Request.Body, http.Request.ContentLength, cancellation);
        if (bytes == 0)
        {
            return Refusal.Of($"“{name}” is empty. A log starts with a header line and has a row for each sample.");
        }

        ImportAnswer? answer = null;
        Results<Ok<ImportAnswer>, ProblemHttpResult> added = await door.WriteAsync(
            async write =>
            {
                // The job's row is locked: who drops the same log in the same moment waits here, and is told.
                if (await write.JobAsync(id) is not { } job)
                {
                    return JobEndpoints.NoSuchJob();
                }

                if (await SideOnJobAsync(write.Context, job, sha256, but: null, cancellation) is { } already)
                {
                    return Refusal.Conflict($"“{name}” is already on this job, as {(already == "after" ? "an after" : "a before")} run.");
                }

                if (await write.Context.Imports.AnyAsync(i => i.WorkshopId == job.WorkshopId && i.JobId == id && i.Sha256 == sha256 && (i.State == Import.Queued || i.State == Import.Reading), cancellation))
                {
                    return Refusal.Conflict($"“{name}” is on its way to this job already.");
                }

                Import import = await AddAsync(write, job, name, sha256, bytes, side, await StartingConditionsAsync(write.Context, job, side, write.Now, cancellation), []);
                answer = new ImportAnswer(import.Id, side, name, import.State, 0, bytes, null, false);
                write.Once(bell.Ring);
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation);
        return added.Result is ProblemHttpResult problem ? problem : TypedResults.Accepted($"/api/imports/{answer!.Id}", answer);
    }

    /// <summary>Puts a file that is in the store on its way to a run.</summary>
    public static async Task<Import> AddAsync(Write write, Job job, string name, string sha256, long bytes, string side, RunConditions conditions, IReadOnlyList<RunMark> marks)
    {
        LogFile file = new() { Id = Guid.CreateVersion7(write.Now), WorkshopId = job.WorkshopId, Name = name, Sha256 = sha256, Bytes = bytes, StoredAt = write.Now };
        Import import = new()
        {
            Id = Guid.CreateVersion7(write.Now),
            WorkshopId = job.WorkshopId,
            JobId = job.Id,
            PersonId = write.PersonId,
            LogFileId = file.Id,
            Sha256 = sha256,
            Side = side,
            Conditions = conditions,
            Marks = marks,
            State = Import.Queued,
            CreatedAt = write.Now,
        };
        write.Context.LogFiles.Add(file);
        write.Context.Imports.Add(import);
        await WorkQueue.AddAsync(write.Context, job.WorkshopId, WorkItem.ImportLog, import.Id, write.Now, null, bytes, null, write.Cancellation);
        return import;
    }

    /// <summary>As which side a log is on a job already; null when it is not.</summary>
    /// <param name="but">A file's row that does not count.</param>
    public static Task<string?> SideOnJobAsync(RemedosContext context, Job job, string sha256, Guid? but, CancellationToken cancellation) =>
        context.Runs.Where(r => r.WorkshopId == job.WorkshopId && r.JobId == job.Id && r.RemovedAt == null && r.LogFileId != but)
            .Join(context.LogFiles.Where(f => f.WorkshopId == job.WorkshopId && f.Sha256 == sha256), r => r.LogFileId, f => f.Id, (r, f) => r.Side).FirstOrDefaultAsync(cancellation);

    /// <summary>What the job and its latest run already tell, so that only what changed needs to be set.</summary>
    public static async Task<RunConditions> StartingConditionsAsync(RemedosContext context, Job job, string side, DateTimeOffset now, CancellationToken cancellation)
    {
        RunConditions? last = (await context.Runs.AsNoTracking().Where(r => r.WorkshopId == job.WorkshopId && r.JobId == job.Id && r.RemovedAt == null)
            .OrderByDescending(r => r.ImportedAt).FirstOrDefaultAsync(cancellation))?.Conditions;
        double? hours = side == "after" && job.Repair.MountedAt is { } mounted && mounted <= now ? Math.Round((now - mounted).TotalHours, 1) : null;
        return new RunConditions(
            last?.Workload ?? "all-core", last?.Panel ?? "closed", last?.FanPolicy ?? "auto", last?.FanPercent, last?.PowerCapW, last?.ClockLockMHz,
            job.RoomC, job.TemperatureLimitC, job.RatedPowerW, hours <= RunConditions.MostHoursSinceMount ? hours : null,
            null, side == "after" ? job.Repair.CoolerKind ?? job.CoolerKind : job.CoolerKind);
    }
}
