using System.Text.Json.Serialization;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Money;
using Remedos.Core.Repair;

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
    WaitsFor? WaitingFor,
    IReadOnlyList<ConditionedRun> Before,
    IReadOnlyList<ConditionedRun> After,
    string? RepairFound,
    string? RepairDone,
    DateTimeOffset? MountedAt,
    ComparisonResult? Verdict,
    DateTimeOffset? HandedOverAt,
    DateOnly? RecheckOn,
    DateTimeOffset Now
)
{
    /// <summary>
    /// What is held against what; <see cref="Before"/> and <see cref="After"/> are its runs. Null while the job has no setup.
    /// </summary>
    public SetupPair? Pair { get; init; }

    /// <summary>In the order of their numbers.</summary>
    public IReadOnlyList<SetupFacts> Setups { get; init; } = [];

    /// <summary>The round that is on.</summary>
    public int Round { get; init; } = 1;

    /// <summary>What the owner wants most: quiet, cheap, fast, lasting or looks; null when it was not asked.</summary>
    public string? Wish { get; init; }

    /// <summary>A run after the repair, and none of the machine as it came: it cannot be held against anything.</summary>
    public bool NoBaseline => Before.Count == 0 && After.Count > 0;

    /// <summary>The cooler that this round found on it: what is looked at hangs on it, whatever is put on later.</summary>
    public string? FoundCoolerKind { get; init; }

    /// <summary>What was asked, seen and felt.</summary>
    public IReadOnlyList<EvidenceItem> Observations { get; init; } = [];

    /// <summary>What the diagnosis says by now; null when nothing has been observed.</summary>
    public DiagnosisStand? Diagnosis { get; init; }

    /// <summary>
    /// What is to be noted so that its runs are held against its own parts, a phrase each; none where they are, or no note would help.
    /// </summary>
    public IReadOnlyList<string> PartsToNote { get; init; } = [];

    /// <summary>Whether a note of its parts is what brings the diagnosis on.</summary>
    public bool WantsParts => Diagnosis is { ByKind: true, IsSure: false } && PartsToNote.Count > 0;

    /// <summary>The cooler's warranty; null where none was noted.</summary>
    public Warranty? Warranty { get; init; }

    /// <summary>What the owner chose; null while nobody has.</summary>
    public DecisionRoute? Route { get; init; }

    /// <summary>The cooler that is to go on, by name; null when none was chosen.</summary>
    public string? CoolerToFit { get; init; }

    /// <summary>Whether a plan of its air is kept.</summary>
    public bool HasAirPlan { get; init; }

    /// <summary>How far the repair's steps are; null while none were begun in this round.</summary>
    public PlanProgress? Plan { get; init; }

    /// <summary>The repair that the owner chose or the diagnosis leads to; null while neither says.</summary>
    public ProposedRepair? Proposed { get; init; }

    /// <summary>The day on the workshop's calendar.</summary>
    public DateOnly Today => DateOnly.FromDateTime(Now.Date);
}

/// <summary>What a repair takes that was not begun yet.</summary>
/// <param name="Minutes">Of hands, by its steps.</param>
/// <param name="MountsCooler">Whether new paste has to settle after it.</param>
public sealed record ProposedRepair(string Title, double Minutes, bool MountsCooler);

/// <summary>A step of the order of work.</summary>
/// <param name="Id">intake, look, before, diagnosis, repair, after or handover.</param>
/// <param name="Title">Its name on the rail.</param>
/// <param name="Done">Whether it is done.</param>
/// <param name="Conclusion">One line that stands for it when it is folded.</param>
public sealed record JobStep(string Id, string Title, bool Done, string Conclusion);

/// <summary>The one next step.</summary>
/// <param name="Action">fill-in, look, before-run, parts, check, run, warranty, decide, coolers, air, plan, repair, after-run,
/// next-round, handover or none: where the button leads.</param>
/// <param name="OtherAction">A second way, less advised; null where there is none.</param>
public sealed record NowCard(
    string Title,
    string Why,
    int? Minutes,
    string? Caution,
    string Action,
    string Button,
    string? OtherAction = null,
    string? OtherButton = null
);

/// <summary>The largest words on the sheet; Claim is the part that is set off.</summary>
/// <param name="Hot">Whether the claim is bad news about heat.</param>
/// <param name="Beside">What is read after it, in smaller words.</param>
public sealed record Headline(string Lead, string Claim, string Rest, bool Hot = false, string Beside = "");

/// <summary>What a machine in the workshop waits for; tags stand in this order, first what needs a hand now.</summary>
[JsonConverter(typeof(KebabEnum<WaitsFor>))]
public enum WaitsFor
{
    /// <summary>For a run or a check.</summary>
    Test,

    /// <summary>For what is to be mended.</summary>
    Repair,

    /// <summary>For what has to be known of it.</summary>
    Intake,

    /// <summary>For its new paste to settle.</summary>
    Paste,

    /// <summary>For its owner to fetch it.</summary>
    PickUp,

    /// <summary>For something that was ordered.</summary>
    Part,

    /// <summary>For its owner to answer.</summary>
    Owner,

    /// <summary>For nothing: it has left.</summary>
    Done,
}

/// <summary>What a technician may set by hand, because no run or note tells it.</summary>
public static class Waits
{
    /// <summary>All of it.</summary>
    public static IReadOnlyList<WaitsFor> ByHand { get; } = [WaitsFor.Owner, WaitsFor.Part];
}
