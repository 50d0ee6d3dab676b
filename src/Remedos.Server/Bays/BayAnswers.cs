using Remedos.Core.Bays;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>What the sender of readings is told.</summary>
/// <param name="Acknowledged">The last reading that is safely here; the next to send is the one after it.</param>
/// <param name="Order">What the machine is to do now.</param>
public sealed record IngestAnswer(long Acknowledged, BenchOrder Order, string Stage, string Says);

/// <summary>A bay as the page shows it.</summary>
/// <param name="Online">Whether readings came within the last seconds.</param>
/// <param name="Token">What a sender shows to be believed.</param>
public sealed record BayAnswer(Guid Id, int Number, string Token, bool Online, DateTimeOffset? LastSeenAt, string? Stream, long Acknowledged, BayRunAnswer? Run)
{
    private static readonly TimeSpan OnlineFor = TimeSpan.FromSeconds(5);

    public static BayAnswer Of(Bay bay, DateTimeOffset now) => new(
        bay.Id, bay.Number, bay.Token, now - bay.LastSeenAt < OnlineFor, bay.LastSeenAt, bay.Stream, bay.Acknowledged,
        bay.Run is { } run ? new BayRunAnswer(run.JobId, run.Side, run.Variant, run.State.Stage, run.State.IsOver, run.Says, run.SecondsLeft, run.LimitC) : null);
}

/// <summary>A guided run as the page shows it.</summary>
public sealed record BayRunAnswer(Guid JobId, string Side, string Variant, string Stage, bool Over, string Says, double? SecondsLeft, double? LimitC);

/// <summary>A run to be started.</summary>
public sealed record StartRun(Guid JobId, string Side, string Variant, double? LoadSeconds);
