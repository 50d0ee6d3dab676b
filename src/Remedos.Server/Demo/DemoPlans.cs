using Remedos.Core.Repair;
using Remedos.Data.Jobs;

namespace Remedos.Server.Demo;

/// <summary>A repair in the middle of its steps.</summary>
internal static class DemoPlans
{
    private static readonly TimeSpan AStep = TimeSpan.FromMinutes(1.5);

    /// <summary>Begins a plan on a job and works through it up to a step.</summary>
    /// <param name="upTo">The step that is next.</param>
    public static void Begin(Job job, RepairFacts facts, string upTo, DateTimeOffset at)
    {
        RepairPlan composed = RepairPlanner.Of(facts);
        Plan plan = new()
        {
            Id = Guid.CreateVersion7(at),
            WorkshopId = job.WorkshopId,
            JobId = job.Id,
            Number = 1,
            Round = 1,
            Facts = facts,
            Composed = composed,
            FromSetup = 1,
            FromMount = 1,
            BegunAt = at,
        };
        foreach (PlanStep step in composed.Steps.TakeWhile(step => step.Id != upTo))
        {
            at += AStep;
            plan.Marks.Add(
                new PlanMark
                {
                    WorkshopId = job.WorkshopId,
                    PlanId = plan.Id,
                    StepId = step.Id,
                    Mark = step.Hold switch
                    {
                        StepHold.Photo or StepHold.Run => new StepMark(StepState.Skipped, at, Text: "Was done before", Seconds: 5),
                        StepHold.List => new StepMark(
                            StepState.Done,
                            at,
                            Lines: ["cooler fan on CPU", "rear fan on SYS2"],
                            Seconds: AStep.TotalSeconds
                        ),
                        _ => new StepMark(StepState.Done, at, Seconds: AStep.TotalSeconds),
                    },
                }
            );
        }

        job.Plans.Add(plan);
    }
}
