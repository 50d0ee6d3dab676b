using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Core.Jobs;

/// <summary>A setup of a job with its runs, as the rules see it.</summary>
/// <param name="Number">Counted in the job from 1; 1 is the machine as it came in.</param>
/// <param name="Title">What was changed, in words.</param>
/// <param name="Round">In which round it was made.</param>
/// <param name="Kind">Of <see cref="SetupKind"/>.</param>
/// <param name="Runs">All that were made on it, each with its mount, in the order they came.</param>
public sealed record SetupFacts(int Number, string Title, int Round, string Kind, IReadOnlyList<ConditionedRun> Runs)
{
    /// <summary>Why it was abandoned; null while it stands. It keeps its place and is no part of any verdict.</summary>
    public string? FailedWhy { get; init; }

    /// <summary>The paste's print when its last mount was lifted; null where it was not.</summary>
    public string? Print { get; init; }

    /// <summary>When it was mounted.</summary>
    public DateTimeOffset? MountedAt { get; init; }

    /// <summary>What it cost, in the currency's minor unit.</summary>
    public long? PriceMinor { get; init; }

    /// <summary>“Setup 3 Corvane Ridge 2”.</summary>
    public string Name => $"Setup {Number} {Title}";

    /// <summary>Whether it was given up.</summary>
    public bool Failed => FailedWhy is not null;

    /// <summary>Whether the cooler never sat: what the hands find on lifting.</summary>
    public bool SatBadly => Print is "ring-or-spot" or "untouched";
}

/// <summary>What is to be held against what; null for what the rules choose.</summary>
/// <param name="Reference">The setup that is held against, by its number.</param>
/// <param name="Compared">The setup that is judged.</param>
/// <param name="Load">Of the runs.</param>
public sealed record PairChoice(int? Reference = null, int? Compared = null, string? Load = null, Subject? Subject = null);

/// <summary>Two setups, a load and a subject: all that the sheet says, it says of these runs.</summary>
/// <param name="Reference">The setup that is held against.</param>
/// <param name="Compared">The setup that is judged; null while there is none with a run.</param>
/// <param name="Load">The load of both; null where nobody noted it.</param>
/// <param name="Before">Runs of the reference, made alike.</param>
/// <param name="After">Runs of the compared setup, made alike.</param>
public sealed record SetupPair(
    SetupFacts Reference,
    SetupFacts? Compared,
    string? Load,
    Subject Subject,
    IReadOnlyList<ConditionedRun> Before,
    IReadOnlyList<ConditionedRun> After
)
{
    /// <summary>Loads that either setup was run with, the baseline's first.</summary>
    public IReadOnlyList<string?> Loads { get; init; } = [];

    /// <summary>Subjects that runs of this pair tell of.</summary>
    public IReadOnlyList<Subject> Subjects { get; init; } = [];

    /// <summary>“Setup 1 as it came · Setup 3 Corvane Ridge 2”.</summary>
    public string Words => Compared is null ? Reference.Name : $"{Reference.Name} · {Compared.Name}";

    /// <summary>
    /// The pair that answers a choice; what is not chosen is the setup that came, the one that leaves, and the load of the baseline.
    /// </summary>
    /// <param name="setups">In the order of their numbers; at least the first.</param>
    /// <param name="choice">A setup or load that is not there is passed over.</param>
    public static SetupPair Of(IReadOnlyList<SetupFacts> setups, PairChoice? choice = null)
    {
        choice ??= new PairChoice();
        SetupFacts reference = setups.FirstOrDefault(setup => setup.Number == choice.Reference) ?? setups[0];
        SetupFacts? compared = setups.FirstOrDefault(setup => setup.Number == choice.Compared && setup != reference)
            ?? setups.LastOrDefault(setup => setup != reference && !setup.Failed && setup.Number > reference.Number && Loaded(setup).Any());
        string?[] loads =
        [
            .. Loaded(reference)
                .OrderByDescending(run => run.Conditions.IsUsual)
                .Concat(compared is null ? [] : Loaded(compared))
                .Select(run => LoadOf(run.Conditions))
                .Distinct(),
        ];
        string? load =
            choice.Load is { } asked && loads.Contains(asked) ? asked
            : loads.Length == 0 ? null
            : Main(loads, reference, compared);
        ConditionedRun[] left = Under(reference, load),
            right = compared is null ? [] : Under(compared, load);
        (IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after) = RunPairing.Of(left, right);
        Subject[] subjects = before.Concat(after).Any(run => run.Analysis.Graphics is not null)
            ? [Subject.Processor, Subject.Graphics]
            : [Subject.Processor];
        return new SetupPair(
            reference,
            compared,
            load,
            choice.Subject is { } chosen && subjects.Contains(chosen) ? chosen
                : subjects.Contains(Subject.Graphics) && IsOfCard(compared, before) ? Subject.Graphics
                : Subject.Processor,
            before,
            after
        )
        {
            Loads = loads,
            Subjects = subjects,
        };
    }

    /// <summary>Whether the card is the patient: the work was done on it, or it is held by heat and the processor is not.</summary>
    private static bool IsOfCard(SetupFacts? compared, IReadOnlyList<ConditionedRun> before) =>
        compared is not null
            ? compared.Kind == SetupKind.Card
            : before.Count > 0 && before.All(run => run.Analysis is { ThermalLimit: null, Graphics.ThermalLimit: not null });

    /// <summary>
    /// A setup's runs under a load; where there is none, those whose load nobody noted: it may be this one, and the comparison says that it
    /// is not known.
    /// </summary>
    private static ConditionedRun[] Under(SetupFacts setup, string? load) =>
        Loaded(setup).Where(run => LoadOf(run.Conditions) == load).ToArray() is { Length: > 0 } under
            ? under
            : [.. Loaded(setup).Where(run => LoadOf(run.Conditions) is null)];

    /// <summary>A load as it is told apart: without case and spaces about it.</summary>
    public static string? LoadOf(RunConditions conditions) =>
        string.IsNullOrWhiteSpace(conditions.Workload) ? null : conditions.Workload.Trim().ToLowerInvariant();

    /// <summary>The baseline's load; where that was never run on the compared setup, one that was run on both.</summary>
    private static string? Main(string?[] loads, SetupFacts reference, SetupFacts? compared)
    {
        string?[] both = compared is null ? [] : [.. loads.Where(load => load is not null && Has(reference, load) && Has(compared, load))];
        return both.Length > 0 ? both[0] : loads[0];
    }

    private static bool Has(SetupFacts setup, string? load) => Loaded(setup).Any(run => LoadOf(run.Conditions) == load);

    /// <summary>Runs that hold a load; an idle log is no baseline.</summary>
    private static IEnumerable<ConditionedRun> Loaded(SetupFacts setup) =>
        setup.Runs.Where(run => run.Analysis.Load is not null || run.Analysis.Graphics is not null);
}

/// <summary>One load of a pair, in a line: its verdict never overturns that of the baseline's load.</summary>
public sealed record LoadLine(string? Load, ComparisonResult Result, string Sentence);

/// <summary>Reasons to open the next round.</summary>
public static class RoundReason
{
    /// <summary>Why a machine is opened once more.</summary>
    public const string Worse = "worse",
        NotFixed = "not-fixed",
        BadPrint = "bad-print",
        NewFinding = "new-finding";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Worse, NotFixed, BadPrint, NewFinding];

    /// <summary>A reason in words.</summary>
    public static string Words(string reason) =>
        reason switch
        {
            Worse => "it got worse",
            NotFixed => "it is not fixed",
            BadPrint => "the cooler sat badly",
            _ => "something new was found",
        };
}
