using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>Reads a run: phases, sustained values, resistance, limits, heat path, forecast and recovery, each with its reasons.</summary>
public static class RunAnalyzer
{
    /// <summary>Grows by one whenever a run would read otherwise than before, so that stored analyses can be made anew.</summary>
    public const int Version = 8;

    private const double SettleSmoothingSeconds = 31;

    /// <summary>Every run that a log holds, each with its analysis; see <see cref="RunStretches"/>.</summary>
    public static IReadOnlyList<RunAnalysis> AnalyzeEach(Log log, RunConditions conditions) =>
        [.. RunStretches.Of(log, conditions).Select(stretch => Analyze(log.Part(stretch.StartSeconds, stretch.EndSeconds), conditions))];

    /// <summary>A log as one answer: the figures are of its longest load, and repeats are listed beside them.</summary>
    public static RunAnalysis AnalyzeWhole(Log log, RunConditions conditions)
    {
        RunAnalysis whole = Analyze(log, conditions);
        IReadOnlyList<RunStretch> stretches = RunStretches.Of(log, conditions);
        return stretches.Count == 1
            ? whole
            : whole with
            {
                Repeats =
                [
                    .. stretches
                        .Zip(AnalyzeEach(log, conditions), (stretch, run) => (stretch, run))
                        .Where(pair => pair.run.Load is not null)
                        .Select(pair => new RepeatFigures(
                            pair.stretch.StartSeconds,
                            pair.stretch.EndSeconds,
                            pair.run.Load!.SustainedTemperatureC,
                            pair.run.Load.SustainedPowerW,
                            pair.run.Resistance
                        )),
                ],
            };
    }

    /// <summary>
    /// Analyses a log, or a stretch of one, under its conditions. Always answers; what could not be found is null and told in the warnings.
    /// </summary>
    public static RunAnalysis Analyze(Log log, RunConditions conditions)
    {
        List<Warning> warnings = [.. log.Warnings];
        Series temperature = RunChannels.ChipTemperature(log, warnings);
        Series? ambient = RunChannels.Ambient(log, conditions, warnings);
        IReadOnlyList<Phase> phases = PhasesOf(log, conditions, warnings);
        Phase? load = LongestLoad(phases);
        ChannelSummary[] channels =
        [
            .. log.Channels.Select(c => new ChannelSummary(c.Column, c.Source, c.Role.Name(), c.Unit, c.Samples, c.Rejected, c.Mean)),
        ];
        if (load is null)
        {
            warnings.Add(
                new Warning(
                    "no-load",
                    "No load was found: nothing in the log rises and stays up for 45 seconds. Record idle, full load and cool-down in "
                        + "one log."
                )
            );
            return new RunAnalysis(
                log.Samples,
                log.IntervalSeconds,
                log.DurationSeconds,
                channels,
                phases,
                ambient is null ? null : Statistics.Mean(ambient.Values),
                null,
                null,
                null,
                [],
                null,
                null,
                null,
                null,
                warnings
            );
        }

        (double start, double end) window = Window(load);
        double? Mean(Series? series) => series?.MeanBetween(window.start, window.end);
        Estimate sustained = Statistics.MeanOf(temperature.Between(window.start, window.end));
        Series? power = Series.Of(log, ChannelRole.CpuPower);
        Estimate? watts = power is null ? null : Statistics.MeanOf(power.Between(window.start, window.end));
        double? ambientC = Mean(ambient);
        PathFit? path = HeatPathReader.Read(log, conditions, temperature, ambient, window, warnings);
        IReadOnlyList<HeatBand>? bands =
            path is null || watts is null
                ? null
                : HeatPathReader.Bands(path, log, conditions, watts.Value.Mean, load.LengthSeconds, warnings);
        LoadFigures figures = Load(log, load, temperature, sustained, watts?.Mean, path);
        Warn(log, conditions, phases, load, figures, warnings);
        double roomUncertainty = RunFigures.RoomUncertainty(log, ChannelRole.AmbientTemperature, window.start, window.end);
        ResistanceFigures? resistance = RunFigures.Resistance(sustained, watts, ambientC, roomUncertainty);
        double? limitC = conditions.TemperatureLimitC;
        double cardWatts = Mean(Series.Of(log, ChannelRole.GpuPower)) ?? 0;
        LimitSignals signals = new(
            temperature,
            power,
            Series.Of(log, ChannelRole.CpuClock),
            Series.Of(log, ChannelRole.Score),
            Series.Of(log, ChannelRole.ThrottleFlag)
        );
        IReadOnlyList<Limit> limits = Limits.Find(signals, load, limitC, conditions.RatedPowerW);
        if (Limits.IsFlagDoubtful(signals, load, limitC))
        {
            warnings.Add(RunRemarks.FlagFarFromLimit(limitC));
        }

        double? otherHeatC = path is { AboveRoom: true } ? path.OtherHeatC(cardWatts) : null;
        ResistanceFigures? own = RunFigures.Own(resistance, otherHeatC, watts?.Mean);
        FanFigures fan = RunFigures.Fan(log, conditions, load, window.start, window.end, sustained.Mean);
        RunAnalysis run = new(
            log.Samples,
            log.IntervalSeconds,
            log.DurationSeconds,
            channels,
            phases,
            ambientC,
            RunFigures.Idle(log, phases, load, temperature, ambient, warnings),
            figures,
            resistance,
            limits,
            limitC is { } limit && resistance is { ValueCPerW: > 0 } && ambientC is not null
                ? (limit - ambientC) / resistance.ValueCPerW
                : null,
            conditions.RatedPowerW is { } rated && resistance is not null && ambientC is not null
                ? ambientC + (resistance.ValueCPerW * rated)
                : null,
            RunFigures.Recovery(phases, load, temperature, ambient),
            bands,
            warnings
        )
        {
            Beside = new BesideFigures(
                IdleLoad(log, load),
                Mean(Series.Of(log, ChannelRole.PumpSpeed)),
                Mean(Series.Of(log, ChannelRole.GpuPower)),
                Mean(Series.Of(log, ChannelRole.GpuTemperature)),
                Mean(Series.Of(log, ChannelRole.GpuHotspotTemperature)),
                Mean(Series.Of(log, ChannelRole.TubeOutTemperature)),
                Mean(Series.Of(log, ChannelRole.TubeReturnTemperature))
            )
            {
                CaseAirC = Mean(Series.Of(log, ChannelRole.CaseAirTemperature)),
                CoolantC = Mean(Series.Of(log, ChannelRole.CoolantTemperature)),
                CaseFanRpm = RunChannels.CaseFanRpm(log, window.start, window.end),
            },
            OtherHeatRiseC = otherHeatC,
            AmbientUncertaintyC = ambientC is null ? null : roomUncertainty,
            OwnResistance = own,
            FanResistance = RunFigures.FanResistanceOf(path, bands, own ?? resistance, figures.SustainedFanRpm),
            Graphics = GpuReader.Read(log, conditions, ambient),
            Cores = log.Channels.Count(channel => channel.Role == ChannelRole.CoreTemperature) is > 1 and var cores ? cores : null,
            HeatPathFit = path is null ? null : HeatBands.Quality(path.Fit),
            Flow = RunFigures.Flow(log, window.start, window.end, watts?.Mean),
            Fan = fan,
            ControlOffsetC = RunChannels.ControlOffsetC(log),
        };
        return run with { Staircase = HeatStaircase.Of(run, conditions, ExpectedRun.OfKind(run, conditions)) };
    }

