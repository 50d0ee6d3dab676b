using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Bays;

/// <summary>What a guided run is to do.</summary>
/// <param name="Variant">How the machine is run.</param>
/// <param name="LimitC">The processor's limit; null when unknown.</param>
/// <param name="RatedPowerW">Null when unknown.</param>
/// <param name="AmbientC">One reading of the room; null when it is logged or unknown.</param>
/// <param name="LoadSeconds">A set time under load; null to go on until the forecast is within 1 °C.</param>
public sealed record GuidedPlan(RunVariant Variant, double? LimitC, double? RatedPowerW, double? AmbientC, double? LoadSeconds = null);

/// <summary>Where a guided run stands; kept between readings, so that a server that restarts goes on.</summary>
/// <param name="Stage">idle, load, cool-down, done or stopped.</param>
/// <param name="SinceSeconds">When the stage began, on the log's clock.</param>
/// <param name="Reason">Why it was stopped, as a sentence; null while it goes on.</param>
public sealed record GuidedState(string Stage, double SinceSeconds, string? Reason = null)
{
    public const string Idle = "idle", Load = "load", CoolDown = "cool-down", Done = "done", Stopped = "stopped";

    public static GuidedState Start { get; } = new(Idle, 0);

    public bool IsOver => Stage is Done or Stopped;
}

/// <summary>What a guided run says after a reading.</summary>
/// <param name="Order">What the machine is to do.</param>
/// <param name="Says">Where it stands and what it waits for, in words.</param>
/// <param name="SecondsLeft">Of this stage, as far as it can be told; null when it cannot.</param>
public sealed record GuidedAnswer(GuidedState State, BenchOrder Order, string Says, double? SecondsLeft);

/// <summary>
/// Leads a machine through idle, load and cool-down: idle until it is level, load until the forecast says where it comes to rest, cool-down until its rise has
/// halved. Decides from the readings alone, so that it can be asked again at any time, on any server.
/// </summary>
public static class GuidedRun
{
    private const double ShortestIdle = 60, LongestIdle = 600, LevelWithinC = 0.5;

    private const double ShortestLoad = 300, LongestLoad = 2700, LookAgainSeconds = 15;

    /// <summary>Tighter than “settled”, because the whole run, cool-down included, will be read once more.</summary>
    private const double SettledMarginC = 0.5;

    private const double ShortestCoolDown = 120, LongestCoolDown = 600;

    /// <summary>A processor that protects itself hovers at its limit; this far above it does not.</summary>
    private const double OverLimitC = 4, WithoutLimitC = 105, OverForSeconds = 5;

    private const double LostForSeconds = 10;

    /// <summary>Decides what comes next.</summary>
    /// <param name="plan">What the run is.</param>
    /// <param name="state">As the answer before left it.</param>
    /// <param name="log">Everything read since the run began.</param>
    public static GuidedAnswer Next(GuidedPlan plan, GuidedState state, Log log)
    {
        if (state.IsOver)
        {
            return Answer(plan, state, state.Reason ?? "Done: the run lands on its job.", 0);
        }

        double now = log.DurationSeconds;
        if (Danger(plan, state, log) is { } danger)
        {
            return Answer(plan, new GuidedState(GuidedState.Stopped, now, danger), danger, 0);
        }

        return state.Stage switch
        {
            GuidedState.Idle => IdleStage(plan, state, log, now - state.SinceSeconds),
            GuidedState.Load => LoadStage(plan, state, log, now - state.SinceSeconds),
            _ => CoolDownStage(plan, state, log, now - state.SinceSeconds),
        };
    }

    /// <summary>Stops a run by hand; the machine is let go at once.</summary>
    public static GuidedAnswer Stop(GuidedPlan plan, double atSeconds) => Answer(plan, new GuidedState(GuidedState.Stopped, atSeconds, "Stopped by hand."), "Stopped by hand.", 0);

    private static GuidedAnswer IdleStage(GuidedPlan plan, GuidedState state, Log log, double been)
    {
        double? drift = been < ShortestIdle ? null : Drift(log, ShortestIdle);
        if (drift is { } small && Math.Abs(small) <= LevelWithinC || been >= LongestIdle)
        {
            string begins = plan.Variant.Id == "by-hand" ? "Start the owner’s program now." : "Level at idle: full load begins.";
            return Answer(plan, new GuidedState(GuidedState.Load, log.DurationSeconds), begins, plan.LoadSeconds ?? ShortestLoad);
        }

        return Answer(plan, state, drift is null ? "Idle, until a minute has been seen." : $"Idle, until level: still {(drift > 0 ? "rising" : "falling")} by {Math.Abs(drift.Value):0.0} °C in half a minute.", Math.Max(0, ShortestIdle - been));
    }

