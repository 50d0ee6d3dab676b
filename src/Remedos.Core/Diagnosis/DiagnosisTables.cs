using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace Remedos.Core.Diagnosis;

/// <summary>A cause, how frequent it is among machines that come in, and what moves that.</summary>
/// <param name="Prior">Probability in a machine of which nothing is known.</param>
/// <param name="Repair">What cures it; causes with the same repair need not be told apart.</param>
/// <param name="CoolerKinds">Those that can have it; null for all.</param>
/// <param name="Opens">What has to come open for the repair: nothing, case or cooler. A warranty may hang on it.</param>
/// <param name="MakersPart">Whether a part has failed that its maker answers for while the warranty runs.</param>
/// <param name="Needs">“card” when only a machine with a graphics card can have it; null for all.</param>
public sealed record CauseRow(
    string Id,
    string Title,
    double Prior,
    string Reason,
    string Repair,
    string RepairTitle,
    string Opens,
    IReadOnlyList<string>? CoolerKinds,
    IReadOnlyList<PriorFactor>? Factors,
    bool MakersPart = false,
    string? Needs = null
)
{
    /// <summary>What a repair has to take off before the part is reached.</summary>
    public const string Nothing = "nothing",
        Case = "case",
        Cooler = "cooler",
        Card = "card";
}

/// <summary>Multiplies the odds of a cause when something holds.</summary>
/// <param name="When">coolerKind=…, setting=…, lastDone=…, prebuilt=true, ageMonths&gt;=… or ageMonths&lt;….</param>
public sealed record PriorFactor(string When, double Times, string Reason);

/// <summary>Something that can be observed.</summary>
/// <param name="Kind">symptom, run, look or trial.</param>
/// <param name="Ordered">Whether the states grow worse from first to last.</param>
/// <param name="SilentStates">States that tell nothing, such as “unknown”; the last of <paramref name="States"/>.</param>
/// <param name="KeepsWarranty">False when doing it may end a maker's warranty.</param>
/// <param name="Needs">“liquid” when only such a machine has it, “card” when only one with a graphics card; null for all.</param>
/// <param name="Untouched">Whether it is looked at, felt or heard before anything is moved.</param>
/// <param name="Variant">The guided run that makes it (<see cref="Bays.RunVariant"/>), together with all others of that run; null when it
/// is made by eye or hand.</param>
/// <param name="RiskMinutes">
/// What doing it may break or leave behind (a setting to be put back, a plug, a bent pin), as minutes of repair on average.
/// </param>
/// <param name="Order">A trial as one is told to make it; null for what is asked, looked at or measured.</param>
/// <param name="Leak">How often each state is seen when none of the causes is there; null where the simulator tells (<see
/// cref="RunLikelihoods"/>).</param>
/// <param name="Share">
/// Of an observation that it weighs where the machine's parts are known; null for what others of its kind weigh.
/// </param>
/// <param name="ShareReason">Why.</param>
/// <param name="HeldAgainst">Whether its states hang on what is expected of the machine.</param>
public sealed record EvidenceRow(
    string Id,
    string Title,
    string Kind,
    bool Ordered,
    IReadOnlyList<string> States,
    IReadOnlyList<string>? SilentStates,
    double Minutes,
    bool Reversible,
    bool KeepsWarranty,
    string? Needs,
    string How,
    string? Caution,
    IReadOnlyList<double>? Leak,
    string? LeakReason,
    IReadOnlyDictionary<string, EvidenceEffect> Effects,
    bool Untouched = false,
    string? Variant = null,
    bool Asked = true,
    double RiskMinutes = 0,
    string? Order = null,
    double? Share = null,
    string? ShareReason = null,
    bool HeldAgainst = false
)
{
    /// <summary>Whether it can be asked of a machine by itself; what is only ever read off beside something else cannot.</summary>
    public bool IsAskedOf(CaseMachine machine) => Asked && IsOf(machine.CoolerKind) && (Needs != CauseRow.Card || machine.HasCard != false);

    /// <summary>Whether a machine with such a cooler can show it; one whose cooler is not known can.</summary>
    public bool IsOf(string? coolerKind) => Needs is null or CauseRow.Card || coolerKind is null || coolerKind == Needs;

    /// <summary>The states that tell something, in order.</summary>
    public IReadOnlyList<string> Telling => [.. States.Where(state => SilentStates?.Contains(state) != true)];
}

/// <summary>What is seen in a machine with a cause.</summary>
/// <param name="P">How often each telling state is seen where this cause alone is there, whatever is seen without it included; null where
/// the simulator tells.</param>
/// <param name="Weight">Its influence among other causes, for unordered states; the leak's is 1.</param>
/// <param name="Because">What it has to do with it, of any state but the first.</param>
public sealed record EvidenceEffect(IReadOnlyList<double>? P, double? Weight, string Because);

