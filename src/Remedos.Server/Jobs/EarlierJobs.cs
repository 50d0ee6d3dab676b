using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;

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
        CancellationToken cancellation
    )
    {
        string? serial = Plain(job.Serial),
            owner = Plain(job.Owner);
        if (serial is null && owner is null)
        {
            return [];
        }

        string serialAlike = JobSheets.Literally(serial ?? ""),
            ownerAlike = JobSheets.Literally(owner ?? "");
        List<Job> found = await context
            .Jobs.AsNoTracking()
            .Where(j =>
                j.WorkshopId == workshop.Id
                && j.Id != job.Id
                && j.Number < job.Number
                && (
                    (serial != null && EF.Functions.ILike((j.Serial ?? "").Trim(), serialAlike, "\\"))
                    || (owner != null && EF.Functions.ILike((j.Owner ?? "").Trim(), ownerAlike, "\\"))
                )
            )
            .OrderByDescending(j => j.Number)
            .Take(Most)
            .ToListAsync(cancellation);
        return
        [
            .. found
                .Select(j => new EarlierJob(
                    j.Id,
                    JobSheets.Tag(workshop, j.Number),
                    j.CreatedAt,
                    j.Machine,
                    serial is not null && Plain(j.Serial) == serial,
                    j.Repair.Found,
                    j.Repair.Done,
                    [.. j.Repair.Causes.Select(cause => DiagnosisTables.CauseOf(cause).Title)],
                    j.HandedOverAt
                ))
                .OrderByDescending(earlier => earlier.SameMachine),
        ];
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
