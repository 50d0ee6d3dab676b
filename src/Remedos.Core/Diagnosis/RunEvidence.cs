using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// Reads off a run what it shows, in the states of the evidence table: how many standard deviations it lies beyond what a sound machine
/// would have shown under that run's own
/// conditions, and by how much. What a run cannot show, or what nothing is expected of, is not there.
/// </summary>
public static class RunEvidence
{
    /// <summary>States of what a run shows.</summary>
    public const string CardSound = "no",
        Normal = "normal",
        Raised = "raised",
        High = "high";

    /// <summary>Beyond doubt, and clearly so, standard deviations.</summary>
    private const double RaisedZ = HeatStaircase.SticksOutZ,
        HighZ = 2.6;

    /// <summary>Rise at rest beyond a sound one, °C.</summary>
    private const double RaisedIdleC = 4,
        HighIdleC = 10;

    /// <summary>Of the rise at the load's end, what is left after a minute beyond a sound one; and how well that is read.</summary>
    private const double SlowerShare = 0.08,
        RecoveryHalf = 0.04;

    private const double RaisedRatio = HeatStaircase.RaisedRatio,
        HighRatio = 1.5,
        ExtremeRatio = 2.3;

    /// <summary>Of the rated watts.</summary>
    private const double PlateauShare = 0.92,
        DeepShare = 0.7,
        AboveShare = 1.08,
        FarAboveShare = 1.25;

    private const double AtOnceSeconds = 5,
        SecondsSeconds = 60,
        WideCoresC = 12,
        BusyPercent = 8,
        OffsetC = 4;

    private const double StandingPumpRpm = 300,
        SlowPumpRpm = 1600,
        StandingFanRpm = 100;

    /// <summary>So near to its limit a chip is hot, °C; and a fan that turns at less than this share of its fastest then is low.</summary>
    private const double HotWithinC = 15,
        LowFanShare = 0.6,
        LowFanShareOfKind = 0.4,
        SlowCaseFanShare = 0.35;

    /// <summary>
    /// A card at work, W; what is beyond a sound one, and too hot for any, °C; and a gap to its hot spot that is too wide.
    /// </summary>
    private const double CardAtWorkW = 50,
        CardBeyondC = 6,
        HotCardC = 84,
        WideGapC = 24,
        CardReadingC = 2;

    private const double HotRoomC = 28,
        CoolRoomC = 22,
        HoldsC = 2;

    private const double NearLimitC = 4;

    /// <summary>What a sound one would stand at with its rated watts, against its limit.</summary>
    private static string Sum(double atRatedC, double halfC, double limitC) =>
        atRatedC > limitC + halfC ? "far-over"
        : atRatedC > limitC ? "over"
        : atRatedC > limitC - NearLimitC ? "near"
        : "holds";

    private const double CaseBeyondC = 4,
        CaseFarBeyondC = 12;

    private const double FlowsLpm = 0.5,
        HardlyLpm = 0.2,
        FlowTellsW = 40;

