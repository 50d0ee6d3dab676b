using Microsoft.EntityFrameworkCore;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>Case fans that are fixed turn as the newest usual log says: it knows better than whoever typed a speed.</summary>
internal static class FixedFans
{
    private const string Follow = "fansSteeredBy",
        Speed = "fansFixedRpm";

    /// <summary>After a field was set; nothing for any but what the fans follow.</summary>
    public static async Task OfAsync(Write write, Job job, string field)
    {
        if (field != Follow || job.Parts.FansSteeredBy != Steering.Fixed)
        {
            return;
        }

        List<Run> runs = await write
            .Context.Runs.AsNoTracking()
            .Where(run => run.WorkshopId == write.WorkshopId && run.JobId == job.Id && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(write.Cancellation);
        Keep(write, job, runs.Select(run => (run.Conditions, run.Analysis)));
    }

    /// <summary>After runs were added, the newest last.</summary>
    public static void Keep(Write write, Job job, IEnumerable<(RunConditions Conditions, RunAnalysis Analysis)> runs)
    {
        double? logged = runs.Where(run => run.Conditions.IsUsual)
            .Select(run => run.Analysis.Beside?.CaseFanRpm)
            .LastOrDefault(rpm => rpm > 0);
        if (job.Parts.FansSteeredBy == Steering.Fixed && logged is { } rpm)
        {
            write.Keep(job, Speed, Math.Round(rpm));
        }
    }
}
