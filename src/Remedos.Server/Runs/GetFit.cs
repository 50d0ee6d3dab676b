using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>The fitted line of a run, made from its original when it is asked for.</summary>
internal static class GetFit
{
    public static async Task<Results<Ok<FittedLine>, ProblemHttpResult>> HandleAsync(
        Guid id,
        Caller caller,
        RunReader reader,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await RunEndpoints.FindAsync(context, id, cancellation) is not { } run)
        {
            return RunEndpoints.NoSuchRun();
        }

        Log log = await reader.ReadAsync(context, run, cancellation);
        return await Task.Run(() => RunAnalyzer.Fitted(log, run.Conditions), cancellation) is { } line
            ? TypedResults.Ok(line)
            : TypedResults.Problem(
                "This log cannot carry a fit; the run’s notes say what it lacks.",
                statusCode: StatusCodes.Status404NotFound
            );
    }
}
