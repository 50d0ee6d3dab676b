using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// Reads off runs what they show, in the states of the evidence table. What a run cannot show is not there. Where it is known how the same machine runs when nothing is wrong (from the
/// catalogue, by simulation), it is held against that; otherwise against what is healthy for its kind of cooler.
/// </summary>
public static class RunEvidence
{
    /// <summary>Rise above the room at idle, °C, without and beyond a healthy one.</summary>
    private const double RaisedIdleC = 18, HighIdleC = 28, RaisedIdleBeyondC = 5, HighIdleBeyondC = 14;

    private const double AtOnceSeconds = 5, SecondsSeconds = 60;

    /// <summary>Of the rise at the load's end, what is left after a minute; without and beyond a healthy one.</summary>
    private const double SlowRecovery = 0.65, SlowRecoveryBeyond = 0.12;

    /// <summary>Against a healthy machine.</summary>
    private const double RaisedRatio = 1.18, HighRatio = 1.6;

    /// <summary>A band is swollen when it exceeds the healthy one by this share and by these degrees.</summary>
    private const double SwollenShare = 0.3, SwollenC = 4;

    /// <summary>Of the rated watts.</summary>
    private const double PlateauShare = 0.92, AboveShare = 1.08;

    private const double WideCoresC = 12, BusyPercent = 8, OffsetC = 4;

    private const double StandingPumpRpm = 300, SlowPumpShare = 0.8, SlowPumpRpm = 1600;

    /// <summary>A fan that turns this much slower than in a healthy machine, while the chip is warmer than there by so much, °C.</summary>
    private const double SlowFanShare = 0.75, WarmerC = 3, StandingFanRpm = 100;

    /// <summary>A card at work, and what is too hot for one, °C; without and beyond a healthy one.</summary>
    private const double CardAtWorkW = 50, HotCardC = 84, HotCardBeyondC = 4, HotSpotC = 24;

    /// <summary>Drops at equal watts, °C, beyond what a healthy machine drops.</summary>
    private const double SmallDropC = 2.5, LargeDropC = 8, BetterPumpC = 2;

    /// <summary>Without a healthy machine to hold it against, these drops are its own, °C.</summary>
    private const double UsualPanelC = 2, UsualFansC = 8, UsualKnownGoodC = 6;

    /// <summary>Rise at two thirds of the power against a healthy one; and how near to the limit is hot, °C.</summary>
    private const double StillHotRatio = 1.3, StillHotC = 6, NearLimitC = 18;

    /// <summary>A known-good cooler, or a cooler room, has cured it when the chip is so much cooler than that alone explains, °C.</summary>
    private const double CuredC = 5;

    private const double HotRoomC = 27;

