using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Runs;

/// <summary>A run in the hands of one change.</summary>
internal sealed record RunChange(RemedosContext Context, Job Job, Run Run, Guid PersonId, DateTimeOffset Now)
{
    public void Append(string kind, string subject, string before, string after) => Context.Append(Job, PersonId, Now, kind, subject, before, after);
}

/// <summary>What every change of a run has in common: find it, refuse it if somebody else changed the run since the page saw it, save, answer with the sheet.</summary>
internal sealed class RunChanges(IDbContextFactory<RemedosContext> contexts, Bench bench, JobSheets sheets, TimeProvider clock)
{
    /// <summary>Applies a change to the run as it was at a version.</summary>
    /// <param name="id">The run.</param>
    /// <param name="version">As the page saw it.</param>
    /// <param name="apply">Changes the run and appends the event; answers with a problem to leave all as it was.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task<Results<Ok<JobSheet>, ProblemHttpResult>> ApplyAsync(Guid id, uint version, Func<RunChange, Task<ProblemHttpResult?>> apply, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Run? run = await context.Runs.SingleOrDefaultAsync(r => r.Id == id && r.WorkshopId == workshop.Id, cancellation);
        if (run is null)
        {
            return RunEndpoints.NoSuchRun();
        }

        if (run.Version != version)
        {
            return Changed();
        }

        Job job = await context.Jobs.SingleAsync(j => j.Id == run.JobId, cancellation);
        if (await apply(new RunChange(context, job, run, person.Id, clock.GetUtcNow())) is { } problem)
        {
            return problem;
        }

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

    public static ProblemHttpResult Refused(string sentence) => TypedResults.Problem(sentence, statusCode: StatusCodes.Status422UnprocessableEntity);

    private static ProblemHttpResult Changed() =>
        TypedResults.Problem("This run was changed elsewhere just now. It is shown anew; change it again if that still holds.", statusCode: StatusCodes.Status409Conflict);
}
