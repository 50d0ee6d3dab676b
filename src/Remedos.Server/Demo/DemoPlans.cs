using Remedos.Core.Repair;
using Remedos.Data.Jobs;

namespace Remedos.Server.Demo;

/// <summary>A repair in the middle of its steps.</summary>
internal static class DemoPlans
{
    private static readonly TimeSpan AStep = TimeSpan.FromMinutes(1.5);

    /// <summary>A repair that was worked through in the years before.</summary>
    /// <param name="act">Of <see cref="RepairRow"/>.</param>
    /// <param name="fits">The cooler that went on; null where the same one went back.</param>
    /// <param name="pace">Minutes taken over minutes planned.</param>
    public static void Through(Job job, string act, NewCooler? fits, double pace, DateTimeOffset at)
    {
        RepairFacts facts = new()
        {
            Acts = [act],
            CoolerOff = job.CoolerKind,
            CoolerOn = fits,
        };
        Plan plan = New(job, facts, at);
        foreach (PlanStep step in plan.Composed.Steps)
        {
            double seconds = 60 * pace * step.Minutes;
            at += TimeSpan.FromSeconds(seconds);
            Mark(plan, step, new StepMark(StepState.Done, at, Seconds: seconds));
        }
    }

    /// <summary>Begins a plan on a job and works through it up to a step.</summary>
    /// <param name="upTo">The step that is next.</param>
    public static void Begin(Job job, RepairFacts facts, string upTo, DateTimeOffset at)
    {
        Plan plan = New(job, facts, at);
        foreach (PlanStep step in plan.Composed.Steps.TakeWhile(step => step.Id != upTo))
        {
            at += AStep;
            Mark(
                plan,
                step,
                step.Hold switch
                {
                    StepHold.Photo or StepHold.Run => new StepMark(StepState.Skipped, at, Text: "Was done before", Seconds: 5),
                    StepHold.List => new StepMark(
                        StepState.Done,
                        at,
                        Lines: ["cooler fan on CPU", "rear fan on SYS2"],
                        Seconds: AStep.TotalSeconds
                    ),
                    _ => new StepMark(StepState.Done, at, Seconds: AStep.TotalSeconds),
                }
            );
        }
    }

    private static Plan New(Job job, RepairFacts facts, DateTimeOffset at)
    {
        Plan plan = new()
        {
            Id = Guid.CreateVersion7(at),
            WorkshopId = job.WorkshopId,
            JobId = job.Id,
            Number = 1,
            Round = 1,
            Facts = facts,
            Composed = RepairPlanner.Of(facts),
            FromSetup = 1,
            FromMount = 1,
            BegunAt = at,
        };
        job.Plans.Add(plan);
        return plan;
    }

    private static void Mark(Plan plan, PlanStep step, StepMark mark) =>
        plan.Marks.Add(
            new PlanMark
            {
                WorkshopId = plan.WorkshopId,
                PlanId = plan.Id,
                StepId = step.Id,
                Mark = mark,
            }
        );
}
