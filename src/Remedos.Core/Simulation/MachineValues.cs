using Remedos.Core.Machines;

namespace Remedos.Core.Simulation;

/// <summary>Single values of a machine's parts that a machine file may set otherwise than the library has them; all are above 0.</summary>
internal static class MachineValues
{
    private static readonly Dictionary<string, Func<BenchMachine, double, BenchMachine>> Known = new(StringComparer.Ordinal)
    {
        ["processor.insideCPerW"] = (machine, value) =>
            machine with
            {
                Processor = machine.Processor with { InsideResistanceCPerW = value },
            },
        ["processor.idleW"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Processor = machine.Truth.Processor with { IdleW = value } },
            },
        ["processor.sustainedW"] = (machine, value) =>
            machine with
            {
                Processor = machine.Processor with { SustainedPowerW = value, BoostPowerW = Math.Max(value, machine.BoostW) },
            },
        ["processor.boostW"] = (machine, value) => machine with { Processor = machine.Processor with { BoostPowerW = value } },
        ["processor.boostSeconds"] = (machine, value) => machine with { Processor = machine.Processor with { BoostSeconds = value } },
        ["processor.limitC"] = (machine, value) => machine with { Processor = machine.Processor with { TemperatureLimitC = value } },
        ["cooler.pasteCPerW"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { PasteCPerW = value } },
            },
        ["cooler.toFinsCPerW"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { ToFinsCPerW = value } },
            },
        ["cooler.finsCPerW"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { FinsCPerW = value } },
            },
        ["cooler.baseJPerK"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { BaseJPerK = value } },
            },
        ["cooler.finsJPerK"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { FinsJPerK = value } },
            },
        ["cooler.maxRpm"] = (machine, value) =>
            machine with
            {
                Cooler = machine.Cooler with { Fans = [.. machine.Cooler.Fans!.Select(fan => fan with { MaxRpm = value })] },
            },
        ["case.airJPerK"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Case = machine.Truth.Case with { AirJPerK = value } },
            },
        ["case.chassisJPerK"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Case = machine.Truth.Case with { ChassisJPerK = value } },
            },
        ["case.chassisWPerK"] = (machine, value) =>
            machine with
            {
                Truth = machine.Truth with { Case = machine.Truth.Case with { ChassisWPerK = value } },
            },
        ["graphics.insideCPerW"] = (machine, value) =>
            machine with
            {
                Graphics = machine.Graphics?.With(value, machine.Graphics.FinsResistanceCPerW!.Value),
            },
        ["graphics.finsCPerW"] = (machine, value) =>
            machine with
            {
                Graphics = machine.Graphics?.With(machine.Graphics.InsideResistanceCPerW!.Value, value),
            },
        ["boardW"] = (machine, value) => machine with { Truth = machine.Truth with { BoardW = value } },
    };

    /// <summary>The machine with these values; null, with a sentence, when one is unknown or cannot be.</summary>
    public static BenchMachine? Set(BenchMachine machine, IReadOnlyDictionary<string, double> values, out string? problem)
    {
        problem = null;
        foreach ((string name, double value) in values)
        {
            problem ??=
                !Known.ContainsKey(name) ? $"values: there is no “{name}”; known are {string.Join(", ", Known.Keys)}."
                : value is not (> 0 and < 1e6) ? $"values.{name}: {value} is not above 0."
                : null;
            machine = problem is null ? Known[name](machine, value) : machine;
        }

        problem ??=
            machine.Processor.SustainedPowerW <= machine.Truth.Processor.IdleW
                ? "values: a processor sustains more watts than it draws at idle."
            : machine.BoostW < machine.Processor.SustainedPowerW ? "values: a boost is no less than the sustained watts."
            : machine.Processor.TemperatureLimitC is < 60 or > 130
                ? $"values.processor.limitC: {machine.Processor.TemperatureLimitC} is not between 60 and 130."
            : null;
        return problem is null ? machine : null;
    }
}
