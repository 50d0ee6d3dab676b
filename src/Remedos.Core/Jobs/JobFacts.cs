using Remedos.Core.Comparison;

namespace Remedos.Core.Jobs;

/// <summary>What the rules of the order of work look at.</summary>
/// <param name="CoolerKind">The cooler that is on it now.</param>
public sealed record JobFacts(
    string? Owner,
    string? Machine,
    string? Noticed,
    double? TemperatureLimitC,
    double? RatedPowerW,
    string? CoolerKind,
    string? WaitingFor,
    IReadOnlyList<ConditionedRun> Before,
    IReadOnlyList<ConditionedRun> After,
    string? RepairFound,
    string? RepairDone,
    DateTimeOffset? MountedAt,
    ComparisonResult? Verdict,
    DateTimeOffset? HandedOverAt,
    DateOnly? RecheckOn,
    DateTimeOffset Now);

/// <summary>A step of the order of work.</summary>
/// <param name="Id">intake, before, repair, after or handover.</param>
/// <param name="Title">Its name on the rail.</param>
/// <param name="Done">Whether it is done.</param>
/// <param name="Conclusion">One line that stands for it when it is folded.</param>
public sealed record JobStep(string Id, string Title, bool Done, string Conclusion);

/// <summary>The one next step.</summary>
/// <param name="Action">fill-in, before-run, repair, after-run, handover or none: where the button leads.</param>
/// <param name="OtherAction">A second way, less advised; null where there is none.</param>
public sealed record NowCard(string Title, string Why, int? Minutes, string? Caution, string Action, string Button, string? OtherAction = null, string? OtherButton = null);

/// <summary>The largest words on the sheet; Claim is the part that is set off.</summary>
/// <param name="Hot">Whether the claim is bad news about heat.</param>
public sealed record Headline(string Lead, string Claim, string Rest, bool Hot = false);

/// <summary>What a machine in the workshop waits for; tags are sorted by this order.</summary>
public static class Waits
{
    public const string Test = "test", Repair = "repair", Paste = "paste", Intake = "intake", Owner = "owner", Part = "part", PickUp = "pick-up", Done = "done";

    /// <summary>First what needs a hand now, last what needs none.</summary>
    public static readonly string[] Order = [Test, Repair, Intake, Paste, PickUp, Part, Owner, Done];

    /// <summary>What a technician may set by hand, because no run or note tells it.</summary>
    public static readonly string[] ByHand = [Owner, Part];
}