    /// <summary>What the usual run shows.</summary>
    /// <param name="fastestRpm">The fastest that its cooler's fan was seen in any run; null when it was never logged.</param>
    public static IEnumerable<EvidenceItem> Of(SeenRun seen, double? fastestRpm)
    {
        (RunAnalysis run, RunConditions conditions, ExpectedRun? expected) = (seen.Run, seen.Conditions, seen.Expected);
        ExpectedState? sound = expected?.State;
        Dictionary<string, string?> states = new(StringComparer.Ordinal)
        {
            ["idle-rise"] =
                run.Idle?.RiseC is { } idle && sound?.IdleC is { } usual
                    ? Three(usual.Z(idle, seen.RiseHalfC), idle - usual.Value, RaisedIdleC, HighIdleC)
                    : null,
        };
        if (run.Load is { } load)
        {
            Phase phase = run.Phases.First(one => one.Kind == PhaseKind.Load);
            states["time-to-limit"] =
                conditions.TemperatureLimitC is not { } limitC ? null
                : run.ThermalLimit is not { } limit
                    ? seen.StaysClearOf(limitC) ? "never"
                        : null
                : (limit.FirstSeconds - phase.StartSeconds) switch
                {
                    <= AtOnceSeconds => "at-once",
                    <= SecondsSeconds => "seconds",
                    _ => "minutes",
                };
            states["recovery"] =
                Left(run) is { } left && sound is { LeftAfterMinute: var expectedLeft }
                    ? expectedLeft.Z(left, RecoveryHalf) > RaisedZ && left - expectedLeft.Value > SlowerShare
                        ? "slow"
                        : "quick"
                    : null;
            states["resistance-ratio"] =
                seen.RiseC is { } rise && sound is { RiseC: var soundRise }
                    ? Ratio(rise / soundRise.Value, soundRise.Z(rise, seen.RiseHalfC))
                    : null;
            states["power-plateau"] = Plateau(seen);
            states["power-vs-rated"] = load.SustainedPowerW / conditions.RatedPowerW is { } share
                ? share > FarAboveShare
                    ? "far-above"
                    : share > AboveShare
                        ? "above"
                        : "within"
                : null;
            states["clock-pinned"] =
                load.SustainedClockMHz is null ? null
                : run.Warnings.Any(warning => warning.Code == RunFigures.ClockPinned) ? "yes"
                : "no";
            states["fan-response"] = FanResponse(seen, fastestRpm);
            states["case-fans"] = CaseFans(seen);
            states["pump-speed"] =
                run.Beside?.PumpRpm is not { } pump ? null
                : pump < StandingPumpRpm ? "zero"
                : pump < SlowPumpRpm ? "low"
                : Normal;
            states["core-spread"] = load.CoreSpreadC is { } spread
                ? spread > WideCoresC
                    ? "wide"
                    : Normal
                : null;
            states["idle-load"] = run.Beside?.IdleLoadPercent is { } busy
                ? busy > BusyPercent
                    ? "busy"
                    : "quiet"
                : null;
            states["offset-channel"] = run.ControlOffsetC is { } offset
                ? Math.Abs(offset) > OffsetC
                    ? "yes"
                    : "no"
                : null;
            states["case-air"] = CaseAirOf(seen);
            states["flow"] = Flow(run);
            states["room"] = Room(seen);
            states["too-small-by-sum"] =
                expected is { Reference.ByParts: true } && sound?.AtRatedC is { } rated && conditions.TemperatureLimitC is { } most
                    ? Sum(Math.Min(rated.Value, seen.HeldAtRatedC ?? double.PositiveInfinity), rated.HalfWidth, most)
                    : null;
        }

        foreach ((string id, string? state) in states)
        {
            if (state is not null)
            {
                yield return new EvidenceItem(id, state);
            }
        }

        if (OfCard(seen) is { } card)
        {
            yield return card;
        }
    }

    /// <summary>
    /// The step that sticks out, by the heat paths of all runs of a setup taken together; null where no run tells one, or nothing is
    /// expected.
    /// </summary>
    public static EvidenceItem? OfSteps(IReadOnlyList<SeenRun> runs)
    {
        HeatStaircase[] stairs =
        [
            .. runs.Where(run => run.Expected is not null)
                .Select(run => HeatStaircase.Of(run.Run, run.Conditions, run.Expected))
                .OfType<HeatStaircase>(),
        ];
        if (stairs.Length == 0)
        {
            return null;
        }

        List<(HeatStep Id, double ExcessC, double ExpectedC, double HalfC)> together = [];
        double power = stairs.Max(stair => stair.PowerW);
        foreach (
            IGrouping<HeatStep, (StaircaseStep Step, double Watts)> same in stairs
                .SelectMany(stair => stair.Steps.Select(step => (Step: step, stair.PowerW)))
                .GroupBy(one => one.Step.Id)
        )
        {
            // What the readings leave open shrinks with every run; what the parts leave open does not.
            double weights = 0,
                excess = 0,
                sound = 0,
                soundHalf = 0;
            foreach ((StaircaseStep step, double watts) in same)
            {
                double half = Math.Max(step.HalfWidthC ?? StaircaseStep.MeasuredC, 0.5) / watts,
                    weight = 1 / (half * half);
                weights += weight;
                excess += weight * (step.RiseC - step.ExpectedC!.Value) / watts;
                sound += weight * step.ExpectedC.Value / watts;
                soundHalf += weight * step.ExpectedHalfWidthC!.Value / watts;
            }

            together.Add(
                (
                    same.Key,
                    power * excess / weights,
                    power * sound / weights,
                    power * Math.Sqrt((1 / weights) + (soundHalf / weights * (soundHalf / weights)))
                )
            );
        }

        return new EvidenceItem("swollen-band", HeatStaircase.StuckOf(together) is { } stuck ? Kebab.Of(stuck) : "none");
    }

