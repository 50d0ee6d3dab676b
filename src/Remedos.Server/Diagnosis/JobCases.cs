using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Diagnosis;

/// <summary>What of a job's evidence was read off, and not answered by hand.</summary>
public sealed record JobCase(DiagnosisCase Case, IReadOnlySet<string> ReadOff, TubeCheck? Tubes);

/// <summary>Puts together what is known of a job's machine, and remembers answers: the same case has the same one.</summary>
public sealed class JobCases(IMemoryCache answers)
{
    private const double DaysAMonth = 30.44;

    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(30);

    public DiagnosisAnswer Answer(DiagnosisCase asked) => answers.GetOrCreate($"diagnosis {System.Text.Json.JsonSerializer.Serialize(asked, RemedosContext.Json)}", entry =>
    {
        entry.SlidingExpiration = Remembered;
        return Diagnoser.Of(asked);
    })!;

    /// <summary>The case: what hands and eyes observed, what thermometers on the tubes mean, noted at the intake or carried by the run, and what the runs of the setup that this round found show, the usual one and trials held against it.</summary>
    /// <param name="job">With its setups.</param>
    /// <param name="runs">All of the job's, in the order they came.</param>
    public static JobCase Of(Job job, IEnumerable<Run> runs, SeriesRecord? series, DateOnly today)
    {
        double? age = (job.BuiltOn ?? job.Warranty.PurchasedOn) is { } built ? Math.Clamp((today.DayNumber - built.DayNumber) / DaysAMonth, 0, 600) : null;
        Setup diagnosed = JobSetups.Diagnosed(job);
        CaseMachine machine = new(JobSetups.Effective(job, diagnosed).CoolerKind, age, job.Origin is null ? null : job.Origin == Job.Complete, job.Setting, job.LastDone, series);
        Run[] before = [.. JobSetups.RunsOf(diagnosed, runs).Where(run => run.RemovedAt is null)];
        // A game or an idle log says less of a fault than a full load; of several full loads the latest counts.
        Run? usual = before.LastOrDefault(run => run.Conditions.IsUsual && IsFullLoad(run)) ?? before.LastOrDefault(run => run.Conditions.IsUsual && run.Analysis.Load is not null)
            ?? before.LastOrDefault(run => run.Analysis.Load is not null) ?? before.LastOrDefault();
        List<EvidenceItem> found = usual is null ? [] : OffRuns(job, before, usual);
        TubeCheck? tubes = job is { TubeOneC: { } one, TubeOtherC: { } other } ? TubeCheck.Of(one, other, usual?.Analysis.Load?.SustainedPowerW ?? job.RatedPowerW, usual?.Analysis.AmbientC ?? job.RoomC)
            : usual is null ? null : TubeCheck.Of(usual.Analysis);
        if (tubes is not null)
        {
            found.Add(new EvidenceItem("tube-difference", tubes.State));
        }

        if (before.Any(run => run.Conditions.FellSilent == true))
        {
            found.Add(new EvidenceItem("shutdowns", "yes"));
        }

        EvidenceItem[] readOff = [.. found.Where(item => job.Observations.All(seen => seen.Id != item.Id))];
        return new JobCase(new DiagnosisCase(machine, [.. job.Observations, .. readOff]), readOff.Select(item => item.Id).ToHashSet(StringComparer.Ordinal), tubes);
    }

    /// <summary>A load that fills the processor, as far as anybody said; what nobody said anything of is taken for one.</summary>
    private static bool IsFullLoad(Run run) => run.Analysis.Load is not null && run.Conditions.Workload is null or "all-core" or "vector" or "cpu-and-gpu";

    private static List<EvidenceItem> OffRuns(Job job, Run[] before, Run usual)
    {
        List<EvidenceItem> found = [.. RunEvidence.Of(usual.Analysis, usual.Conditions)];
        foreach (Run trial in before.Where(run => run.Id != usual.Id))
        {
            if (RunEvidence.TrialOf(trial.Conditions) is { } id && RunEvidence.Of(id, usual.Analysis, trial.Analysis, job.TemperatureLimitC) is { } item)
            {
                found.RemoveAll(one => one.Id == id);
                found.Add(item);
            }
        }

        return found;
    }

    /// <summary>What was found out in machines with the same coolers, by the cooler's name.</summary>
    /// <param name="but">A job that is not counted: the one that is being diagnosed.</param>
    public static async Task<IReadOnlyDictionary<string, SeriesRecord>> SeriesAsync(RemedosContext context, Guid workshop, Guid? but, CancellationToken cancellation)
    {
        var known = await context.Jobs.AsNoTracking().Where(j => j.WorkshopId == workshop && j.Parts.Cooler != null && j.Id != but).Select(j => new { Cooler = j.Parts.Cooler!, j.Repair.Causes }).ToListAsync(cancellation);
        return known.Where(job => job.Causes.Count > 0).GroupBy(job => job.Cooler.Trim(), StringComparer.OrdinalIgnoreCase).ToDictionary(
            series => series.Key,
            series => new SeriesRecord(series.Key, series.Count(), series.SelectMany(job => job.Causes).GroupBy(cause => cause, StringComparer.Ordinal).ToDictionary(cause => cause.Key, cause => cause.Count(), StringComparer.Ordinal)),
            StringComparer.OrdinalIgnoreCase);
    }
}
