using System.Globalization;
using System.Text;
using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.Runs;

namespace Remedos.Core.Simulation;

/// <summary>What a right reading of a simulated run must find; without noise, from the simulation itself.</summary>
/// <param name="SustainedTemperatureC">And what follows: means over the last 20 % of the longest load, at least 60 s, at most 300
/// s.</param>
/// <param name="SelfResistanceCPerW">What the die adds to itself a watt, at rest at the window's fan speeds and flow.</param>
/// <param name="FinalTemperatureC">Where it would come to rest at the window's power and speeds.</param>
/// <param name="Bands">chip, cooler, bulk: °C/W.</param>
public sealed record SimulationTruth(
    double LoadStartSeconds,
    double LoadEndSeconds,
    double AmbientC,
    double SustainedTemperatureC,
    double SustainedPowerW,
    double SustainedClockMHz,
    double SustainedFanRpm,
    double ResistanceCPerW,
    double SelfResistanceCPerW,
    double OtherHeatRiseC,
    double FinalTemperatureC,
    IReadOnlyDictionary<HeatStep, double> Bands,
    double? FlowLitresPerMinute,
    IReadOnlyDictionary<string, double> Faults
);

/// <summary>A run as the simulated bench records it, a reading a second.</summary>
public sealed class SimulatedRun
{
    private SimulatedRun(
        BenchMachine machine,
        SimulationRequest request,
        IReadOnlyList<BenchReading> readings,
        SimulationTruth? truth,
        RunConditions conditions
    )
    {
        (Machine, Request, Readings, Truth, Conditions) = (machine, request, readings, truth, conditions);
    }

    /// <summary>What runs.</summary>
    public BenchMachine Machine { get; }

    /// <summary>What was asked for.</summary>
    public SimulationRequest Request { get; }

    /// <summary>One a second.</summary>
    public IReadOnlyList<BenchReading> Readings { get; }

    /// <summary>Null when no step has a load.</summary>
    public SimulationTruth? Truth { get; }

    /// <summary>What the analysis of its log must be told.</summary>
    public RunConditions Conditions { get; }

    /// <summary>Simulates a request that <see cref="SimulationRequest.Resolve"/> has found good.</summary>
    public static SimulatedRun Of(BenchMachine machine, SimulationRequest request, int seed)
    {
        IReadOnlyDictionary<string, double> faults = request.Faults ?? new Dictionary<string, double>();
        MachineOnBench bench = new(machine, faults, machine.RoomC, seed);
        IReadOnlyList<SimulationStep> steps = request.Steps!;
        int longest = Enumerable
            .Range(0, steps.Count)
            .Where(i => steps[i].Load > 0)
            .DefaultIfEmpty(-1)
            .MaxBy(i => i < 0 ? 0 : steps[i].Seconds);
        List<BenchReading> readings = [];
        List<BenchTruth> window = [];
        SimulationTruth? truth = null;
        long ticks = 0;
        double start = 0;
        for (int i = 0; i < steps.Count; i++)
        {
            SimulationStep step = steps[i];
            bench.Settings = new BenchSettings(
                step.Load,
                step.GraphicsLoad,
                step.FanPercent,
                step.PowerCapW,
                step.Panel != "closed",
                step.PumpFull
            );
            double end = start + step.Seconds,
                windowStart = end - Math.Min(step.Seconds, Math.Clamp(0.2 * step.Seconds, 60, 300));
            for (; ticks * MachineOnBench.TickSeconds < end - 1e-9; ticks++)
            {
                if (ticks % 10 == 0)
                {
                    readings.Add(bench.Read());
                    if (i == longest && bench.Seconds > windowStart)
                    {
                        window.Add(bench.Truth);
                    }
                }

                bench.Tick();
            }

            truth = i == longest ? TruthOf(machine, bench, window, start, end, step, faults) : truth;
            start = end;
        }

        readings.Add(bench.Read());
        return new SimulatedRun(machine, request, readings, truth, ConditionsOf(machine, steps[Math.Max(0, longest)], bench));
    }

