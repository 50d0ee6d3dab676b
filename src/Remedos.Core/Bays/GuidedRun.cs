using System.Collections.Frozen;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Bays;

/// <summary>
/// Leads a machine through idle, load and cool-down: idle until it is level, load until the forecast says where it comes to rest, cool-down
/// until its rise has
/// halved; and waits for a hand where one is needed. Decides from the readings alone, so that it can be asked again at any time, on any
/// server.
/// </summary>
public static class GuidedRun
{
    /// <summary>Readings that come faster tell it no more, s: it may be asked with a log of their means.</summary>
    private const double EverySeconds = 1;

    /// <summary>What the forecast of a load is fitted to, besides the chip: nothing else of a run need be kept while it goes on.</summary>
    private static readonly FrozenSet<ChannelRole> FittedTo =
    [
        ChannelRole.AmbientTemperature,
        ChannelRole.CaseAirTemperature,
        ChannelRole.CpuFanSpeed,
        ChannelRole.CpuPower,
        ChannelRole.GpuPower,
    ];

    private const double ShortestIdle = 60,
        LongestIdle = 600,
        LevelWithinC = 0.5;

    private const double ShortestLoad = 300,
        LongestLoad = 2700,
        LookAgainSeconds = 15;

    /// <summary>Tighter than “settled”, because the whole run, cool-down included, will be read once more.</summary>
    private const double SettledMarginC = 0.5;

    private const double ShortestCoolDown = 120,
        LongestCoolDown = 600;

    /// <summary>A processor that protects itself hovers at its limit; this far above it does not.</summary>
    private const double OverLimitC = 4,
        WithoutLimitC = 105,
        OverForSeconds = 5;

    private const double LostForSeconds = 10;

    /// <summary>The owner's program has begun when the power stands this far above idle for some seconds.</summary>
    private const double BegunW = 15,
        BegunForSeconds = 5;

    /// <summary>A log of what it decides by and no more: its answers are those that all readings would give.</summary>
    public static BayLog NewLog() => new(EverySeconds, FittedTo);

    /// <summary>Begins a run.</summary>
    /// <param name="sender">What the machine can do by itself; null when it has not said, and then hands do everything.</param>
    public static GuidedAnswer Begin(GuidedPlan plan, BayHello? sender)
    {
        bool hand = plan.Variant.Needs is { } needs && sender?.CanDo(needs) != true;
        bool own = plan.IsOwnersLoad || sender?.CanDo(BayHello.Load) != false;
        if (plan.Remount)
        {
            return Answer(
                plan,
                new GuidedState(GuidedStage.Hand, 0) { Then = GuidedStage.Idle },
                $"{RemountWords}{(hand ? $" {plan.ByHand}" : "")} Then go on.",
                null
            );
        }

        return hand || !own
            ? Answer(
                plan,
                new GuidedState(GuidedStage.Hand, 0) { Then = GuidedStage.Idle },
                hand ? $"{plan.ByHand} Then go on." : "This machine makes no load by itself: start one by hand when the bench says so.",
                null
            )
            : Answer(plan, GuidedState.Start, "Idle, until a minute has been seen.", ShortestIdle);
    }

    private const string RemountWords = "Switch off, lift the cooler, clean, new paste, put it back.";

    /// <summary>Decides what comes next.</summary>
    /// <param name="plan">What the run is.</param>
    /// <param name="state">As the answer before left it.</param>
    /// <param name="log">Everything read since the run began.</param>
    public static GuidedAnswer Next(GuidedPlan plan, GuidedState state, BayLog log)
    {
        if (state.IsOver)
        {
            return Answer(plan, state, state.Reason ?? "Done: the run is filed with its job.", 0);
        }

        double now = log.DurationSeconds,
            been = now - state.SinceSeconds;
        if (Danger(plan, state, log) is { } danger)
        {
            return Answer(plan, state.Next(GuidedStage.Stopped, now) with { Reason = danger }, danger, 0);
        }

        GuidedAnswer next = state.Stage switch
        {
            GuidedStage.Hand => HandStage(plan, state, log),
            GuidedStage.Idle => IdleStage(plan, state, log, been),
            GuidedStage.Load => LoadStage(plan, state, log, been),
            _ => CoolDownStage(plan, state, log, been),
        };
        return state.Held && next.State.Stage != state.Stage ? Answer(plan, state, "Held here until it is let go.", null) : next;
    }