    /// <summary>What the usual run shows.</summary>
    /// <param name="healthy">The same machine with nothing wrong, run alike; null when it is not known.</param>
    public static IReadOnlyList<EvidenceItem> Of(RunAnalysis run, RunConditions conditions, RunAnalysis? healthy = null)
    {
        List<EvidenceItem> found = [];
        void Add(string id, string? state)
        {
            if (state is not null)
            {
                found.Add(new EvidenceItem(id, state));
            }
        }

        Phase? load = run.Phases.FirstOrDefault(phase => phase.Kind == Phase.Load);
        Add("idle-rise", run.Idle?.RiseC is not { } rise ? null : healthy?.Idle?.RiseC is { } usual ? Three(rise - usual, RaisedIdleBeyondC, HighIdleBeyondC, "normal", "raised", "high") : Three(rise, RaisedIdleC, HighIdleC, "normal", "raised", "high"));
        if (load is null || run.Load is not { } figures)
        {
            return found;
        }

        HealthyPath? kind = HealthyPath.Of(conditions.CoolerKind);
        double? expected = healthy?.Resistance?.ValueCPerW ?? kind?.ChipCPerW + kind?.CoolerCPerW + kind?.BulkCPerW;
        Add("time-to-limit", conditions.TemperatureLimitC is null ? null : run.ThermalLimit is not { } limit ? "never" : (limit.FirstSeconds - load.StartSeconds) switch { <= AtOnceSeconds => "at-once", <= SecondsSeconds => "seconds", _ => "minutes" });
        Add("recovery", Left(run) is not { } left ? null : left > (healthy is not null && Left(healthy) is { } usually ? usually + SlowRecoveryBeyond : SlowRecovery) ? "slow" : "quick");
        Add("swollen-band", Swollen(run, healthy, kind));
        Add("resistance-ratio", run.Resistance is { } resistance && expected is { } sound ? Three(resistance.ValueCPerW / sound, RaisedRatio, HighRatio, "normal", "raised", "high") : null);
        Add("power-plateau", figures.SustainedPowerW is not { } watts ? null : run.PowerLimit is not null && run.ThermalLimit is null && conditions.PowerCapW is null && (conditions.RatedPowerW is not { } rated || watts < PlateauShare * rated) ? "yes" : "no");
        Add("power-vs-rated", figures.SustainedPowerW is { } drawn && conditions.RatedPowerW is { } most ? drawn > AboveShare * most ? "above" : "within" : null);
        Add("clock-pinned", figures.SustainedClockMHz is null ? null : run.Warnings.Any(warning => warning.Code == RunFigures.ClockPinned) ? "yes" : "no");
        Add("fan-response", conditions.CoolerKind == "passive" ? null : FanResponse(run, healthy));
        double slowPump = healthy is null ? SlowPumpRpm : SlowPumpShare * (healthy.Channels.FirstOrDefault(channel => channel.Role == ChannelRole.PumpSpeed.Name())?.Mean ?? SlowPumpRpm / SlowPumpShare);
        Add("pump-speed", run.Beside?.PumpRpm is not { } pump ? null : pump < StandingPumpRpm ? "zero" : pump < slowPump ? "low" : "normal");
        Add("core-spread", figures.CoreSpreadC is { } spread ? spread > WideCoresC ? "wide" : "normal" : null);
        Add("idle-load", run.Beside?.IdleLoadPercent is { } busy ? busy > BusyPercent ? "busy" : "quiet" : null);
        Add("offset-channel", run.ControlOffsetC is { } offset ? Math.Abs(offset) > OffsetC ? "yes" : "no" : null);
        if (run.Beside is { GraphicsPowerW: > CardAtWorkW, GraphicsC: { } card })
        {
            double? soundCard = healthy?.Channels.FirstOrDefault(channel => channel.Role == ChannelRole.GpuTemperature.Name())?.Mean, meanCard = run.Channels.FirstOrDefault(channel => channel.Role == ChannelRole.GpuTemperature.Name())?.Mean;
            bool hot = soundCard is null ? card > HotCardC : meanCard - run.AmbientC > soundCard - healthy!.AmbientC + HotCardBeyondC;
            Add("gpu-hot", hot ? "core" : run.Beside.GraphicsHotspotC - card > HotSpotC ? "hotspot-only" : "no");
        }

        return found;
    }

    /// <summary>Which trial a run is, by its conditions; null when it is none.</summary>
    public static string? TrialOf(RunConditions conditions) => conditions switch
    {
        { Trial: "pump-full" } => "pump-full-speed",
        { Trial: { } trial } => trial,
        { Panel: "side-off" } => "panel-off-drop",
        { PowerCapW: not null } => "capped-power",
        { FanPolicy: "fixed", FanPercent: >= 99 } => "fans-full-drop",
        _ => null,
    };

