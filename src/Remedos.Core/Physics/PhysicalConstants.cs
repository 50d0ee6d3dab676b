using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Physics;

/// <summary>One physical number with where it is from and where it holds.</summary>
/// <param name="Low">Least and most of <paramref name="Of"/> for which it was checked.</param>
public sealed record PhysicalConstant(string Id, double Value, string Unit, double Low, double High, string Of, string Source);

/// <summary>Every physical constant of the program; values, ranges and sources stand in physics.json, and nowhere else.</summary>
public static class PhysicalConstants
{
    /// <summary>All of them, as the file has them.</summary>
    public static IReadOnlyList<PhysicalConstant> All { get; } = Load();

    /// <summary>ρ·c_p of air, J/(m³·K).</summary>
    public static readonly double AirJPerM3K = Of("airHeatJPerM3K");

    /// <summary>ρ·c_p of a coolant, J/(L·K).</summary>
    public static readonly double CoolantJPerLK = Of("coolantJPerLK");

    /// <summary>Resistance of fins goes with the fan's speed to this power.</summary>
    public static readonly double FanExponent = Of("fanResistanceExponent");

    /// <summary>Resistance of a block's film goes with the flow to this power.</summary>
    public static readonly double FlowExponent = Of("flowResistanceExponent");

    /// <summary>A fan is louder by so much for ten times the speed, dB.</summary>
    public static readonly double FanSpeedDb = Of("fanSpeedDb");

    /// <summary>A fan is louder by so much for ten times the diameter, dB.</summary>
    public static readonly double FanSizeDb = Of("fanSizeDb");

    /// <summary>Leakage grows by this share of its static part a °C.</summary>
    public static readonly double LeakagePerC = Of("leakagePerC");

    /// <summary>Where voltage follows the clock, power goes as the clock to this power.</summary>
    public static readonly double PowerOfClock = Of("powerOfClockExponent");

    /// <summary>What of the clock is lost where so much is held of so much, %.</summary>
    /// <param name="holdsW">What it may draw, W.</param>
    /// <param name="watts">What it would.</param>
    public static double ClockLossPercent(double holdsW, double watts) =>
        holdsW >= watts ? 0 : 100 * (1 - Math.Pow(Math.Max(0.01, holdsW / watts), 1 / PowerOfClock));

    /// <summary>Half of what the tubes of a loop differ by, °C.</summary>
    /// <param name="watts">That it carries.</param>
    /// <param name="flowLpm">L/min, above 0.</param>
    public static double HalfTubeDifferenceC(double watts, double flowLpm) => watts * 30 / (CoolantJPerLK * flowLpm);

    private static double Of(string id) => All.Single(one => one.Id == id).Value;

    private static PhysicalConstant[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Physics.physics.json")!;
        PhysicalConstant[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.PhysicalConstantArray)!;
        return rows.FirstOrDefault(row => row.Source.Length < 20 || row.Low >= row.High) is { } wrong
            ? throw new InvalidDataException($"physics.json: “{wrong.Id}” lacks its source or its range.")
            : rows;
    }
}
