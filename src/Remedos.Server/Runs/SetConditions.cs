using System.Text.Json;
using FluentValidation.Results;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Server.Jobs;

namespace Remedos.Server.Runs;

/// <summary>New conditions of a run, and the version of the run that the page saw.</summary>
public sealed record ConditionsChange(RunConditions Conditions, uint Version);

/// <summary>Sets a run's conditions and reads the run anew under them, from the original.</summary>
internal static class SetConditions
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(Guid id, ConditionsChange change, RunChanges changes, RunReader reader, ConditionsValidator validator, CancellationToken cancellation)
    {
        ValidationResult valid = await validator.ValidateAsync(change.Conditions, cancellation);
        return valid.IsValid
            ? await changes.ApplyAsync(id, change.Version, Apply, cancellation)
            : TypedResults.Problem(valid.Errors[0].ErrorMessage, statusCode: StatusCodes.Status422UnprocessableEntity, extensions: [new("field", valid.Errors[0].PropertyName)]);

        async Task<ProblemHttpResult?> Apply(RunChange at)
        {
            RunConditions before = at.Run.Conditions;
            if (change.Conditions.Load is { } edges && edges.EndSeconds > at.Run.Analysis.DurationSeconds + 1)
            {
                return RunChanges.Refused($"The load must lie within the run, which lasts {at.Run.Analysis.DurationSeconds:0} s.");
            }

            at.Run.Conditions = change.Conditions;
            await reader.AnalyzeAnewAsync(at.Context, at.Run, cancellation);
            // Marked edges are told apart from what else a form changes, so that undo can say what it takes back.
            string kind = before with { Load = change.Conditions.Load } == change.Conditions && before != change.Conditions ? JobEvents.LoadEdges : JobEvents.Conditions;
            at.Append(kind, at.Run.Id.ToString(), JsonSerializer.Serialize(before, RemedosContext.Json), JsonSerializer.Serialize(change.Conditions, RemedosContext.Json));
            return null;
        }
    }
}
