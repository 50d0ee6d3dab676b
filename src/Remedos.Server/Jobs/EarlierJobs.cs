using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Jobs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>A machine that was here before brings its history, and what is known of it need not be typed again.</summary>
internal static class EarlierJobs
{
    private const int Most = 10;

    /// <summary>What a machine keeps from one visit to the next.</summary>
    private static readonly JobField[] Kept = [.. JobFields.All.Where(field => field.Row.Kept)];

    /// <summary>Earlier jobs with the same serial number, then those of the same owner; the latest first.</summary>
    public static async Task<IReadOnlyList<EarlierJob>> OfAsync(
        RemedosContext context,
        Workshop workshop,
        Job job,
        JobFacts facts,
        Repeatability bench,
        CancellationToken cancellation
    )
    {
        string? serial = Plain(job.Serial),
            owner = Plain(job.Owner);
        if (serial is null && owner is null)
        {
            return [];
        }

        // A machine without a serial number still bears the tag that it left with.
        int? tagged = JobSheets.NumberOf(workshop, job.Serial);
        // Each by its own index; together they would be looked for through all jobs.
        IQueryable<Job> before = context.Jobs.AsNoTracking().Where(j => j.WorkshopId == workshop.Id && j.Number < job.Number);
        List<Job> found =
        [
            .. (await LatestAsync(before.Where(j => j.Number == tagged && tagged != null)))
                .Concat(serial is null ? [] : await LatestAsync(before.Where(j => j.SerialKey == serial)))
                .Concat(owner is null ? [] : await LatestAsync(before.Where(j => j.OwnerKey == owner)))
                .DistinctBy(j => j.Id)
                .OrderByDescending(j => j.Number)
                .Take(Most),
        ];
        Task<List<Job>> LatestAsync(IQueryable<Job> jobs) => jobs.OrderByDescending(j => j.Number).Take(Most).ToListAsync(cancellation);
        bool IsSame(Job j) => j.Number == tagged || (serial is not null && Plain(j.Serial) == serial);
        Job? last = found.Find(j => IsSame(j) && j.HandedOverAt is not null);
        string? since = last is null ? null : await SinceAsync(context, workshop, last.Id, facts, bench, cancellation);
        return
        [
            .. found
                .Select(j => new EarlierJob(
                    j.Id,
                    JobSheets.Tag(workshop, j.Number),
                    j.CreatedAt,
                    j.Machine,
                    IsSame(j),
                    j.Repair.Found,
                    j.Repair.Done,
                    [.. j.Repair.Causes.Select(cause => DiagnosisTables.CauseOf(cause).Title)],
                    j.HandedOverAt,
                    j == last ? since : null
                ))
                .OrderByDescending(earlier => earlier.SameMachine),
        ];
    }

    /// <summary>How the machine does now against how it left; null without runs of both.</summary>
    private static async Task<string?> SinceAsync(
        RemedosContext context,
        Workshop workshop,
        Guid earlier,
        JobFacts now,
        Repeatability bench,
        CancellationToken cancellation
    )
    {
        if (now.Before.Count == 0 || await context.WholeAsync(workshop.Id, earlier, cancellation) is not { } job)
        {
            return null;
        }

        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == workshop.Id && run.JobId == earlier && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(cancellation);
        // How it left: after the repair, or as it came where nothing was changed.
        SetupPair pair = SetupPair.Of(JobSetups.Facts(job, JobSetups.Seen(runs)));
        IReadOnlyList<ConditionedRun> left = pair.After.Count > 0 ? pair.After : pair.Before;
        // The card where it is the patient now, or was then, and both times showed it.
        Subject subject =
            (pair.Subject == Subject.Graphics || now.Pair?.Subject == Subject.Graphics)
            && left.Concat(now.Before).All(run => run.Analysis.Graphics is not null)
                ? Subject.Graphics
                : Subject.Processor;
        return left.Count == 0
            ? null
            : SinceThen.Of(
                Comparer.Compare(left, now.Before, bench, subject),
                HeatStaircase.Of(left[^1].Analysis, left[^1].Conditions, null),
                HeatStaircase.Of(now.Before[^1].Analysis, now.Before[^1].Conditions, null),
                DateOnly.FromDateTime(WorkshopClock.At(workshop, job.HandedOverAt!.Value).Date),
                subject
            );
    }

    /// <summary>
    /// Takes over what is known of the machine from an earlier job, where the new one has nothing yet; each field can be undone by itself.
    /// </summary>
    public static Task<Results<Ok<JobSheet>, ProblemHttpResult>> TakeOverAsync(
        Guid id,
        Guid earlier,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            async (write, job) =>
            {
                Job? before = await write
                    .Context.Jobs.AsNoTracking()
                    .WithSetups()
                    .SingleOrDefaultAsync(j => j.WorkshopId == write.WorkshopId && j.Id == earlier, cancellation);
                if (before is null)
                {
                    return JobEndpoints.NoSuchJob();
                }

                foreach (JobField field in Kept)
                {
                    // The cooler that it left with is the one that it comes back with.
                    string was = field.Name switch
                    {
                        "coolerKind" => JsonSerializer.Serialize(JobSetups.Now(before).CoolerKind),
                        "cooler" => JsonSerializer.Serialize(JobSetups.Now(before).Cooler),
                        _ => field.Json(before),
                    };
                    string now = field.Json(job);
                    if (now == "null" && was != "null")
                    {
                        field.Restore(job, was);
                        write.Event(job, JobEvents.Field, field.Name, now, was);
                    }
                }

                return null;
            },
            cancellation
        );

    private static string? Plain(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim().ToLowerInvariant();
}
