using System.Collections.Concurrent;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// A simulated machine with known faults, as a technician would meet it: its runs and trials come from the simulation through the same reading as any log; what eyes, hands and the
/// owner tell comes from <see cref="Witness"/>. Each is made when it is asked for.
/// </summary>
public sealed class SimulatedCase
{
    private const double IdleSeconds = 200, UsualSeconds = 1200, TrialSeconds = 700, CoolSeconds = 150, CardSeconds = 900, CoolRoomC = 20;

    private const int SoundSeed = 1;

    /// <summary>The bench's own cooler for trials.</summary>
    private const string KnownGood = "dual-tower";

    private static readonly ConcurrentDictionary<(string Machine, string What), Lazy<RunAnalysis>> SoundRuns = new();

    private readonly MachineRow _row;
    private readonly MachineSpec _spec;
    private readonly int _seed;
    private readonly Dictionary<string, EvidenceItem?> _told = new(StringComparer.Ordinal);
    private readonly Witness _witness;
    private readonly RunConditions _conditions;
    private readonly RunAnalysis _usual;

    /// <summary>Puts a machine on the bench and runs it as its owner does.</summary>
    /// <param name="row">Of the library.</param>
    /// <param name="faults">Severities 0 … 1 by cause; see <see cref="FaultEffects.Ids"/>.</param>
    public SimulatedCase(MachineRow row, CaseMachine machine, IReadOnlyDictionary<string, double> faults, int seed)
    {
        (_row, Machine, Faults, _seed) = (row, machine, faults, seed);
        _spec = MachineLibrary.Resolve(row, out string? problem) ?? throw new ArgumentException(problem, nameof(row));
        (_, _usual, _conditions) = Run(_spec, faults, _spec.RoomC, new BenchSettings(1), UsualSeconds);
        foreach (EvidenceItem item in RunEvidence.Of(_usual, _conditions, Sound("usual", _spec, new BenchSettings(1), UsualSeconds)))
        {
            _told[item.Id] = item;
        }

        double tubes = _spec.Cooler.IsLiquid ? TubesC(out bool coldLiquid) : TubesNone(out coldLiquid);
        _witness = new Witness(machine, faults, _usual, _conditions, tubes, coldLiquid, new Random(seed));
    }

    public CaseMachine Machine { get; }

    public IReadOnlyDictionary<string, double> Faults { get; }

    /// <summary>What the usual run showed.</summary>
    public IEnumerable<EvidenceItem> OfUsualRun => _told.Values.OfType<EvidenceItem>().Where(item => DiagnosisTables.EvidenceOf(item.Id)!.Kind == "run");

    /// <summary>The answer to one check; null when this machine cannot tell.</summary>
    public EvidenceItem? Ask(string evidence)
    {
        if (_told.TryGetValue(evidence, out EvidenceItem? known))
        {
            return known;
        }

        EvidenceRow row = DiagnosisTables.EvidenceOf(evidence)!;
        bool none = row.Needs == "liquid" && !_spec.Cooler.IsLiquid;
        return _told[evidence] = none ? null : row.Kind switch
        {
            "trial" => Trial(evidence),
            "run" => evidence == "gpu-hot" && _spec.Graphics is not null ? OfCard() : null,
            _ => _witness.Tell(evidence) is { } state ? new EvidenceItem(evidence, state) : null,
        };
    }

