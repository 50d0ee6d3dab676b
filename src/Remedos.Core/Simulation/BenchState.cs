namespace Remedos.Core.Simulation;

/// <summary>What a hand or a script sets on a machine under test.</summary>
/// <param name="Load">0 idle … 1 all cores full.</param>
/// <param name="GraphicsLoad">0 … 1.</param>
/// <param name="FanPercent">The processor's and the case's fans by hand; null for their own steering.</param>
/// <param name="PowerCapW">A cap on the processor's power; null for none.</param>
/// <param name="PanelOff">Whether the side panel is off.</param>
/// <param name="PumpFull">Whether the pump was set to full speed.</param>
public sealed record BenchSettings(
    double Load = 0,
    double GraphicsLoad = 0,
    double? FanPercent = null,
    double? PowerCapW = null,
    bool PanelOff = false,
    bool PumpFull = false
);

/// <summary>
/// What the sensors of a machine say at a moment; power, clock and load are means since the reading before. Null for what it does not have.
/// </summary>
public sealed record BenchReading(
    double Seconds,
    double ChipC,
    double PowerW,
    double ClockMHz,
    double LoadPercent,
    double FanRpm,
    double CaseFanRpm,
    double RoomC,
    double CaseAirC,
    bool Throttled,
    double SoundDba,
    double Score
)
{
    /// <summary>Each core's sensor, °C; empty where the machine shows none.</summary>
    public IReadOnlyList<double> CoresC { get; init; } = [];

    /// <summary>The temperature that fans follow, °C.</summary>
    public double? ControlC { get; init; }

    /// <summary>The liquid, °C.</summary>
    public double? CoolantC { get; init; }

    /// <summary>The tube that leaves the block, °C.</summary>
    public double? TubeOutC { get; init; }

    /// <summary>The tube that comes back, °C.</summary>
    public double? TubeReturnC { get; init; }

    /// <summary>The pump, rpm.</summary>
    public double? PumpRpm { get; init; }

    /// <summary>The graphics chip, °C.</summary>
    public double? GraphicsC { get; init; }

    /// <summary>The graphics chip's hottest point, °C.</summary>
    public double? GraphicsHotspotC { get; init; }

    /// <summary>The graphics card, W.</summary>
    public double? GraphicsPowerW { get; init; }
}

/// <summary>The same moment without the sensors' faults.</summary>
public sealed record BenchTruth(
    double Seconds,
    double DieC,
    double PowerW,
    double ClockMHz,
    double FanShare,
    double CaseFanShare,
    double RoomC,
    double CaseAirC,
    double? FlowLpm
);