    /// <summary>A hand has done its part.</summary>
    public static GuidedAnswer GoOn(GuidedPlan plan, GuidedState state, double now) =>
        state.Then is not { } then ? Answer(plan, state, "It waits for no hand.", null)
        : then == GuidedStage.Idle ? Answer(plan, state.Next(then, now), "Idle, until a minute has been seen.", ShortestIdle)
        : Answer(plan, state.Next(then, now), "The load is on.", plan.LoadSeconds ?? ShortestLoad);

    /// <summary>Stops a run by hand; the machine is let go at once.</summary>
    public static GuidedAnswer Stop(GuidedPlan plan, GuidedState state, double now) =>
        Answer(plan, state.Next(GuidedStage.Stopped, now) with { Reason = "Stopped by hand." }, "Stopped by hand.", 0);

    /// <summary>Stops a run of which nothing is heard any more: a machine that switched itself off, or lost its network.</summary>
    /// <param name="lastChipC">The chip's last reading; null for none.</param>
    public static GuidedAnswer FellSilent(GuidedPlan plan, GuidedState state, double now, double? lastChipC)
    {
        string where = state.Stage switch
        {
            GuidedStage.Load => "under load",
            GuidedStage.CoolDown => "cooling down",
            _ => "at idle",
        };
        string reason = $"Stopped: it fell silent {where}{(lastChipC is { } chip ? $" at {Degrees.At(chip)}" : "")}.";
        return Answer(plan, state.Next(GuidedStage.Stopped, now) with { Reason = reason }, reason, 0);
    }

    /// <summary>What a machine is to do while a run stands so.</summary>
    public static BenchOrder OrderOf(GuidedPlan plan, GuidedState state) =>
        state.IsOver ? new BenchOrder(0, plan.Work)
        : state.Stage == GuidedStage.Load ? plan.Under
        : plan.WithFans(plan.Variant.Under with { Load = 0, Work = plan.Work });

    private static GuidedAnswer HandStage(GuidedPlan plan, GuidedState state, BayLog log)
    {
        double now = log.DurationSeconds;
        if (state.Then == GuidedStage.Load)
        {
            double? idle = log.Mean(ChannelRole.CpuPower, state.SinceSeconds - ShortestIdle, state.SinceSeconds),
                watts = log.Mean(ChannelRole.CpuPower, now - BegunForSeconds, now);
            return now - state.SinceSeconds > BegunForSeconds && watts - idle > BegunW
                ? GoOn(plan, state, now)
                : Answer(plan, state, "Start the owner’s program now.", null);
        }

        return Answer(
            plan,
            state,
            plan.Remount ? $"{RemountWords} Then go on."
                : plan.ByHand is { } words && plan.Variant.Needs is not null ? $"{words} Then go on."
                : "This machine makes no load by itself: start one by hand when the bench says so.",
            null
        );
    }

    private static GuidedAnswer IdleStage(GuidedPlan plan, GuidedState state, BayLog log, double been)
    {
        double now = log.DurationSeconds;
        double? drift =
            been < ShortestIdle
                ? null
                : log.Chip(now - (ShortestIdle / 2), now)?.Mean - log.Chip(now - ShortestIdle, now - (ShortestIdle / 2))?.Mean;
        if (drift is { } small && Math.Abs(small) <= LevelWithinC || been >= LongestIdle)
        {
            return plan.IsOwnersLoad
                ? Answer(plan, state.Next(GuidedStage.Hand, now) with { Then = GuidedStage.Load }, "Start the owner’s program now.", null)
                : Answer(plan, state.Next(GuidedStage.Load, now), "Level at idle: full load begins.", plan.LoadSeconds ?? ShortestLoad);
        }

        return Answer(
            plan,
            state,
            drift is null
                ? "Idle, until a minute has been seen."
                : $"Idle, until level: still {(drift > 0 ? "rising" : "falling")} by "
                    + $"{Degrees.By(Math.Abs(drift.Value), "0.0")} in half a minute.",
            Math.Max(0, ShortestIdle - been)
        );
    }