/// <summary>Two observations that do not go together, and what to do about it.</summary>
public sealed record ConflictRow(string A, IReadOnlyList<string> AStates, string B, IReadOnlyList<string> BStates, string Advice);

/// <summary>The tables of the diagnosis; data files, checked when they are read.</summary>
public static class DiagnosisTables
{
    /// <summary>Where a machine can stand.</summary>
    public static readonly string[] Settings = ["office", "home", "pets-or-smoke", "workshop-dust", "flour-dust", "cupboard"];

    /// <summary>What was done to the machine last.</summary>
    public static readonly string[] LastDone = ["nothing", "cleaned", "repasted", "cooler-changed", "part-added", "firmware", "moved"];

    /// <summary>Where evidence can come from.</summary>
    public static readonly string[] Kinds = ["symptom", "run", "look", "trial"];

    private const int ShortestReason = 6;

    /// <summary>Every cause there is.</summary>
    public static IReadOnlyList<CauseRow> Causes { get; } =
        Load(
            TableJson.Default.CauseRowArray,
            "causes",
            row =>
                row is { Prior: > 0 and < 0.5, Opens: CauseRow.Nothing or CauseRow.Case or CauseRow.Cooler }
                && row.Reason.Length >= ShortestReason
                && (row.Factors ?? []).All(factor =>
                    factor.Times > 0 && factor.Reason.Length >= ShortestReason && CaseMachine.CanAsk(factor.When)
                ),
            row => row.Id
        );

    /// <summary>Every kind of evidence there is.</summary>
    public static IReadOnlyList<EvidenceRow> Evidence { get; } = Load(TableJson.Default.EvidenceRowArray, "evidence", Holds, row => row.Id);

    /// <summary>Pairs of observations that contradict each other.</summary>
    public static IReadOnlyList<ConflictRow> Conflicts { get; } =
        Load(
            TableJson.Default.ConflictRowArray,
            "conflicts",
            row => StatesOf(row.A, row.AStates) && StatesOf(row.B, row.BStates) && row.Advice.Length >= ShortestReason,
            row => $"{row.A} {row.B} {row.Advice}"
        );

    /// <summary>The cause of a name that is known to be there.</summary>
    public static CauseRow CauseOf(string id) => Causes.Single(row => row.Id == id);

    /// <summary>The evidence of a name; null where there is none of it.</summary>
    public static EvidenceRow? EvidenceOf(string id) => Evidence.FirstOrDefault(row => row.Id == id);

    private static bool StatesOf(string id, IReadOnlyList<string> states) => EvidenceOf(id) is { } row && states.All(row.States.Contains);

    private static bool Holds(EvidenceRow row)
    {
        bool Spread(IReadOnlyList<double> p) =>
            p.Count == row.Telling.Count && p.All(one => one is >= 0 and <= 1) && Math.Abs(p.Sum() - 1) < 1e-6;
        bool Told(EvidenceEffect effect) =>
            row.Leak is null
                ? effect is { P: null, Weight: null }
                : effect.P is { } p && Spread(p) && (row.Ordered ? NoBetter(p, row.Leak) : effect.Weight > 0);
        return Kinds.Contains(row.Kind)
            && row.Kind is "trial" == row.Order is not null
            && row.Minutes > 0
            && row.How.Length >= ShortestReason
            && (
                row.Leak is null
                    ? row.Kind is "run" or "trial"
                    : Spread(row.Leak) && row.LeakReason?.Length >= ShortestReason && row.Leak.All(one => one > 0)
            )
            && row.Effects.All(effect =>
                Causes.Any(cause => cause.Id == effect.Key) && effect.Value.Because.Length >= ShortestReason && Told(effect.Value)
            );
    }

    /// <summary>Whether a cause makes nothing better than it is without: otherwise the two cannot both be right.</summary>
    private static bool NoBetter(IReadOnlyList<double> p, IReadOnlyList<double> leak)
    {
        double with = 0,
            without = 0;
        for (int i = 0; i < p.Count; i++)
        {
            (with, without) = (with + p[i], without + leak[i]);
            if (with > without + 1e-9)
            {
                return false;
            }
        }

        return true;
    }

    private static T[] Load<T>(JsonTypeInfo<T[]> type, string table, Func<T, bool> holds, Func<T, string> id)
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Remedos.Core.Diagnosis.{table}.json")!;
        T[] rows = JsonSerializer.Deserialize(stream, type)!;
        return rows.FirstOrDefault(row => !holds(row)) is { } wrong
                ? throw new InvalidDataException($"{table}.json: “{id(wrong)}” lacks a reason or holds a number that cannot be.")
            : rows.Select(id).Distinct().Count() < rows.Length ? throw new InvalidDataException($"{table}.json: an id stands twice.")
            : rows;
    }
}
