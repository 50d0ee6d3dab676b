using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Simulation;

/// <summary>How severe a fault has to be so that its owner brings the machine in.</summary>
public static class FeltFaults
{
    /// <summary>
    /// Machines whose cooler does not hold them although nothing is wrong: of the parts, and not to be simulated as a fault.
    /// </summary>
    public const string TooSmall = "cooler-undersized";

    /// <summary>Faults of the way of the heat: below this nobody brings a machine in for them, °C at the rated watts.</summary>
    private static readonly string[] OfTheHeat =
    [
        "dust-blocked-fins",
        "paste-aged",
        "poor-contact",
        "pump-failed",
        "loop-restricted",
        "coolant-lost",
        "fan-failed",
        "fan-reversed",
        "fan-control",
        "case-starved",
    ];

    private const double Step = 0.15;

    /// <summary>What its owner feels, °C.</summary>
    public const double FeltC = 3;

    private const string Room = "room-hot";

    /// <summary>Where the chip would come to rest at its rated watts in a room, without a fault, °C.</summary>
    /// <param name="heat">What heat meets in it; null for what its parts say.</param>
    public static double AtRatedC(BenchMachine spec, double roomC, HeatMachine? heat = null) =>
        new SteadySolver(heat ?? HeatMachines.Of(spec)).Solve(LoadOf(spec) with { RoomC = roomC }).ChipC!.Value;

    /// <summary>The faults, each as severe as it takes to be felt in this machine; null where one never is.</summary>
    /// <param name="faults">Severities 0 … 1 by cause.</param>
    /// <param name="feltC">By how much a fault of the heat has to raise the chip at its rated watts, °C.</param>
    public static Dictionary<string, double>? Of(BenchMachine spec, IReadOnlyDictionary<string, double> faults, double feltC = FeltC)
    {
        HeatMachine heat = HeatMachines.Of(spec);
        SteadyLoad load = LoadOf(spec);
        double sound = new SteadySolver(heat).Solve(load).ChipC!.Value;
        Dictionary<string, double> felt = new(faults);
        foreach (string fault in faults.Keys)
        {
            // A hot room is the fault only where it brings the chip to its limit.
            Func<double, bool> isFelt =
                fault == Room ? severity => sound + Effect(severity).RoomAddC >= spec.Processor.TemperatureLimitC + 1
                : OfTheHeat.Contains(fault) ? severity => new SteadySolver(heat, Effect(severity)).Solve(load).ChipC >= sound + feltC
                : _ => true;
            while (!isFelt(felt[fault]))
            {
                felt[fault] += Step;
                if (felt[fault] > 1)
                {
                    return null;
                }
            }

            FaultEffects Effect(double severity) => FaultEffects.Of([new(fault, severity)]);
        }

        return felt;
    }

    private static SteadyLoad LoadOf(BenchMachine spec) => new(spec.Processor.SustainedPowerW, spec.Truth.Graphics?.IdleW ?? 0, spec.RoomC);
}