    private static GuidedAnswer LoadStage(GuidedPlan plan, GuidedState state, BayLog log, double been)
    {
        double now = log.DurationSeconds;
        GuidedAnswer End(string why) =>
            Answer(
                plan,
                state.Next(GuidedStage.CoolDown, now),
                plan.IsOwnersLoad ? $"End the owner’s program now. {why}" : why,
                ShortestCoolDown
            );
        if (plan.LoadSeconds is { } set)
        {
            return been >= set
                ? End("The set time is over: cool-down.")
                : Answer(plan, state, "Full load, for the time that was set.", set - been);
        }

        if (been >= LongestLoad)
        {
            return End("45 minutes are enough: cool-down.");
        }

        // A fit now and then is plenty; in between the last word stands.
        if (been >= ShortestLoad && now - (state.LookedAtSeconds ?? double.NegativeInfinity) >= LookAgainSeconds)
        {
            LoadFigures? load = RunAnalyzer
                .Analyze(log.ToLog(), Conditions(plan) with { Load = new LoadEdges(state.SinceSeconds, now) })
                .Load;
            if (load is { ForecastFinalTemperatureC: { } final } && Math.Abs(final - load.SustainedTemperatureC) <= SettledMarginC)
            {
                return End($"Level at {Degrees.At(final)}: cool-down.");
            }

            state = state with
            {
                LookedAtSeconds = now,
                GoingToC = load?.ForecastFinalTemperatureC,
                LevelAtSeconds = now + load?.NeedsSeconds,
            };
        }

        double most = LongestLoad - been;
        return state is { GoingToC: { } goingTo, LevelAtSeconds: { } level }
            ? Answer(plan, state, $"Full load: going to {Degrees.At(goingTo)}.", Math.Clamp(level - now, 0, most))
            : Answer(plan, state, "Full load, until it is level.", been < ShortestLoad ? ShortestLoad - been : null);
    }

    private static GuidedAnswer CoolDownStage(GuidedPlan plan, GuidedState state, BayLog log, double been)
    {
        double now = log.DurationSeconds;
        double chip = log.Chip(now - OverForSeconds, now)?.Last ?? double.PositiveInfinity,
            atEnd = log.Chip(state.SinceSeconds - OverForSeconds, state.SinceSeconds)?.Mean ?? chip;
        double room = log.Latest(ChannelRole.AmbientTemperature) ?? plan.AmbientC ?? log.Chip(0, now)?.Least ?? chip;
        bool halved = chip - room <= (atEnd - room) / 2;
        return been >= ShortestCoolDown && (halved || been >= LongestCoolDown)
            ? Answer(plan, state.Next(GuidedStage.Done, now), "Done: the run is filed with its job.", 0)
            : Answer(
                plan,
                state,
                halved ? "Cooling down, to the end of two minutes." : "Cooling down, until its rise has halved.",
                Math.Max(0, ShortestCoolDown - been)
            );
    }

    /// <summary>Why the run must stop now, as a sentence; null when it may go on.</summary>
    private static string? Danger(GuidedPlan plan, GuidedState state, BayLog log)
    {
        // Whoever works on it may have switched it off.
        if (!state.WaitsForHand && log.ChipSilentFor >= LostForSeconds)
        {
            return $"Stopped: no processor temperature for {LostForSeconds:0} s.";
        }

        if (state.Stage == GuidedStage.Load && log.SilentFor(ChannelRole.CpuPower) >= LostForSeconds)
        {
            return $"Stopped: no processor power for {LostForSeconds:0} s.";
        }

        double now = log.DurationSeconds,
            ceiling = plan.LimitC + OverLimitC ?? WithoutLimitC;
        return now > OverForSeconds && log.Chip(now - OverForSeconds, now) is { } latest && latest.Least > ceiling
            ? $"Stopped: {Degrees.At(latest.Last)}, "
                + $"{(plan.LimitC is null ? "and no limit is known" : $"above its limit of {Degrees.At(plan.LimitC)}")}."
            : null;
    }

    private static RunConditions Conditions(GuidedPlan plan) =>
        new(
            AmbientC: plan.AmbientC,
            TemperatureLimitC: plan.LimitC,
            RatedPowerW: plan.RatedPowerW,
            FanPolicy: plan.Under is { FanPercent: null, FanRpm: null } ? "auto" : "fixed"
        );

    private static GuidedAnswer Answer(GuidedPlan plan, GuidedState state, string says, double? left) =>
        new(state, OrderOf(plan, state), says, left);
}
