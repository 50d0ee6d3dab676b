using System.Text.Json.Serialization;
using Remedos.Core.Diagnosis;
using Remedos.Core.Repair;

namespace Remedos.Core.Learning;

/// <summary>What was put into a machine to stay.</summary>
[JsonConverter(typeof(KebabEnum<FittedKind>))]
public enum FittedKind
{
    /// <summary>A cooler.</summary>
    Cooler,

    /// <summary>A paste.</summary>
    Paste,

    /// <summary>A mounting kit.</summary>
    MountingKit,
}

/// <summary>How parts fare that were fitted here.</summary>
/// <param name="Fitted">Machines that it went into, those that it was taken off again among them.</param>
/// <param name="TakenOff">Where it was given up before the machine left.</param>
/// <param name="CameBack">Machines that left with it and came again with what it is there to prevent.</param>
/// <param name="MonthsUntilBack">The median of those; null for none.</param>
public sealed record FittedParts(int Fitted, int TakenOff, int CameBack, double? MonthsUntilBack)
{
    /// <summary>Faults of the cooler itself that wear brings; what a cleaning or new paste cures is none.</summary>
    public static readonly IReadOnlyList<string> WornOut =
    [
        .. DiagnosisTables.Causes.Where(cause => cause.Repair is RepairRow.ReplaceLoop or RepairRow.ReplaceFan).Select(cause => cause.Id),
    ];

    private static readonly IReadOnlyList<string> PasteFaults = ["paste-aged"],
        KitFaults = ["poor-contact"];

    /// <summary>What a part is there to prevent: found in a machine that comes again, it is that part which comes back.</summary>
    public static IReadOnlyList<string> FaultsOf(FittedKind kind) =>
        kind switch
        {
            FittedKind.Cooler => WornOut,
            FittedKind.Paste => PasteFaults,
            _ => KitFaults,
        };

    /// <summary>In words: “Fitted here in 9 machines; taken off again in one; 2 came back, after 14 months.”</summary>
    public string Sentence =>
        $"Fitted here in {Machines(Fitted)}"
        + (TakenOff > 0 ? $"; taken off again in {Words(TakenOff)}" : "")
        + (CameBack, MonthsUntilBack) switch
        {
            (0, _) => TakenOff > 0 ? "; none came back." : ", none came back.",
            (_, { } months) => $"; {Words(CameBack)} came back, after {months:0} months.",
            _ => $"; {Words(CameBack)} came back.",
        };

    private static string Machines(int count) => count == 1 ? "one machine" : $"{count} machines";

    private static string Words(int count) => count == 1 ? "one" : $"{count}";
}
