using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Jobs;
using Remedos.Core.Repair;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Repair;

/// <summary>What a step that was done does to its job: the setup and the mount that it made, the print, the parts, the note.</summary>
internal static class PlanEffects
{
    /// <summary>After a field was set; nothing for any that is no step.</summary>
    public static async Task<ProblemHttpResult?> OfAsync(Write write, Job job, string field)
    {
        if (
            PlanFields.PartsOf(field) is not var (number, stepId)
            || JobPlans.Of(job, number) is not { } plan
            || plan.Standing.GetValueOrDefault(stepId) is not { State: StepState.Done } mark
        )
        {
            return FinishIfDone(write, job, field);
        }

        PlanStep step = plan.Composed.Steps.Single(one => one.Id == stepId);
        if (mark.At > write.Now.AddDays(1))
        {
            return Refusal.Of("A step cannot have been done in the future: look at this device’s clock.", field);
        }

        if (
            mark.Photo is { } photo
            && !await write.Context.JobPhotos.AnyAsync(
                one => one.WorkshopId == write.WorkshopId && one.JobId == job.Id && one.Id == photo && one.RemovedAt == null,
                write.Cancellation
            )
        )
        {
            return Refusal.Of($"“{step.Title}”: this picture is not on the job any more; take it again.", field);
        }

        if (step.Hold == StepHold.Run && !await HasRunAsync(write, job, plan, step))
        {
            return Refusal.Of(
                $"“{step.Title}”: no such run is on the sheet yet. Run it in a bay or add its log; or skip it with a reason.",
                field
            );
        }

        if (step.Hold == StepHold.Print)
        {
            KeepPrint(write, job, plan, mark.Text!);
        }

        if (step.Id == PartsKept)
        {
            write.Keep(job, "repairKept", string.Join("\n", job.Repair.KeptLines.Union(mark.Lines!)));
        }
        else if (step.Id == PartsUsed)
        {
            write.Keep(job, "repairParts", string.Join(", ", job.Repair.PartsUsed.Union(mark.Lines!)));
        }

        if (step.MakesSetup)
        {
            MakeSetup(write, job, plan, mark.At);
        }

        return FinishIfDone(write, job, field);
    }

    private const string PartsKept = "parts-kept",
        PartsUsed = "parts-used";

    /// <summary>The next setup, unless this plan's own stands already.</summary>
    private static void MakeSetup(Write write, Job job, Plan plan, DateTimeOffset at)
    {
        if (plan.MadeSetup is { } made && job.Setups.Exists(setup => setup.Number == made && setup.RemovedAt is null))
        {
            return;
        }

        RepairFacts facts = plan.Facts;
        bool lifted = plan.Composed.Steps.Any(step => step.Id == "set-down");
        string kind = PlanSetup.KindOf(facts, lifted);
        Setup like = JobSetups.Current(job);
        Setup setup = JobSetups.Add(
            job,
            kind,
            like.Number,
            // A plug or a setting leaves the cooler sitting as it sat.
            lifted ? at : JobSetups.Standing(like)[^1].MountedAt,
            write.Now
        );
        PlanSetup.Describe(setup.Difference, facts, kind, plan.Standing);
        plan.MadeSetup = setup.Number;
        write.Event(job, JobEvents.SetupAdded, setup.Id.ToString());
    }

    /// <summary>The print belongs to the mount that was lifted.</summary>
    private static void KeepPrint(Write write, Job job, Plan plan, string print) =>
        write.Keep(job, $"mount.{plan.FromSetup}.{plan.FromMount}.print", print);

    /// <summary>Once no hand is wanted any more, the note says what was done and how long it took, where nobody has written it.</summary>
    private static ProblemHttpResult? FinishIfDone(Write write, Job job, string field)
    {
        if (PlanFields.PartsOf(field) is not var (number, _) || JobPlans.Of(job, number) is not { Progress: { UnderHands: false } at } plan)
        {
            return null;
        }

        if (string.IsNullOrWhiteSpace(job.Repair.Done))
        {
            write.Keep(job, "repairDone", string.Join(" ", plan.Facts.Acts.Select(act => RepairRow.Of(act).Done)));
        }

        if (job.Repair.Minutes is null && at.MinutesTaken is { } taken)
        {
            write.Keep(job, "repairMinutes", (int)Math.Ceiling(taken));
        }

        return null;
    }

    private static async Task<bool> HasRunAsync(Write write, Job job, Plan plan, PlanStep step)
    {
        List<Run> runs = await write
            .Context.Runs.AsNoTracking()
            .Where(run => run.WorkshopId == write.WorkshopId && run.JobId == job.Id && run.RemovedAt == null)
            .ToListAsync(write.Cancellation);
        int of = step.Baseline ? plan.FromSetup : plan.MadeSetup ?? plan.FromSetup;
        return job.Setups.Find(setup => setup.Number == of) is { } setup
            && JobSetups.RunsOf(setup, runs).Any(run => step.Id == "fixed-run" ? PlanRuns.IsFixed(run) : PlanRuns.IsClosed(run));
    }
}

/// <summary>Which runs serve as the baselines of a plan.</summary>
internal static class PlanRuns
{
    public static bool IsClosed(Run run) => run.Analysis.Load is not null && run.Conditions.Panel is null or "closed";

    public static bool IsFixed(Run run) => run.Analysis.Load is not null && run.Conditions.FanPolicy == "fixed";
}

/// <summary>What setup a repair makes.</summary>
internal static class PlanSetup
{
    public static string KindOf(RepairFacts facts, bool lifted) =>
        facts.CoolerOn is not null ? SetupKind.Cooler
        : lifted ? SetupKind.Repair
        : facts.Acts.Contains("card") ? SetupKind.Card
        : facts.Acts.Any(act => RepairRow.Of(act).Opening != "nothing") ? SetupKind.Fans
        : SetupKind.Setting;

    public static void Describe(SetupDifference difference, RepairFacts facts, string kind, IReadOnlyDictionary<string, StepMark> marks)
    {
        string What() => string.Join(", ", facts.Acts.Select(act => RepairRow.Of(act).Done.TrimEnd('.'))).ToLowerInvariant();
        switch (kind)
        {
            case SetupKind.Cooler:
                (difference.Cooler, difference.CoolerKind) = (facts.CoolerOn!.Name, facts.CoolerOn.Kind);
                break;
            case SetupKind.Card:
                difference.CardPaste = "new paste and pads";
                break;
            case SetupKind.Fans:
                difference.CaseAir = What();
                break;
            case SetupKind.Setting:
                difference.Settings = marks.GetValueOrDefault("cap-power")?.Reading is { } watts ? $"power limit {watts:0} W" : What();
                break;
            default:
                difference.Paste = facts.LiquidMetal ? "liquid metal" : "new paste";
                break;
        }
    }
}
