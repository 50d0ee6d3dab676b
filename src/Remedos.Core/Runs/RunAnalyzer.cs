using Remedos.Core.HeatPath;
using Remedos.Core.Logs;

namespace Remedos.Core.Runs;

/// <summary>Reads a run: phases, sustained values, resistance, limits, forecast and recovery, each with its reasons.</summary>
public static class RunAnalyzer
{
    /// <summary>Standard uncertainty of the room when only one reading was noted, °C (docs/science.md).</summary>
    private const double SingleReadingC = 0.5;

    /// <summary>Standard uncertainty of a logged room sensor against the air the cooler breathes, °C.</summary>
    private const double LoggedRoomC = 0.1;

    private const double SettledWithinC = 1.0;

    /// <summary>Analyses a log under its conditions. Always answers; what could not be found is null and told in the warnings.</summary>
    public static RunAnalysis Analyze(Log log, RunConditions conditions)
    {
        List<Warning> warnings = [.. log.Warnings];
        Series temperature = ChipTemperature(log, warnings);
        Series? ambient = Ambient(log, conditions, warnings);
        IReadOnlyList<Phase> phases = Phases.Find(log);
        Phase? load = phases.Where(phase => phase.Kind == Phase.Load).MaxBy(phase => phase.LengthSeconds);
        Series? power = Series.Of(log, ChannelRole.CpuPower);
        ChannelSummary[] channels = [.. log.Channels.Select(c => new ChannelSummary(c.Column, c.Source, c.Role.Name(), c.Unit, c.Samples, c.Rejected, c.Mean))];
        if (load is null)
        {
            warnings.Add(new Warning("no-load", "No load was found: nothing in the log rises and stays up for 45 seconds. Record idle, full load and cool-down in one log."));
            return new RunAnalysis(log.Samples, log.IntervalSeconds, log.DurationSeconds, channels, phases, ambient is null ? null : Statistics.Mean(ambient.Values), null, null, null, [], null, null, null, null, warnings);
        }

        (double windowStart, double windowEnd) = Window(load);
        Estimate sustained = Statistics.MeanOf(temperature.Between(windowStart, windowEnd));
        double? ambientC = ambient?.MeanBetween(windowStart, windowEnd);
        Estimate? watts = power is null ? null : Statistics.MeanOf(power.Between(windowStart, windowEnd));
        if (watts is null)
        {
            warnings.Add(new Warning("no-power", "The log has no processor power, so resistance, sustainable power and a fair comparison are not possible. Log the package power too."));
        }

        ThermalFit? fit = ambient is null || power is null ? null : Fit(log, temperature, ambient, power, windowStart, windowEnd);
        (double? forecast, bool? settled, double? settledAt) = Forecast(fit, load, temperature, sustained.Mean, watts?.Mean, ambientC, Series.Of(log, ChannelRole.GpuPower)?.MeanBetween(windowStart, windowEnd) ?? 0);
        if (settled == false)
        {
            warnings.Add(new Warning("not-settled", $"Stopped before it was level: {Math.Abs(forecast!.Value - sustained.Mean):0.0} °C {(forecast > sustained.Mean ? "short of" : "above")} where it was going ({forecast:0.0} °C)."));
        }

        if (load.LengthSeconds < 300)
        {
            warnings.Add(new Warning("short-load", $"The load lasted {load.LengthSeconds:0} s. Ten minutes or more show what the case and the liquid do."));
        }

        ResistanceFigures? resistance = Resistance(sustained, watts, ambientC, ambientIsLogged: log.Find(ChannelRole.AmbientTemperature) is not null);
        double? limitC = conditions.TemperatureLimitC;
        if (limitC is null && log.Find(ChannelRole.ThrottleFlag) is null)
        {
            warnings.Add(new Warning("no-limit-given", "The processor's temperature limit is not known, so throttling by heat cannot be told."));
        }

        if (phases.Count(phase => phase.Kind == Phase.Load) is var blocks and > 1)
        {
            warnings.Add(new Warning("several-loads", $"The log holds {blocks} load blocks; the figures are of the longest."));
        }

        return new RunAnalysis(
            log.Samples,
            log.IntervalSeconds,
            log.DurationSeconds,
            channels,
            phases,
            ambientC,
            Idle(phases, load, temperature, ambient, warnings),
            new LoadFigures(
                Statistics.Quantile(temperature.Median(3).Between(load.StartSeconds, load.EndSeconds), 1),
                sustained.Mean,
                sustained.HalfWidth95,
                watts?.Mean,
                Series.Of(log, ChannelRole.CpuClock)?.MeanBetween(windowStart, windowEnd),
                Series.Of(log, ChannelRole.CpuFanSpeed)?.MeanBetween(windowStart, windowEnd),
                settled,
                settledAt,
                forecast,
                windowStart,
                windowEnd),
            resistance,
            Limits.Find(log, load, temperature, limitC),
            limitC is { } limit && resistance is not null && ambientC is not null ? (limit - ambientC) / resistance.ValueCPerW : null,
            conditions.RatedPowerW is { } rated && resistance is not null && ambientC is not null ? ambientC + (resistance.ValueCPerW * rated) : null,
            Recovery(phases, load, temperature, ambient),
            null,
            warnings);
    }

