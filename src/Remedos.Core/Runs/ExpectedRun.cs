using Remedos.Core.SteadyState;

namespace Remedos.Core.Runs;

/// <summary>
/// What a sound machine would have shown in a run, under that run's own conditions: its watts, fan speed, room, panel, card.
/// </summary>
/// <param name="Reference">The machine it is computed of.</param>
public sealed record ExpectedRun(ReferenceMachine Reference, ExpectedState State)
{
    /// <summary>Against a machine that is known.</summary>
    /// <returns>Null where the run tells too little to be held against anything: no load, no watts, no room.</returns>
    public static ExpectedRun? Of(ReferenceMachine? reference, RunAnalysis run, RunConditions conditions)
    {
        if (reference is null || PointOf(run, conditions) is not { } at)
        {
            return null;
        }

        HeatMachine machine = conditions.Panel == "open-bench" ? reference.Machine with { OpenFrame = true } : reference.Machine;
        return ExpectedState.Of(machine, at) is { } state ? new ExpectedRun(reference.Turning(at.CaseFanRpm), state) : null;
    }

    /// <summary>Against the usual machine of the kind of cooler that the conditions name.</summary>
    public static ExpectedRun? OfKind(RunAnalysis run, RunConditions conditions) =>
        run.Load?.SustainedPowerW is { } watts
            ? Of(
                ReferenceMachine.OfKind(
                    KindOf(run, conditions),
                    conditions.RatedPowerW ?? watts,
                    conditions.TemperatureLimitC,
                    run.Beside?.GraphicsPowerW ?? 0
                ),
                run,
                conditions
            )
            : null;

    /// <summary>The cooler's kind: as noted; a loop where its liquid is in the log.</summary>
    public static string? KindOf(RunAnalysis run, RunConditions conditions) =>
        conditions.CoolerKind ?? (run.Beside?.CoolantC is null ? null : "liquid");

    /// <summary>Under what a run was made; null where watts or room are not known.</summary>
    public static RunPoint? PointOf(RunAnalysis run, RunConditions conditions) =>
        run is not { Load: { SustainedPowerW: > 0 and { } watts } load, AmbientC: { } room }
            ? null
            : new RunPoint(
                watts,
                run.Beside?.GraphicsPowerW ?? 0,
                room,
                load.SustainedFanRpm,
                conditions is { FanPolicy: "fixed", FanPercent: { } percent } ? percent / 100 : null,
                conditions.Panel is "side-off",
                conditions.Trial == "pump-full",
                run.Idle is null
                    ? null
                    : new IdlePoint(
                        run.Idle.PowerW ?? Machines.Defaults.RestingShare * watts,
                        run.Idle.CardPowerW ?? 0,
                        run.Fan?.IdleRpm,
                        run.Idle.CaseFanRpm
                    ),
                conditions.RatedPowerW,
                run.Beside?.CaseFanRpm
            );
}
