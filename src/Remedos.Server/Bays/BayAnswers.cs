using Remedos.Core.Bays;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>What the sender of readings is told.</summary>
/// <param name="Acknowledged">The last reading that is safely here; the next to send is the one after it.</param>
/// <param name="Order">What the machine is to do now.</param>
/// <param name="LimitC">Where it is to stop by itself; null when the job does not say.</param>
/// <param name="Hands">What hands do to a simulated machine; null for a real one.</param>
/// <param name="LeftOut">Sentences for values that cannot be and were not taken.</param>
public sealed record IngestAnswer(
    long Acknowledged,
    BenchOrder Order,
    double? LimitC,
    BenchHands? Hands,
    string Stage,
    string Says,
    IReadOnlyList<string> LeftOut
);

/// <summary>A bay as the page shows it.</summary>
/// <param name="Online">Whether readings came within the last seconds.</param>
/// <param name="Revision">Counts its changes: what has more is newer.</param>
/// <param name="Note">The last thing that the sender noted.</param>
public sealed record BayAnswer(
    Guid Id,
    int Number,
    long Revision,
    bool Online,
    DateTimeOffset? LastSeenAt,
    string? Stream,
    long Acknowledged,
    BayHello? Sender,
    BenchHands? Hands,
    string? Note,
    BayRunAnswer? Run
)
{
    public static readonly TimeSpan OnlineFor = TimeSpan.FromSeconds(5);

    public static BayAnswer Of(Bay bay, DateTimeOffset now) =>
        new(
            bay.Id,
            bay.Number,
            bay.Revision,
            now - bay.LastSeenAt < OnlineFor,
            bay.LastSeenAt,
            bay.Stream,
            bay.Acknowledged,
            bay.Sender,
            bay.Hands,
            bay.Note,
            bay.Run is { } run
                ? new BayRunAnswer(
                    run.JobId,
                    run.MountId,
                    run.On,
                    run.Variant,
                    run.Work,
                    run.State.Stage,
                    run.State.IsOver,
                    run.State.Held,
                    run.Following + (run.FansToFollow.Count * run.Times),
                    run.Says,
                    run.SecondsLeft,
                    run.LimitC
                )
                : null
        );
}

/// <summary>A guided run as the page shows it.</summary>
/// <param name="On">What it is measured on, in words.</param>
/// <param name="Held">Whether a person asked to stay in this stage.</param>
/// <param name="Following">Runs of the same kind that follow by themselves.</param>
public sealed record BayRunAnswer(
    Guid JobId,
    Guid MountId,
    string On,
    string Variant,
    string Work,
    GuidedStage Stage,
    bool Over,
    bool Held,
    int Following,
    string Says,
    double? SecondsLeft,
    double? LimitC
);

/// <summary>A run to be started.</summary>
/// <param name="MountId">What it is measured on; what is on the machine now where it is null.</param>
/// <param name="Work">Which kind of load; all cores when null.</param>
/// <param name="Times">How many runs, one after the other; one when null.</param>
/// <param name="Remount">Whether the cooler is lifted and put back between them: each is then a mount of its own.</param>
/// <param name="FanPercents">With fixed fans: at which speeds, 0 … 100 %, one after the other.</param>
/// <param name="FanRpm">With fixed fans: at these turns instead.</param>
public sealed record StartRun(
    Guid JobId,
    string Variant,
    Guid? MountId = null,
    double? LoadSeconds = null,
    string? Work = null,
    int? Times = null,
    bool? Remount = null,
    IReadOnlyList<double>? FanPercents = null,
    double? FanRpm = null
);

/// <summary>Whether the run is to stay in its stage.</summary>
public sealed record HoldRun(bool Held);

/// <summary>What was read by hand at the machine; what was not read is null.</summary>
public sealed record ReadByHand(double? RoomC = null, double? TubeOutC = null, double? TubeReturnC = null, double? SoundDba = null);

/// <summary>Some readings of a bay, column by column; of several cores, each is a channel.</summary>
public sealed record BayTrace(long FromSequence, double[] Seconds, IReadOnlyDictionary<string, float?[]> Channels)
{
    public static BayTrace Of(IReadOnlyList<BayReading> readings, long from)
    {
        BayChannel[] channels = [.. readings.SelectMany(reading => reading.Values.Keys).Distinct()];
        return new BayTrace(
            readings.Count == 0 ? from : readings[0].Sequence,
            [.. readings.Select(reading => reading.Seconds)],
            channels.ToDictionary(
                channel => channel.Name,
                channel =>
                    readings.Select(reading => reading.Values.TryGetValue(channel, out double value) ? (float?)value : null).ToArray()
            )
        );
    }
}

/// <summary>What has just changed in a bay, as it is told to the pages that look at it.</summary>
public sealed record BayNews(BayAnswer Bay, BayTrace? Fresh);

/// <summary>A new token of a bay, shown this once, and where its sender finds this server.</summary>
/// <param name="Elsewhere">Whether another machine can reach that address.</param>
public sealed record BayTokenAnswer(int Number, string Token, string Address, bool Elsewhere);
