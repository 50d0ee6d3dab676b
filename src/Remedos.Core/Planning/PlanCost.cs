namespace Remedos.Core.Planning;

/// <summary>What a plan costs: the open minutes for which machines stay, and for those past their promise ten times as much more.</summary>
public static class PlanCost
{
    /// <summary>A promise weighs as much as ten owners who wait without one.</summary>
    public const double Late = 10;

    /// <summary>Of one machine.</summary>
    /// <param name="ready">When it is ready, open minutes from now.</param>
    /// <param name="due">When it is promised; infinite for not at all.</param>
    public static double Of(double ready, double due) => ready + (Late * Math.Max(0, ready - due));
}