    /// <summary>What a run with the card at work shows of the card; null where it rests.</summary>
    public static EvidenceItem? OfCard(SeenRun seen)
    {
        if (seen.Run.Graphics is not { PowerW: > CardAtWorkW and { } watts } card || seen.Run.AmbientC is not { } room)
        {
            return null;
        }

        // The air it breathes is the case's: as logged, else as it is expected to be while the card works.
        Expected? caseAir = seen.Expected is { } expected
            ? ExpectedState.CaseAirAt(
                expected.Reference.Machine,
                seen.Run.Load?.SustainedPowerW ?? seen.Run.Idle?.PowerW ?? 0,
                watts,
                room,
                seen.Run.Beside?.CaseFanRpm
            )
            : null;
        double air = card is { AirIsCase: true, AirC: { } logged } ? logged : room + (caseAir?.Value ?? 0);
        double airHalf = card.AirIsCase ? CardReadingC : caseAir?.HalfWidth ?? CardReadingC;
        Expected? own = seen.Expected is null ? null : ExpectedState.CardAt(seen.Expected.Reference.Machine, air, watts);
        double beyond = card.Core.SustainedC - air - (own?.Value ?? double.PositiveInfinity);
        bool hot = card.ThermalLimit is not null || card.Core.SustainedC > HotCardC;
        string? state =
            beyond > CardBeyondC && own!.Value.Z(card.Core.SustainedC - air, airHalf) > RaisedZ
                ? hot
                    ? "core-at-limit"
                    : "core"
                : card.GapC > WideGapC
                    ? "hotspot-only"
                    : hot
                        ? "by-its-air"
                        : own is null
                            ? null
                            : CardSound;
        return state is null ? null : new EvidenceItem("gpu-hot", state);
    }

    private static string Three(double z, double beyond, double raised, double high) =>
        z > HighZ && beyond > high ? High
        : z > RaisedZ && beyond > raised ? Raised
        : Normal;

    private static string Ratio(double ratio, double z) =>
        z > HighZ && ratio > ExtremeRatio ? "extreme"
        : z > HighZ && ratio > HighRatio ? High
        : z > RaisedZ && ratio > RaisedRatio ? Raised
        : Normal;

    /// <summary>Of the rise at the load's end, what is left after a minute.</summary>
    private static double? Left(RunAnalysis run) =>
        run is { Recovery.After60sRiseC: { } after, Load: { } load, AmbientC: { } room } && load.SustainedTemperatureC - room > 1
            ? after / (load.SustainedTemperatureC - room)
            : null;

    /// <summary>Whether it is held below its rating although it is cool.</summary>
    private static string? Plateau(SeenRun seen)
    {
        if (seen.Run.Load?.SustainedPowerW is not { } watts || !seen.IsFullLoad)
        {
            return null;
        }

        bool free =
            seen.Run.ThermalLimit is null
            && seen.Conditions.PowerCapW is null or RunConditions.NoCap
            && seen.Conditions.ClockLockMHz is null or RunConditions.NoCap;
        return !free ? "no"
            : seen.Conditions.RatedPowerW is { } rated
                ? watts < DeepShare * rated ? "deep"
                    : watts < PlateauShare * rated ? "yes"
                    : "no"
            : seen.Run.PowerLimit is null ? "no"
            : "yes";
    }

