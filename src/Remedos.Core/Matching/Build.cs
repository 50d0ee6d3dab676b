namespace Remedos.Core.Matching;

/// <summary>A processor as its cooler sees it. Power W, temperatures °C, resistance °C/W.</summary>
/// <param name="SustainedPowerW">What it draws for as long as it works.</param>
/// <param name="UsefulPowerW">More than this it cannot turn into speed, for its voltage or budget ends first; null when unknown.</param>
/// <param name="InsideResistanceCPerW">Die to spreader; null when unknown.</param>
/// <param name="PriceMinor">In the currency's minor unit; null when unknown.</param>
/// <param name="Unlocked">Whether its limits can be raised.</param>
public sealed record ProcessorPart(
    string Name, string? Socket, double SustainedPowerW, double TemperatureLimitC, double? BoostPowerW = null, double? BoostSeconds = null, double? UsefulPowerW = null, double? InsideResistanceCPerW = null,
    long? PriceMinor = null, bool? Unlocked = null);

/// <summary>A plug for a fan or a pump.</summary>
/// <param name="SteeredBy">cpu, coolant, gpu, board, cpu-gpu, or full for one that always gives all.</param>
public sealed record Header(string Name, double MaxCurrentA, string? SteeredBy = null);

/// <summary>A board; distances run from the socket's centre, mm.</summary>
public sealed record BoardPart(string? Socket, double? MemoryFromSocketMm = null, double? FirstSlotFromSocketMm = null, IReadOnlyList<Header>? Headers = null, string? Name = null);

/// <summary>Memory; its height above the slot, mm.</summary>
public sealed record MemoryPart(double? HeightMm, string? Name = null);

/// <summary>A place where a radiator can hang.</summary>
/// <param name="Place">front, bottom and side blow in; top and rear blow out.</param>
/// <param name="MaxThicknessMm">Radiator with its fans.</param>
public sealed record RadiatorPlace(string Place, IReadOnlyList<double> SizesMm, double? MaxThicknessMm = null);

/// <summary>A fan of the case as it runs.</summary>
/// <param name="Direction">in or out.</param>
public sealed record BuildFan(string Place, string Direction, double SizeMm, double Rpm);

/// <summary>A case, mm.</summary>
public sealed record CasePart(double? MaxCoolerHeightMm = null, double? MaxCardLengthMm = null, IReadOnlyList<RadiatorPlace>? Radiators = null, IReadOnlyList<BuildFan>? Fans = null, string? Name = null);

/// <summary>A graphics card.</summary>
public sealed record GraphicsPart(double? PowerW = null, double? LengthMm = null, string? Name = null);

/// <summary>What the owner wants.</summary>
/// <param name="School">air-first, liquid-first, quiet-first or least-spend.</param>
public sealed record Wants(string? School = null, long? MaxPriceMinor = null, double? MaxNoiseDba = null);

/// <summary>A machine that a cooler is sought for (docs/formats.md).</summary>
/// <param name="HottestRoomC">Of the year; null for the room as it is.</param>
/// <param name="CurrentCooler">Id of the one that is on it; it is always a candidate.</param>
public sealed record Build(
    ProcessorPart Processor, BoardPart? Board = null, MemoryPart? Memory = null, CasePart? Case = null, GraphicsPart? Graphics = null, double RoomC = 22, double? HottestRoomC = null, string? CurrentCooler = null, Wants? Wants = null)
{
    /// <summary>The first thing that cannot be, as a sentence with its place; null when all is well.</summary>
    public string? Problem()
    {
        string? Between(string field, double? value, double low, double high, string unit) => value is { } number && !(number >= low && number <= high) ? $"{field}: {number:0.###} is outside {low:0.##} to {high:0.##} {unit}." : null;
        return Processor is null ? "processor: it is missing; a cooler is chosen for a processor."
            : Between("processor.sustainedPowerW", Processor.SustainedPowerW, 5, 1000, "W") ?? Between("processor.temperatureLimitC", Processor.TemperatureLimitC, 40, 130, "°C") ?? Between("processor.boostPowerW", Processor.BoostPowerW, 5, 2000, "W")
            ?? Between("processor.usefulPowerW", Processor.UsefulPowerW, 5, 2000, "W") ?? Between("processor.insideResistanceCPerW", Processor.InsideResistanceCPerW, 0.005, 1, "°C/W") ?? Between("processor.priceMinor", Processor.PriceMinor, 0, 1e9, "")
            ?? Between("board.memoryFromSocketMm", Board?.MemoryFromSocketMm, 20, 200, "mm") ?? Between("board.firstSlotFromSocketMm", Board?.FirstSlotFromSocketMm, 20, 300, "mm")
            ?? Between("memory.heightMm", Memory?.HeightMm, 10, 100, "mm") ?? Between("case.maxCoolerHeightMm", Case?.MaxCoolerHeightMm, 20, 300, "mm") ?? Between("case.maxCardLengthMm", Case?.MaxCardLengthMm, 100, 700, "mm")
            ?? Between("graphics.powerW", Graphics?.PowerW, 0, 1500, "W") ?? Between("graphics.lengthMm", Graphics?.LengthMm, 60, 500, "mm") ?? Between("roomC", RoomC, -20, 60, "°C") ?? Between("hottestRoomC", HottestRoomC, -20, 60, "°C")
            ?? (Board?.Headers ?? []).Select((header, i) => Between($"board.headers[{i}].maxCurrentA", header.MaxCurrentA, 0.05, 20, "A")).FirstOrDefault(one => one is not null)
            ?? (Case?.Fans ?? []).Select((fan, i) => fan.Direction is not ("in" or "out") ? $"case.fans[{i}].direction: “{fan.Direction}” is neither in nor out." : Between($"case.fans[{i}].sizeMm", fan.SizeMm, 30, 250, "mm") ?? Between($"case.fans[{i}].rpm", fan.Rpm, 0, 6000, "rpm")).FirstOrDefault(one => one is not null)
            ?? (Wants?.School is { } school && School.All.All(one => one.Id != school) ? $"wants.school: “{school}” is none of {string.Join(", ", School.All.Select(one => one.Id))}." : null)
            ?? Between("wants.maxNoiseDba", Wants?.MaxNoiseDba, 5, 100, "dB(A)");
    }

    /// <summary>Parts that contradict each other, a sentence each; the answer goes on with the board's word.</summary>
    public IReadOnlyList<string> Contradictions() =>
    [
        .. new[]
        {
            Processor.Socket is { } chip && Board?.Socket is { } board && chip != board ? $"The processor is for socket {chip}, the board has {board}: one of them is noted wrongly." : null,
            HottestRoomC < RoomC ? $"The hottest room ({HottestRoomC:0} °C) is cooler than the room ({RoomC:0} °C); the room counts." : null,
            Graphics?.LengthMm > Case?.MaxCardLengthMm ? $"The card is {Graphics!.LengthMm:0} mm long and the case takes {Case!.MaxCardLengthMm:0} mm: one of them is noted wrongly." : null,
            Processor.UsefulPowerW < Processor.SustainedPowerW ? $"The processor draws {Processor.SustainedPowerW:0} W for long and can use {Processor.UsefulPowerW:0} W: the larger counts." : null,
        }.OfType<string>(),
    ];
}
