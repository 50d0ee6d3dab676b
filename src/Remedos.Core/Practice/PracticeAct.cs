using System.Text.Json.Serialization;
using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Repair;

namespace Remedos.Core.Practice;

/// <summary>What can be done with a practice machine.</summary>
[JsonConverter(typeof(KebabEnum<PracticeDeed>))]
public enum PracticeDeed
{
    /// <summary>The owner is asked.</summary>
    Ask,

    /// <summary>It is looked at, felt, listened to.</summary>
    Look,

    /// <summary>It is run on the bench.</summary>
    Run,

    /// <summary>Something of it is changed for a while.</summary>
    Hands,

    /// <summary>Something of it is mended.</summary>
    Repair,
}

/// <summary>Something that was done to a practice machine, and what it cost.</summary>
/// <param name="Kind">What was done.</param>
/// <param name="Id">The evidence, the run's variant, what hands did, or the repair.</param>
/// <param name="State">What was told or seen; null where nothing was, or for what is no question.</param>
/// <param name="Minutes">Of hands.</param>
/// <param name="PartsMinor">In the currency's minor unit.</param>
/// <param name="Days">That the owner waits for parts.</param>
/// <param name="Cured">Causes that are gone with it.</param>
public sealed record PracticeAct(
    PracticeDeed Kind,
    string Id,
    string Title,
    string? State,
    double Minutes,
    long PartsMinor = 0,
    double Days = 0,
    IReadOnlyList<string>? Cured = null
)
{
    /// <summary>Whether the machine is not afterwards what it was: what was not measured before cannot be measured any more.</summary>
    [JsonIgnore]
    public bool IsIrreversible =>
        Kind == PracticeDeed.Repair || (Kind == PracticeDeed.Hands && Id.StartsWith(PracticeStand.CoolerPrefix, StringComparison.Ordinal));
}

/// <summary>How a practice case stands: what was done so far. Everything else follows from it.</summary>
/// <param name="Acts">In their order.</param>
public sealed record PracticeStand(IReadOnlyList<PracticeAct> Acts)
{
    /// <summary>Before the names of coolers among what hands did.</summary>
    internal const string CoolerPrefix = "cooler=";

    /// <summary>Minutes of labour that are no repair of the tables.</summary>
    private const double LiftMinutes = 10,
        PutBackMinutes = 15,
        OtherCoolerMinutes = 25,
        PanelMinutes = 1,
        RoomMinutes = 10,
        InstrumentMinutes = 1,
        RunMinutes = Jobs.WorkMinutes.RunHands;

    /// <summary>What is dearer is not in the drawer: the owner waits for it.</summary>
    private const long OrderedFromMinor = 2000;

    private const double DeliveryDays = 2;

    /// <summary>Nothing was done yet.</summary>
    public static PracticeStand Fresh { get; } = new([]);

    /// <summary>Causes that are gone by now.</summary>
    [JsonIgnore]
    public IReadOnlyList<string> Cured => [.. Acts.SelectMany(act => act.Cured ?? []).Distinct(StringComparer.Ordinal)];

    /// <summary>The cooler that is on it: its own when null, <see cref="BenchHands.Lifted"/>, or another by id.</summary>
    [JsonIgnore]
    public string? Cooler =>
        Acts.LastOrDefault(act => act.Kind == PracticeDeed.Hands && act.Id.StartsWith(CoolerPrefix, StringComparison.Ordinal)) is { } act
        && act.Id[CoolerPrefix.Length..] is { Length: > 0 } id
            ? id
            : null;

    /// <summary>Whether the cooler lies beside the machine.</summary>
    [JsonIgnore]
    public bool IsOff => Cooler == BenchHands.Lifted;

    /// <summary>Minutes of labour so far.</summary>
    [JsonIgnore]
    public double Minutes => Acts.Sum(act => act.Minutes);

    /// <summary>What was asked and seen, the last word on each.</summary>
    [JsonIgnore]
    public IReadOnlyList<EvidenceItem> Told =>
        [
            .. Acts.Where(act => act is { Kind: PracticeDeed.Ask or PracticeDeed.Look, State: not null })
                .GroupBy(act => act.Id)
                .Select(group => new EvidenceItem(group.Key, group.Last().State!)),
        ];

    private PracticeStand With(PracticeAct act) => new([.. Acts, act]);

    /// <summary>Asks the owner, or looks, feels and listens.</summary>
    /// <returns>The stand afterwards, or the sentence that says why it cannot be.</returns>
    public (PracticeStand? After, string? Problem) Asked(PracticeCase practice, string evidence)
    {
        if (DiagnosisTables.EvidenceOf(evidence) is not { Kind: "symptom" or "look" } row)
        {
            return (null, $"Nobody can tell “{evidence}”: it is measured.");
        }

        if (!Witness.CanTell(practice, row))
        {
            return (null, $"This machine has nothing of it: {row.Title}.");
        }

        if (!row.Reversible && !IsOff)
        {
            return (null, "For that the cooler has to be off.");
        }

        // Both are seen in the moment when the cooler comes off; that was paid for.
        double minutes = row.Reversible ? row.Minutes : 1;
        string? state = new Witness(practice, Cured.Except(AtLift), Acts.Any(act => act.Id == RepairRow.Clean)).Tell(evidence)?.State;
        return (
            With(new PracticeAct(Witness.IsOwners(row) ? PracticeDeed.Ask : PracticeDeed.Look, row.Id, row.Title, state, minutes)),
            null
        );
    }

    /// <summary>The paste that was taken off is what a lifted cooler shows.</summary>
    private IReadOnlyList<string> AtLift => IsOff ? Acts.Last(act => act.Id == CoolerPrefix + BenchHands.Lifted).Cured ?? [] : [];

