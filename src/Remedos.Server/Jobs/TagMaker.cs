using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Jobs;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>What tags are made with that is not their job's own.</summary>
internal sealed record TagStand(long Revision, DateOnly Day)
{
    public static async Task<TagStand> OfAsync(
        RemedosContext context,
        Workshop workshop,
        DateTimeOffset now,
        CancellationToken cancellation
    ) =>
        new(
            await context
                .RecordStands.Where(stand => stand.WorkshopId == workshop.Id)
                .Select(stand => stand.Revision)
                .SingleOrDefaultAsync(cancellation),
            DateOnly.FromDateTime(WorkshopClock.At(workshop, now).Date)
        );
}

/// <summary>Reckons tags and keeps them.</summary>
internal sealed class TagMaker(JobSheets sheets, IMemoryCache remembered, TimeProvider clock)
{
    /// <summary>The tags of some jobs as they are now.</summary>
    public async Task<IReadOnlyList<KeptTag>> MakeAsync(
        RemedosContext context,
        Workshop workshop,
        TagStand stand,
        Guid[] ids,
        CancellationToken cancellation
    )
    {
        if (ids.Length == 0)
        {
            return [];
        }

        List<Job> jobs = await context
            .Jobs.AsNoTracking()
            .Where(job => job.WorkshopId == workshop.Id && ids.Contains(job.Id))
            .WithSetups()
            .ToListAsync(cancellation);
        ILookup<Guid, Run> runs = (
            await context
                .Runs.AsNoTracking()
                .Where(run => run.WorkshopId == workshop.Id && ids.Contains(run.JobId) && run.RemovedAt == null)
                .OrderBy(run => run.ImportedAt)
                .ToListAsync(cancellation)
        ).ToLookup(run => run.JobId);
        Guid[] proven = await context
            .JobPhotos.Where(photo =>
                photo.WorkshopId == workshop.Id && ids.Contains(photo.JobId) && photo.Kind == JobPhoto.Proof && photo.RemovedAt == null
            )
            .Select(photo => photo.JobId)
            .Distinct()
            .ToArrayAsync(cancellation);
        References references = await References.OfAsync(context, remembered, workshop.Id, cancellation);
        List<KeptTag> tags = [];
        foreach (Job job in jobs)
        {
            JobFacts facts = sheets.Facts(
                job,
                JobSetups.Seen(runs[job.Id]),
                references,
                await SeriesRecords.WithoutAsync(context, job, cancellation),
                JobSheets.WarrantyOf(job, proven.Contains(job.Id)),
                workshop,
                clock.GetUtcNow(),
                await ScatterOfJob.OfWorkshopAsync(context, workshop.Id, job.Id, cancellation),
                null,
                // A list does not tell what a sheet may keep to itself.
                alone: workshop.PracticeOf is not null
            );
            JobProgress progress = JobProgress.Of(facts);
            Run? latest = runs[job.Id].LastOrDefault();
            KeptTag tag = new()
            {
                WorkshopId = workshop.Id,
                JobId = job.Id,
                JobVersion = job.Version,
                Revision = stand.Revision,
                Day = stand.Day,
                WaitsFor = Kebab.Of(progress.WaitsFor),
                Headline = JsonSerializer.Serialize(progress.Headline, RemedosContext.Json),
                Now = progress.Now.Title,
                Staircase =
                    latest is not null && JobSheets.StaircaseOf(job, latest, references, facts) is { } stairs
                        ? JsonSerializer.Serialize(stairs, RemedosContext.Json)
                        : null,
                TemperatureLimitC = latest?.Conditions.TemperatureLimitC,
                Work = JsonSerializer.Serialize(WorkLeft.Of(facts, progress), RemedosContext.Json),
            };
            await KeepAsync(context, tag, cancellation);
            tags.Add(tag);
        }

        return tags;
    }

    /// <summary>Two may have reckoned the same; a job that was written meanwhile is reckoned again by whoever reads it next.</summary>
    private static Task<int> KeepAsync(RemedosContext context, KeptTag tag, CancellationToken cancellation) =>
        context.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO kept_tags
                (workshop_id, job_id, job_version, revision, day, waits_for, headline, now, staircase, temperature_limit_c, work)
            VALUES
                ({tag.WorkshopId}, {tag.JobId}, {(long)tag.JobVersion}, {tag.Revision}, {tag.Day}, {tag.WaitsFor}, {tag.Headline}::jsonb,
                 {tag.Now}, {tag.Staircase}::jsonb, {tag.TemperatureLimitC}, {tag.Work}::jsonb)
            ON CONFLICT (workshop_id, job_id) DO UPDATE SET
                job_version = EXCLUDED.job_version, revision = EXCLUDED.revision, day = EXCLUDED.day, waits_for = EXCLUDED.waits_for,
                headline = EXCLUDED.headline, now = EXCLUDED.now, staircase = EXCLUDED.staircase,
                temperature_limit_c = EXCLUDED.temperature_limit_c, work = EXCLUDED.work
            """,
            cancellation
        );
}
