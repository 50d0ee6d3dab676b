using System.Text.Json;
using FluentValidation;
using FluentValidation.Results;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>One field's new value, and the value that the page saw when typing began.</summary>
/// <param name="Value">The new value, or null to clear it.</param>
/// <param name="Base">What it was when typing began; if it is something else by now, somebody else changed it.</param>
public sealed record FieldChange(JsonElement Value, JsonElement Base);

/// <summary>Saves one field as it is typed. Changes to other fields never collide; a change to the same one is shown, not overwritten.</summary>
internal static class SaveField
{
    private const int RetriesOnRace = 30;

    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id, string field, FieldChange change, Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, JobValidator validator, TimeProvider clock, CancellationToken cancellation)
    {
        if (JobFields.Find(field) is not { } known)
        {
            return TypedResults.Problem($"A job has no field “{field}”.", statusCode: StatusCodes.Status404NotFound);
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        for (int attempt = 0; ; attempt++)
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
            Job? job = await context.Jobs.SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
            if (job is null)
            {
                return JobEndpoints.NoSuchJob();
            }

            string before = known.Json(job);
            if (Problem(known, job, change.Value, validator) is { } sentence)
            {
                return TypedResults.Problem(sentence, statusCode: StatusCodes.Status422UnprocessableEntity, extensions: [new("field", field)]);
            }

            string after = known.Json(job);
            if (after == before)
            {
                return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
            }

            if (before != Canonical(known, change.Base))
            {
                return await ConflictAsync(context, job, known, before, after, cancellation);
            }

            context.Append(job, person.Id, clock.GetUtcNow(), JobEvents.Field, field, before, after);
            try
            {
                await context.SaveChangesAsync(cancellation);
                return TypedResults.Ok((await sheets.FindAsync(id, cancellation))!);
            }
            catch (DbUpdateConcurrencyException) when (attempt < RetriesOnRace)
            {
                // Another field of the same job was saved in between: read it again and put this one on top.
            }
        }
    }

    /// <summary>Sets the value; a sentence when it cannot stand.</summary>
    public static string? Problem(JobField field, Job job, JsonElement value, JobValidator validator)
    {
        if (field.TrySet(job, value) is { } wrong)
        {
            return wrong;
        }

        ValidationResult result = validator.Validate(job, options => options.IncludeProperties(field.Property));
        return result.IsValid ? null : result.Errors[0].ErrorMessage;
    }

    /// <summary>The base as it would be stored, so that "70" and "70.0" are the same.</summary>
    private static string Canonical(JobField field, JsonElement value)
    {
        Job scratch = new();
        return value.ValueKind == JsonValueKind.Undefined || field.TrySet(scratch, value) is not null ? "null" : field.Json(scratch);
    }

    private static async Task<ProblemHttpResult> ConflictAsync(RemedosContext context, Job job, JobField field, string theirs, string mine, CancellationToken cancellation)
    {
        var last = await context.JobEvents.AsNoTracking().Where(e => e.JobId == job.Id && e.Kind == JobEvents.Field && e.Subject == field.Name)
            .Join(context.People, e => e.PersonId, p => p.Id, (e, p) => new { e.Id, e.At, p.Name }).OrderByDescending(e => e.Id).FirstOrDefaultAsync(cancellation);
        return TypedResults.Problem(
            "This was changed elsewhere while you typed. Both are kept until you choose.",
            statusCode: StatusCodes.Status409Conflict,
            extensions:
            [
                new("field", field.Name), new("theirs", JsonSerializer.Deserialize<JsonElement>(theirs)), new("mine", JsonSerializer.Deserialize<JsonElement>(mine)),
                new("by", last?.Name), new("at", last?.At),
            ]);
    }
}
