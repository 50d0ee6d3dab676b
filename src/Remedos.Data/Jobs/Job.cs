using System.Text.Json.Serialization;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Options;

namespace Remedos.Data.Jobs;

/// <summary>One machine in the workshop, from intake to handover.</summary>
public sealed class Job : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Counted per workshop; the tag shows it behind the workshop's letters.</summary>
    public int Number { get; init; }

    public DateTimeOffset CreatedAt { get; init; }

    public DateTimeOffset ChangedAt { get; set; }

    public string? Owner { get; set; }

    public string? Contact { get; set; }

    public string? Machine { get; set; }

    public string? Serial { get; set; }

    public string? Noticed { get; set; }

    public double? RoomC { get; set; }

    public double? TemperatureLimitC { get; set; }

    public double? RatedPowerW { get; set; }

    public string? CoolerKind { get; set; }

    /// <summary>When it was built or bought; null when unknown.</summary>
    public DateOnly? BuiltOn { get; set; }

    /// <summary><see cref="Complete"/> or <see cref="SelfBuilt"/>; null when unknown.</summary>
    public string? Origin { get; set; }

    public const string Complete = "complete",
        SelfBuilt = "self-built";

    /// <summary>Where it stands, in the words of the diagnosis (office, home, …); null when unknown.</summary>
    public string? Setting { get; set; }

    /// <summary>What it is made of, as far as it is known.</summary>
    public MachineParts Parts { get; init; } = new();

    /// <summary>What was measured on it with a ruler.</summary>
    public Measured Measured { get; init; } = new();

    public WarrantyNote Warranty { get; init; } = new();

    /// <summary>What was done to it before it came here, in words.</summary>
    public string? DoneBefore { get; set; }

    /// <summary>The last of it, in the words of the diagnosis (cleaned, repasted, …); null when unknown.</summary>
    public string? LastDone { get; set; }

    /// <summary>What a thermometer read on the loop's tubes under load, °C.</summary>
    public double? TubeOneC { get; set; }

    public double? TubeOtherC { get; set; }

    /// <summary>What was asked, seen and felt; what runs tell is read off them.</summary>
    public IReadOnlyList<EvidenceItem> Observations { get; set; } = [];

    /// <summary>Fans and steering as they are planned; null for as the machine is.</summary>
    public AirPlan? AirPlan { get; set; }

    /// <summary>What the owner chose: repair, cooler, cap or leave; null while nobody has.</summary>
    public string? DecisionRoute { get; set; }

    /// <summary>The option that the owner chose, with the quote they saw; null while nobody has.</summary>
    public OptionChoice? Choice { get; set; }

    /// <summary>Set by hand: owner or part; null lets the rules say what the machine waits for.</summary>
    public string? WaitingFor { get; set; }

    /// <summary>When the owner was told it would be ready; null for no promise.</summary>
    public DateTimeOffset? PromisedAt { get; set; }

    /// <summary>On which day the part comes that it waits for; null when nobody knows.</summary>
    public DateOnly? PartExpectedOn { get; set; }

    /// <summary>Who works on it; null for whoever is free.</summary>
    public Guid? HandledBy { get; set; }

    /// <summary>Machines that have one go first in the plan of the day, the smallest before; null for as the plan finds best.</summary>
    public double? PlanRank { get; set; }

    public RepairNote Repair { get; init; } = new();

    /// <summary>what the owner wants most: quiet, cheap, fast, lasting or looks; null when it was not asked.</summary>
    public string? Wish { get; set; }

    /// <summary>The round that is on, from 1.</summary>
    public int Round { get; set; } = 1;

    /// <summary>In the order of their numbers; loaded by whoever needs them.</summary>
    public List<Setup> Setups { get; init; } = [];

    /// <summary>Those that are over.</summary>
    public List<Round> Rounds { get; init; } = [];

    /// <summary>Repairs that were begun step by step; loaded by whoever needs them.</summary>
    public List<Plan> Plans { get; init; } = [];

    public DateTimeOffset? HandedOverAt { get; set; }

    public DateOnly? RecheckOn { get; set; }

    /// <summary>What a search looks through, in small letters; the number stands behind a #. Made by the database.</summary>
    [JsonIgnore]
    public string? Found { get; private set; }

    /// <summary>Serial number and owner without regard to the letters' case. Made by the database.</summary>
    [JsonIgnore]
    public string? SerialKey { get; private set; }

    [JsonIgnore]
    public string? OwnerKey { get; private set; }

    /// <summary>PostgreSQL's xmin: changes with every write of the row.</summary>
    public uint Version { get; init; }
}

/// <summary>What a machine is made of: names of the workshop's parts, or any words where a part is not known.</summary>
public sealed class MachineParts
{
    public string? Processor { get; set; }

    public string? Board { get; set; }

    public string? Memory { get; set; }

    public double? MemoryHeightMm { get; set; }

    public string? Graphics { get; set; }

    public string? Case { get; set; }

    public string? Cooler { get; set; }

    /// <summary>How many and where.</summary>
    public string? Fans { get; set; }

    public string? FansSteeredBy { get; set; }

    /// <summary>Where its case fans are fixed, the fastest of them, rpm: as logged, or as typed where no log tells.</summary>
    public double? FansFixedRpm { get; set; }

    /// <summary>Where this cooler's radiator hangs and which way it blows: front-in, top-out ….</summary>
    public string? RadiatorAt { get; set; }
}

/// <summary>A warranty as the intake has it.</summary>
public sealed class WarrantyNote
{
    public DateOnly? PurchasedOn { get; set; }

    public int? Months { get; set; }

    public string? EndedBy { get; set; }

    public string? Route { get; set; }
}

/// <summary>What was found and done at the bench in the round that is on.</summary>
public sealed class RepairNote
{
    /// <summary>The causes that were there, once they are known; ids of the diagnosis.</summary>
    public IReadOnlyList<string> Causes { get; set; } = [];

    public string? Found { get; set; }

    public string? Done { get; set; }

    public string? Parts { get; set; }

    public int? Minutes { get; set; }

    /// <summary>What came out and is the owner's.</summary>
    public string? Kept { get; set; }

    /// <summary>A line each of them.</summary>
    public string[] KeptLines => LinesOf(Kept, "\n");

    /// <summary>What was used and built in, one each.</summary>
    public string[] PartsUsed => LinesOf(Parts, "\n", ",");

    private static string[] LinesOf(string? text, params string[] between) =>
        (text ?? "").Split(between, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>The cooler that was chosen to go on, from the workshop's parts or any words.</summary>
    public string? Cooler { get; set; }
}

/// <summary>One change to a job; appended, never altered. Undo, history and audit come from here.</summary>
public sealed class JobEvent : IOfWorkshop
{
    public long Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public Guid PersonId { get; init; }

    public DateTimeOffset At { get; init; }

    /// <summary>One of the server's JobEvents.</summary>
    public required string Kind { get; init; }

    /// <summary>The field or the run that changed; null for created.</summary>
    public string? Subject { get; init; }

    /// <summary>JSON of the value before and after.</summary>
    public string? Before { get; init; }

    public string? After { get; init; }

    /// <summary>The event that this one takes back, or, being the second to name it, puts back; null for a change of its own.</summary>
    public long? Undoes { get; init; }
}
