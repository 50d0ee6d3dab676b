using Remedos.Core.Machines;

namespace Remedos.Core.Repair;

/// <summary>What a plan hangs on. Null is what nobody has noted: the plan then asks, or says both.</summary>
public sealed record RepairFacts
{
    /// <summary>What is to be done, ids of <see cref="RepairRow"/>.</summary>
    public required IReadOnlyList<string> Acts { get; init; }

    /// <summary>A machine of parts, with nothing to be done to it yet.</summary>
    /// <param name="coolerKind">Of the cooler that is on it.</param>
    public static RepairFacts OfMachine(BoardPart? board, ProcessorPart? processor, CasePart? housing, string? coolerKind) =>
        new()
        {
            Acts = [],
            CoolerOff = coolerKind,
            Socket = board?.Socket ?? processor?.Socket,
            Obstacles = housing?.Obstacles ?? [],
        };

    /// <summary>Kind of the cooler that is on it.</summary>
    public string? CoolerOff { get; init; }

    /// <summary>The cooler that goes on instead; null where the same one goes back.</summary>
    public NewCooler? CoolerOn { get; init; }

    /// <summary>Why that one does not go in, as a sentence; null where it does, or nobody has measured.</summary>
    public string? DoesNotFit { get; init; }

    /// <summary>The board's, or the chip's; of <see cref="Matching.SocketPattern"/>.</summary>
    public string? Socket { get; init; }

    /// <summary>What a complete machine's maker did, of <see cref="CaseObstacle"/>.</summary>
    public IReadOnlyList<string> Obstacles { get; init; } = [];

    /// <summary>Whether there is a graphics card.</summary>
    public bool? HasCard { get; init; }

    /// <summary>What ends a warranty that runs, “case” and “cooler”, while the owner has not chosen; empty for nothing.</summary>
    public IReadOnlyList<string> EndsWarranty { get; init; } = [];

    /// <summary>Whether the machine as it stands was run with its case closed, and with fixed fans.</summary>
    public bool HasClosedRun { get; init; }

    /// <inheritdoc cref="HasClosedRun"/>
    public bool HasFixedRun { get; init; }

    /// <summary>Whether it can be switched on at all.</summary>
    public bool Boots { get; init; } = true;

    /// <summary>Whether liquid metal goes on.</summary>
    public bool LiquidMetal { get; init; }

    /// <summary>What pastes and ways to put them on do in each other's place here, in sentences; null for nothing.</summary>
    public string? PastesHere { get; init; }

    /// <summary>Headers and what hangs on them, a sentence each; empty while nobody knows.</summary>
    public IReadOnlyList<string> Plugs { get; init; } = [];

    /// <summary>The header of a loop's pump; null while nobody knows.</summary>
    public string? PumpHeader { get; init; }

    /// <summary>Curves to be typed in, a sentence each; empty for those that are there.</summary>
    public IReadOnlyList<string> Curves { get; init; } = [];

    /// <summary>Where fans hang and which way they blow, a phrase each; empty while nobody knows.</summary>
    public IReadOnlyList<string> Fans { get; init; } = [];

    /// <summary>What a seated cooler's chip stays below on the firmware's page, °C; null where nobody can say.</summary>
    public double? FirstPowerMaxC { get; init; }

    /// <summary>To what the power is capped, W; null while it is not decided.</summary>
    public double? CapW { get; init; }
}

/// <summary>A cooler that goes on.</summary>
/// <param name="Kind">down-draught, tower, dual-tower, liquid or passive.</param>
/// <param name="Place">Where its radiator hangs; null for an air cooler.</param>
/// <param name="TakesBays">Whether that takes the drive cage.</param>
/// <param name="OverMemory">Whether it stands over the memory's slots.</param>
/// <param name="Turned">Whether it goes in only turned by a quarter, blowing upwards.</param>
public sealed record NewCooler(
    string Name,
    string Kind,
    string? Place = null,
    bool TakesBays = false,
    bool OverMemory = false,
    bool Turned = false
)
{
    /// <summary>Some cooler of a kind, at the place where most radiators hang.</summary>
    public static NewCooler OfKind(string kind) => new(CoolerPart.OfKind(kind).Name, kind, kind == "liquid" ? "top" : null);
}