    private static bool IsHot(SeenRun seen) =>
        seen.Run.ThermalLimit is not null
        || seen.Run.Load!.SustainedTemperatureC > (seen.Conditions.TemperatureLimitC ?? Defaults.LimitC) - HotWithinC;

    /// <summary>Whether the case's fans turn while the chip is hot; null where neither log nor parts tell.</summary>
    private static string? CaseFans(SeenRun seen) =>
        seen.Conditions.FanPolicy == "fixed"
        || seen.Run.Beside?.CaseFanRpm is not { } rpm
        || seen.Expected?.Reference.Machine.CaseFansAt(rpm) is not { } share
            ? null
        : share >= SlowCaseFanShare ? "turn"
        : IsHot(seen) ? "slow-while-hot"
        : null;

    private static string? FanResponse(SeenRun seen, double? fastestRpm)
    {
        if (seen.Conditions.CoolerKind == "passive" || seen.Run.Fan is not { State: not "unknown", LoadRpm: { } loaded } fan)
        {
            return null;
        }

        if (loaded < StandingFanRpm)
        {
            return "stopped";
        }

        bool hot = IsHot(seen);
        double? full = seen.Expected?.State.MaxRpm,
            most = seen.Expected?.Reference.ByParts == true ? Math.Max(full ?? 0, fastestRpm ?? 0)
            : fastestRpm > 1.2 * loaded ? fastestRpm
            : null;
        return !hot
            ? seen.Conditions.FanPolicy == "fixed"
                ? null
                : "ramps"
            : seen.Conditions.FanPolicy == "fixed"
                ? null
                : most is { } known && known > 0
                    ? loaded < LowFanShare * known
                        ? "low-while-hot"
                        : "ramps"
                    : loaded < LowFanShareOfKind * full || fan.IdleRpm is { } idle && loaded < 1.15 * idle && loaded < 0.7 * full
                        ? "low-while-hot"
                        : "ramps";
    }

    private static string? CaseAirOf(SeenRun seen)
    {
        if (
            seen.Run is not { Beside.CaseAirC: { } air, AmbientC: { } room }
            || seen.Expected?.State.CaseAirC is not { } sound
            || (seen.Expected.Reference.ByParts == false && seen.Conditions.CoolerKind == "liquid")
        )
        {
            return null;
        }

        return Three(sound.Z(air - room, 1), air - room - sound.Value, CaseBeyondC, CaseFarBeyondC);
    }

    private static string? Flow(RunAnalysis run) =>
        run is not { Beside: { TubeOutC: not null, TubeReturnC: not null }, Load.SustainedPowerW: > FlowTellsW } ? null
        : run.Flow is not { LitresPerMinute: var litres } || litres >= FlowsLpm ? "flows"
        : litres >= HardlyLpm ? "low"
        : "hardly";

    /// <summary>Whether the room is hot, and whether the machine would keep below its limit in one of 22 °C.</summary>
    private static string? Room(SeenRun seen)
    {
        if (seen.Run is not { AmbientC: { } room, Load: { } load } || seen.Conditions.TemperatureLimitC is not { } limit)
        {
            return null;
        }

        bool held = seen.Run.ThermalLimit is not null || load.SustainedTemperatureC > limit - HoldsC;
        double wanted =
            seen.Conditions.RatedPowerW is { } rated && load.SustainedPowerW < rated && seen.Run.Resistance is { } r
                ? room + (r.ValueCPerW * rated)
                : load.SustainedTemperatureC;
        return room <= HotRoomC ? "usual"
            : held && wanted - (room - CoolRoomC) < limit - HoldsC ? "hot-decides"
            : "hot";
    }
}
