using System.Text.Json.Serialization;

namespace Remedos.Core.Machines;

/// <summary>A processor as its cooler sees it. Power W, temperatures °C, resistance °C/W.</summary>
/// <param name="SustainedPowerW">What it draws for as long as it works.</param>
/// <param name="UsefulPowerW">More than this it cannot turn into speed, for its voltage or budget ends first; null when unknown.</param>
/// <param name="InsideResistanceCPerW">Die to spreader; null when unknown.</param>
/// <param name="PriceMinor">In the currency's minor unit; null when unknown.</param>
/// <param name="Unlocked">Whether its limits can be raised.</param>
/// <param name="BoxCooler">The cooler that comes in its box, by name; null where none does, or nobody knows.</param>
public sealed record ProcessorPart(
    string Name,
    string? Socket,
    double SustainedPowerW,
    double TemperatureLimitC,
    double? BoostPowerW = null,
    double? BoostSeconds = null,
    double? UsefulPowerW = null,
    double? InsideResistanceCPerW = null,
    long? PriceMinor = null,
    bool? Unlocked = null,
    string? BoxCooler = null
);

/// <summary>A plug for a fan or a pump.</summary>
/// <param name="SteeredBy">cpu, coolant, gpu, board, cpu-gpu, or full for one that always gives all.</param>
/// <param name="SupplyFanA">What the supply's own fan draws, where that hangs on it; null where it does not.</param>
public sealed record Header(string Name, double MaxCurrentA, string? SteeredBy = null, double? SupplyFanA = null);

/// <summary>A heat sink or another tall part on the board beside the socket, mm.</summary>
/// <param name="Side">Of <see cref="Sides"/>.</param>
/// <param name="FromSocketMm">From the socket's centre to its near edge.</param>
/// <param name="Name">What it is: “capacitor”; null for a heat sink.</param>
public sealed record HeatSink(string Side, double FromSocketMm, double HeightMm, string? Name = null)
{
    /// <summary>Where it stands, seen from the socket.</summary>
    public const string Rear = "rear",
        Top = "top",
        MemorySide = "memory",
        SlotSide = "slot";

    /// <summary>All of them.</summary>
    public static readonly string[] Sides = [Rear, Top, MemorySide, SlotSide];

    /// <summary>In the middle of a sentence: “heat sink at the rear”.</summary>
    [JsonIgnore]
    public string Words =>
        $"{Name ?? "heat sink"} "
        + Side switch
        {
            MemorySide => "before the memory",
            SlotSide => "before the first slot",
            _ => $"at the {Side}",
        };
}

/// <summary>A board; distances run from the socket's centre, mm.</summary>
/// <param name="HeatSinks">Null while nobody has measured them; then nothing is asked of them.</param>
public sealed record BoardPart(
    string? Socket,
    double? MemoryFromSocketMm = null,
    double? FirstSlotFromSocketMm = null,
    IReadOnlyList<Header>? Headers = null,
    string? Name = null,
    IReadOnlyList<HeatSink>? HeatSinks = null,
    long? PriceMinor = null
);

/// <summary>Memory; its height above the slot, mm.</summary>
public sealed record MemoryPart(double? HeightMm, string? Name = null, long? PriceMinor = null);

/// <summary>A place where a radiator can hang.</summary>
/// <param name="Place">front, bottom and side blow in; top and rear blow out.</param>
/// <param name="MaxThicknessMm">Radiator with its fans.</param>
/// <param name="HoseNeedMm">How long a hose has to be to reach the socket; null when nobody has measured.</param>
/// <param name="TakesBays">Whether the drive cage has to come out for it.</param>
/// <param name="MaxLengthMm">With its end tanks; null when nobody has measured.</param>
public sealed record RadiatorPlace(
    string Place,
    IReadOnlyList<double> SizesMm,
    double? MaxThicknessMm = null,
    double? HoseNeedMm = null,
    bool? TakesBays = null,
    double? MaxLengthMm = null
);

/// <summary>Where a case takes fans.</summary>
/// <param name="Count">How many side by side.</param>
public sealed record FanPlace(string Place, IReadOnlyList<double> SizesMm, int Count);

