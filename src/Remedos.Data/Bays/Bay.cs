using System.Text.Json.Serialization;
using Remedos.Core;
using Remedos.Core.Bays;

namespace Remedos.Data.Bays;

/// <summary>A place on the bench where a machine under test stands and sends its readings.</summary>
public sealed class Bay : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>As painted on the bench.</summary>
    public int Number { get; init; }

    /// <summary>
    /// Of what a sender shows to be believed, in lower-case hexadecimal; the token itself is shown once and kept nowhere.
    /// </summary>
    public required string TokenSha256 { get; set; }

    public DateTimeOffset TokenMadeAt { get; set; }

    /// <summary>The sender's name of the recording that is taken now; another name begins a new recording.</summary>
    public string? Stream { get; set; }

    /// <summary>Counts the recordings: a sender may use a name twice.</summary>
    public long Recording { get; set; }

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

    /// <summary>Counts the changes, so that news of them can be put in order wherever they were made.</summary>
    public long Revision { get; set; }

    public uint Version { get; init; }
}

/// <summary>A guided run in a bay.</summary>
/// <param name="JobId">Where it lands.</param>
/// <param name="MountId">What it is measured on.</param>
/// <param name="Variant">Which <see cref="RunVariant"/>.</param>
/// <param name="FromSequence">Its first reading.</param>
public sealed record BayRun(
    Guid JobId,
    Guid MountId,
    string Variant,
    double? LoadSeconds,
    double? LimitC,
    double? RatedPowerW,
    double? AmbientC,
    Guid PersonId,
    long Recording,
    long FromSequence,
    GuidedState State,
    string Says,
    double? SecondsLeft
)
{
    /// <summary>What it is measured on, in words.</summary>
    public string On { get; init; } = "";

    /// <summary>Which <see cref="LoadKind"/>.</summary>
    public string Work { get; init; } = LoadKind.AllCore;

    /// <summary>Runs of the same kind that follow by themselves.</summary>
    public int Following { get; init; }

    /// <summary>Fans fixed here, % or rpm; null for the variant's own.</summary>
    public double? FanPercent { get; init; }

    public double? FanRpm { get; init; }

    /// <summary>Fan speeds of the runs that follow, %; each is run as often as the first.</summary>
    public IReadOnlyList<double> FansToFollow { get; init; } = [];

    /// <summary>How often each fan speed is run, for those that follow.</summary>
    public int Times { get; init; } = 1;

    /// <summary>Whether the cooler is lifted and put back before each run that follows: then each has a mount of its own.</summary>
    public bool RemountBetween { get; init; }

    /// <summary>In which degrees whoever began it is told what it does.</summary>
    public TemperatureUnit TemperatureUnit { get; init; }

    /// <summary>On the log's clock, up to the last reading.</summary>
    public double ElapsedSeconds { get; init; }

    /// <summary>The chip at the last reading that had it, °C; null before.</summary>
    public double? LastChipC { get; init; }

    /// <summary>Whether nothing was heard any more while it was under load.</summary>
    public bool FellSilent { get; init; }

    /// <summary>What was read by hand meanwhile.</summary>
    public IReadOnlyList<HandReading> ByHand { get; init; } = [];

    /// <summary>What the machine is to do now.</summary>
    [JsonIgnore]
    public BenchOrder Order => GuidedRun.OrderOf(Plan, State);

    [JsonIgnore]
    public GuidedPlan Plan =>
        new(RunVariant.All.Single(one => one.Id == Variant), LimitC, RatedPowerW, AmbientC, LoadSeconds, Work)
        {
            FanPercent = FanPercent,
            FanRpm = FanRpm,
        };

    /// <summary>As an answer leaves it.</summary>
    public BayRun After(GuidedAnswer answer) => this with { State = answer.State, Says = answer.Says, SecondsLeft = answer.SecondsLeft };

    /// <summary>Whether another run follows this one.</summary>
    [JsonIgnore]
    public bool HasMore => Following > 0 || FansToFollow.Count > 0;

    /// <summary>The same run once more, from a reading on.</summary>
    public BayRun Again(long recording, long fromSequence, BayHello? sender, bool remount = false) =>
        (this with { Recording = recording, FromSequence = fromSequence, ByHand = [], ElapsedSeconds = 0, FellSilent = false }).After(
            GuidedRun.Begin(Plan with { Remount = remount }, sender)
        );

    /// <summary>The run that follows: the same once more, or at the next fan speed.</summary>
    public BayRun NextOne(long recording, long fromSequence, BayHello? sender) =>
        (
            Following > 0
                ? this with
                {
                    Following = Following - 1,
                }
                : this with
                {
                    FanPercent = FansToFollow[0],
                    FansToFollow = [.. FansToFollow.Skip(1)],
                    Following = Times - 1,
                }
        ).Again(recording, fromSequence, sender, RemountBetween);
}

/// <summary>Readings that came together, as they were sent; never changed.</summary>
public sealed class BayBatch : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid BayId { get; init; }

    /// <summary>Of the bay; see <see cref="Bay.Recording"/>.</summary>
    public long Recording { get; init; }

    public long FirstSequence { get; init; }

    public long LastSequence { get; init; }

    /// <summary>One line a reading.</summary>
    public required string Lines { get; init; }
}
