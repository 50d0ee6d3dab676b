using Remedos.Core.Physics;

namespace Remedos.Core.Machines;

/// <summary>
/// A processor as any catalogue has it, and beside it what no catalogue tells: the simulated bench needs that, and nobody else may look
/// at it. So are the other parts.
/// </summary>
public sealed record TrueProcessor(string Id, ProcessorPart Part, ProcessorTruth Truth, string Reason);

/// <summary>A cooler and its truth.</summary>
public sealed record TrueCooler(string Id, CoolerPart Part, CoolerTruth Truth, string Reason);

/// <summary>A case and its truth.</summary>
public sealed record TrueCase(string Id, CasePart Part, CaseTruth Truth, string Reason);

/// <summary>A graphics card and its truth.</summary>
public sealed record TrueCard(string Id, GraphicsPart Part, GraphicsTruth Truth, string Reason);

/// <summary>Of a processor.</summary>
/// <param name="DieJPerK">Die and spreader, J/K.</param>
/// <param name="StaticShare">Share of its power that leaks, and grows by 0.4 % a °C.</param>
/// <param name="ControlOffsetC">What the maker adds to the control temperature; 0 for none.</param>
/// <param name="CoreSpreadC">Hottest minus coolest core with even contact.</param>
public sealed record ProcessorTruth(
    double DieJPerK,
    double IdleW,
    double StaticShare,
    double FullClockMHz,
    double ControlOffsetC,
    int Cores,
    double CoreSpreadC
);

/// <summary>Of a cooler, well mounted.</summary>
/// <param name="PasteCPerW">Spreader to base, °C/W.</param>
/// <param name="ToFinsCPerW">Base to fins, or block to coolant at full flow, °C/W.</param>
/// <param name="FinsCPerW">Fins or radiator to the air, at full fan speed, °C/W.</param>
/// <param name="FlowLpm">Of a healthy loop with its pump at full speed, L/min; null for air.</param>
/// <param name="PumpRpm">At full speed; null for air.</param>
public sealed record CoolerTruth(
    double PasteCPerW,
    double ToFinsCPerW,
    double FinsCPerW,
    double BaseJPerK,
    double FinsJPerK,
    double? FlowLpm = null,
    double? PumpRpm = null
);

/// <summary>Of one of a case's fans.</summary>
/// <param name="PathK">Of what stands in its way, Pa/(m³/h)².</param>
public sealed record FanTruth(double StallPa, double FreeM3PerH, double PathK);

/// <summary>Of a case.</summary>
/// <param name="Fans">In the order of the part's own.</param>
/// <param name="Supply">The power supply's fan, where it breathes the case.</param>
/// <param name="PanelK">Of the hole that the side panel leaves, Pa/(m³/h)².</param>
/// <param name="AirJPerK">Air, board and light parts, J/K.</param>
/// <param name="ChassisJPerK">Metal, J/K.</param>
/// <param name="ChassisWPerK">From the air into the metal; half as much from the metal to the room.</param>
public sealed record CaseTruth(
    IReadOnlyList<FanTruth> Fans,
    CaseFan? Supply,
    IReadOnlyList<Opening> Openings,
    double PanelK,
    double AirJPerK,
    double ChassisJPerK,
    double ChassisWPerK
);

/// <summary>Of a graphics card.</summary>
/// <param name="HotspotC">Its hot spot above its chip at full watts, °C.</param>
public sealed record GraphicsTruth(double IdleW, double DieJPerK, double FinsJPerK, double HotspotC);

/// <summary>Of all parts of a machine.</summary>
/// <param name="BoardW">Heat of board, memory and supply into the case.</param>
public sealed record MachineTruth(ProcessorTruth Processor, CoolerTruth Cooler, CaseTruth Case, GraphicsTruth? Graphics, double BoardW);
