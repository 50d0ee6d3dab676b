using Remedos.Core.Physics;

namespace Remedos.Core.Runs;

/// <summary>What one run shows, as a sentence that a technician reads first.</summary>
public static class RunWords
{
    /// <summary>A boost that runs out gives up less clock than this as a matter of course, %.</summary>
    private const double OrdinaryBoostPercent = 10;

    /// <summary>Held at less of its rated power than this is held back, as a share.</summary>
    internal const double RatedShare = 0.95;

    /// <summary>So near to its limit nobody says that heat has nothing to do with it, °C.</summary>
    private const double CloseC = 10;

    /// <summary>
    /// Whether a power budget, and no heat, is what the owner notices: much of its clock is gone, and it holds less than it is
    /// rated for. A boost that ends at the rated power is what it was bought with.
    /// </summary>
    public static bool IsHeldByPower(RunAnalysis run, RunConditions conditions) =>
        run.ThermalLimit is null
        && run.PowerLimit is { } limit
        && !(conditions.TemperatureLimitC - run.Load?.SustainedTemperatureC < CloseC)
        && conditions.PowerCapW is null or RunConditions.NoCap
        && limit.ClockLossPercent is null or >= OrdinaryBoostPercent
        && !(run.Load?.SustainedPowerW >= RatedShare * conditions.RatedPowerW);

    /// <summary>What holds a run back; null where nothing but heat does, or its watts are not known.</summary>
    public static HeldBack? HeldBackOf(RunAnalysis run, RunConditions conditions) =>
        run.Load?.SustainedPowerW is not { } watts ? null
        : run.ThermalLimit is null && IsPinned(run) ? new HeldBack(HeldBack.ClockHeld, watts, null)
        : !IsHeldByPower(run, conditions) ? null
        : new HeldBack(
            HeldBack.PowerLimited,
            watts,
            run.PowerLimit!.ClockLossPercent
                ?? (conditions.RatedPowerW is { } rated ? PhysicalConstants.ClockLossPercent(watts, rated) : null)
        );

    /// <summary>Whether firmware pins the clock, whatever the temperature.</summary>
    public static bool IsPinned(RunAnalysis run) => run.Warnings.Any(warning => warning.Code == RunFigures.ClockPinned);

    /// <summary>A run that was kept, its remarks in the degrees that are told now.</summary>
    public static RunAnalysis Told(RunAnalysis run, RunConditions conditions) =>
        run with
        {
            Warnings = [.. run.Warnings.Select(warning => RunRemarks.Anew(warning, run, conditions))],
        };

    /// <summary>What a run shows of the graphics card, as a sentence.</summary>
    public static string CardFinding(GpuFigures card)
    {
        string watts = card.PowerW is { } power ? $" with {power:0} W" : "";
        string places =
            $"core {Degrees.At(card.Core.SustainedC)}"
            + $"{(card.HotSpot is { } spot ? $", hot spot {Degrees.At(spot.SustainedC)}" : "")}"
            + $"{(card.Memory is { } memory ? $", memory {Degrees.At(memory.SustainedC)}" : "")}";
        return card.HeldAt is { } place ? $"Graphics card too hot: its {place} is at its limit{watts}; {places}."
            : card.Core.LimitC is { } limit
                ? $"Graphics card within its limit: {places}{watts}, {Degrees.By(limit - card.Core.SustainedC)} headroom."
            : $"Graphics card: {places}{watts}; its limit is not known.";
    }

    /// <summary>The finding with its number: at the limit, power budget, hot, or within its limit.</summary>
    public static string Finding(RunAnalysis run, RunConditions conditions)
    {
        if (run.Load is not { } load)
        {
            return "No load in this log.";
        }

        string at = load.SustainedPowerW is { } watts ? $" with {watts:0} W" : "";
        if (IsPinned(run) && load.SustainedClockMHz is { } pinned)
        {
            return $"Held back: its clock stands at {pinned / 1000:0.00} GHz from the first second, at "
                + $"{Degrees.At(load.SustainedTemperatureC)}.";
        }

        if (run.ThermalLimit is { AtOnce: true } atOnce)
        {
            return $"Too hot: at its limit from the first "
                + $"second"
                + (
                    atOnce.ClockLossPercent is > 0.5
                        ? $", losing {atOnce.ClockLossPercent:0} % of its clock"
                        : "; how much clock it loses is not known"
                )
                + ".";
        }

        if (run.ThermalLimit is { } thermal)
        {
            double minutes = (thermal.FirstSeconds - run.Phases.First(phase => phase.Kind == PhaseKind.Load).StartSeconds) / 60;
            string after = minutes < 1 ? "within a minute" : $"after {minutes:0} min";
            string lost = thermal.ClockLossPercent is > 0.5 ? $", losing {thermal.ClockLossPercent:0} % of its clock" : "";
            return $"Too hot: at its limit {after}{lost}.";
        }

        if (IsHeldByPower(run, conditions))
        {
            return $"Not heat: a power budget ran out at {Degrees.At(load.SustainedTemperatureC)}. No cooler cures that.";
        }

        if (conditions.TemperatureLimitC is { } limit)
        {
            double headroom = limit - load.SustainedTemperatureC;
            return run.ProjectedAtRatedPowerC > limit
                ? $"Holds {load.SustainedPowerW:0} W at {Degrees.At(load.SustainedTemperatureC)}, but not its rated "
                    + $"{conditions.RatedPowerW:0} W."
                : $"{(headroom < CloseC ? "Close to its limit" : "Within its limit")}: {Degrees.At(load.SustainedTemperatureC)}{at}, "
                    + $"{Degrees.By(headroom)} headroom.";
        }

        return $"{Degrees.At(load.SustainedTemperatureC)}{at}; its limit is not known.";
    }
}