/// <summary>A case, mm.</summary>
/// <param name="FanPlaces">Null while nobody has counted.</param>
/// <param name="DepthMm">Front to rear.</param>
/// <param name="Front">Of <see cref="CaseFront"/>; null when unknown.</param>
/// <param name="OpenFrame">Whether it has no walls: everything breathes the room.</param>
/// <param name="BehindBoardMm">Room behind the board tray for a back plate.</param>
/// <param name="RearFromSocketMm">From the socket's centre to the rear wall.</param>
/// <param name="SlotToBottomMm">From the card's slot to the floor of the case.</param>
/// <param name="SupplyApart">Whether the power supply breathes none of its air: a brick, or a chamber of its own.</param>
/// <param name="Obstacles">What a complete machine's maker did; of <see cref="CaseObstacle.All"/>.</param>
public sealed record CasePart(
    double? MaxCoolerHeightMm = null,
    double? MaxCardLengthMm = null,
    IReadOnlyList<RadiatorPlace>? Radiators = null,
    IReadOnlyList<FanNote>? Fans = null,
    string? Name = null,
    IReadOnlyList<FanPlace>? FanPlaces = null,
    double? HeightMm = null,
    double? DepthMm = null,
    double? WidthMm = null,
    IReadOnlyList<string>? Obstacles = null,
    long? PriceMinor = null,
    string? Front = null,
    bool? OpenFrame = null,
    double? BehindBoardMm = null,
    double? RearFromSocketMm = null,
    double? SlotToBottomMm = null,
    bool? SupplyApart = null
)
{
    /// <summary>Its sheets, m²; null while its measures are not known.</summary>
    [JsonIgnore]
    public double? SheetM2 => 2e-6 * ((HeightMm * DepthMm) + (HeightMm * WidthMm) + (DepthMm * WidthMm));
}

/// <summary>What stands in the way of an ordinary cooler in a machine that was bought complete.</summary>
public static class CaseObstacle
{
    /// <summary>What a prebuilt machine can have of its own.</summary>
    public const string WallScrews = "cooler-screws-in-case-wall",
        OddBracket = "odd-bracket",
        OwnFans = "own-fan-protocol";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [WallScrews, OddBracket, OwnFans];
}

/// <summary>A graphics card.</summary>
/// <param name="ResistanceCPerW">Its chip to the air it breathes, its fans at full; null when unknown.</param>
/// <param name="InsideResistanceCPerW">Of that, between chip and fins; null when unknown.</param>
/// <param name="TemperatureLimitC">Null when unknown.</param>
/// <param name="BackPlateMm">How far it stands out of its slot towards the cooler; null when unknown.</param>
/// <param name="ThicknessMm">Away from the cooler, its fans included; null when unknown.</param>
public sealed record GraphicsPart(
    double? PowerW = null,
    double? LengthMm = null,
    string? Name = null,
    double? ResistanceCPerW = null,
    double? TemperatureLimitC = null,
    double? BackPlateMm = null,
    long? PriceMinor = null,
    double? InsideResistanceCPerW = null,
    double? ThicknessMm = null
)
{
    /// <summary>Of its resistance, from the fins to the air, °C/W; null while one of the two is unknown.</summary>
    [JsonIgnore]
    public double? FinsResistanceCPerW => ResistanceCPerW - InsideResistanceCPerW;

    /// <summary>The same with other resistances, °C/W.</summary>
    public GraphicsPart With(double insideCPerW, double finsCPerW) =>
        this with
        {
            ResistanceCPerW = insideCPerW + finsCPerW,
            InsideResistanceCPerW = insideCPerW,
        };
}

/// <summary>What the owner wants.</summary>
/// <param name="School">air-first, liquid-first, quiet-first or least-spend.</param>
public sealed record Wants(string? School = null, long? MaxPriceMinor = null, double? MaxNoiseDba = null)
{
    /// <summary>The names of the schools, as in schools.json.</summary>
    public static readonly string[] Schools = ["air-first", "liquid-first", "quiet-first", "least-spend"];
}

