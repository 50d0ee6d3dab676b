using System.Text.Json.Serialization;
using Remedos.Core.Bays;

namespace Remedos.Data.Bays;

/// <summary>A place on the bench where a machine under test stands and sends its readings.</summary>
public sealed class Bay
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>As painted on the bench.</summary>
    public int Number { get; init; }

    /// <summary>What a sender shows to be believed.</summary>
    public required string Token { get; set; }

    /// <summary>The sender's recording that is taken now; another name begins anew.</summary>
    public string? Stream { get; set; }

    /// <summary>The last reading of the stream that is safely here; 0 for none.</summary>
    public long Acknowledged { get; set; }

    public DateTimeOffset? LastSeenAt { get; set; }

    /// <summary>What the sender told of itself; null when it did not.</summary>
    public BayHello? Sender { get; set; }

    /// <summary>What hands do to a simulated machine; null for nothing yet.</summary>
    public BenchHands? Hands { get; set; }

    /// <summary>The last thing that the sender noted, in its words.</summary>
    public string? Note { get; set; }

    /// <summary>The run that goes on or ended last; null before the first.</summary>
    public BayRun? Run { get; set; }

    public uint Version { get; init; }
}

/// <summary>A guided run in a bay.</summary>
/// <param name="JobId">Where it lands.</param>
/// <param name="Side">before or after.</param>
/// <param name="Variant">Which <see cref="RunVariant"/>.</param>
/// <param name="FromSequence">Its first reading.</param>
public sealed record BayRun(
    Guid JobId, string Side, string Variant, double? LoadSeconds, double? LimitC, double? RatedPowerW, double? AmbientC, Guid PersonId, string Stream, long FromSequence, GuidedState State, string Says, double? SecondsLeft)
{
    /// <summary>Which <see cref="LoadKind"/>.</summary>
    public string Work { get; init; } = LoadKind.AllCore;

    /// <summary>Runs of the same kind that follow by themselves.</summary>
    public int Following { get; init; }

    /// <summary>What was read by hand meanwhile.</summary>
    public IReadOnlyList<HandReading> ByHand { get; init; } = [];

    /// <summary>What the machine is to do now.</summary>
    [JsonIgnore]
    public BenchOrder Order => GuidedRun.OrderOf(Plan, State);

    [JsonIgnore]
    public GuidedPlan Plan => new(RunVariant.All.Single(one => one.Id == Variant), LimitC, RatedPowerW, AmbientC, LoadSeconds, Work);

    /// <summary>As an answer leaves it.</summary>
    public BayRun After(GuidedAnswer answer) => this with { State = answer.State, Says = answer.Says, SecondsLeft = answer.SecondsLeft };

    /// <summary>The same run once more, from a reading on.</summary>
    public BayRun Again(string stream, long fromSequence, BayHello? sender) =>
        (this with { Stream = stream, FromSequence = fromSequence, ByHand = [] }).After(GuidedRun.Begin(Plan, sender));
}

/// <summary>Readings that came together, as they were sent; never changed.</summary>
public sealed class BayBatch
{
    public Guid WorkshopId { get; init; }

    public Guid BayId { get; init; }

    public required string Stream { get; init; }

    public long FirstSequence { get; init; }

    public long LastSequence { get; init; }

    /// <summary>One line a reading.</summary>
    public required string Lines { get; init; }
}
