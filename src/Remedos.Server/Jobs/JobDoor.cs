using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>Changes of a job, and of what hangs on it; each answers with the sheet as it is then.</summary>
internal sealed class JobDoor(WriteDoor door, JobSheets sheets)
{
    /// <summary>Changes a job.</summary>
    /// <param name="id">Which.</param>
    /// <param name="change">Changes it and writes the event; answers with a problem to leave all as it was.</param>
    /// <param name="cancellation">Stops it.</param>
    public Task<Results<Ok<JobSheet>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Func<Write, Job, Task<ProblemHttpResult?>> change,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write => await write.JobAsync(id) is { } job ? await change(write, job) : JobEndpoints.NoSuchJob(),
            async () => (await sheets.FindAsync(id, cancellation))!,
            cancellation
        );

    /// <summary>As above, for a change that waits for nothing.</summary>
    public Task<Results<Ok<JobSheet>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Func<Write, Job, ProblemHttpResult?> change,
        CancellationToken cancellation
    ) => ChangeAsync(id, (write, job) => Task.FromResult(change(write, job)), cancellation);
}
