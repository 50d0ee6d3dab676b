using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>A machine that was here before brings its history, and what is known of it need not be typed again.</summary>
internal static class EarlierJobs
{
    private const int Most = 10;

    /// <summary>What a machine keeps from one visit to the next.</summary>
    private static readonly string[] Kept =
    [
        "owner", "contact", "machine", "serial", "temperatureLimitC", "ratedPowerW", "coolerKind", "origin", "setting", "builtOn", "processor", "board", "memory", "memoryHeightMm", "graphics", "case", "cooler", "fans",
        "fansSteeredBy", "purchasedOn", "warrantyMonths", "warrantyEndedBy",
    ];

    /// <summary>Earlier jobs with the same serial number, then those of the same owner; the latest first.</summary>
    public static async Task<IReadOnlyList<EarlierJob>> OfAsync(RemedosContext context, Workshop workshop, Job job, CancellationToken cancellation)
    {
        string? serial = Plain(job.Serial), owner = Plain(job.Owner);
        if (serial is null && owner is null)
        {
            return [];
        }

        string serialAlike = JobSheets.Literally(serial ?? ""), ownerAlike = JobSheets.Literally(owner ?? "");
        List<Job> found = await context.Jobs.AsNoTracking()
            .Where(j => j.WorkshopId == workshop.Id && j.Id != job.Id && j.Number < job.Number && ((serial != null && EF.Functions.ILike((j.Serial ?? "").Trim(), serialAlike, "\\")) || (owner != null && EF.Functions.ILike((j.Owner ?? "").Trim(), ownerAlike, "\\"))))
            .OrderByDescending(j => j.Number).Take(Most).ToListAsync(cancellation);
        return
        [
            .. found.Select(j => new EarlierJob(
                j.Id, JobSheets.Tag(workshop, j.Number), j.CreatedAt, j.Machine, serial is not null && Plain(j.Serial) == serial, j.Repair.Found, j.Repair.Done, [.. j.Repair.Causes.Select(cause => DiagnosisTables.CauseOf(cause).Title)], j.HandedOverAt))
                .OrderByDescending(earlier => earlier.SameMachine),
        ];
    }

    /// <summary>Takes over what is known of the machine from an earlier job, where the new one has nothing yet; each field can be undone by itself.</summary>
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> TakeOverAsync(Guid id, Guid earlier, Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        List<Job> both = await context.Jobs.Where(j => (j.Id == id || j.Id == earlier) && j.WorkshopId == workshop.Id).ToListAsync(cancellation);
        if (both.Find(j => j.Id == id) is not { } job || both.Find(j => j.Id == earlier) is not { } before)
        {
            return JobEndpoints.NoSuchJob();
        }

        foreach (JobField field in Kept.Select(name => JobFields.Find(name)!))
        {
            // The cooler that it left with is the one that it comes back with.
            string was = field.Name == "coolerKind" && before.Repair.CoolerKind is { } mounted ? JsonSerializer.Serialize(mounted) : field.Json(before), now = field.Json(job);
            if (now == "null" && was != "null" && field.TrySet(job, JsonSerializer.Deserialize<JsonElement>(was)) is null)
            {
                context.Append(job, person.Id, clock.GetUtcNow(), JobEvents.Field, field.Name, now, field.Json(job));
            }
        }

        await context.SaveChangesAsync(cancellation);
        return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
    }

    private static string? Plain(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim().ToLowerInvariant();
}