    /// <summary>The sustained window: the last 20 % of the load, at least 60 s, at most 300 s.</summary>
    public static (double Start, double End) Window(Phase load) =>
        (load.EndSeconds - Math.Min(load.LengthSeconds, Math.Clamp(0.2 * load.LengthSeconds, 60, 300)), load.EndSeconds);

    private static Series ChipTemperature(Log log, List<Warning> warnings)
    {
        if (Series.Of(log, ChannelRole.CpuTemperature) is { } package)
        {
            return package;
        }

        Channel[] cores = [.. log.Channels.Where(channel => channel.Role == ChannelRole.CoreTemperature && channel.Samples * 2 >= log.Samples)];
        if (cores.Length > 0)
        {
            warnings.Add(new Warning("hottest-core", "The log has no package temperature; the hottest core of each row stands for it."));
            Series[] series = [.. cores.Select(core => Series.Of(log, core)!)];
            return new Series(log.TimeSeconds, [.. Enumerable.Range(0, log.Samples).Select(i => series.Max(core => core.Values[i]))]);
        }

        if (Series.Of(log, ChannelRole.CpuControlTemperature) is { } control)
        {
            warnings.Add(new Warning("control-temperature", "The log has only a control temperature, which may carry a maker's offset of ten degrees or more: absolute figures may be too high."));
            return control;
        }

        warnings.Add(new Warning("sparse-temperature", "The processor temperature is missing in more than half of the rows."));
        Channel any = log.Channels.First(channel => channel.Samples > 0 && channel.Role is ChannelRole.CpuTemperature or ChannelRole.CoreTemperature or ChannelRole.CpuControlTemperature);
        float last = any.Values.First(value => !float.IsNaN(value));
        return new Series(log.TimeSeconds, [.. any.Values.Select(value => (double)(last = float.IsNaN(value) ? last : value))]);
    }

    /// <summary>The room at each row: the log's own channel, smoothed, or the one reading that was noted.</summary>
    private static Series? Ambient(Log log, RunConditions conditions, List<Warning> warnings)
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