    private static GuidedAnswer LoadStage(GuidedPlan plan, GuidedState state, Log log, double been)
    {
        GuidedAnswer End(string why) => Answer(plan, new GuidedState(GuidedState.CoolDown, log.DurationSeconds), why, ShortestCoolDown);
        if (plan.LoadSeconds is { } set)
        {
            return been >= set ? End("The set time is over: cool-down.") : Answer(plan, state, "Full load, for the time that was set.", set - been);
        }

        if (been >= LongestLoad)
        {
            return End("Three quarters of an hour are enough: cool-down.");
        }

        // A fit every few readings is plenty; in between the last word stands.
        bool look = been >= ShortestLoad && been % LookAgainSeconds < Math.Max(log.IntervalSeconds, 1);
        LoadFigures? load = look ? RunAnalyzer.Analyze(log, Conditions(plan) with { Load = new LoadEdges(state.SinceSeconds, log.DurationSeconds) }).Load : null;
        if (load is { ForecastFinalTemperatureC: { } final } && Math.Abs(final - load.SustainedTemperatureC) <= SettledMarginC)
        {
            return End($"Level at {final:0} °C: cool-down.");
        }

        return load is { ForecastFinalTemperatureC: { } goingTo, NeedsSeconds: { } needs }
            ? Answer(plan, state, $"Full load: going to {goingTo:0} °C.", Math.Min(needs, LongestLoad - been))
            : Answer(plan, state, "Full load, until it is level.", Math.Max(0, ShortestLoad - been));
    }

    private static GuidedAnswer CoolDownStage(GuidedPlan plan, GuidedState state, Log log, double been)
    {
        Series chip = Chip(log);
        double room = Series.Of(log, ChannelRole.AmbientTemperature)?.Values[^1] ?? plan.AmbientC ?? chip.Values.Min();
        double atEnd = chip.MeanBetween(state.SinceSeconds - 5, state.SinceSeconds) ?? chip.Values[^1];
        bool halved = chip.Values[^1] - room <= (atEnd - room) / 2;
        return been >= ShortestCoolDown && (halved || been >= LongestCoolDown)
            ? Answer(plan, new GuidedState(GuidedState.Done, log.DurationSeconds), "Done: the run lands on its job.", 0)
            : Answer(plan, state, halved ? "Cooling down, to the end of two minutes." : "Cooling down, until its rise has halved.", Math.Max(0, ShortestCoolDown - been));
    }

    /// <summary>Why the run must stop now, as a sentence; null when it may go on.</summary>
    private static string? Danger(GuidedPlan plan, GuidedState state, Log log)
    {
        double now = log.DurationSeconds;
        Channel? chip = log.Channels.FirstOrDefault(channel => channel.Role.IsProcessorTemperature()), power = log.Channels.FirstOrDefault(channel => channel.Role == ChannelRole.CpuPower);
        if (chip is null || Silent(log, chip) >= LostForSeconds)
        {
            return $"Stopped: no processor temperature for {LostForSeconds:0} s.";
        }

        if (state.Stage == GuidedState.Load && power is { Samples: > 0 } && Silent(log, power) >= LostForSeconds)
        {
            return $"Stopped: no processor power for {LostForSeconds:0} s.";
        }

        double ceiling = plan.LimitC + OverLimitC ?? WithoutLimitC;
        return now > OverForSeconds && Chip(log).Between(now - OverForSeconds, now) is { IsEmpty: false } latest && Coolest(latest) > ceiling
            ? $"Stopped: {latest[^1]:0} °C, {(plan.LimitC is null ? "and no limit is known" : $"above its limit of {plan.LimitC:0} °C")}."
            : null;
    }

    /// <summary>For how long a channel has had no sample, s.</summary>
    private static double Silent(Log log, Channel channel)
    {
        int last = Array.FindLastIndex(channel.Values, value => !float.IsNaN(value));
        return log.DurationSeconds - (last < 0 ? 0 : log.TimeSeconds[last]);
    }

    /// <summary>How much warmer the second half of a stretch is than the first, °C.</summary>
    private static double? Drift(Log log, double seconds)
    {
        (Series chip, double end) = (Chip(log), log.DurationSeconds);
        return chip.MeanBetween(end - (seconds / 2), end) - chip.MeanBetween(end - seconds, end - (seconds / 2));
    }

    private static double Coolest(ReadOnlySpan<double> values)
    {
        double coolest = double.PositiveInfinity;
        foreach (double value in values)
        {
            coolest = Math.Min(coolest, value);
        }

        return coolest;
    }

    private static Series Chip(Log log) => RunChannels.ChipTemperature(log, []);

    private static RunConditions Conditions(GuidedPlan plan) => new(AmbientC: plan.AmbientC, TemperatureLimitC: plan.LimitC, RatedPowerW: plan.RatedPowerW, FanPolicy: plan.Variant.Under.FanPercent is null ? "auto" : "fixed");

    private static GuidedAnswer Answer(GuidedPlan plan, GuidedState state, string says, double? left) =>
        new(state, state.IsOver ? new BenchOrder(0) : state.Stage == GuidedState.Load ? plan.Variant.For(plan.RatedPowerW) : plan.Variant.Under with { Load = 0 }, says, left);
}
