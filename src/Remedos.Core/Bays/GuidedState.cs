using System.Text.Json.Serialization;
using Remedos.Core.Runs;

namespace Remedos.Core.Bays;

/// <summary>What a guided run is to do.</summary>
/// <param name="Variant">How the machine is run.</param>
/// <param name="LimitC">The processor's limit; null when unknown.</param>
/// <param name="RatedPowerW">Null when unknown.</param>
/// <param name="AmbientC">One reading of the room; null when it is logged or unknown.</param>
/// <param name="LoadSeconds">A set time under load; null to go on until the forecast is within 1 °C.</param>
/// <param name="Work">Which <see cref="LoadKind"/>.</param>
public sealed record GuidedPlan(
    RunVariant Variant,
    double? LimitC,
    double? RatedPowerW,
    double? AmbientC,
    double? LoadSeconds = null,
    string Work = LoadKind.AllCore
)
{
    /// <summary>Whether the load is the owner's own, started by hand.</summary>
    public bool IsOwnersLoad => Variant.Id == RunVariant.OwnersLoad;

    /// <summary>Fans fixed here, % or rpm, where the variant fixes them; null for the variant's own figure.</summary>
    public double? FanPercent { get; init; }

    /// <summary>The fan's speed now, rpm; null where no channel tells it.</summary>
    public double? FanRpm { get; init; }

    /// <summary>Whether the cooler is lifted and put back before it begins.</summary>
    public bool Remount { get; init; }

    /// <summary>What the machine is asked for under load.</summary>
    public BenchOrder Under => WithFans(Variant.For(RatedPowerW, Work));

    /// <summary>What a hand has to do before it begins, where the machine cannot do it by itself; null for nothing.</summary>
    public string? ByHand =>
        Variant.Id != RunVariant.FixedFans ? Variant.ByHand
        : FanRpm is { } rpm ? $"Set all fans to {rpm:0} rpm in the firmware."
        : FanPercent is { } percent ? $"Set all fans to {percent:0} % in the firmware."
        : Variant.ByHand;

    /// <summary>An order with the fans that were asked for, where the variant fixes them.</summary>
    public BenchOrder WithFans(BenchOrder order) =>
        Variant.Id != RunVariant.FixedFans ? order
        : FanRpm is { } rpm ? order with { FanPercent = null, FanRpm = rpm }
        : order with { FanPercent = FanPercent ?? order.FanPercent };
}

/// <summary>The stages of a guided run.</summary>
[JsonConverter(typeof(KebabEnum<GuidedStage>))]
public enum GuidedStage
{
    /// <summary>A hand has something to do.</summary>
    Hand,

    /// <summary>Until it is level.</summary>
    Idle,

    /// <summary>Until it is known where it comes to rest.</summary>
    Load,

    /// <summary>Until its rise has halved.</summary>
    CoolDown,

    /// <summary>It has ended.</summary>
    Done,

    /// <summary>It was ended before.</summary>
    Stopped,
}

/// <summary>Where a guided run stands; kept between readings, so that a server that restarts goes on.</summary>
/// <param name="Stage">What goes on.</param>
/// <param name="SinceSeconds">When the stage began, on the log's clock.</param>
/// <param name="Reason">Why it was stopped, as a sentence; null while it goes on.</param>
public sealed record GuidedState(GuidedStage Stage, double SinceSeconds, string? Reason = null)
{
    /// <summary>Before its first reading.</summary>
    public static GuidedState Start { get; } = new(GuidedStage.Idle, 0);

    /// <summary>What follows once the hand has done its part; null in other stages.</summary>
    public GuidedStage? Then { get; init; }

    /// <summary>Whether a person has asked to stay in this stage until let go.</summary>
    public bool Held { get; init; }

    /// <summary>When the load began and ended, on the log's clock; null before.</summary>
    public double? LoadFromSeconds { get; init; }

    /// <summary>When the load ended, s; null while it goes on.</summary>
    public double? LoadToSeconds { get; init; }

    /// <summary>The last forecast: when it was made, where the chip is going, and when it will be level.</summary>
    public double? LookedAtSeconds { get; init; }

    /// <summary>Where the temperature is going, °C; null while that cannot be told.</summary>
    public double? GoingToC { get; init; }

    /// <summary>Since when it has been level, s; null while it climbs.</summary>
    public double? LevelAtSeconds { get; init; }

    /// <summary>Whether it has ended, well or not.</summary>
    public bool IsOver => Stage is GuidedStage.Done or GuidedStage.Stopped;

    /// <summary>Whether a person has to do something before it goes on.</summary>
    public bool WaitsForHand => Stage == GuidedStage.Hand;

    /// <summary>The load as it was led; null when there was none.</summary>
    public LoadEdges? Edges => LoadFromSeconds is { } from && LoadToSeconds is { } to && to > from ? new LoadEdges(from, to) : null;

    /// <summary>The same run in its next stage.</summary>
    public GuidedState Next(GuidedStage stage, double now) =>
        this with
        {
            Stage = stage,
            SinceSeconds = now,
            Then = null,
            LoadFromSeconds = stage == GuidedStage.Load ? now : LoadFromSeconds,
            LoadToSeconds = Stage == GuidedStage.Load && stage != GuidedStage.Load ? now : LoadToSeconds,
        };
}

/// <summary>What a guided run says after a reading.</summary>
/// <param name="Order">What the machine is to do.</param>
/// <param name="Says">Where it stands and what it waits for, in words.</param>
/// <param name="SecondsLeft">Of this stage, as far as it can be told; null when it cannot.</param>
public sealed record GuidedAnswer(GuidedState State, BenchOrder Order, string Says, double? SecondsLeft);
