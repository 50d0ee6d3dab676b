namespace Remedos.Core.Repair;

/// <summary>How far a plan is.</summary>
/// <param name="Next">The first step that is neither done nor skipped; null when all are.</param>
/// <param name="Number">Its place, from 1; after the last when all are done.</param>
/// <param name="MinutesLeft">Of hands, by the plan.</param>
/// <param name="MinutesTaken">As logged; null where nothing was.</param>
public sealed record PlanProgress(PlanStep? Next, int Number, int Count, double MinutesLeft, double? MinutesTaken)
{
    /// <summary>A step at which somebody stood longer was interrupted: that is no time of hands.</summary>
    private const double InterruptedTimes = 4,
        InterruptedAfterMinutes = 10;

    /// <summary>What the plan says of the steps that were logged; null where none was.</summary>
    public double? MinutesPlannedOfTaken { get; init; }

    /// <summary>Whether nothing is left.</summary>
    public bool IsDone => Next is null;

    /// <summary>Whether hands are still wanted: what is left is more than to measure it again.</summary>
    public bool UnderHands => Next is not (null or { Stage: StepStage.After });

    /// <summary>Of a plan with its marks.</summary>
    public static PlanProgress Of(RepairPlan plan, IReadOnlyDictionary<string, StepMark> marks)
    {
        PlanStep[] left = [.. plan.Steps.Where(step => !marks.ContainsKey(step.Id))];
        PlanStep? next = left.FirstOrDefault();
        PlanStep[] logged =
        [
            .. plan.Steps.Where(step => step.Hold != StepHold.Run && marks.GetValueOrDefault(step.Id) is { Seconds: not null }),
        ];
        double[] taken =
        [
            .. logged.Select(step =>
                Math.Min(marks[step.Id].Seconds!.Value / 60, Math.Max(InterruptedAfterMinutes, InterruptedTimes * step.Minutes))
            ),
        ];
        return new PlanProgress(
            next,
            next is null ? plan.Steps.Count + 1 : plan.Steps.ToList().IndexOf(next) + 1,
            plan.Steps.Count,
            left.Where(step => step.Hold != StepHold.Run).Sum(step => step.Minutes),
            taken.Length == 0 ? null : taken.Sum()
        )
        {
            MinutesPlannedOfTaken = taken.Length == 0 ? null : logged.Sum(step => step.Minutes),
        };
    }

    /// <summary>The lines that a step puts back: those that were listed where they came out.</summary>
    public static IReadOnlyList<string> Listed(RepairPlan plan, PlanStep step, IReadOnlyDictionary<string, StepMark> marks) =>
        [
            .. plan
                .Steps.Where(other => other.UndoneBy == step.Id && other.Hold == StepHold.List)
                .SelectMany(other => marks.GetValueOrDefault(other.Id)?.Lines ?? []),
        ];
}