    /// <summary>What a trial shows beside the usual run; null when the two do not tell.</summary>
    /// <param name="evidence">panel-off-drop, fans-full-drop, capped-power, pump-full-speed, known-good-cooler or cooler-room.</param>
    /// <param name="healthyUsual">The same machine with nothing wrong in the usual run; null when it is not known.</param>
    /// <param name="healthyTrial">And in this trial.</param>
    /// <param name="limitC">The processor's; null when unknown.</param>
    public static EvidenceItem? Of(string evidence, RunAnalysis usual, RunAnalysis trial, double? limitC, RunAnalysis? healthyUsual = null, RunAnalysis? healthyTrial = null)
    {
        if (usual is not { Load: { SustainedPowerW: { } watts }, Resistance: { } was, AmbientC: { } room } || trial is not { Load: { } after, Resistance: { } now })
        {
            return null;
        }

        double drop = (was.ValueCPerW - now.ValueCPerW) * watts;
        double? own = healthyUsual?.Resistance is { } soundWas && healthyTrial?.Resistance is { } soundNow ? (soundWas.ValueCPerW - soundNow.ValueCPerW) * watts : null;
        string? state = evidence switch
        {
            "panel-off-drop" => Three(drop - (own ?? UsualPanelC), SmallDropC, LargeDropC, "none", "small", "large"),
            "fans-full-drop" => Three(drop - (own ?? UsualFansC), SmallDropC, LargeDropC, "none", "small", "large"),
            "capped-power" => (healthyTrial?.Resistance is { } sound
                ? now.ValueCPerW > StillHotRatio * sound.ValueCPerW && (now.ValueCPerW - sound.ValueCPerW) * watts * 2 / 3 > StillHotC
                : after.SustainedTemperatureC > limitC - NearLimitC) ? "still-hot" : "normal",
            "pump-full-speed" => drop - (own ?? 0) > BetterPumpC ? "better" : "same",
            "known-good-cooler" => drop - (own ?? UsualKnownGoodC) > CuredC ? "fixed" : "same",
            "cooler-room" => room > HotRoomC && (usual.ThermalLimit is null || trial.ThermalLimit is null) ? "follows-room" : "same",
            _ => null,
        };
        return state is null ? null : new EvidenceItem(evidence, state);
    }

    private static string Three(double value, double second, double third, string low, string middle, string high) => value < second ? low : value < third ? middle : high;

    /// <summary>Of the rise at the load's end, what is left after a minute.</summary>
    private static double? Left(RunAnalysis run) => run is { Recovery.After60sRiseC: { } after, Load: { } load, AmbientC: { } room } && load.SustainedTemperatureC - room > 1 ? after / (load.SustainedTemperatureC - room) : null;

    private static string? Swollen(RunAnalysis run, RunAnalysis? healthy, HealthyPath? kind)
    {
        if (healthy?.HeatPath is { } sound && run.HeatPath is { } bands && run.Load?.SustainedPowerW is { } watts)
        {
            // At the fan's speed: fins lose more to slower air, and that is the fan's doing, which has an evidence of its own.
            double slower = run.Fan?.LoadRpm > StandingFanRpm && healthy.Fan?.LoadRpm > StandingFanRpm ? Math.Pow(run.Fan!.LoadRpm!.Value / healthy.Fan!.LoadRpm!.Value, -0.5) : 1;
            double Excess(HeatBand band) => (band.ResistanceCPerW - (sound.Single(one => one.Band == band.Band).ResistanceCPerW * (band.Band == HeatBand.Bulk ? Math.Max(1, slower) : 1))) * watts;
            HeatBand worst = bands.MaxBy(Excess)!;
            return Excess(worst) > SwollenC && Excess(worst) > SwollenShare * worst.ResistanceCPerW * watts * 0.75 && Excess(worst) > worst.HalfWidthCPerW * watts * 0.7 ? worst.Band : "none";
        }

        return run.Staircase is not { } stairs || kind is null ? null : stairs.Steps.FirstOrDefault(step => step.Swollen)?.Id switch { null => "none", HeatStaircase.CaseAir => HeatBand.Bulk, var id => id };
    }

    private static string? FanResponse(RunAnalysis run, RunAnalysis? healthy)
    {
        if (run.Fan is not { LoadRpm: { } rpm } fan)
        {
            return null;
        }

        return rpm < StandingFanRpm ? "stopped"
            : healthy?.Fan?.LoadRpm is { } sound && rpm < SlowFanShare * sound && run.Load!.SustainedTemperatureC > healthy.Load!.SustainedTemperatureC + WarmerC ? "low-while-hot"
            : fan.State is "low-while-hot" or "stopped" ? fan.State
            : healthy is not null || fan.State == "ramps" ? "ramps" : null;
    }
}
