using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Data.Samples;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>A run as it was read: which part of its log, the rows, and what they tell.</summary>
internal sealed record ReadRun(RunStretch? Stretch, Log Log, RunAnalysis Analysis)
{
    /// <summary>The runs of a log, analysed.</summary>
    public static IReadOnlyList<ReadRun> Of(Log log, RunConditions conditions)
    {
        IReadOnlyList<RunStretch> stretches = RunStretches.Of(log, conditions);
        return
        [
            .. stretches.Select(stretch =>
            {
                Log part = log.Part(stretch.StartSeconds, stretch.EndSeconds);
                return new ReadRun(stretches.Count == 1 ? null : stretch, part, RunAnalyzer.Analyze(part, conditions));
            }),
        ];
    }
}

/// <summary>Puts runs that were read into the database: rows, events and samples.</summary>
internal static class RunStore
{
    /// <summary>Adds what an import has read to its job.</summary>
    /// <returns>The first run.</returns>
    public static async Task<Guid> AddAsync(Write write, Job job, Import import, IReadOnlyList<ReadRun> runs)
    {
        // Its setup or mount may have been taken away meanwhile: then it lands on what is on the machine now.
        Guid mount = JobSetups.OfMount(job, import.MountId) is null ? JobSetups.CurrentMount(job).Id : import.MountId;
        Guid first = await AddAsync(
            write.Context,
            job,
            import.LogFileId,
            mount,
            import.Conditions,
            import.Marks,
            runs,
            import.PersonId,
            write.Now,
            write.Cancellation
        );
        FixedFans.Keep(write, job, runs.Select(run => (import.Conditions, run.Analysis)));
        return first;
    }

    /// <summary>Adds runs to a job, on the context's transaction.</summary>
    /// <returns>The first of them.</returns>
    public static async Task<Guid> AddAsync(
        RemedosContext context,
        Job job,
        Guid logFileId,
        Guid mountId,
        RunConditions conditions,
        IReadOnlyList<RunMark> marks,
        IReadOnlyList<ReadRun> runs,
        Guid personId,
        DateTimeOffset at,
        CancellationToken cancellation
    )
    {
        List<Run> added = [];
        foreach (ReadRun read in runs)
        {
            Run run = new()
            {
                Id = Guid.CreateVersion7(at.AddMilliseconds(added.Count)),
                WorkshopId = job.WorkshopId,
                JobId = job.Id,
                LogFileId = logFileId,
                MountId = mountId,
                // Runs of one log keep its order.
                ImportedAt = at.AddMilliseconds(added.Count),
                Rows = read.Log.Samples,
                Stretch = read.Stretch,
                Conditions = conditions,
                Marks = marks,
                Analysis = read.Analysis,
                AnalysisVersion = RunAnalyzer.Version,
            };
            context.Runs.Add(run);
            context.Append(job, personId, at, JobEvents.RunAdded, run.Id.ToString());
            added.Add(run);
        }

        await context.SaveChangesAsync(cancellation);
        foreach ((Run run, ReadRun read) in added.Zip(runs))
        {
            await SampleStore.WriteAsync(context, job.WorkshopId, run.Id, read.Log, cancellation);
        }

        return added[0].Id;
    }
}
