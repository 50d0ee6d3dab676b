using FluentValidation;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>Takes a log as the request's body, keeps it, and puts it into the importer's queue.</summary>
internal static class AddLog
{
    public static async Task<Results<Accepted<ImportAnswer>, ProblemHttpResult>> HandleAsync(
        Guid id, [FromQuery] string side, [FromQuery] string fileName, HttpContext http, IConfiguration configuration, Bench bench, FileStore files,
        IDbContextFactory<RemedosContext> contexts, ImportBell bell, TimeProvider clock, CancellationToken cancellation)
    {
        long limit = UploadLimit.Of(configuration);
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } feature)
        {
            feature.MaxRequestBodySize = limit;
        }

        if (side is not ("before" or "after"))
        {
            return Problem("A run is either a before or an after run.");
        }

        if (http.Request.ContentLength > limit)
        {
            return TypedResults.Problem($"“{fileName}” has {http.Request.ContentLength / 1e6:0} MB; logs up to {limit / 1e6:0} MB are taken. Record at one sample a second, or cut it.", statusCode: StatusCodes.Status413PayloadTooLarge);
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job? job = await context.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        (string sha256, long bytes) = await files.SaveAsync(http.Request.Body, cancellation);
        if (bytes == 0)
        {
            return Problem($"“{fileName}” is empty. A log starts with a header line and has a row for each sample.");
        }

        string? already = await context.Runs.Where(r => r.JobId == id && r.RemovedAt == null)
            .Join(context.LogFiles.Where(f => f.Sha256 == sha256), r => r.LogFileId, f => f.Id, (r, f) => r.Side).FirstOrDefaultAsync(cancellation);
        if (already is not null)
        {
            return TypedResults.Problem($"“{fileName}” is already on this job, as {(already == "after" ? "an after" : "a before")} run.", statusCode: StatusCodes.Status409Conflict);
        }

        DateTimeOffset now = clock.GetUtcNow();
        LogFile file = new() { Id = Guid.CreateVersion7(now), WorkshopId = workshop.Id, Name = Shortened(fileName), Sha256 = sha256, Bytes = bytes, StoredAt = now };
        Import import = new()
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = workshop.Id,
            JobId = id,
            PersonId = person.Id,
            LogFileId = file.Id,
            Side = side,
            Conditions = await StartingConditionsAsync(context, job, side, now, cancellation),
            State = Import.Queued,
            CreatedAt = now,
        };
        context.LogFiles.Add(file);
        context.Imports.Add(import);
        await context.SaveChangesAsync(cancellation);
        bell.Ring();
        return TypedResults.Accepted($"/api/imports/{import.Id}", new ImportAnswer(import.Id, side, file.Name, import.State, 0, bytes, null, false));
    }

    /// <summary>What the job and its latest run already tell, so that only what changed needs to be set.</summary>
    public static async Task<RunConditions> StartingConditionsAsync(RemedosContext context, Job job, string side, DateTimeOffset now, CancellationToken cancellation)
    {
        RunConditions? last = (await context.Runs.AsNoTracking().Where(r => r.JobId == job.Id && r.RemovedAt == null).OrderByDescending(r => r.ImportedAt).FirstOrDefaultAsync(cancellation))?.Conditions;
        return new RunConditions(
            last?.Workload ?? "all-core", last?.Panel ?? "closed", last?.FanPolicy ?? "auto", last?.FanPercent, last?.PowerCapW, last?.ClockLockMHz,
            job.RoomC, job.TemperatureLimitC, job.RatedPowerW,
            side == "after" && job.Repair.MountedAt is { } mounted && mounted <= now ? Math.Round((now - mounted).TotalHours, 1) : null,
            null, side == "after" ? job.Repair.CoolerKind ?? job.CoolerKind : job.CoolerKind);
    }

    private static ProblemHttpResult Problem(string sentence) => TypedResults.Problem(sentence, statusCode: StatusCodes.Status422UnprocessableEntity);

    private static string Shortened(string fileName)
    {
        string name = fileName.Split('/', '\\')[^1].Replace("\0", "", StringComparison.Ordinal);
        return name.Length == 0 ? "log.csv" : name.Length > 255 ? name[^255..] : name;
    }
}
