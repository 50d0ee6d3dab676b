using Remedos.Core.Logs;

namespace Remedos.Core.Runs;

/// <summary>
/// What is remarked of a run with a temperature in it. An analysis is kept with its remarks in the degrees of their day; these are told
/// anew from its figures.
/// </summary>
internal static class RunRemarks
{
    private const string FlagFar = "flag-far-from-limit",
        NotSettled = "not-settled",
        ControlOffset = "control-offset";

    /// <summary>A throttle flag, and a thermometer that speaks against it.</summary>
    public static Warning FlagFarFromLimit(double? limitC) =>
        new(
            FlagFar,
            $"The logger says that it throttled, but the chip stood more than {Degrees.By(Limits.FlagNearC)} clear of its "
                + $"{Degrees.At(limitC)}: the thermometer is believed, the flag is not."
        );

    /// <summary>A load that ended too early; null for one that did not.</summary>
    public static Warning? StoppedEarly(LoadFigures load)
    {
        if (load is not { Settled: false, ForecastFinalTemperatureC: { } final })
        {
            return null;
        }

        double gap = final - load.SustainedTemperatureC;
        string more = load.NeedsSeconds is > 0 and < 7200
            ? $" It needs about {Math.Ceiling(load.NeedsSeconds.Value / 60):0} more minutes of load."
            : "";
        return new Warning(
            NotSettled,
            $"Stopped before it was level: {Degrees.By(Math.Abs(gap), "0.0")} {(gap > 0 ? "short of" : "above")} where it was going "
                + $"({Degrees.At(final, "0.0")}).{more}"
        );
    }

    /// <summary>A maker's offset on the temperature that the fans follow.</summary>
    public static Warning ControlAbove(double offsetC) =>
        new(ControlOffset, $"The control temperature stands {Degrees.By(offsetC, "0.#")} above the real one; the real one is used.");

    /// <summary>A remark that was kept, in the degrees that are told now.</summary>
    public static Warning Anew(Warning kept, RunAnalysis run, RunConditions conditions) =>
        kept.Code switch
        {
            FlagFar when conditions.TemperatureLimitC is { } limit => FlagFarFromLimit(limit),
            NotSettled when run.Load is { } load => StoppedEarly(load) ?? kept,
            ControlOffset when run.ControlOffsetC is { } offset => ControlAbove(offset),
            _ => kept,
        };
}
