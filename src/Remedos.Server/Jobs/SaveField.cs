using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data.Jobs;
using Remedos.Server.Options;
using Remedos.Server.Repair;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>One field's new value, and the value that the page saw when typing began.</summary>
/// <param name="Value">The new value, or null to clear it.</param>
/// <param name="Base">What it was when typing began; if it is something else by now, somebody else changed it.</param>
public sealed record FieldChange(JsonElement Value, JsonElement? Base = null);

/// <summary>
/// Saves one field as it is typed. Changes to other fields never collide; a change to the same one is shown, not overwritten.
/// </summary>
internal static class SaveField
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        string field,
        FieldChange change,
        JobDoor door,
        Caller caller,
        CancellationToken cancellation
    )
    {
        if (JobFields.Find(field) is not { } known)
        {
            return Refusal.Unknown($"A job has no field “{field}”.");
        }

        Who who = await caller.WhoAsync(cancellation);
        return await door.ChangeAsync(id, Apply, cancellation);

        async Task<ProblemHttpResult?> Apply(Write write, Job job)
        {
            if (!known.Exists(job))
            {
                return Refusal.Unknown("This job has no such setup, mount or step.");
            }

            string before = known.Json(job);
            if (known.TrySet(job, change.Value, who.Today(write.Now)) is { } sentence)
            {
                return Refusal.Of(sentence, field);
            }

            string after = known.Json(job);
            if (after == before)
            {
                return null;
            }

            if (await MountDates.ProblemAsync(write, job, field) is { } tooLate)
            {
                return Refusal.Of(tooLate, field);
            }

            if (before != known.Canonical(change.Base ?? default))
            {
                return await ConflictAsync(write, job, known, before, after);
            }

            write.Event(job, JobEvents.Field, field, before, after);
            await FixedFans.OfAsync(write, job, field);
            return await PlanEffects.OfAsync(write, job, field) ?? await ChoiceEffects.OfAsync(write, job, field);
        }
    }

    private static async Task<ProblemHttpResult> ConflictAsync(Write write, Job job, JobField field, string theirs, string mine)
    {
        var last = await write
            .Context.JobEvents.AsNoTracking()
            .Where(e => e.WorkshopId == job.WorkshopId && e.JobId == job.Id && e.Kind == JobEvents.Field && e.Subject == field.Name)
            .Join(
                write.Context.People,
                e => e.PersonId,
                p => p.Id,
                (e, p) =>
                    new
                    {
                        e.Id,
                        e.At,
                        p.Name,
                    }
            )
            .OrderByDescending(e => e.Id)
            .FirstOrDefaultAsync(write.Cancellation);
        return TypedResults.Problem(
            "This was changed elsewhere while you typed. Both are kept until you choose.",
            statusCode: StatusCodes.Status409Conflict,
            extensions:
            [
                new("field", field.Name),
                new("theirs", JsonSerializer.Deserialize<JsonElement>(theirs)),
                new("mine", JsonSerializer.Deserialize<JsonElement>(mine)),
                new("by", last?.Name),
                new("at", last?.At),
            ]
        );
    }
}
