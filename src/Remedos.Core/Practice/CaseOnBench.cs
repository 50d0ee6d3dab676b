using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Practice;

/// <summary>
/// A simulated machine with known faults and the runs and trials that are made on it: read like any log, and evidence by the same door as
/// the server's. Each is made when it is asked for.
/// </summary>
public sealed class CaseOnBench
{
    private const double IdleSeconds = 200,
        UsualSeconds = 1200,
        TrialSeconds = 700,
        CoolSeconds = 150,
        CardSeconds = 900;

    /// <summary>The room that a machine is carried to for a trial, °C.</summary>
    internal const double CoolRoomC = 20;

    /// <summary>The bench's own cooler for trials.</summary>
    internal const string KnownGood = "dual-tower";

    /// <summary>A loop whose liquid stands less than this above the room after ten minutes of load hardly warms, °C.</summary>
    private const double ColdLiquidC = 6;

    private readonly BenchMachine _machine;
    private readonly HeatMachine _heat;
    private readonly Dictionary<string, double> _faults;
    private readonly ReferenceMachine? _reference;
    private readonly int _seed;
    private readonly List<SeenRun> _runs = [];
    private readonly HashSet<string> _made = new(StringComparer.Ordinal);

    /// <summary>Puts a machine on the bench and runs it as its owner does.</summary>
    /// <param name="machine">As it truly is.</param>
    /// <param name="heat">What heat meets in it.</param>
    /// <param name="faults">Severities 0 … 1 by cause; a cooler that is too small is so by its part, and not simulated.</param>
    /// <param name="reference">What its runs are held against; null for nothing.</param>
    /// <param name="seed">Of all noise.</param>
    public CaseOnBench(
        BenchMachine machine,
        HeatMachine heat,
        IEnumerable<KeyValuePair<string, double>> faults,
        ReferenceMachine? reference,
        int seed
    )
    {
        (_machine, _heat, _reference, _seed) = (machine, heat, reference, seed);
        _faults = faults.Where(fault => fault.Key != FeltFaults.TooSmall).ToDictionary();
        _runs.Add(Run(machine, heat, _faults, machine.RoomC, new BenchSettings(1), UsualSeconds, null));
    }

    /// <summary>The runs made so far, the usual one first.</summary>
    public IReadOnlyList<SeenRun> Runs => _runs;

    /// <summary>What the runs made so far show, all together.</summary>
    public IReadOnlyList<EvidenceItem> Evidence => SetupEvidence.Of(_runs).Items;

    /// <summary>Makes the run that answers a question of runs or trials.</summary>
    /// <returns>False where this machine cannot make it, or it was made.</returns>
    public bool Make(string evidence)
    {
        if (!_made.Add(evidence))
        {
            return false;
        }

        if (evidence == "gpu-hot")
        {
            if (_machine.Graphics is null)
            {
                return false;
            }

            SeenRun seen = Run(_machine, _heat, _faults, _machine.RoomC, new BenchSettings(0.4, GraphicsLoad: 1), CardSeconds, null);
            _runs.Add(seen with { Conditions = seen.Conditions with { Workload = "game-like" } });
            return true;
        }

        if (DiagnosisTables.EvidenceOf(evidence) is not { Kind: "trial" } row || !row.IsOf(_machine.Cooler.Kind))
        {
            return false;
        }

        bool other = evidence == "known-good-cooler";
        double room = evidence == "cooler-room" ? Math.Min(_machine.RoomC, CoolRoomC) : _machine.RoomC;
        BenchSettings load = new(
            1,
            FanPercent: evidence is "fans-full-drop" or "fan-at-full" ? 100 : null,
            PowerCapW: evidence == "capped-power" ? _machine.Processor.SustainedPowerW * 2 / 3 : null,
            PanelOff: evidence == "panel-off-drop",
            PumpFull: evidence == "pump-full-speed"
        );
        IReadOnlyList<string> gone =
            other ? FaultEffects.OfTheCooler
            : evidence == "cooler-room" ? ["room-hot"]
            : [];
        BenchMachine spec = other ? WithKnownGood() : _machine;
        HeatMachine heat = other ? HeatMachines.Of(spec) with { CaseFactor = _heat.CaseFactor } : _heat;
        string? trial = evidence switch
        {
            "pump-full-speed" => "pump-full",
            "known-good-cooler" or "cooler-room" => evidence,
            _ => null,
        };
        _runs.Add(Run(spec, heat, _faults.Where(fault => !gone.Contains(fault.Key)), room, load, TrialSeconds, trial));
        return true;
    }

    /// <summary>The tubes' true difference after ten minutes of load, °C, and whether the liquid hardly warms; 0 without a loop.</summary>
    public (double DifferenceC, bool Cold) Tubes()
    {
        if (!_machine.Cooler.IsLiquid)
        {
            return (0, false);
        }

        MachineOnBench bench = new(_machine, _faults, _machine.RoomC, _seed, _heat) { Settings = new BenchSettings(1) };
        for (int tick = 0; tick < 6000; tick++)
        {
            bench.Tick();
        }

        return (2 * bench.HalfTubeDifferenceC, bench.FinsC + bench.HalfTubeDifferenceC - bench.Truth.RoomC < ColdLiquidC);
    }

    private BenchMachine WithKnownGood() =>
        _machine.With(
            MachineLibrary.Coolers.Single(cooler => cooler.Id == KnownGood),
            null,
            MachineLibrary.Steerings.First(row => row.Id == "cpu").Curve
        );

    /// <summary>Idle, load, cool-down, a reading a second, read like any log.</summary>
    private SeenRun Run(
        BenchMachine spec,
        HeatMachine heat,
        IEnumerable<KeyValuePair<string, double>> faults,
        double roomC,
        BenchSettings load,
        double loadSeconds,
        string? trial
    )
    {
        MachineOnBench bench = new(spec, faults, roomC, _seed + _runs.Count, heat);
        BayLog readings = new();
        bench.Record(readings, spec, load with { Load = 0, GraphicsLoad = 0 }, IdleSeconds);
        bench.Record(readings, spec, load, loadSeconds);
        bench.Record(readings, spec, load with { Load = 0, GraphicsLoad = 0 }, CoolSeconds);
        RunConditions conditions = new(
            "all-core",
            load.PanelOff ? "side-off" : "closed",
            load.FanPercent is null ? "auto" : "fixed",
            load.FanPercent,
            load.PowerCapW,
            null,
            Math.Round(bench.Truth.RoomC, 1),
            spec.Processor.TemperatureLimitC,
            spec.Processor.SustainedPowerW,
            CoolerKind: spec.Cooler.Kind,
            Trial: trial
        );
        return SeenRun.Of(RunAnalyzer.Analyze(readings.ToLog(), conditions), conditions, _reference);
    }
}
