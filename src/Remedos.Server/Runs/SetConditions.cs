using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>New conditions of a run, and the version of the run that the page saw.</summary>
public sealed record ConditionsChange(RunConditions Conditions, uint Version);

/// <summary>Sets a run's conditions and reads the run anew under them, from the original.</summary>
internal static class SetConditions
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        Guid id,
        ConditionsChange change,
        RunDoor door,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        foreach ((string field, string problem) in change.Conditions.Problems())
        {
            return Refusal.Of(problem, field);
        }

        RunReading reading;
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            if (await RunEndpoints.FindAsync(context, id, cancellation) is not { } run)
            {
                return RunEndpoints.NoSuchRun();
            }

            if (change.Conditions.Load is { } edges && edges.EndSeconds > run.Analysis.DurationSeconds + 1)
            {
                return Refusal.Of($"The load must lie within the run, which lasts {run.Analysis.DurationSeconds:0} s.");
            }

            reading = await reader.AnalyzeAsync(context, run, change.Conditions, null, cancellation);
        }

        return await door.ChangeAsync(id, change.Version, Apply, cancellation);

        async Task<ProblemHttpResult?> Apply(RunChange at)
        {
            if (at.Run.Version != reading.Version)
            {
                return RunEndpoints.ChangedElsewhere();
            }

            RunConditions before = at.Run.Conditions;
            at.Run.Conditions = change.Conditions;
            await reading.ApplyAsync(at.Write.Context, at.Run, samplesToo: false, cancellation);
            // Marked edges are told apart from what else a form changes, so that undo can say what it takes back.
            string kind =
                before with { Load = change.Conditions.Load } == change.Conditions && before != change.Conditions
                    ? JobEvents.LoadEdges
                    : JobEvents.Conditions;
            at.Event(
                kind,
                at.Run.Id.ToString(),
                JsonSerializer.Serialize(before, RemedosContext.Json),
                JsonSerializer.Serialize(change.Conditions, RemedosContext.Json)
            );
            return null;
        }
    }
}
