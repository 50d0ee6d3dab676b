using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>Picks what stands for the chip and for the room, with a warning where it is second best.</summary>
internal static class RunChannels
{
    public static Series ChipTemperature(Log log, List<Warning> warnings)
    {
        if (Series.Of(log, ChannelRole.CpuTemperature) is { } package)
        {
            return package;
        }

        Channel[] cores =
        [
            .. log.Channels.Where(channel => channel.Role == ChannelRole.CoreTemperature && channel.Samples * 2 >= log.Samples),
        ];
        if (cores.Length > 0)
        {
            warnings.Add(new Warning("hottest-core", "The log has no package temperature; the hottest core of each row stands for it."));
            Series[] series = [.. cores.Select(core => Series.Of(log, core)!)];
            return new Series(log.TimeSeconds, [.. Enumerable.Range(0, log.Samples).Select(i => series.Max(core => core.Values[i]))]);
        }

        if (Series.Of(log, ChannelRole.CpuControlTemperature) is { } control)
        {
            warnings.Add(
                new Warning(
                    "control-temperature",
                    "The log has only a control temperature, which may carry a maker's offset of ten degrees or more: absolute figures "
                        + "may be too high."
                )
            );
            return control;
        }

        warnings.Add(new Warning("sparse-temperature", "The processor temperature is missing in more than half of the rows."));
        Channel any = log.Channels.First(channel => channel.Samples > 0 && channel.Role.IsProcessorTemperature());
        float last = any.Values.First(value => !float.IsNaN(value));
        return new Series(log.TimeSeconds, [.. any.Values.Select(value => (double)(last = float.IsNaN(value) ? last : value))]);
    }

    /// <summary>The room at each row: the log's own channel, smoothed, or the one reading that was noted.</summary>
    public static Series? Ambient(Log log, RunConditions conditions, List<Warning> warnings)
    {
        if (Series.Of(log, ChannelRole.AmbientTemperature) is { } logged)
        {
            return logged.Median(Math.Clamp((int)(60 / Math.Max(log.IntervalSeconds, 0.1)), 1, 121));
        }

        if (conditions.AmbientC is { } reading)
        {
            double[] values = new double[log.Samples];
            Array.Fill(values, reading);
            return new Series(log.TimeSeconds, values);
        }

        warnings.Add(
            new Warning(
                "room-unknown",
                "The room's temperature is not known, so no rise and no resistance can be told. Note it in the conditions."
            )
        );
        return null;
    }

    /// <summary>Hottest minus coolest core over a window, °C; null with fewer than two.</summary>
    public static double? CoreSpreadC(Log log, double start, double end)
    {
        double[] means =
        [
            .. log
                .Channels.Where(channel => channel.Role == ChannelRole.CoreTemperature)
                .Select(core => Series.Of(log, core)?.MeanBetween(start, end))
                .OfType<double>(),
        ];
        return means.Length < 2 ? null : means.Max() - means.Min();
    }

    /// <summary>
    /// The fastest of the case's fans over a window, rpm. A header that never reads more than this has no fan on it, as far as a log tells;
    /// null where none does.
    /// </summary>
    public static double? CaseFanRpm(Log log, double start, double end)
    {
        double[] means =
        [
            .. log
                .Channels.Where(channel => channel.Role == ChannelRole.CaseFanSpeed)
                .Select(fan => Series.Of(log, fan))
                .Where(fan => fan is not null && fan.Values.Max() > NoFanRpm)
                .Select(fan => fan!.MeanBetween(start, end))
                .OfType<double>(),
        ];
        return means.Length == 0 ? null : means.Max();
    }

    private const double NoFanRpm = 60;

    /// <summary>The steady difference of control and real temperature, °C; null without both or when it is none.</summary>
    public static double? ControlOffsetC(Log log)
    {
        if (
            Series.Of(log, ChannelRole.CpuControlTemperature) is not { } control
            || Series.Of(log, ChannelRole.CpuTemperature) is not { } real
        )
        {
            return null;
        }

        double offset = Statistics.Median([.. control.Values.Zip(real.Values, (c, r) => c - r)]);
        return Math.Abs(offset) < 1 ? null : offset;
    }
}
