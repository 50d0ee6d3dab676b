using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Jobs;
using Remedos.Server.Practice;
using Remedos.Server.Rechecks;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Diagnosis;

/// <summary>Diagnoses a job.</summary>
internal static class DiagnoseJob
{
    public static void AddDiagnosis(this IServiceCollection services)
    {
        services.AddMemoryCache();
        services.AddSingleton<JobCases>();
    }

    public static void MapDiagnosis(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/diagnosis", HandleAsync).WithTags("diagnosis").WithName("getDiagnosis");

    private static async Task<Results<Ok<JobDiagnosis>, ProblemHttpResult>> HandleAsync(
        Guid id,
        Caller caller,
        JobCases cases,
        IMemoryCache remembered,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Job? job = await context.WholeAsync(workshop.Id, id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(r => r.WorkshopId == workshop.Id && r.JobId == job.Id && r.RemovedAt == null)
            .OrderBy(r => r.ImportedAt)
            .ToListAsync(cancellation);
        DateOnly today = who.Today(clock.GetUtcNow());
        SeriesRecord? series = await SeriesRecords.WithoutAsync(context, job, cancellation);
        References references = await References.OfAsync(context, remembered, workshop.Id, cancellation);
        JobCase asked = JobCases.Of(job, runs, references, series, today);
        if (await PracticeTries.IsAloneAsync(context, workshop, id, cancellation))
        {
            return TypedResults.Ok(JobDiagnosis.Silent(asked, "You work this case alone: the sheet says what it thinks when it is ended."));
        }

        bool proof = await context.JobPhotos.AnyAsync(
            photo => photo.WorkshopId == workshop.Id && photo.JobId == id && photo.Kind == JobPhoto.Proof && photo.RemovedAt == null,
            cancellation
        );
        DiagnosisAnswer answer = cases.Answer(asked.Case);
        if (job.Parts.Cooler is { } cooler && await SeriesLives.WithoutAsync(context, job, cooler, cancellation) is { IsEnough: true } wear)
        {
            answer = answer with { Notes = [.. answer.Notes, $"How long {wear.Name} lasts here: {wear.Sentence}"] };
        }

        return TypedResults.Ok(JobDiagnosis.Of(asked, answer, JobSheets.WarrantyOf(job, proof), today));
    }
}