    private EvidenceItem? Trial(string evidence)
    {
        double room = evidence == "cooler-room" ? Math.Min(_spec.RoomC, CoolRoomC) : _spec.RoomC;
        MachineSpec spec = evidence == "known-good-cooler" ? WithKnownGood() : _spec;
        BenchSettings load = new(1,
            FanPercent: evidence == "fans-full-drop" ? 100 : null,
            PowerCapW: evidence == "capped-power" ? _spec.Processor.SustainedW * 2 / 3 : null,
            PanelOff: evidence == "panel-off-drop",
            PumpFull: evidence == "pump-full-speed");
        IReadOnlyList<string> gone = evidence == "known-good-cooler" ? FaultEffects.OfTheCooler : evidence == "cooler-room" ? ["room-hot"] : [];
        RunAnalysis trial = Run(spec, Faults.Where(fault => !gone.Contains(fault.Key)).ToDictionary(), room, load, TrialSeconds).Run;
        return RunEvidence.Of(evidence, _usual, trial, _spec.Processor.LimitC, Sound("usual", _spec, new BenchSettings(1), UsualSeconds), Sound(evidence, spec, load, TrialSeconds));
    }

    /// <summary>The same machine with nothing wrong, as the catalogue knows it; run once for all cases.</summary>
    private RunAnalysis Sound(string what, MachineSpec spec, BenchSettings load, double seconds) =>
        SoundRuns.GetOrAdd((_row.Id, what), _ => new Lazy<RunAnalysis>(() => Run(spec, new Dictionary<string, double>(), spec.RoomC, load, seconds).Run)).Value;

    private MachineSpec WithKnownGood() => MachineLibrary.Resolve(_row with { Cooler = KnownGood, Radiator = null, CoolerFan = "cpu" }, out _)!;

    private EvidenceItem? OfCard()
    {
        (Log log, RunAnalysis run, RunConditions conditions) = Run(_spec, Faults, _spec.RoomC, new BenchSettings(0.4, GraphicsLoad: 1), CardSeconds);
        return RunEvidence.Of(run, conditions, Sound("card", _spec, new BenchSettings(0.4, GraphicsLoad: 1), CardSeconds)).FirstOrDefault(item => item.Id == "gpu-hot");
    }

    /// <summary>Idle, load, cool-down, a reading a second, read like any log.</summary>
    private (Log Log, RunAnalysis Run, RunConditions Conditions) Run(MachineSpec spec, IReadOnlyDictionary<string, double> faults, double roomC, BenchSettings load, double loadSeconds)
    {
        MachineOnBench bench = new(spec, faults, roomC, faults.Count == 0 ? SoundSeed : _seed);
        BayLog readings = new();
        long sequence = 0;
        foreach ((BenchSettings settings, double seconds) in new[] { (load with { Load = 0, GraphicsLoad = 0 }, IdleSeconds), (load, loadSeconds), (load with { Load = 0, GraphicsLoad = 0 }, CoolSeconds) })
        {
            bench.Settings = settings;
            for (int second = 0; second < seconds; second++)
            {
                for (int tick = 0; tick < 10; tick++)
                {
                    bench.Tick();
                }

                readings.Add(bench.Read().ToReading(++sequence, bench.Seconds, spec.Shows.Contains("case-air"), spec.Shows.Contains("case-fan")));
            }
        }

        RunConditions conditions = new("all-core", load.PanelOff ? "side-off" : "closed", load.FanPercent is null ? "auto" : "fixed", load.FanPercent, load.PowerCapW, null, Math.Round(bench.Truth.RoomC, 1), spec.Processor.LimitC, spec.Processor.SustainedW, CoolerKind: spec.Cooler.Kind);
        Log log = readings.ToLog();
        return (log, RunAnalyzer.Analyze(log, conditions), conditions);
    }

    /// <summary>The tubes' true difference under load, and whether the liquid hardly warms.</summary>
    private double TubesC(out bool coldLiquid)
    {
        MachineOnBench bench = new(_spec, Faults, _spec.RoomC, _seed) { Settings = new BenchSettings(1) };
        for (int tick = 0; tick < 6000; tick++)
        {
            bench.Tick();
        }

        coldLiquid = bench.FinsC + bench.HalfTubeDifferenceC - bench.Truth.RoomC < 6;
        return 2 * bench.HalfTubeDifferenceC;
    }

    private static double TubesNone(out bool coldLiquid)
    {
        coldLiquid = false;
        return 0;
    }
}
