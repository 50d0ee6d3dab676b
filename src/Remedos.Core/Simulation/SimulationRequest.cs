using Remedos.Core.Machines;
using Remedos.Core.Runs;

namespace Remedos.Core.Simulation;

/// <summary>One stretch of a simulated run.</summary>
/// <param name="Seconds">How long.</param>
/// <param name="Load">0 idle … 1 all cores full.</param>
/// <param name="FanPercent">Fans by hand; null for their own steering.</param>
/// <param name="PowerCapW">Null for none.</param>
/// <param name="Panel">closed, side-off or open-bench.</param>
/// <param name="GraphicsLoad">0 … 1.</param>
public sealed record SimulationStep(
    double Seconds,
    double Load,
    double? FanPercent = null,
    double? PowerCapW = null,
    string Panel = "closed",
    double GraphicsLoad = 0,
    bool PumpFull = false
);

/// <summary>
/// What is to be simulated: a machine of the library, or of named parts, its faults, its room, and the steps (docs/formats.md).
/// </summary>
/// <param name="Machine">A machine of the library, whose parts are taken where none are named here.</param>
/// <param name="Faults">Severities 0 … 1 by id.</param>
/// <param name="Values">Single values of its parts that differ from the library's, such as "cooler.finsCPerW".</param>
public sealed record SimulationRequest(
    IReadOnlyList<SimulationStep>? Steps,
    string? Machine = null,
    string? Processor = null,
    string? Cooler = null,
    string? Case = null,
    string? Graphics = null,
    string? Radiator = null,
    string? CoolerFan = null,
    string? CaseFans = null,
    double? RoomC = null,
    IReadOnlyDictionary<string, double>? Faults = null,
    IReadOnlyDictionary<string, double>? Values = null
)
{
    private const double LongestSeconds = 7 * 86400;

    /// <summary>The machine; null, with a sentence, when something is unknown or cannot be.</summary>
    public BenchMachine? Resolve(out string? problem)
    {
        MachineRow? row = MachineLibrary.Rows.FirstOrDefault(row => row.Id == (Machine ?? "home-tower"));
        if (row is null)
        {
            problem = $"machine: there is no “{Machine}”; known are {string.Join(", ", MachineLibrary.Rows.Select(one => one.Id))}.";
            return null;
        }

        // Another cooler brings its own kind of radiator, or none.
        string? radiator = Cooler is null
            ? Radiator ?? row.Radiator
            : Radiator
                ?? (
                    MachineLibrary.Coolers.FirstOrDefault(one => one.Id == Cooler)?.Part.IsLiquid == true
                        ? row.Radiator ?? "front-in"
                        : null
                );
        BenchMachine? machine = MachineLibrary.Resolve(
            row with
            {
                Processor = Processor ?? row.Processor,
                Cooler = Cooler ?? row.Cooler,
                Case = Case ?? row.Case,
                Graphics = Graphics ?? row.Graphics,
                Radiator = radiator,
                CoolerFan = CoolerFan ?? row.CoolerFan,
                CaseFans = CaseFans ?? row.CaseFans,
                RoomC = RoomC ?? row.RoomC,
            },
            out problem
        );
        machine = machine is not null && Values is not null ? MachineValues.Set(machine, Values, out problem) : machine;
        problem ??= Wrong(machine!);
        return problem is null ? machine : null;
    }

    private string? Wrong(BenchMachine machine)
    {
        if (Steps is not { Count: > 0 })
        {
            return "steps: say at least one, such as { \"seconds\": 300, \"load\": 0 }.";
        }

        for (int i = 0; i < Steps.Count; i++)
        {
            SimulationStep step = Steps[i];
            string? wrong =
                step.Seconds is not (> 0 and <= LongestSeconds) ? $"seconds: {step.Seconds} is not between 0 and {LongestSeconds:0}."
                : step.Load is not (>= 0 and <= 1) ? $"load: {step.Load} is not between 0 and 1."
                : step.GraphicsLoad is not (>= 0 and <= 1) ? $"graphicsLoad: {step.GraphicsLoad} is not between 0 and 1."
                : step.FanPercent is not (null or (>= 0 and <= 100)) ? $"fanPercent: {step.FanPercent} is not between 0 and 100."
                : step.PowerCapW is not (null or (>= 5 and <= 1000)) ? $"powerCapW: {step.PowerCapW} is not between 5 and 1000."
                : !RunConditions.Panels.Contains(step.Panel)
                    ? $"panel: “{step.Panel}” is none of {string.Join(", ", RunConditions.Panels)}."
                : null;
            if (wrong is not null)
            {
                return $"steps[{i}].{wrong}";
            }
        }

        if (Steps.Sum(step => step.Seconds) > LongestSeconds)
        {
            return "steps: a week is the longest run.";
        }

        foreach ((string id, double severity) in Faults ?? new Dictionary<string, double>())
        {
            string? wrong =
                !FaultEffects.Ids.Contains(id) ? $"there is no such fault; known are {string.Join(", ", FaultEffects.Ids)}."
                : severity is not (>= 0 and <= 1) ? $"a severity is between 0 and 1, not {severity}."
                : severity > 0 && id is "pump-failed" or "loop-restricted" or "coolant-lost" && !machine.Cooler.IsLiquid
                    ? $"“{machine.Cooler.Name}” has no loop."
                : severity > 0 && id == "gpu-cooling" && machine.Graphics is null ? "this machine has no graphics card."
                : null;
            if (wrong is not null)
            {
                return $"faults.{id}: {wrong}";
            }
        }

        return machine.RoomC is >= -20 and <= 60 ? null : $"roomC: {machine.RoomC} is not between −20 and 60.";
    }
}
