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
    /// <summary>What the machine is to do now.</summary>
    [JsonIgnore]
    public BenchOrder Order => State.IsOver ? new BenchOrder(0) : State.Stage == GuidedState.Load ? Plan.Variant.For(RatedPowerW) : Plan.Variant.Under with { Load = 0 };

    [JsonIgnore]
    public GuidedPlan Plan => new(RunVariant.All.Single(one => one.Id == Variant), LimitC, RatedPowerW, AmbientC, LoadSeconds);
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
