using Remedos.Core.Physics;

namespace Remedos.Core.Machines;

/// <summary>A processor as heat sees it.</summary>
/// <param name="InsideCPerW">Die to spreader, °C/W.</param>
/// <param name="DieJPerK">Die and spreader, J/K.</param>
/// <param name="StaticShare">Share of its power that leaks, and grows by 0.4 % a °C.</param>
/// <param name="ControlOffsetC">What the maker adds to the control temperature; 0 for none.</param>
/// <param name="CoreSpreadC">Hottest minus coolest core with even contact.</param>
public sealed record ProcessorSpec(
    string Id,
    string Name,
    double InsideCPerW,
    double DieJPerK,
    double IdleW,
    double SustainedW,
    double BoostW,
    double BoostSeconds,
    double StaticShare,
    double LimitC,
    double FullClockMHz,
    double ControlOffsetC,
    int Cores,
    double CoreSpreadC,
    string Reason
);

/// <summary>A cooler as it leaves the maker, well mounted.</summary>
/// <param name="Kind">down-draught, tower, dual-tower, liquid or passive.</param>
/// <param name="PasteCPerW">Spreader to base, °C/W.</param>
/// <param name="ToFinsCPerW">Base to fins, or block to coolant at full flow, °C/W.</param>
/// <param name="FinsCPerW">Fins or radiator to the air, at full fan speed, °C/W.</param>
/// <param name="FlowLpm">Of a liquid cooler's healthy loop, L/min; null for air.</param>
/// <param name="PumpRpm">Of a liquid cooler's pump at full speed; null for air.</param>
/// <param name="RadiatorFans">Of 120 mm, side by side on its radiator; 0 for air.</param>
public sealed record CoolerSpec(
    string Id,
    string Name,
    string Kind,
    double PasteCPerW,
    double ToFinsCPerW,
    double FinsCPerW,
    double BaseJPerK,
    double FinsJPerK,
    double MaxRpm,
    double NoiseAtMaxDba,
    double? FlowLpm,
    double? PumpRpm,
    string Reason,
    int RadiatorFans = 0
)
{
    /// <summary>Whether it carries its heat by a liquid.</summary>
    public bool IsLiquid => Kind == "liquid";
}

/// <summary>A case: its fans and openings, and what it stores.</summary>
/// <param name="PanelK">Of the hole that the side panel leaves, Pa/(m³/h)².</param>
/// <param name="AirJPerK">Air, board and light parts, J/K.</param>
/// <param name="ChassisJPerK">Metal, J/K.</param>
/// <param name="ChassisWPerK">From the air into the metal; half as much from the metal to the room.</param>
public sealed record CaseSpec(
    string Id,
    string Name,
    IReadOnlyList<CaseFan> Fans,
    IReadOnlyList<Opening> Openings,
    double PanelK,
    double AirJPerK,
    double ChassisJPerK,
    double ChassisWPerK,
    string Reason
);

/// <summary>A graphics card.</summary>
public sealed record GraphicsSpec(
    string Id,
    string Name,
    double IdleW,
    double FullW,
    double InsideCPerW,
    double FinsCPerW,
    double DieJPerK,
    double FinsJPerK,
    double MaxRpm,
    double HotspotC,
    string Reason
);

/// <summary>How fans are steered: by which temperature, along which points.</summary>
/// <param name="Source">cpu, coolant, gpu, board, or cpu-gpu for the hotter of the two.</param>
/// <param name="Points">Temperature °C and fan %, rising; flat before the first and after the last.</param>
/// <param name="RampSeconds">How lazily the fan follows.</param>
public sealed record Steering(string Source, IReadOnlyList<SteeringPoint> Points, double RampSeconds = 8)
{
    /// <summary>What a fan can follow.</summary>
    public static readonly string[] Sources = ["cpu", "coolant", "gpu", "board", "cpu-gpu"];

    /// <summary>Share of full speed at a temperature, 0 … 1.</summary>
    public double Share(double temperatureC)
    {
        SteeringPoint before = Points[0];
        if (temperatureC <= before.C)
        {
            return before.Percent / 100;
        }

        for (int i = 1; i < Points.Count; i++)
        {
            SteeringPoint point = Points[i];
            if (temperatureC < point.C)
            {
                return (before.Percent + ((point.Percent - before.Percent) * (temperatureC - before.C) / (point.C - before.C))) / 100;
            }

            before = point;
        }

        return before.Percent / 100;
    }
}

/// <summary>One point of a fan's steering.</summary>
public sealed record SteeringPoint(double C, double Percent);

/// <summary>A whole machine.</summary>
/// <param name="Radiator">Of a liquid cooler: front-in, top-out or rear-out; null for air.</param>
/// <param name="BoardW">Heat of board, memory and supply into the case.</param>
/// <param name="Shows">What its board shows beside package temperature, power, clock, load and fan: cores, control, coolant, tubes, pump,
/// case-air, case-fan.</param>
/// <param name="RoomC">Where it usually stands.</param>
public sealed record MachineSpec(
    string Id,
    string Name,
    ProcessorSpec Processor,
    CoolerSpec Cooler,
    CaseSpec Case,
    GraphicsSpec? Graphics,
    string? Radiator,
    Steering CoolerFan,
    Steering CaseFans,
    double BoardW,
    IReadOnlyList<string> Shows,
    double RoomC,
    string Reason
);