        warnings.Add(new Warning("room-unknown", "The room's temperature is not known, so no rise and no resistance can be told. Note it in the conditions."));
        return null;
    }

    private static ThermalFit? Fit(Log log, Series temperature, Series ambient, Series power, double windowStart, double windowEnd)
    {
        double[] rise = new double[log.Samples];
        for (int i = 0; i < rise.Length; i++)
        {
            rise[i] = temperature.Values[i] - ambient.Values[i];
        }

        double[] ratio = [];
        if (Series.Of(log, ChannelRole.CpuFanSpeed) is { } fan && fan.MeanBetween(windowStart, windowEnd) is { } reference and > 100)
        {
            ratio = [.. fan.Values.Select(rpm => rpm / reference)];
        }

        return ThermalFit.Fit(log.TimeSeconds, rise, power.Values, ratio, Series.Of(log, ChannelRole.GpuPower)?.Values ?? []);
    }

    private static (double? Final, bool? Settled, double? AtSeconds) Forecast(ThermalFit? fit, Phase load, Series temperature, double sustainedC, double? watts, double? ambientC, double cardWatts)
    {
        if (fit is null || watts is null || ambientC is null)
        {
            return (null, null, null);
        }

        double final = ambientC.Value + fit.ConstantC + (fit.SelfResistanceCPerW * watts.Value) + (fit.CardResistanceCPerW * cardWatts);
        bool settled = Math.Abs(final - sustainedC) <= SettledWithinC;
        double? at = null;
        if (settled)
        {
            Series smooth = temperature.Median(31);
            int i = smooth.IndexAt(load.EndSeconds);
            while (i > 0 && smooth.Time[i] > load.StartSeconds && Math.Abs(smooth.Values[i] - sustainedC) <= SettledWithinC)
            {
                i--;
            }

            at = smooth.Time[i];
        }

        return (final, settled, at);
    }

    /// <summary>R = (T − T_room)/P with first-order propagation (JCGM 100:2008).</summary>
    private static ResistanceFigures? Resistance(Estimate temperature, Estimate? power, double? ambientC, bool ambientIsLogged)
    {
        if (power is not { Mean: > 1 } watts || ambientC is null)
        {
            return null;
        }

        double r = (temperature.Mean - ambientC.Value) / watts.Mean;
        double room = ambientIsLogged ? LoggedRoomC : SingleReadingC;
        double u = Math.Sqrt((temperature.StandardUncertainty * temperature.StandardUncertainty) + (room * room) + (r * r * watts.StandardUncertainty * watts.StandardUncertainty)) / watts.Mean;
        return new ResistanceFigures(r, 1.96 * u);
    }

    private static IdleFigures? Idle(IReadOnlyList<Phase> phases, Phase load, Series temperature, Series? ambient, List<Warning> warnings)
    {
        double start = Math.Max(phases[0].StartSeconds, load.StartSeconds - 60);
        if (phases[0].Kind != Phase.Idle || temperature.MeanBetween(start, load.StartSeconds) is not { } idle || load.StartSeconds - start < 10)
        {
            warnings.Add(new Warning("no-idle", "The log starts within the load: nothing can be said about idle."));
            return null;
        }

        return new IdleFigures(idle, idle - ambient?.MeanBetween(start, load.StartSeconds));
    }

    private static RecoveryFigures? Recovery(IReadOnlyList<Phase> phases, Phase load, Series temperature, Series? ambient)
    {
        Phase? coolDown = phases.FirstOrDefault(phase => phase.Kind == Phase.CoolDown && phase.StartSeconds >= load.EndSeconds);
        if (coolDown is null || ambient is null || coolDown.LengthSeconds < 5)
        {
            return null;
        }

        double? RiseBetween(double start, double end) => temperature.MeanBetween(start, end) - ambient.MeanBetween(start, end);
        double? atEnd = RiseBetween(load.EndSeconds - 5, load.EndSeconds);
        double? half = null;
        (double Seconds, double Rise) last = (0, atEnd!.Value);
        foreach (double time in temperature.Time.AsSpan(temperature.IndexAt(coolDown.StartSeconds)))
        {
            // The slower it falls, the more rows a mean may take: a window of a tenth to either side keeps rounding out of the crossing.
            double seconds = time - load.EndSeconds, reach = Math.Max(0.6, 0.1 * seconds);
            if (seconds <= 0 || time + reach > coolDown.EndSeconds || RiseBetween(time - reach, time + reach) is not { } rise)
            {
                continue;
            }

            if (rise <= atEnd / 2)
            {
                half = last.Seconds + ((seconds - last.Seconds) * Math.Clamp((last.Rise - (atEnd.Value / 2)) / Math.Max(last.Rise - rise, 1e-9), 0, 1));
                break;
            }

            last = (seconds, rise);
        }

        double minute = load.EndSeconds + 60;
        double? after = coolDown.EndSeconds >= minute + 5 ? RiseBetween(minute - 5, minute + 5) : null;
        return new RecoveryFigures(half, after);
    }
}
