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

    /// <summary>Chip above room, as it would be if the load went on until it is level, °C.</summary>
    public double? RiseC =>
        (Run.Load is { Settled: false, ForecastFinalTemperatureC: { } final } ? final : Run.Load?.SustainedTemperatureC) - Run.AmbientC;

    /// <summary>Half of its 95 % interval, °C.</summary>
    public double RiseHalfC => Run.RiseHalfC;

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
    /// Where the chip stands with so many watts in a room by what this run's own resistance says, and no higher than its limit, °C. Null
    /// where the run does not tell.
    /// </summary>
    public double? ChipAtC(double watts, double roomC, double limitC) =>
        RiseC is { } rise && IsFullLoad && Run.Load?.SustainedPowerW is > 0 and var drawn
            ? Math.Min(limitC, roomC + (rise * watts / drawn))
            : null;

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
