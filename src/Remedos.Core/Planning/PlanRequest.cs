namespace Remedos.Core.Planning;

/// <summary>What a day is planned from. Minutes count from the moment of the plan.</summary>
/// <param name="Open">When the workshop is open; runs go on in it alone, so that none burns in an empty house.</param>
/// <param name="Hands">Who works, and when.</param>
/// <param name="Bays">The places on the bench; where there is none, runs are made wherever the machine stands.</param>
/// <param name="Jobs">In the order in which they came.</param>
public sealed record PlanRequest(
    IReadOnlyList<Span> Open,
    IReadOnlyList<PlanHand> Hands,
    IReadOnlyList<PlanBay> Bays,
    IReadOnlyList<PlanJob> Jobs
)
{
    /// <summary>How far minutes taken lie from minutes planned; a kind that is not in it goes by <see cref="Spread.Prior"/>.</summary>
    public IReadOnlyDictionary<WorkKind, Spread> Spreads { get; init; } = new Dictionary<WorkKind, Spread>();

    /// <summary>Of a kind of work.</summary>
    public Spread SpreadOf(WorkKind kind) => Spreads.GetValueOrDefault(kind) ?? Spread.Prior(kind);
}

/// <summary>Somebody who works.</summary>
/// <param name="Here">When; empty for not at all.</param>
public sealed record PlanHand(string Id, IReadOnlyList<Span> Here);

/// <summary>A place on the bench.</summary>
/// <param name="Out">When it cannot be used, in order; empty for never.</param>
public sealed record PlanBay(int Number, IReadOnlyList<Span> Out);

/// <summary>A machine that is worked on.</summary>
/// <param name="Pieces">What is left of it, in order.</param>
/// <param name="NotBefore">
/// When its part comes, min from now; 0 for nothing that it waits for. What goes on in a bay does not wait for it.
/// </param>
/// <param name="Due">When it is promised; null for no promise.</param>
/// <param name="Hand">Whose it is; null for anyone free.</param>
/// <param name="Rank">Those that have one go before all others, the smallest first; null for as the plan finds best.</param>
public sealed record PlanJob(
    string Id,
    IReadOnlyList<WorkPiece> Pieces,
    double NotBefore = 0,
    double? Due = null,
    string? Hand = null,
    double? Rank = null
)
{
    /// <summary>
    /// The bay in which a run goes on, or waits for a hand: the first piece is what is left of it. Null where none does.
    /// </summary>
    public int? RunsIn { get; init; }

    /// <summary>Who is at its first piece at this moment; null for nobody.</summary>
    public string? UnderHandsOf { get; init; }
}

/// <summary>A piece in its place.</summary>
/// <param name="Piece">Counted in its job from 0.</param>
/// <param name="Hand">Who does it; null where it needs no hand.</param>
/// <param name="Bay">Where it stands; null where it needs no bay.</param>
/// <param name="From">When its hands begin.</param>
/// <param name="HandsTo">When they are done; closing time may lie between.</param>
/// <param name="To">When nothing of it is left.</param>
/// <param name="WaitedForHand">How long it could have begun earlier if a hand had been free, open minutes.</param>
/// <param name="WaitedForBay">Likewise for a bay.</param>
public sealed record PlanBlock(
    string Job,
    int Piece,
    string? Hand,
    int? Bay,
    double From,
    double HandsTo,
    double To,
    double WaitedForHand,
    double WaitedForBay
);
