using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Diagnosis;

/// <summary>Diagnoses a job from what hands and eyes observed and from its before runs: the usual one, and trials held against it.</summary>
internal static class DiagnoseJob
{
    private const double DaysAMonth = 30.44;

    public static void MapDiagnosis(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/diagnosis", HandleAsync).WithTags("diagnosis").WithName("getDiagnosis");

    private static async Task<Results<Ok<JobDiagnosis>, ProblemHttpResult>> HandleAsync(Guid id, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, RunReader reader, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job? job = await context.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        double? age = job.BuiltOn is { } built ? Math.Max(0, (DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime).DayNumber - built.DayNumber) / DaysAMonth) : null;
        CaseMachine machine = new(job.CoolerKind, age, job.Origin is null ? null : job.Origin == Job.Complete, job.Setting);
        IReadOnlyList<EvidenceItem> offRuns = await OffRunsAsync(context, job, reader, cancellation);
        EvidenceItem[] all = [.. job.Observations, .. offRuns.Where(item => job.Observations.All(seen => seen.Id != item.Id))];
        return TypedResults.Ok(JobDiagnosis.Of(new DiagnosisCase(machine, all), offRuns.Select(item => item.Id).Where(one => job.Observations.All(seen => seen.Id != one)).ToHashSet(StringComparer.Ordinal)));
    }

    private static async Task<IReadOnlyList<EvidenceItem>> OffRunsAsync(RemedosContext context, Job job, RunReader reader, CancellationToken cancellation)
    {
        List<Run> runs = await context.Runs.AsNoTracking().Where(r => r.JobId == job.Id && r.Side == "before" && r.RemovedAt == null).OrderBy(r => r.ImportedAt).ToListAsync(cancellation);
        Run? usual = runs.LastOrDefault(IsUsual) ?? runs.LastOrDefault();
        if (usual is null)
        {
            return [];
        }

        List<EvidenceItem> found = [.. RunEvidence.Of(await reader.ReadAsync(context, usual, cancellation), usual.Analysis, usual.Conditions)];
        foreach (Run trial in runs.Where(run => run.Id != usual.Id && TrialOf(run) is not null))
        {
            found.RemoveAll(item => item.Id == TrialOf(trial));
            if (RunEvidence.Of(TrialOf(trial)!, usual.Analysis, trial.Analysis, job.TemperatureLimitC) is { } item)
            {
                found.Add(item);
            }
        }

        return found;
    }

    private static bool IsUsual(Run run) => run.Conditions is { Panel: null or "closed", FanPolicy: null or "auto", PowerCapW: null };

    /// <summary>Which trial a run is; null when it is none that is told by its conditions.</summary>
    private static string? TrialOf(Run run) => run.Conditions switch
    {
        { Panel: "side-off" } => "panel-off-drop",
        { PowerCapW: not null } => "capped-power",
        { FanPolicy: "fixed", FanPercent: >= 99 } => "fans-full-drop",
        _ => null,
    };
}
