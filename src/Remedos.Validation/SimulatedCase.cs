using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Core.Practice;

namespace Remedos.Validation;

/// <summary>
/// A drawn machine with known faults, as a technician would meet it: runs and trials by <see cref="CaseOnBench"/>; what eyes, hands and the
/// owner tell comes from <see cref="SimulatedObserver"/>.
/// </summary>
public sealed class SimulatedCase
{
    private readonly DrawnMachine _machine;
    private readonly CaseOnBench _bench;
    private readonly Dictionary<string, EvidenceItem?> _told = new(StringComparer.Ordinal);
    private readonly SimulatedObserver _observer;

    /// <summary>Puts a machine on the bench and runs it as its owner does.</summary>
    /// <param name="byParts">Whether the workshop knows its parts; otherwise only the kind of its cooler.</param>
    public SimulatedCase(DrawnMachine machine, bool byParts, int seed)
    {
        _machine = machine;
        Machine = machine.Case with { ByKind = !byParts };
        _bench = new CaseOnBench(
            machine.True,
            machine.Heat,
            machine.Faults,
            byParts ? AirPlanner.ReferenceOf(machine.Known.Build, machine.Known.Cooler) : null,
            seed
        );
        (double tubes, bool coldLiquid) = _bench.Tubes();
        SeenRun usual = _bench.Runs[0];
        _observer = new SimulatedObserver(Machine, Faults, usual.Run, usual.Conditions, tubes, coldLiquid, new Random(seed));
    }

    public CaseMachine Machine { get; }

    public IReadOnlyDictionary<string, double> Faults => _machine.Faults;

    /// <summary>What the runs made so far show, all together.</summary>
    public IReadOnlyList<EvidenceItem> OfRuns => _bench.Evidence;

    /// <summary>The runs made so far.</summary>
    public IReadOnlyList<SeenRun> Runs => _bench.Runs;

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
    public bool Make(string evidence) => _bench.Make(evidence);
}
