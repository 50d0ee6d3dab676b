namespace Remedos.Core.Bays;

/// <summary>What a guided run asks of the machine; null leaves a thing as it is.</summary>
/// <param name="Load">0 idle … 1 full.</param>
/// <param name="Work">Which <see cref="LoadKind"/>.</param>
/// <param name="PanelOff">Whether the side panel is to be off.</param>
/// <param name="FanRpm">The processor fan's turns where they were asked for so; goes before <paramref name="FanPercent"/>.</param>
public sealed record BenchOrder(
    double Load,
    string Work = LoadKind.AllCore,
    double? FanPercent = null,
    double? PowerCapW = null,
    bool PumpFull = false,
    bool PanelOff = false,
    double? FanRpm = null
);

/// <summary>
/// What hands do to a simulated machine. A real one has real hands, and is sent none of this.
/// </summary>
/// <param name="PanelOff">Whether the side panel is off outside of a run.</param>
/// <param name="Cooler">Its own when null; <see cref="Lifted"/>; or another of the library by id, freshly mounted.</param>
/// <param name="RoomC">Another room, °C; null for its own.</param>
/// <param name="Instruments">Those of <see cref="AllInstruments"/> that are held to it.</param>
/// <param name="Program">Whether the owner's program runs on it.</param>
public sealed record BenchHands(
    bool PanelOff = false,
    string? Cooler = null,
    double? RoomC = null,
    IReadOnlyList<string>? Instruments = null,
    bool Program = false
)
{
    /// <summary>What a bench can hold beside the probe.</summary>
    public const string Lifted = "lifted",
        ContactThermometer = "contact-thermometer",
        SoundMeter = "sound-meter",
        RoomThermometer = "room-thermometer";

    /// <summary>Hands that have done nothing yet.</summary>
    public static BenchHands AtFirst { get; } = new(Instruments: [RoomThermometer, SoundMeter]);

    /// <summary>All of them.</summary>
    public static IReadOnlyList<string> AllInstruments { get; } = [ContactThermometer, SoundMeter, RoomThermometer];

    /// <summary>Whether this bench has the instrument.</summary>
    public bool Holds(string instrument) => Instruments?.Contains(instrument) == true;
}

/// <summary>A kind of load that a machine under test can make for itself.</summary>
/// <param name="Workload">What a run's conditions call it (docs/formats.md).</param>
public sealed record LoadKind(string Id, string Title, string Why, string Workload)
{
    /// <summary>Loads that a probe makes by itself.</summary>
    public const string AllCore = "all-core",
        Vector = "vector",
        Mixed = "mixed",
        Bursty = "bursty";

    private const double BurstSeconds = 8,
        RestSeconds = 4;

    /// <summary>All of them, the usual one first.</summary>
    public static IReadOnlyList<LoadKind> All { get; } =
    [
        new(AllCore, "All cores", "Whole-number work on every core: steady, and what most heavy programs come to.", "all-core"),
        new(Vector, "Vectors", "Floating-point work in wide registers: the hottest there is, for finding faults.", "vector"),
        new(Mixed, "Mixed", "Half of each, as rendering and photo work does it.", "mixed"),
        new(Bursty, "Bursts", "Eight seconds of work, four of rest: how it behaves between the extremes.", "burst"),
    ];

    /// <summary>The share of full work at a moment of the load, 0 or 1.</summary>
    public static double DutyAt(string id, double seconds) => id != Bursty || seconds % (BurstSeconds + RestSeconds) < BurstSeconds ? 1 : 0;
}
