using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Jobs;
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
        Guid id,
        [FromQuery] Guid? mount,
        [FromQuery] string fileName,
        [FromQuery] string? conditions,
        HttpContext http,
        IConfiguration configuration,
        Caller caller,
        IFileStore files,
        WriteDoor door,
        QueueBell bell,
        CancellationToken cancellation
    )
    {
        long limit = UploadLimit.Of(configuration);
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature)
        {
            feature.MaxRequestBodySize = limit;
        }

        string name = GivenName.Of(fileName, "log.csv");
        if (ConditionsText.Read(conditions, out string? wrong) is var told && wrong is not null)
        {
            return Refusal.Of($"The conditions of “{name}”: {wrong}");
        }

        if (http.Request.ContentLength > limit)
        {
            return TypedResults.Problem(
                $"“{name}” has {http.Request.ContentLength / 1e6:0} MB; logs up to {limit / 1e6:0} MB are taken. "
                    + "Record at one sample a second, or cut it.",
                statusCode: StatusCodes.Status413PayloadTooLarge
            );
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

                if (
                    (mount is null ? (JobSetups.Current(job), JobSetups.CurrentMount(job)) : JobSetups.OfMount(job, mount.Value))
                    is not var (setup, its)
                )
                {
                    return Refusal.Unknown("This job has no such setup any more. Choose what was measured.");
                }

                if (await SetupOfLogAsync(write.Context, job, sha256, but: null, cancellation) is { } already)
                {
                    return Refusal.Conflict($"“{name}” is already on this job, on {already}.");
                }

                if (
                    await write.Context.Imports.AnyAsync(
                        i =>
                            i.WorkshopId == job.WorkshopId
                            && i.JobId == id
                            && i.Sha256 == sha256
                            && (i.State == Import.Queued || i.State == Import.Reading),
                        cancellation
                    )
                )
                {
                    return Refusal.Conflict($"“{name}” is on its way to this job already.");
                }

                Import import = await AddAsync(
                    write,
                    job,
                    name,
                    sha256,
                    bytes,
                    its.Id,
                    StartingConditions(job, setup, its, told, write.Now),
                    []
                );
                answer = new ImportAnswer(import.Id, its.Id, name, import.State, 0, bytes, null, false);
                write.Once(bell.Ring);
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation
        );
        return added.Result is ProblemHttpResult problem ? problem : TypedResults.Accepted($"/api/imports/{answer!.Id}", answer);
    }

    /// <summary>Puts a file that is in the store on its way to a run.</summary>
    public static async Task<Import> AddAsync(
        Write write,
        Job job,
        string name,
        string sha256,
        long bytes,
        Guid mountId,
        RunConditions conditions,
        IReadOnlyList<RunMark> marks,
        int? bay = null
    )
    {
        LogFile file = new()
        {
            Id = Guid.CreateVersion7(write.Now),
            WorkshopId = job.WorkshopId,
            Name = name,
            Sha256 = sha256,
            Bytes = bytes,
            Bay = bay,
            StoredAt = write.Now,
        };
        Import import = new()
        {
            Id = Guid.CreateVersion7(write.Now),
            WorkshopId = job.WorkshopId,
            JobId = job.Id,
            PersonId = write.PersonId,
            LogFileId = file.Id,
            Sha256 = sha256,
            MountId = mountId,
            Conditions = conditions,
            Marks = marks,
            State = Import.Queued,
            CreatedAt = write.Now,
        };
        write.Context.LogFiles.Add(file);
        write.Context.Imports.Add(import);
        await WorkQueue.AddAsync(
            write.Context,
            job.WorkshopId,
            WorkItem.ImportLog,
            import.Id,
            write.Now,
            null,
            bytes,
            null,
            write.Cancellation
        );
        return import;
    }

    /// <summary>The setup that a log is on already, by its name; null when it is not on this job.</summary>
    /// <param name="but">A file's row that does not count.</param>
    public static async Task<string?> SetupOfLogAsync(
        RemedosContext context,
        Job job,
        string sha256,
        Guid? but,
        CancellationToken cancellation
    )
    {
        Guid? mount = await context
            .Runs.Where(r => r.WorkshopId == job.WorkshopId && r.JobId == job.Id && r.RemovedAt == null && r.LogFileId != but)
            .Join(
                context.LogFiles.Where(f => f.WorkshopId == job.WorkshopId && f.Sha256 == sha256),
                r => r.LogFileId,
                f => f.Id,
                (r, f) => (Guid?)r.MountId
            )
            .FirstOrDefaultAsync(cancellation);
        return mount is null ? null
            : JobSetups.OfMount(job, mount.Value) is var (setup, _) ? JobSetups.Name(setup)
            : "another setup";
    }

    /// <summary>
    /// What the machine and the mount tell of a run: limit, rated power, kind of cooler, age of the paste. How it was made is told with the
    /// log, or unknown: nothing is taken
    /// over from another run.
    /// </summary>
    /// <param name="told">What came with the log; null for nothing.</param>
    public static RunConditions StartingConditions(Job job, Setup setup, Mount mount, RunConditions? told, DateTimeOffset now)
    {
        double? hours = mount.MountedAt is { } mounted && mounted <= now ? Math.Round((now - mounted).TotalHours, 1) : null;
        SetupDifference whole = JobSetups.Effective(job, setup);
        RunConditions conditions = told ?? new RunConditions();
        return conditions with
        {
            TemperatureLimitC = conditions.TemperatureLimitC ?? job.TemperatureLimitC,
            RatedPowerW = conditions.RatedPowerW ?? job.RatedPowerW,
            HoursSinceMount = conditions.HoursSinceMount ?? (hours <= RunConditions.MostHoursSinceMount ? hours : null),
            CoolerKind = conditions.CoolerKind ?? whole.CoolerKind,
            Paste = conditions.Paste ?? whole.Paste,
            PasteMethod = conditions.PasteMethod ?? whole.PasteMethod,
            // The job tells the mount by itself.
            Mount = null,
        };
    }
}
