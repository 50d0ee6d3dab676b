namespace Remedos.Core.Bays;

/// <summary>How long a guided run still goes on, as far as that can be told.</summary>
public static class RunTime
{
    /// <summary>Usual lengths of its stages, s; with the hands that hook it up they are half an hour.</summary>
    private const double Idle = 180,
        Load = 1020,
        CoolDown = 300;

    /// <summary>Seconds until it is over, those that follow by themselves included.</summary>
    /// <param name="loadSeconds">As it was asked for; null for until it is level.</param>
    /// <param name="stageLeft">What is left of the stage that is on, s; null when that cannot be told.</param>
    /// <param name="following">Runs that follow by themselves.</param>
    public static double Left(GuidedState state, double? loadSeconds, double? stageLeft, int following)
    {
        double load = loadSeconds ?? Load,
            whole = Idle + load + CoolDown,
            left = state.Stage switch
            {
                GuidedStage.Hand when state.Then == GuidedStage.Load => load + CoolDown,
                GuidedStage.Hand => whole,
                GuidedStage.Idle => (stageLeft ?? Idle) + load + CoolDown,
                GuidedStage.Load => (stageLeft ?? load / 2) + CoolDown,
                GuidedStage.CoolDown => stageLeft ?? CoolDown,
                _ => 0,
            };
        return left + (following * whole);
    }
}
