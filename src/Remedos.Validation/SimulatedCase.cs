using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Validation;

/// <summary>
/// A simulated machine with known faults, as a technician would meet it: its runs and trials come from the simulation through the same
/// reading as any log, and become evidence
/// through the same door as the server's; what eyes, hands and the owner tell comes from <see cref="SimulatedObserver"/>. Each is made when
/// it is asked for.
/// </summary>
public sealed class SimulatedCase
{
    private const double IdleSeconds = 200,
        UsualSeconds = 1200,
        TrialSeconds = 700,
        CoolSeconds = 150,
        CardSeconds = 900,
        CoolRoomC = 20;

    /// <summary>The bench's own cooler for trials.</summary>
    private const string KnownGood = "dual-tower";

    private readonly DrawnMachine _machine;
    private readonly int _seed;
    private readonly ReferenceMachine? _reference;
    private readonly List<SeenRun> _runs = [];
    private readonly Dictionary<string, EvidenceItem?> _told = new(StringComparer.Ordinal);
    private readonly HashSet<string> _made = new(StringComparer.Ordinal);
    private readonly SimulatedObserver _observer;

    /// <summary>Puts a machine on the bench and runs it as its owner does.</summary>
    /// <param name="byParts">Whether the workshop knows its parts; otherwise only the kind of its cooler.</param>
    public SimulatedCase(DrawnMachine machine, bool byParts, int seed)
    {
        (_machine, _seed) = (machine, seed);
        _reference = byParts ? new ReferenceMachine(HeatMachines.Of(machine.Known), true, [], []) : null;
        Machine = machine.Case with { ByKind = !byParts };
        _runs.Add(Run(machine.True, machine.Heat, Faults, machine.True.RoomC, new BenchSettings(1), UsualSeconds, _reference, null));
        double tubes = 0;
        bool coldLiquid = machine.True.Cooler.IsLiquid && TubesC(out tubes);
        _observer = new SimulatedObserver(Machine, Faults, _runs[0].Run, _runs[0].Conditions, tubes, coldLiquid, new Random(seed));
    }

    public CaseMachine Machine { get; }

    public IReadOnlyDictionary<string, double> Faults => _machine.Faults;

    /// <summary>What the runs made so far show, all together.</summary>
    public IReadOnlyList<EvidenceItem> OfRuns => SetupEvidence.Of(_runs).Items;

    /// <summary>The runs made so far.</summary>
    public IReadOnlyList<SeenRun> Runs => _runs;

    /// <summary>What eyes, hands or the owner tell; null when this machine cannot tell.</summary>
    public EvidenceItem? Tell(string evidence)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(evidence)!;
        if (!_told.TryGetValue(evidence, out EvidenceItem? known))
        {
            _told[evidence] = known =
                !row.IsOf(_machine.True.Cooler.Kind) ? null
                : _observer.Tell(evidence) is { } state ? new EvidenceItem(evidence, state)
                : null;
        }

        return known;
    }

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
            if (_machine.True.Graphics is null)
            {
                return false;
            }

            _runs.Add(
                Run(
                    _machine.True,
                    _machine.Heat,
                    Faults,
                    _machine.True.RoomC,
                    new BenchSettings(0.4, GraphicsLoad: 1),
                    CardSeconds,
                    _reference,
                    null
                )
                    is var seen
                    ? seen with
                    {
                        Conditions = seen.Conditions with { Workload = "game-like" },
                    }
                    : seen
            );
            return true;
        }

        if (DiagnosisTables.EvidenceOf(evidence) is not { Kind: "trial" } row || !row.IsOf(_machine.True.Cooler.Kind))
        {
            return false;
        }

        bool other = evidence == "known-good-cooler";
        double room = evidence == "cooler-room" ? Math.Min(_machine.True.RoomC, CoolRoomC) : _machine.True.RoomC;
        BenchSettings load = new(
            1,
            FanPercent: evidence is "fans-full-drop" or "fan-at-full" ? 100 : null,
            PowerCapW: evidence == "capped-power" ? _machine.True.Processor.SustainedW * 2 / 3 : null,
            PanelOff: evidence == "panel-off-drop",
            PumpFull: evidence == "pump-full-speed"
        );
        IReadOnlyList<string> gone =
            other ? FaultEffects.OfTheCooler
            : evidence == "cooler-room" ? ["room-hot"]
            : [];
        MachineSpec spec = other ? WithKnownGood() : _machine.True;
        HeatMachine heat = other ? HeatMachines.Of(spec) with { CaseFactor = _machine.Heat.CaseFactor } : _machine.Heat;
        string? trial = evidence switch
        {
            "pump-full-speed" => "pump-full",
            "known-good-cooler" or "cooler-room" => evidence,
            _ => null,
        };
        _runs.Add(
            Run(spec, heat, Faults.Where(fault => !gone.Contains(fault.Key)).ToDictionary(), room, load, TrialSeconds, _reference, trial)
        );
        return true;
    }

    private MachineSpec WithKnownGood() =>
        _machine.True with
        {
            Cooler = MachineLibrary.Coolers.Single(cooler => cooler.Id == KnownGood),
            Radiator = null,
            CoolerFan = MachineLibrary.Steerings.First(row => row.Id == "cpu").Curve,
        };

    /// <summary>Idle, load, cool-down, a reading a second, read like any log.</summary>
    private SeenRun Run(
        MachineSpec spec,
        HeatMachine heat,
        IReadOnlyDictionary<string, double> faults,
        double roomC,
        BenchSettings load,
        double loadSeconds,
        ReferenceMachine? reference,
        string? trial
    )
    {
        MachineOnBench bench = new(spec, faults.Where(fault => fault.Key != DrawnMachine.TooSmall), roomC, _seed + _runs.Count, heat);
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
            spec.Processor.LimitC,
            spec.Processor.SustainedW,
            CoolerKind: spec.Cooler.Kind,
            Trial: trial
        );
        return SeenRun.Of(RunAnalyzer.Analyze(readings.ToLog(), conditions), conditions, reference);
    }

    /// <summary>The tubes' true difference under load, and whether the liquid hardly warms.</summary>
    private bool TubesC(out double differenceC)
    {
        MachineOnBench bench = new(
            _machine.True,
            Faults.Where(fault => fault.Key != DrawnMachine.TooSmall),
            _machine.True.RoomC,
            _seed,
            _machine.Heat
        )
        {
            Settings = new BenchSettings(1),
        };
        for (int tick = 0; tick < 6000; tick++)
        {
            bench.Tick();
        }

        differenceC = 2 * bench.HalfTubeDifferenceC;
        return bench.FinsC + bench.HalfTubeDifferenceC - bench.Truth.RoomC < 6;
    }
}