    /// <summary>A run was begun in the bay.</summary>
    public PracticeStand Ran(string variant) =>
        With(new PracticeAct(PracticeDeed.Run, variant, RunVariant.All.First(one => one.Id == variant).Title, null, RunMinutes));

    /// <summary>Hands changed something about the machine.</summary>
    /// <param name="before">As it was; null for its start.</param>
    public PracticeStand Handled(PracticeCase practice, BenchHands? before, BenchHands after)
    {
        before ??= BenchHands.AtFirst;
        PracticeStand stand = this;
        void Add(bool changed, string id, string title, double minutes)
        {
            stand = changed ? stand.With(new PracticeAct(PracticeDeed.Hands, id, title, null, minutes)) : stand;
        }

        Add(before.PanelOff != after.PanelOff, "panel", after.PanelOff ? "Side panel off" : "Side panel on", PanelMinutes);
        Add(before.RoomC != after.RoomC, "room", "Carried to another room", RoomMinutes);
        Add((after.Instruments ?? []).Except(before.Instruments ?? []).Any(), "instruments", "An instrument put to it", InstrumentMinutes);
        return before.Cooler == after.Cooler ? stand : stand.With(CoolerAct(practice, after.Cooler));
    }

    private PracticeAct CoolerAct(PracticeCase practice, string? cooler)
    {
        string[] gone = [.. practice.Faults.Keys.Where(FaultEffects.OfTheMount.Contains).Except(Cured)];
        (string title, double minutes, long parts) = cooler switch
        {
            BenchHands.Lifted => ("Cooler lifted", LiftMinutes, 0L),
            null => ("Own cooler seated, with new paste", PutBackMinutes, RepairRow.Of(RepairRow.Remount).PartsMinor),
            _ => (
                $"{MachineLibrary.Coolers.First(one => one.Id == cooler).Part.Name} mounted, with new paste",
                OtherCoolerMinutes,
                RepairRow.Of(RepairRow.Remount).PartsMinor
            ),
        };
        return new PracticeAct(PracticeDeed.Hands, CoolerPrefix + cooler, title, null, minutes, parts, 0, gone);
    }

    /// <summary>A repair that leaves the cooler on it as it is.</summary>
    /// <returns>The stand afterwards, or the sentence that says why it cannot be.</returns>
    public (PracticeStand? After, string? Problem) Repaired(PracticeCase practice, string repair)
    {
        if (RepairRow.All.FirstOrDefault(row => row.Id == repair) is not { } row || !Repairs.Contains(row))
        {
            return (null, $"There is no such repair here: “{repair}”.");
        }

        if (IsOff)
        {
            return (null, "The cooler lies beside it: put it on first.");
        }

        if (row.Opening == CauseRow.Cooler && Cooler is not null)
        {
            return (null, "Another cooler is on it: put its own back first.");
        }

        string[] cured =
        [
            .. practice
                .Faults.Keys.Where(cause =>
                    DiagnosisTables.CauseOf(cause).Repair == repair
                    || (row.Opening == CauseRow.Cooler && FaultEffects.OfTheMount.Contains(cause))
                )
                .Except(Cured),
        ];
        return (
            With(
                new PracticeAct(
                    PracticeDeed.Repair,
                    repair,
                    row.Name,
                    null,
                    MinutesOf(practice, row),
                    row.PartsMinor,
                    row.PartsMinor >= OrderedFromMinor ? DeliveryDays : 0,
                    cured
                )
            ),
            null
        );
    }

    /// <summary>Minutes of labour, by the steps that the repair has on such a machine.</summary>
    public static double MinutesOf(PracticeCase practice, RepairRow repair) =>
        RepairPlanner.MinutesOf(new RepairFacts { Acts = [], CoolerOff = practice.Machine.Cooler.Kind }, repair.Id);

    /// <summary>What can be done besides another cooler, which hands mount.</summary>
    public static IReadOnlyList<RepairRow> Repairs { get; } =
    [
        .. RepairRow.All.Where(row =>
            !RepairRow.IsAnotherCooler(row.Id)
            && DiagnosisTables.Causes.Any(cause => cause.Repair == row.Id && !PracticeCase.NotHere.Contains(cause.Id))
        ),
    ];

    /// <summary>What is wrong with it now, another cooler included.</summary>
    public IReadOnlyList<string> Left(PracticeCase practice) => [.. practice.Faults.Keys.Except(Cured).Except(Beside(practice))];

    /// <summary>What lies beside the machine with its own cooler, while another one is on it.</summary>
    private IEnumerable<string> Beside(PracticeCase practice) =>
        Cooler is { } cooler and not BenchHands.Lifted
            ? practice.Faults.Keys.Where(cause =>
                cause == Simulation.FeltFaults.TooSmall ? practice.Holds(cooler) : FaultEffects.OfTheCooler.Contains(cause)
            )
            : [];

    /// <summary>What stays on it for good: another cooler is bought, was waited for, and mends what lies beside the machine.</summary>
    public PracticeStand Kept(PracticeCase practice) =>
        Cooler is { } cooler and not BenchHands.Lifted
        && !Acts.Reverse().TakeWhile(act => act.Kind != PracticeDeed.Hands).Any(act => act.Id == RepairRow.Upgrade)
            ? With(
                new PracticeAct(
                    PracticeDeed.Repair,
                    RepairRow.Upgrade,
                    $"{MachineLibrary.Coolers.First(one => one.Id == cooler).Part.Name} stays on it",
                    null,
                    0,
                    RepairRow.Of(RepairRow.Upgrade).PartsMinor,
                    DeliveryDays,
                    [.. Beside(practice).Except(Cured)]
                )
            )
            : this;
}