    /// <summary>The line that the heat path's fit draws through a run's temperature; null when the log cannot carry a fit.</summary>
    public static FittedLine? Fitted(Log log, RunConditions conditions)
    {
        List<Warning> unheard = [];
        Series temperature = RunChannels.ChipTemperature(log, unheard);
        Series? ambient = RunChannels.Ambient(log, conditions, unheard);
        if (
            LongestLoad(PhasesOf(log, conditions, unheard)) is not { } load
            || HeatPathReader.Read(log, conditions, temperature, ambient, Window(load), unheard) is not { } path
        )
        {
            return null;
        }

        double[] time = path.Fit.Input.TimeSeconds;
        double Room(double seconds) => ambient is null ? 0 : ambient.Values[Math.Min(ambient.IndexAt(seconds), ambient.Values.Length - 1)];
        return new FittedLine(
            time,
            [.. time.Zip(path.Fit.FittedC, (seconds, rise) => rise + Room(seconds))],
            path.Fit.ResidualC,
            HeatBands.Quality(path.Fit)
        );
    }

    /// <summary>Work in the last minute before the load, %; its median, because a burst of seconds is no idle load.</summary>
    private static double? IdleLoad(Log log, Phase load) =>
        Series.Of(log, ChannelRole.CpuLoad) is { } percent
        && percent.Between(Math.Max(0, load.StartSeconds - 60), load.StartSeconds - 1) is { IsEmpty: false } before
            ? Statistics.Median(before)
            : null;

    private static Phase? LongestLoad(IReadOnlyList<Phase> phases) =>
        phases.Where(phase => phase.Kind == PhaseKind.Load).MaxBy(phase => phase.LengthSeconds);

