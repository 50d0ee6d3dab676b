namespace Remedos.Core.Planning;

/// <summary>What is done when, by whom and where.</summary>
/// <param name="Blocks">In the order of their beginning.</param>
/// <param name="Machines">In the order of the request.</param>
/// <param name="Cost">See <see cref="PlanCost"/>.</param>
public sealed record DayPlan(IReadOnlyList<PlanBlock> Blocks, IReadOnlyList<MachinePlan> Machines, double Cost)
{
    /// <summary>What somebody touches now, or next; null for nothing any more.</summary>
    public PlanBlock? NextOf(string hand) => Blocks.FirstOrDefault(block => block.Hand == hand);
}

/// <summary>When a machine will be ready.</summary>
/// <param name="ReadyAt">By the plan, min from now; null where what was planned for does not reach so far.</param>
/// <param name="Early">Nine in ten times it is later than this.</param>
/// <param name="Late">Nine in ten times it is earlier than this; null where that lies beyond what was planned for.</param>
/// <param name="LateByMinutes">Open minutes past its promise; 0 for in time or not promised.</param>
/// <param name="Reason">What makes it late; null where nothing does.</param>
/// <param name="LeftOut">Pieces that are left out to keep its promise.</param>
public sealed record MachinePlan(
    string Job,
    double? ReadyAt,
    double? Early,
    double? Late,
    double LateByMinutes,
    LateReason? Reason,
    IReadOnlyList<WorkPiece> LeftOut
);

/// <summary>Why a machine will be late.</summary>
public enum LateReason
{
    /// <summary>Its promise has passed already.</summary>
    Passed,

    /// <summary>Its part comes too late.</summary>
    Part,

    /// <summary>Its own work takes too long, even alone in the workshop.</summary>
    Work,

    /// <summary>Whose it is has too much to do.</summary>
    Owner,

    /// <summary>The bays are taken.</summary>
    Bays,

    /// <summary>Hands are at other machines.</summary>
    Hands,
}
