using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;

namespace Remedos.Server.Jobs;

/// <summary>Setups, the pair, its other loads and the series, as the sheet shows them.</summary>
internal static class SetupAnswers
{
    /// <summary>So many setups under like conditions are a series.</summary>
    private const int SeriesFrom = 3;

    public static IReadOnlyList<SetupAnswer> Of(Job job, IReadOnlyList<(Run Run, ConditionedRun Seen)> runs, Repeatability bench)
    {
        ILookup<Guid, ConditionedRun> made = runs.ToLookup(run => run.Run.MountId, run => run.Seen);
        Setup current = JobSetups.Current(job);
        return
        [
            .. JobSetups
                .Standing(job)
                .Select(setup => new SetupAnswer(
                    setup.Id,
                    setup.Number,
                    JobSetups.Name(setup),
                    SetupKind.Title(setup.Kind, setup.Difference),
                    setup.Round,
                    setup.Kind,
                    setup.LikeNumber,
                    setup == current,
                    setup.FailedWhy,
                    JobFields.ValuesOf(setup),
                    JobSetups.Effective(job, setup),
                    [
                        .. JobSetups
                            .Standing(setup)
                            .Select(mount => new MountAnswer(
                                mount.Id,
                                mount.Number,
                                mount.MountedAt,
                                made[mount.Id].Count(),
                                SettlingOf([.. made[mount.Id]], bench),
                                JobFields.ValuesOf(mount)
                            )),
                    ]
                )),
        ];
    }

    /// <summary>Of the runs that were made alike most often.</summary>
    private static PasteSettling? SettlingOf(IReadOnlyList<ConditionedRun> runs, Repeatability bench) =>
        RunPairing
            .Alike(runs)
            .OrderByDescending(alike => alike.Count)
            .Select(alike => PasteSettling.Of(alike, bench))
            .FirstOrDefault(settling => settling is not null);

    public static PairAnswer PairOf(SetupPair pair, IReadOnlyList<(Run Run, ConditionedRun Seen)> seen)
    {
        Guid[] Ids(IReadOnlyList<ConditionedRun> runs) =>
            [.. seen.Where(one => runs.Any(run => ReferenceEquals(run, one.Seen))).Select(one => one.Run.Id)];
        return new PairAnswer(
            pair.Reference.Number,
            pair.Compared?.Number,
            pair.Words,
            pair.Load,
            pair.Loads,
            pair.Subject.Name(),
            [.. pair.Subjects.Select(subject => subject.Name())],
            Ids(pair.Before),
            Ids(pair.After)
        );
    }

    /// <summary>Every other load that both setups were run with, in a line.</summary>
    public static IReadOnlyList<LoadLineAnswer> OtherLoads(JobFacts facts, Repeatability bench)
    {
        SetupPair shown = facts.Pair!;
        List<LoadLineAnswer> lines = [];
        foreach (string? load in shown.Loads.Where(load => load is not null && load != shown.Load))
        {
            SetupPair other = SetupPair.Of(
                facts.Setups,
                new PairChoice(shown.Reference.Number, shown.Compared?.Number, load, shown.Subject)
            );
            if (other is { Before.Count: > 0, After.Count: > 0 } && other.Load == load)
            {
                ComparisonResult result = Comparer.Compare(other.Before, other.After, bench, shown.Subject);
                lines.Add(new LoadLineAnswer(load, result.Verdict, VerdictWords.Of(result).ToString()));
            }
        }

        return lines;
    }

    /// <summary>Setups that were run alike, ranked; null with fewer than three.</summary>
    public static SeriesResult? SeriesOf(JobFacts facts, Repeatability bench)
    {
        SetupPair shown = facts.Pair!;
        if (shown.Before.Count == 0)
        {
            return null;
        }

        List<SeriesSetup> setups = [];
        foreach (SetupFacts setup in facts.Setups.Where(setup => !setup.Failed))
        {
            IReadOnlyList<ConditionedRun> runs =
                setup.Number == shown.Reference.Number
                    ? shown.Before
                    : RunPairing.Of(shown.Before, [.. setup.Runs.Where(run => SetupPair.LoadOf(run.Conditions) == shown.Load)]).After;
            if (runs.Count > 0)
            {
                setups.Add(new SeriesSetup(setup.Name, runs, setup.PriceMinor));
            }
        }

        // The reference leads, whichever it is.
        SeriesSetup[] ordered = [.. setups.OrderByDescending(setup => setup.Name == shown.Reference.Name)];
        return ordered.Length < SeriesFrom || ordered[0].Name != shown.Reference.Name
            ? null
            : SeriesComparer.Compare(ordered, bench, shown.Subject);
    }
}
