namespace Remedos.Core.Planning;

/// <summary>What a plan says of a machine, as sentences.</summary>
public static class PlanWords
{
    /// <summary>Why it will be late.</summary>
    /// <param name="who">Whose it is; null for nobody's.</param>
    public static string Late(LateReason reason, string? who) =>
        reason switch
        {
            LateReason.Passed => "That has passed already.",
            LateReason.Part => "Its part comes too late for it.",
            LateReason.Work => "Its own work takes longer, even with nothing else in the workshop.",
            LateReason.Owner => $"{who ?? "Whoever has it"} has too much to do before it: give it to somebody else.",
            LateReason.Bays => "The bays are taken by others until then.",
            _ => "Hands are at other machines until then: put it first, or tell its owner.",
        };

    /// <summary>Why it is not planned.</summary>
    public static string Held(WorkHold hold) =>
        hold switch
        {
            WorkHold.Owner => "It waits for its owner’s answer; nobody knows when that comes.",
            _ => "It waits for a part, and nobody has noted on which day it comes.",
        };

    /// <summary>What the plan takes for granted or leaves out; null for nothing.</summary>
    public static string? Given(bool asks, IReadOnlyList<WorkPiece> leftOut) =>
        (asks, leftOut.Count > 0) switch
        {
            (true, true) => "If its owner says yes when asked, and without a second run after a day, to keep its promise.",
            (true, false) => "If its owner says yes when asked.",
            (false, true) => "Without a second run after a day, to keep its promise.",
            _ => null,
        };

    /// <summary>What intervals stand on.</summary>
    public static string Stands(IReadOnlyDictionary<WorkKind, Spread> spreads)
    {
        Spread repairs = spreads[WorkKind.Repair],
            runs = spreads[WorkKind.Run];
        string hands =
            repairs.Logged == 0
                ? "No repair was logged step by step yet: how far off times may be is an estimate."
                : $"{(repairs.Logged == 1 ? "One repair was" : $"{repairs.Logged} repairs were")} logged step by step here: they take "
                    + $"{repairs.Factor:0.00} times what is planned.";
        return runs.Logged == 0
            ? hands
            : $"{hands} {(runs.Logged == 1 ? "One run was" : $"{runs.Logged} runs were")} led by a bay: {runs.Factor:0.00} times.";
    }
}
