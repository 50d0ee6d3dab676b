using Remedos.Core.Repair;
using Remedos.Data.Jobs;

namespace Remedos.Server.Repair;

/// <summary>How far a repair is, in a line on the sheet.</summary>
/// <param name="Step">Title of the next step; null when all are done.</param>
/// <param name="At">Its place, from 1.</param>
public sealed record PlanSummary(int Number, string Title, string? Step, int At, int Count, double MinutesLeft, double? MinutesTaken)
{
    public static PlanSummary Of(Plan plan)
    {
        PlanProgress at = plan.Progress;
        return new(plan.Number, plan.Composed.Title, at.Next?.Title, at.Number, at.Count, at.MinutesLeft, at.MinutesTaken);
    }
}

/// <summary>A job's repairs by steps.</summary>
internal static class JobPlans
{
    /// <summary>The one that is under way, or was done last, in the round that is on; null before.</summary>
    public static Plan? Current(Job job) =>
        job.Plans.Where(plan => plan.RemovedAt is null && plan.Round == job.Round).MaxBy(plan => plan.Number);

    public static Plan? Of(Job job, int number) => job.Plans.Find(plan => plan.Number == number && plan.RemovedAt is null);
}
