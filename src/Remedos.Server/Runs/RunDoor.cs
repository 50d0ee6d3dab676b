using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>A run in the hands of one change.</summary>
internal sealed record RunChange(Write Write, Job Job, Run Run)
{
    public void Event(string kind, string subject, string? before = null, string? after = null) =>
        Write.Event(Job, kind, subject, before, after);
}

/// <summary>Changes of a run; each answers with the sheet of its job.</summary>
internal sealed class RunDoor(WriteDoor door, JobSheets sheets)
{
    /// <summary>Changes a run.</summary>
    /// <param name="id">Which.</param>
    /// <param name="version">As the page saw it; null where an older view does no harm.</param>
    /// <param name="change">Changes it and writes the event; answers with a problem to leave all as it was.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task<Results<Ok<JobSheet>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        uint? version,
        Func<RunChange, Task<ProblemHttpResult?>> change,
        CancellationToken cancellation
    )
    {
        Guid job = Guid.Empty;
        return await door.WriteAsync(
            async write =>
            {
                if (await write.RunAsync(id) is not var (its, run))
                {
                    return RunEndpoints.NoSuchRun();
                }

                job = its.Id;
                if (version is not null && run.Version != version)
                {
                    return RunEndpoints.ChangedElsewhere();
                }

                if (await change(new RunChange(write, its, run)) is { } problem)
                {
                    return problem;
                }

                return null;
            },
            async () => (await sheets.FindAsync(job, cancellation))!,
            cancellation
        );
    }
}