    private static IReadOnlyList<Phase> PhasesOf(Log log, RunConditions conditions, List<Warning> warnings)
    {
        IReadOnlyList<Phase>? marked = conditions.Load is null ? null : Phases.Around(conditions.Load, log);
        if (conditions.Load is not null && marked is null)
        {
            warnings.Add(
                new Warning("marked-load-outside", "The load that was marked by hand is outside this log; the one that was found is used.")
            );
        }

        return marked ?? Phases.Find(log);
    }

    /// <summary>The sustained window: the last 20 % of the load, at least 60 s, at most 300 s.</summary>
    public static (double Start, double End) Window(Phase load) =>
        (load.EndSeconds - Math.Min(load.LengthSeconds, Math.Clamp(0.2 * load.LengthSeconds, 60, 300)), load.EndSeconds);

    private static LoadFigures Load(Log log, Phase load, Series temperature, Estimate sustained, double? watts, PathFit? path)
    {
        (double start, double end) = Window(load);
        double? Mean(ChannelRole role) => Series.Of(log, role)?.MeanBetween(start, end);
        Forecast? forecast =
            path is null || watts is null
                ? null
                : Forecast.Of(path.Fit, (start, end), sustained.Mean, watts.Value, Mean(ChannelRole.GpuPower) ?? 0);
        // A run of days is fitted on so coarse a grid that its window may hold no row: then nothing is forecast.
        forecast = forecast is not null && double.IsFinite(forecast.FinalC) && double.IsFinite(forecast.NeedsSeconds) ? forecast : null;
        bool? settled = forecast is null ? null : Math.Abs(forecast.FinalC - sustained.Mean) <= Forecast.SettledWithinC;
        return new LoadFigures(
            Statistics.Quantile(temperature.Median(3).Between(load.StartSeconds, load.EndSeconds), 1),
            sustained.Mean,
            sustained.HalfWidth95,
            watts,
            Mean(ChannelRole.CpuClock),
            Mean(ChannelRole.CpuFanSpeed),
            settled,
            settled == true ? SettledAt(temperature, load, sustained.Mean) : null,
            forecast?.FinalC,
            start,
            end
        )
        {
            NeedsSeconds = forecast?.NeedsSeconds,
            CoreSpreadC = RunChannels.CoreSpreadC(log, start, end),
            SustainedScore = Mean(ChannelRole.Score),
            SoundDba = RunFigures.Sound(log, load, start, end),
        };
    }

    private static double SettledAt(Series temperature, Phase load, double sustainedC)
    {
        double interval = (temperature.Time[^1] - temperature.Time[0]) / Math.Max(1, temperature.Time.Length - 1);
        Series smooth = temperature.Median(1 + (2 * (int)Math.Round(SettleSmoothingSeconds / 2 / Math.Max(interval, 0.01))));
        int i = smooth.IndexAt(load.EndSeconds);
        while (i > 0 && smooth.Time[i] > load.StartSeconds && Math.Abs(smooth.Values[i] - sustainedC) <= Forecast.SettledWithinC)
        {
            i--;
        }

        return smooth.Time[i];
    }

    private static void Warn(
        Log log,
        RunConditions conditions,
        IReadOnlyList<Phase> phases,
        Phase load,
        LoadFigures figures,
        List<Warning> warnings
    )
    {
        if (figures.SustainedPowerW is null)
        {
            warnings.Add(
                new Warning(
                    "no-power",
                    "The log has no processor power, so resistance, sustainable power and a fair comparison are not possible. Log the "
                        + "package power too."
                )
            );
        }

        if (RunRemarks.StoppedEarly(figures) is { } early)
        {
            warnings.Add(early);
        }

        if (load.LengthSeconds < 300)
        {
            warnings.Add(
                new Warning(
                    "short-load",
                    $"The load lasted {load.LengthSeconds:0} s. Ten minutes or more show what the case and the liquid do."
                )
            );
        }

        if (conditions.TemperatureLimitC is null && log.Find(ChannelRole.ThrottleFlag) is null)
        {
            warnings.Add(
                new Warning("no-limit-given", "The processor's temperature limit is not known, so throttling by heat cannot be told.")
            );
        }

        if (phases.Count(phase => phase.Kind == PhaseKind.Load) is var blocks and > 1)
        {
            warnings.Add(new Warning("several-loads", $"The log holds {blocks} load blocks; these figures are of the longest."));
        }

        if (RunFigures.PinnedClock(log, load, figures.WindowStartSeconds, figures.WindowEndSeconds) is { } pinned)
        {
            warnings.Add(
                new Warning(
                    RunFigures.ClockPinned,
                    $"The clock stood at {pinned:0} MHz from the first second of the load, whatever the temperature: the firmware holds "
                        + $"the processor back."
                )
            );
        }

        if (RunChannels.ControlOffsetC(log) is { } offset)
        {
            warnings.Add(RunRemarks.ControlAbove(offset));
        }
    }
}
