namespace Remedos.Core.Jobs;

/// <summary>Usual minutes of the order of work: what the Now card names, and what a plan of the day reckons with.</summary>
public static class WorkMinutes
{
    /// <summary>Of hands.</summary>
    public const int Intake = 3,
        Note = 2,
        Look = 5,
        Check = 10,
        Decide = 5,
        Write = 10,
        Repair = 45,
        Handover = 5;

    /// <summary>A run from the first cable to the end of its cool-down, and what of it is hands.</summary>
    public const int Run = 30,
        RunHands = 5;
}
