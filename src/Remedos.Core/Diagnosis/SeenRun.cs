using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Diagnosis;

/// <summary>A run of a setup beside what a sound machine would have shown in it.</summary>
/// <param name="Expected">Null where nothing is expected: the cooler's kind, the watts or the room are not known.</param>
public sealed record SeenRun(RunAnalysis Run, RunConditions Conditions, ExpectedRun? Expected)
{
    /// <summary>
    /// A run held against a machine of known parts, or, while there is none, against the usual machine of its kind of cooler.
    /// </summary>
    public static SeenRun Of(RunAnalysis run, RunConditions conditions, ReferenceMachine? reference) =>
        new(run, conditions, reference is null ? ExpectedRun.OfKind(run, conditions) : ExpectedRun.Of(reference, run, conditions));

    /// <summary>
    /// Chip above room, as it would be if the load went on until it is level, °C; null where it was stopped too soon to tell.
    /// </summary>
    public double? RiseC => Run.Load?.SustainedTemperatureC + ToComeC - Run.AmbientC;

    /// <summary>Half of its 95 % interval, °C.</summary>
    public double RiseHalfC
    {
        get
        {
            double own = Run.RiseHalfC,
                forecast = Forecast.DoubtShare * (ToComeC ?? 0);
            return Math.Sqrt((own * own) + (forecast * forecast));
        }
    }

    /// <summary>
    /// Whether the load went on long enough to say that the chip, which did not reach its limit, never would.
    /// </summary>
    public bool StaysClearOf(double limitC) =>
        ToComeC is { } open && (open == 0 || Run.Load!.SustainedTemperatureC + open + (Forecast.DoubtShare * Math.Abs(open)) < limitC);

    /// <summary>
    /// What the chip would still rise, °C; null where that is more than half of what it has risen: nobody who has seen so little of a
    /// load knows where it ends.
    /// </summary>
    private double? ToComeC =>
        Run.Load switch
        {
            null => null,
            { Settled: false, ForecastFinalTemperatureC: { } final } load => Math.Abs(final - load.SustainedTemperatureC)
            > MostToComeShare * (load.SustainedTemperatureC - (Run.AmbientC ?? Defaults.RoomC))
                ? null
                : final - load.SustainedTemperatureC,
            _ => 0,
        };

    private const double MostToComeShare = 0.5;

    /// <summary>
    /// Own kind of load: one that fills the processor, as far as anybody said; what nobody said anything of is taken for one.
    /// </summary>
    public bool IsFullLoad => Run.Load is not null && Conditions.Workload is null or "all-core" or "vector" or "cpu-and-gpu";

    /// <summary>
    /// What it holds at a limit in a room, W: what it held where it stood at its limit, else what its resistance says. Null where the run
    /// does not tell, for a light load says little of a full one.
    /// </summary>
    public double? HoldsW(double limitC, double roomC, double ratedW) =>
        Run is not { Resistance: { } resistance, Load.SustainedPowerW: { } watts } || !IsFullLoad ? null
        : Run.ThermalLimit is not null || watts > TellingShare * ratedW ? (limitC - roomC) / resistance.ValueCPerW
        : null;

    /// <summary>
    /// Where the chip stands with so many watts in a room, and no higher than its limit, °C: as a sound one, and beyond that what this run
    /// stood beyond a sound one, a watt for a watt. By this run's own resistance where nothing is expected, and no lower than by that where
    /// it was at its limit: there its fans were at full already. Null where the run does not tell.
    /// </summary>
    /// <param name="soundC">Where the same machine would stand there, were it sound, °C; null where that is not known.</param>
    public double? ChipAtC(double watts, double roomC, double limitC, double? soundC)
    {
        if (RiseC is not { } rise || !IsFullLoad || Run.Load?.SustainedPowerW is not (> 0 and var drawn))
        {
            return null;
        }

        double own = roomC + (rise * watts / drawn);
        if (soundC is not { } sound || Expected is not { Reference.ByParts: true, State.RiseC.Value: var expected })
        {
            return Math.Min(limitC, own);
        }

        double beyond = sound + ((rise - expected) * watts / drawn);
        return Math.Min(limitC, Run.ThermalLimit is null ? beyond : Math.Max(own, beyond));
    }

    /// <summary>
    /// Where this run held its rated watts clear of its limit, fans by their curves: no hotter than this would it stand there sound, °C,
    /// whatever its parts say. Null where the run does not show that.
    /// </summary>
    public double? HeldAtRatedC =>
        IsFullLoad
        && Conditions is { RatedPowerW: > 0 and var rated, FanPolicy: not "fixed" }
        && Run is { ThermalLimit: null, Load.SustainedPowerW: { } drawn }
        && drawn >= RunWords.RatedShare * rated
            ? Run.AmbientC + (RiseC * Math.Max(1, rated / drawn)) + RiseHalfC
            : null;

    /// <inheritdoc cref="RunWords.HeldBackOf"/>
    public HeldBack? Held => RunWords.HeldBackOf(Run, Conditions);

    /// <summary>Of the rated watts, a load that tells how it will be at them.</summary>
    private const double TellingShare = 0.8;

    /// <summary>What the same sound machine would have shown with its fans by their own curves; null where nothing is expected.</summary>
    public ExpectedState? ByItsCurves() =>
        Expected is { Reference: var reference } && ExpectedRun.PointOf(Run, Conditions) is { } at
            ? ExpectedState.Of(
                reference.Machine,
                at with
                {
                    CoolerRpm = null,
                    FansAt = null,
                    // Fans that are fixed have no curve to turn by: as they were seen to.
                    CaseFanRpm = reference.Machine.FixedFansHalfShare > 0 ? at.CaseFanRpm : null,
                }
            )
            : null;

    /// <summary>
    /// What it would have shown with its fans as fast as they were asked to turn, whatever they did; null where nothing is expected.
    /// </summary>
    public ExpectedState? AsAsked() =>
        Expected is { Reference: var reference } && ExpectedRun.PointOf(Run, Conditions) is { } at
            ? ExpectedState.Of(reference.Machine, at with { CoolerRpm = null, CaseFanRpm = null })
            : null;
}
