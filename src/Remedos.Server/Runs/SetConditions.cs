using FluentValidation.Results;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using System.Text.Json;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>New conditions of a run, and the version of the run that the page saw.</summary>
public sealed record ConditionsChange(RunConditions Conditions, uint Version);

/// <summary>Sets a run's conditions and reads the run anew under them, from the original.</summary>
internal static class SetConditions
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id, ConditionsChange change, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, ConditionsValidator validator, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        ValidationResult valid = await validator.ValidateAsync(change.Conditions, cancellation);
        if (!valid.IsValid)
        {
            return TypedResults.Problem(valid.Errors[0].ErrorMessage, statusCode: StatusCodes.Status422UnprocessableEntity, extensions: [new("field", valid.Errors[0].PropertyName)]);
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        if (run.Version != change.Version)
        {
            return Changed();
        }

        (_, RunAnalysis analysis) = await reader.ReadAnewAsync(run, change.Conditions, cancellation);
        Job job = await context.Jobs.SingleAsync(j => j.Id == run.JobId, cancellation);
        string before = JsonSerializer.Serialize(run.Conditions, RemedosContext.Json);
        run.Conditions = change.Conditions;
        run.Analysis = analysis;
        context.Append(job, person.Id, clock.GetUtcNow(), JobEvents.Conditions, run.Id.ToString(), before, JsonSerializer.Serialize(run.Conditions, RemedosContext.Json));
        try
        {
            await context.SaveTouchingJobAsync(job, cancellation);
        }
        catch (DbUpdateConcurrencyException)
        {
            return Changed();
        }

        return TypedResults.Ok((await sheets.FindAsync(run.JobId, cancellation))!);
    }

    private static ProblemHttpResult Changed() =>
        TypedResults.Problem("The conditions of this run were changed elsewhere just now. They are shown anew; set yours again if they still hold.", statusCode: StatusCodes.Status409Conflict);
}
