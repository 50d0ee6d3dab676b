using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// Reads off a trial what it shows beside the usual run: how much cooler it was than the same change makes a sound machine.
/// </summary>
public static class TrialEvidence
{
    /// <summary>Drops at equal watts, °C, beyond what a sound machine drops.</summary>
    private const double SmallDropC = 2.5,
        LargeDropC = 8,
        BetterPumpC = 2;

    /// <summary>Rise at two thirds of the power against a sound one; that many degrees; and standard deviations.</summary>
    private const double StillHotRatio = 1.3,
        StillHotC = 6,
        StillHotZ = 2;

    /// <summary>A known-good cooler has cured it when the chip is so much cooler than that alone explains, °C.</summary>
    private const double CuredC = 5;

    /// <summary>A room is another one when it differs by so much, and hot from here on, °C.</summary>
    private const double OtherRoomC = 4,
        HotRoomC = 28;

    /// <summary>Of its full speed, what a fan that is asked for all reaches at least; and of a usual fan's.</summary>
    private const double ReachesShare = 0.75,
        ReachesShareOfKind = 0.45;

    private const double StandingRpm = 100;

    private const string KnownGoodKind = "dual-tower";

    /// <summary>Which trial a run is, by its conditions; null when it is none.</summary>
    public static string? IdOf(RunConditions conditions) =>
        conditions switch
        {
            { Trial: "pump-full" } => "pump-full-speed",
            { Trial: { } trial } => trial,
            { Panel: "side-off" } => "panel-off-drop",
            { PowerCapW: not (null or RunConditions.NoCap) } => "capped-power",
            { FanPolicy: "fixed", FanPercent: >= 99 } => "fans-full-drop",
            _ => null,
        };

    /// <summary>What a trial shows beside the usual run; null when the two do not tell.</summary>
    /// <param name="evidence">panel-off-drop, fans-full-drop, capped-power, pump-full-speed, known-good-cooler or cooler-room.</param>
    public static EvidenceItem? Of(string evidence, SeenRun usual, SeenRun trial)
    {
        if (
            usual is not { Run.Load.SustainedPowerW: > 0 and { } watts, RiseC: { } was }
            || trial is not { Run.Load.SustainedPowerW: > 0 and { } trialWatts, RiseC: { } now }
        )
        {
            return null;
        }

        double drop = was - (now * watts / trialWatts);
        string? state = evidence switch
        {
            "panel-off-drop" => Beyond(usual.Expected?.State, trial.Expected?.State) is { } own
                ? Three(drop - own - CaseDoubtC(usual))
                : null,
            "fans-full-drop" => Beyond(usual.ByItsCurves(), trial.AsAsked()) is { } own ? Three(drop - own - CurveDoubtC(usual)) : null,
            "capped-power" => trial.Expected?.State.RiseC is not { } sound ? null
            : now > StillHotRatio * sound.Value && now - sound.Value > StillHotC && sound.Z(now, trial.RiseHalfC) > StillHotZ ? "still-hot"
            : "normal",
            "pump-full-speed" => Beyond(usual.Expected?.State, trial.Expected?.State) is { } own
                ? drop - own > BetterPumpC
                    ? "better"
                    : "same"
                : null,
            "known-good-cooler" => KnownGood(usual, trial) is { } own
                ? drop - own > CuredC
                    ? "fixed"
                    : "same"
                : null,
            "cooler-room" => CoolerRoom(usual.Run, trial.Run),
            _ => null,
        };
        return state is null ? null : new EvidenceItem(evidence, state);

        double? Beyond(ExpectedState? soundWas, ExpectedState? soundNow) =>
            soundWas?.RiseC.Value - (soundNow?.RiseC.Value * watts / trialWatts);
    }

    /// <summary>
    /// Whether the fan reached what it should when it was asked for all; null for another trial, or where it is not logged.
    /// </summary>
    public static EvidenceItem? FanAtFull(SeenRun trial)
    {
        if (
            IdOf(trial.Conditions) != "fans-full-drop"
            || trial.Run.Load?.SustainedFanRpm is not { } rpm
            || trial.Expected is not { State.MaxRpm: { } full, Reference: var reference }
        )
        {
            return null;
        }

        return new EvidenceItem(
            "fan-at-full",
            rpm < StandingRpm ? "stands"
                : rpm < (reference.ByParts ? ReachesShare : ReachesShareOfKind) * full ? "short"
                : "reaches"
        );
    }

    /// <summary>
    /// How much more an open side may change in a sound machine of which the case is not known, °C; of one that is, the states'
    /// own borders
    /// hold it.
    /// </summary>
    private static double CaseDoubtC(SeenRun usual) =>
        usual.Expected is { Reference.ByParts: false, State.CaseAirC: { } air } ? air.HalfWidth : 0;

    /// <summary>Likewise full fans, where nobody knows how fast its curve turns them.</summary>
    private static double CurveDoubtC(SeenRun usual) => usual.Expected is { Reference.ByParts: false } ? UnknownCurveC : 0;

    private const double UnknownCurveC = 3;

    private static string Three(double drop) =>
        drop < SmallDropC ? "none"
        : drop < LargeDropC ? "small"
        : "large";

    /// <summary>What a good cooler of the bench drops in this machine, were it sound: the usual one of its kind in the same case.</summary>
    private static double? KnownGood(SeenRun usual, SeenRun trial)
    {
        RunConditions other = trial.Conditions with { CoolerKind = KnownGoodKind };
        if (usual.Expected is not { Reference: var own } || ExpectedRun.OfKind(trial.Run, other) is not { Reference: var good })
        {
            return null;
        }

        ReferenceMachine lent = own with { Machine = own.Machine.WithAirCooler(good.Machine.Cooler!) };
        return usual.Expected.State.RiseC.Value
            - (
                ExpectedRun.Of(lent, trial.Run, other)?.State.RiseC.Value
                * usual.Run.Load!.SustainedPowerW
                / trial.Run.Load!.SustainedPowerW
            );
    }

    /// <summary>
    /// A cool room tells something only of a machine that was at its limit: that it still is, or that a room which was hot kept it there.
    /// </summary>
    private static string? CoolerRoom(RunAnalysis usual, RunAnalysis trial) =>
        usual.AmbientC - trial.AmbientC < OtherRoomC || usual.AmbientC is null || trial.AmbientC is null || usual.ThermalLimit is null
            ? null
        : trial.ThermalLimit is not null ? "same"
        : usual.AmbientC > HotRoomC ? "follows-room"
        : null;
}
