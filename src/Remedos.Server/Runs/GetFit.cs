using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>The fitted line of a run, made from its original when it is asked for.</summary>
internal static class GetFit
{
    public static async Task<Results<Ok<FittedLine>, ProblemHttpResult>> HandleAsync(Guid id, Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        Log log = await reader.ReadAsync(context, run, cancellation);
        return await Task.Run(() => RunAnalyzer.Fitted(log, run.Conditions), cancellation) is { } line
            ? TypedResults.Ok(line)
            : TypedResults.Problem("This log cannot carry a fit; the run’s notes say what it lacks.", statusCode: StatusCodes.Status404NotFound);
    }
}