/// <summary>A machine that a cooler is sought for (docs/formats.md).</summary>
/// <param name="HottestRoomC">Of the year; null for the room as it is.</param>
/// <param name="FansFollow">What its case fans follow, of <see cref="Steering.Sources"/> or <see cref="Steering.Fixed"/>; null for what
/// its board says.</param>
/// <param name="RadiatorAt">Where the radiator of the cooler that is on it hangs, of <see cref="RadiatorWay.Ids"/>; null while nobody has
/// said.</param>
/// <param name="CurrentCooler">Id of the one that is on it; it is always a candidate.</param>
/// <param name="FansFixedRpm">Where its case fans are fixed, the fastest of them; null while nobody has noted or logged it.</param>
public sealed record Build(
    ProcessorPart Processor,
    BoardPart? Board = null,
    MemoryPart? Memory = null,
    CasePart? Case = null,
    GraphicsPart? Graphics = null,
    double RoomC = 22,
    double? HottestRoomC = null,
    string? CurrentCooler = null,
    Wants? Wants = null,
    string? FansFollow = null,
    string? RadiatorAt = null,
    double? FansFixedRpm = null
)
{
    /// <summary>Whether a cooler is the one that is on it; of that one the id is not known where only its kind is.</summary>
    public bool IsOn(CoolerPart cooler) => cooler.Id == (CurrentCooler ?? "");

    /// <summary>Where a cooler's radiator hangs, and whether it blows in; null while nobody has said, or it is not on it.</summary>
    public RadiatorWay? RadiatorOf(CoolerPart cooler) => cooler.IsLiquid && IsOn(cooler) ? RadiatorWay.Of(RadiatorAt) : null;

    /// <summary>The first thing that cannot be, as a sentence with its place; null when all is well.</summary>
    public string? Problem()
    {
        string? Between(string field, double? value, double low, double high, string unit) =>
            value is { } number && !(number >= low && number <= high)
                ? $"{field}: {number:0.###} is outside {low:0.##} to {high:0.##} {unit}."
                : null;
        return Processor is null
            ? "processor: it is missing; a cooler is chosen for a processor."
            : Between("processor.sustainedPowerW", Processor.SustainedPowerW, 5, 1000, "W")
                ?? Between("processor.temperatureLimitC", Processor.TemperatureLimitC, 40, 130, "°C")
                ?? Between("processor.boostPowerW", Processor.BoostPowerW, 5, 2000, "W")
                ?? Between("processor.usefulPowerW", Processor.UsefulPowerW, 5, 2000, "W")
                ?? Between("processor.insideResistanceCPerW", Processor.InsideResistanceCPerW, 0.005, 1, "°C/W")
                ?? Between("processor.priceMinor", Processor.PriceMinor, 0, 1e9, "")
                ?? Between("board.memoryFromSocketMm", Board?.MemoryFromSocketMm, 20, 200, "mm")
                ?? Between("board.firstSlotFromSocketMm", Board?.FirstSlotFromSocketMm, 20, 300, "mm")
                ?? Between("memory.heightMm", Memory?.HeightMm, 10, 100, "mm")
                ?? Between("case.maxCoolerHeightMm", Case?.MaxCoolerHeightMm, 20, 300, "mm")
                ?? Between("case.maxCardLengthMm", Case?.MaxCardLengthMm, 100, 700, "mm")
                ?? Between("graphics.powerW", Graphics?.PowerW, 0, 1500, "W")
                ?? Between("graphics.lengthMm", Graphics?.LengthMm, 60, 500, "mm")
                ?? (
                    RadiatorAt is { } at && !RadiatorWay.Ids.Contains(at)
                        ? $"radiatorAt: “{at}” is none of {string.Join(", ", RadiatorWay.Ids)}."
                        : null
                )
                ?? Between("fansFixedRpm", FansFixedRpm, 60, 10000, "rpm")
                ?? Between("roomC", RoomC, -20, 60, "°C")
                ?? Between("hottestRoomC", HottestRoomC, -20, 60, "°C")
                ?? AirPlan.TooMany("board.headers", Board?.Headers, AirPlan.MostHeaders)
                ?? AirPlan.TooMany("case.fans", Case?.Fans, AirPlan.MostFans)
                ?? (Board?.Headers ?? [])
                    .Select(
                        (header, i) =>
                            Between($"board.headers[{i}].maxCurrentA", header.MaxCurrentA, 0.05, 20, "A")
                            ?? Between($"board.headers[{i}].supplyFanA", header.SupplyFanA, 0, 5, "A")
                    )
                    .FirstOrDefault(one => one is not null)
                ?? (Case?.Fans ?? []).Select((fan, i) => fan.Problem($"case.fans[{i}].")).FirstOrDefault(one => one is not null)
                ?? Between("graphics.resistanceCPerW", Graphics?.ResistanceCPerW, 0.01, 2, "°C/W")
                ?? Between("graphics.temperatureLimitC", Graphics?.TemperatureLimitC, 40, 130, "°C")
                ?? Between("graphics.backPlateMm", Graphics?.BackPlateMm, 0, 40, "mm")
                ?? Between("graphics.thicknessMm", Graphics?.ThicknessMm, 5, 150, "mm")
                ?? Between("case.behindBoardMm", Case?.BehindBoardMm, 0, 150, "mm")
                ?? Between("case.rearFromSocketMm", Case?.RearFromSocketMm, 20, 400, "mm")
                ?? Between("case.slotToBottomMm", Case?.SlotToBottomMm, 20, 800, "mm")
                ?? Between("case.heightMm", Case?.HeightMm, 40, 1200, "mm")
                ?? Between("case.depthMm", Case?.DepthMm, 40, 1200, "mm")
                ?? Between("case.widthMm", Case?.WidthMm, 40, 1200, "mm")
                ?? (Board?.HeatSinks ?? [])
                    .Select(
                        (sink, i) =>
                            !HeatSink.Sides.Contains(sink.Side)
                                ? $"board.heatSinks[{i}].side: “{sink.Side}” is none of {string.Join(", ", HeatSink.Sides)}."
                                : Between($"board.heatSinks[{i}].heightMm", sink.HeightMm, 1, 150, "mm")
                                    ?? Between($"board.heatSinks[{i}].fromSocketMm", sink.FromSocketMm, 10, 150, "mm")
                    )
                    .FirstOrDefault(one => one is not null)
                ?? (Case?.Radiators ?? [])
                    .Select(
                        (place, i) =>
                            Between($"case.radiators[{i}].maxThicknessMm", place.MaxThicknessMm, 5, 300, "mm")
                            ?? Between($"case.radiators[{i}].maxLengthMm", place.MaxLengthMm, 60, 900, "mm")
                            ?? Between($"case.radiators[{i}].hoseNeedMm", place.HoseNeedMm, 0, 3000, "mm")
                            ?? (place.SizesMm ?? [])
                                .Select(size => Between($"case.radiators[{i}].sizesMm", size, 60, 800, "mm"))
                                .FirstOrDefault(one => one is not null)
                    )
                    .FirstOrDefault(one => one is not null)
                ?? (Case?.FanPlaces ?? [])
                    .Select(
                        (place, i) =>
                            place.SizesMm is not { Count: > 0 } ? $"case.fanPlaces[{i}].sizesMm: a place takes fans of some size."
                            : place.Count is < 1 or > 12 ? $"case.fanPlaces[{i}].count: {place.Count} is outside 1 to 12."
                            : null
                    )
                    .FirstOrDefault(one => one is not null)
                ?? (Case?.Obstacles ?? [])
                    .Where(obstacle => !CaseObstacle.All.Contains(obstacle))
                    .Select(obstacle => $"case.obstacles: “{obstacle}” is none of {string.Join(", ", CaseObstacle.All)}.")
                    .FirstOrDefault()
                ?? (
                    Case?.Front is { } front && !CaseFront.All.Contains(front)
                        ? $"case.front: “{front}” is none of {string.Join(", ", CaseFront.All)}."
                        : null
                )
                ?? Between("graphics.insideResistanceCPerW", Graphics?.InsideResistanceCPerW, 0.005, 1, "°C/W")
                ?? (
                    Wants?.School is { } school && !Wants.Schools.Contains(school)
                        ? $"wants.school: “{school}” is none of {string.Join(", ", Wants.Schools)}."
                        : null
                )
                ?? Between("wants.maxNoiseDba", Wants?.MaxNoiseDba, 5, 100, "dB(A)");
    }

    /// <summary>Parts that contradict each other, a sentence each; the answer goes on with the board's word.</summary>
    public IReadOnlyList<string> Contradictions() =>
        [
            .. new[]
            {
                Processor.Socket is { } chip && Board?.Socket is { } board && chip != board
                    ? $"The processor is for socket {chip}, the board has {board}: one of them is noted wrongly."
                    : null,
                HottestRoomC < RoomC
                    ? $"The hottest room ({Degrees.At(HottestRoomC)}) is cooler than the room ({Degrees.At(RoomC)}); the room counts."
                    : null,
                Graphics?.LengthMm > Case?.MaxCardLengthMm
                    ? $"The card is {Graphics!.LengthMm:0} mm long and the case takes {Case!.MaxCardLengthMm:0} mm: one of them is "
                        + $"noted wrongly."
                    : null,
                Processor.UsefulPowerW < Processor.SustainedPowerW
                    ? $"The processor draws {Processor.SustainedPowerW:0} W for long and can use {Processor.UsefulPowerW:0} W: the "
                        + $"larger counts."
                    : null,
            }.OfType<string>(),
        ];
}
