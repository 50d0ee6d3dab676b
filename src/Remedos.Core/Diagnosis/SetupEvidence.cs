namespace Remedos.Core.Diagnosis;

/// <summary>What the runs of one setup show together.</summary>
/// <param name="Items">In the states of the evidence table; what no run could show is not there.</param>
/// <param name="Usual">The run as its owner uses it, which trials are held against; null without runs.</param>
/// <param name="Tubes">What thermometers in the log say of the loop; null without them.</param>
public sealed record SetupReading(IReadOnlyList<EvidenceItem> Items, SeenRun? Usual, TubeCheck? Tubes);

/// <summary>
/// Reads the runs of one setup into evidence: the usual run, every trial against it, and the heat path of all of them together. Server,
/// command line and validation come through
/// this one door.
/// </summary>
public static class SetupEvidence
{
    /// <summary>Reads them.</summary>
    /// <param name="runs">Of one setup, in the order they were made.</param>
    public static SetupReading Of(IReadOnlyList<SeenRun> runs)
    {
        if (UsualOf(runs) is not { } usual)
        {
            return new SetupReading([], null, null);
        }

        // With another cooler on it, it is another machine: it answers its own question only.
        SeenRun[] own = [.. runs.Where(run => run.Conditions.Trial != "known-good-cooler" && run.Run.Load is not null)];
        double? fastest = own.Max(run => run.Run.Load!.SustainedFanRpm);
        Dictionary<string, EvidenceItem> found = new(StringComparer.Ordinal);
        void Add(EvidenceItem? item)
        {
            if (item is not null)
            {
                found[item.Id] = item;
            }
        }

        foreach (EvidenceItem item in RunEvidence.Of(usual, fastest))
        {
            Add(item);
        }

        Add(RunEvidence.OfSteps([.. own.Where(run => run.IsFullLoad || ReferenceEquals(run, usual))]));
        foreach (SeenRun trial in runs.Where(run => !ReferenceEquals(run, usual)))
        {
            if (
                RunEvidence.OfCard(trial) is { } card
                && (!found.TryGetValue(card.Id, out EvidenceItem? known) || known.State == RunEvidence.CardSound)
            )
            {
                Add(card);
            }

            if (TrialEvidence.IdOf(trial.Conditions) is { } id)
            {
                Add(TrialEvidence.Of(id, usual, trial));
                Add(TrialEvidence.FanAtFull(trial));
            }
        }

        TubeCheck? tubes = own.Select(run => TubeCheck.Of(run.Run)).LastOrDefault(check => check is not null);
        Add(tubes is null ? null : new EvidenceItem("tube-difference", tubes.State));
        Add(runs.Any(run => run.Conditions.FellSilent == true) ? new EvidenceItem("shutdowns", "yes") : null);
        return new SetupReading([.. found.Values], usual, tubes);
    }

    /// <summary>
    /// The latest full load as its owner uses it; else any load as its owner uses it; else the first load of all: what was tried later is a
    /// trial.
    /// </summary>
    private static SeenRun? UsualOf(IReadOnlyList<SeenRun> runs) =>
        runs.LastOrDefault(run => run.Conditions.IsUsual && run.IsFullLoad)
        ?? runs.LastOrDefault(run => run.Conditions.IsUsual && run.Run.Load is not null)
        ?? runs.FirstOrDefault(run => run.Run.Load is not null)
        ?? (runs.Count > 0 ? runs[^1] : null);
}