    /// <summary>The log: comma, a header with units, elapsed seconds; only the channels that this machine shows.</summary>
    public string LogCsv()
    {
        BenchReading first = Readings[0];
        List<(string Name, string Format, Func<BenchReading, double?> Of)> columns =
        [
            ("Time [s]", "0.0", r => r.Seconds),
            ("CPU package temperature [°C]", "0", r => r.ChipC),
            ("CPU package power [W]", "0.00", r => r.PowerW),
            ("CPU clock [MHz]", "0", r => r.ClockMHz),
            ("CPU load [%]", "0.0", r => r.LoadPercent),
            ("CPU fan [RPM]", "0", r => r.FanRpm),
            ("Room temperature [°C]", "0.0", r => r.RoomC),
        ];
        void AddIf(bool shown, string name, string format, Func<BenchReading, double?> of)
        {
            if (shown)
            {
                columns.Add((name, format, of));
            }
        }

        AddIf(Machine.Shows.Contains("case-air"), "Case air temperature [°C]", "0.0", r => r.CaseAirC);
        AddIf(Machine.Shows.Contains("case-fan"), "Case fan [RPM]", "0", r => r.CaseFanRpm);
        AddIf(first.ControlC is not null, "CPU control temperature [°C]", "0", r => r.ControlC);
        AddIf(first.CoolantC is not null, "Coolant temperature [°C]", "0.0", r => r.CoolantC);
        AddIf(first.TubeOutC is not null, "Tube block to radiator [°C]", "0.0", r => r.TubeOutC);
        AddIf(first.TubeReturnC is not null, "Tube radiator to block [°C]", "0.0", r => r.TubeReturnC);
        AddIf(first.PumpRpm is not null, "Pump [RPM]", "0", r => r.PumpRpm);
        AddIf(first.GraphicsC is not null, "GPU temperature [°C]", "0", r => r.GraphicsC);
        AddIf(first.GraphicsHotspotC is not null, "GPU hot spot temperature [°C]", "0", r => r.GraphicsHotspotC);
        AddIf(first.GraphicsPowerW is not null, "GPU power [W]", "0.0", r => r.GraphicsPowerW);
        for (int core = 0; core < first.CoresC.Count; core++)
        {
            int at = core;
            columns.Add(($"Core {core} temperature [°C]", "0", r => r.CoresC[at]));
        }

        columns.Add(("Sound level [dBA]", "0.0", r => r.SoundDba));
        columns.Add(("Score", "0.000", r => r.Score));
        StringBuilder text = new();
        text.AppendJoin(',', columns.Select(column => column.Name)).Append(",CPU thermal throttling [Yes/No]\n");
        foreach (BenchReading reading in Readings)
        {
            text.AppendJoin(',', columns.Select(column => column.Of(reading)?.ToString(column.Format, CultureInfo.InvariantCulture)))
                .Append(reading.Throttled ? ",Yes\n" : ",No\n");
        }

        return text.ToString();
    }

    private static SimulationTruth TruthOf(
        BenchMachine machine,
        MachineOnBench bench,
        List<BenchTruth> window,
        double start,
        double end,
        SimulationStep step,
        IReadOnlyDictionary<string, double> faults
    )
    {
        double Mean(Func<BenchTruth, double> of) => window.Average(of);
        (double die, double watts, double room) = (Mean(t => t.DieC), Mean(t => t.PowerW), Mean(t => t.RoomC));
        double card = machine.CardW(step.GraphicsLoad);
        IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> modes = bench.Modes;
        double Between(double from, double to) =>
            modes.Where(mode => mode.TauSeconds > from && mode.TauSeconds <= to).Sum(mode => mode.ResistanceCPerW);
        double self = modes.Sum(mode => mode.ResistanceCPerW);
        return new SimulationTruth(
            start,
            end,
            room,
            die,
            watts,
            Mean(t => t.ClockMHz),
            machine.Cooler.FullRpm * Mean(t => t.FanShare),
            (die - room) / watts,
            self,
            bench.RestC(0, card) - room,
            bench.RestC(watts, card),
            new Dictionary<HeatStep, double>
            {
                [HeatStep.Chip] = Between(0, HeatBand.ChipUpToSeconds),
                [HeatStep.Cooler] = Between(HeatBand.ChipUpToSeconds, HeatBand.CoolerUpToSeconds),
                [HeatStep.Bulk] = Between(HeatBand.CoolerUpToSeconds, double.PositiveInfinity),
            },
            Mean(t => t.FlowLpm ?? 0) is > 0 and var flow ? flow : null,
            faults
        );
    }

    private static RunConditions ConditionsOf(BenchMachine machine, SimulationStep load, MachineOnBench bench) =>
        new(
            load.Load <= 0 ? "idle"
                : load.GraphicsLoad > 0.1 ? "cpu-and-gpu"
                : load.Load < 0.5 ? "burst"
                : "all-core",
            load.Panel,
            load.FanPercent is null ? "auto" : "fixed",
            load.FanPercent,
            load.PowerCapW,
            null,
            Math.Round(bench.Truth.RoomC, 1),
            machine.Processor.TemperatureLimitC,
            machine.Processor.SustainedPowerW,
            CoolerKind: machine.Cooler.Kind
        );
}
