namespace Remedos.Core.Runs;

/// <summary>What holds a processor back where heat does not: a budget of watts, or firmware that pins its clock.</summary>
/// <param name="Cause">Its id in the diagnosis.</param>
/// <param name="Watts">What it is left, W.</param>
/// <param name="ClockLossPercent">What of the clock goes with it; null where that is not known.</param>
public sealed record HeldBack(string Cause, double Watts, double? ClockLossPercent)
{
    internal const string PowerLimited = "power-limited",
        ClockHeld = "clock-held";

    /// <summary>What does it, in words.</summary>
    public string By => Cause == PowerLimited ? "power limit" : "firmware";
}
