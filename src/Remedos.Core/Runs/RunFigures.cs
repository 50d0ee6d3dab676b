using MathNet.Numerics.Distributions;
using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Physics;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>The single figures of a run, each from its own definition.</summary>
internal static class RunFigures
{
    /// <summary>Standard uncertainty of the room when only one reading was noted, °C (docs/science.md).</summary>
    public const double SingleReadingC = 0.5;

    /// <summary>Standard uncertainty of a logged room sensor against the air the cooler breathes, °C.</summary>
    private const double LoggedRoomC = 0.1;

    /// <summary>Tubes nearer than this cannot be told apart by ordinary sensors, °C.</summary>
    private const double SmallestTubeDifferenceC = 0.3;

    /// <summary>
    /// R = (T − T_air)/P with first-order propagation (JCGM 100:2008) and Student's t where the window is worth few readings.
    /// </summary>
    /// <param name="temperature">Of the chip.</param>
    /// <param name="power">Its watts; null without.</param>
    /// <param name="airC">What it is held against, °C.</param>
    /// <param name="airUncertaintyC">Standard uncertainty of that, °C.</param>
    public static ResistanceFigures? Resistance(Estimate temperature, Estimate? power, double? airC, double airUncertaintyC)
    {
        if (power is not { Mean: > 1 } watts || airC is null)
        {
            return null;
        }

        double r = (temperature.Mean - airC.Value) / watts.Mean;
        double u =
            Math.Sqrt(
                (temperature.StandardUncertainty * temperature.StandardUncertainty)
                    + (airUncertaintyC * airUncertaintyC)
                    + (r * r * watts.StandardUncertainty * watts.StandardUncertainty)
            ) / watts.Mean;
        return new ResistanceFigures(r, u * StudentT.InvCDF(0, 1, Math.Max(2, temperature.EffectiveSamples - 1), 0.975));
    }

    /// <summary>
    /// Standard uncertainty of an air temperature over a window, °C: of one reading by hand, or of the sensor, its rounding included.
    /// </summary>
    public static double RoomUncertainty(Log log, ChannelRole role, double start, double end) =>
        Series.Of(log, role) is { } logged && logged.Between(start, end) is { IsEmpty: false } readings
            ? Math.Sqrt((LoggedRoomC * LoggedRoomC) + Math.Pow(Statistics.MeanOf(readings).StandardUncertainty, 2))
            : SingleReadingC;

    /// <summary>
    /// The resistance of the chip's own heat: without the degrees that board, supply and card put into the air. What the fit says of those
    /// degrees is known to a third of them and half a degree.
    /// </summary>
    public static ResistanceFigures? Own(ResistanceFigures? allHeat, double? otherHeatC, double? watts)
    {
        if (allHeat is null || otherHeatC is not { } other || watts is not > 1)
        {
            return null;
        }

        double u = (OtherHeatC + (OtherHeatShare * Math.Abs(other))) / watts.Value;
        return new ResistanceFigures(
            allHeat.ValueCPerW - (other / watts.Value),
            Math.Sqrt((allHeat.HalfWidthCPerW * allHeat.HalfWidthCPerW) + (1.96 * 1.96 * u * u))
        );
    }

    /// <summary>Standard uncertainty of the other heat's degrees: this many, and this share of them.</summary>
    public const double OtherHeatC = 0.5,
        OtherHeatShare = 0.3;

    /// <summary>
    /// The part of the own resistance that goes with the fan's speed. Where the fan moved, the fit tells; where it stood, it is what the
    /// bulk
    /// band holds beyond the case's air.
    /// </summary>
    public static FanResistance? FanResistanceOf(PathFit? path, IReadOnlyList<HeatBand>? bands, ResistanceFigures? own, double? rpm)
    {
        if (rpm is not { } speed || speed < StandsBelowRpm || own is null)
        {
            return null;
        }

        if (path?.Fit.FanResistanceCPerW is > 0 and { } fitted)
        {
            return new FanResistance(Math.Min(fitted, own.ValueCPerW), 0.25 * fitted, speed);
        }

        if (bands?.FirstOrDefault(band => band.Band == HeatStep.Bulk) is { } bulk)
        {
            double through = Math.Min(UsualFanShareOfBulk * bulk.ResistanceCPerW, own.ValueCPerW);
            return new FanResistance(through, 0.4 * through, speed);
        }

        return new FanResistance(UsualFanShare * own.ValueCPerW, 0.5 * UsualFanShare * own.ValueCPerW, speed);
    }

    /// <summary>A fan below this is not turning, rpm.</summary>
    private const double StandsBelowRpm = 100;

    /// <summary>Of a sound path, what goes through the fan: of its bulk band, and of all of it where no bands are told.</summary>
    private const double UsualFanShareOfBulk = 0.75,
        UsualFanShare = 0.35;

    /// <summary>Sound in the window, or read by hand at any time of the load, dB(A); levels are averaged as energies.</summary>
    public static double? Sound(Log log, Phase load, double start, double end)
    {
        if (log.Find(ChannelRole.SoundLevel) is not { } channel)
        {
            return null;
        }

        return Level(start, end) ?? Level(load.StartSeconds, load.EndSeconds);

        double? Level(double from, double to)
        {
            double sum = 0;
            int n = 0;
            for (int i = 0; i < channel.Values.Length; i++)
            {
                bool within = log.TimeSeconds[i] >= from && log.TimeSeconds[i] <= to && !float.IsNaN(channel.Values[i]);
                sum += within ? Math.Pow(10, channel.Values[i] / 10) : 0;
                n += within ? 1 : 0;
            }

            return n == 0 ? null : 10 * Math.Log10(sum / n);
        }
    }

    public static IdleFigures? Idle(
        Log log,
        IReadOnlyList<Phase> phases,
        Phase load,
        Series temperature,
        Series? ambient,
        List<Warning> warnings
    )
    {
        double start = Math.Max(phases[0].StartSeconds, load.StartSeconds - 60);
        if (
            phases[0].Kind != PhaseKind.Idle
            || temperature.MeanBetween(start, load.StartSeconds) is not { } idle
            || load.StartSeconds - start < 10
        )
        {
            warnings.Add(new Warning("no-idle", "The log starts within the load: nothing can be said about idle."));
            return null;
        }

        return new IdleFigures(idle, idle - ambient?.MeanBetween(start, load.StartSeconds))
        {
            PowerW = Series.Of(log, ChannelRole.CpuPower)?.MeanBetween(start, load.StartSeconds - 1),
            CardPowerW = Series.Of(log, ChannelRole.GpuPower)?.MeanBetween(start, load.StartSeconds - 1),
            CaseFanRpm = RunChannels.CaseFanRpm(log, start, load.StartSeconds - 1),
        };
    }

    public static RecoveryFigures? Recovery(IReadOnlyList<Phase> phases, Phase load, Series temperature, Series? ambient)
    {
        Phase? coolDown = phases.FirstOrDefault(phase => phase.Kind == PhaseKind.CoolDown && phase.StartSeconds >= load.EndSeconds);
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
            double seconds = time - load.EndSeconds,
                reach = Math.Max(0.6, 0.1 * seconds);
            if (seconds <= 0 || time + reach > coolDown.EndSeconds || RiseBetween(time - reach, time + reach) is not { } rise)
            {
                continue;
            }

            if (rise <= atEnd / 2)
            {
                half =
                    last.Seconds
                    + ((seconds - last.Seconds) * Math.Clamp((last.Rise - (atEnd.Value / 2)) / Math.Max(last.Rise - rise, 1e-9), 0, 1));
                break;
            }

            last = (seconds, rise);
        }

        double minute = load.EndSeconds + 60;
        double? after = coolDown.EndSeconds >= minute + 5 ? RiseBetween(minute - 5, minute + 5) : null;
        return new RecoveryFigures(half, after);
    }

    /// <summary>Flow by the tubes' difference: 60·P/(ρ·c_p·ΔT), L/min.</summary>
    public static FlowFigures? Flow(Log log, double start, double end, double? watts)
    {
        double? difference =
            Series.Of(log, ChannelRole.TubeOutTemperature)?.MeanBetween(start, end)
            - Series.Of(log, ChannelRole.TubeReturnTemperature)?.MeanBetween(start, end);
        return watts is null || difference is not { } apart || apart < SmallestTubeDifferenceC
            ? null
            : new FlowFigures(FlowOf(watts.Value, apart), "tube temperatures");
    }

    /// <summary>Flow that carries so many watts with so many degrees between the tubes, L/min.</summary>
    public static double FlowOf(double watts, double apartC) => 60 * watts / (PhysicalConstants.CoolantJPerLK * apartC);

    /// <summary>The code of the warning for a clock that firmware holds far below the base.</summary>
    public const string ClockPinned = "clock-pinned";

    /// <summary>No desktop's base clock lies below this, MHz.</summary>
    private const double PinnedMHz = 1200;

    private const double PinnedAfterSeconds = 10,
        FullLoadPercent = 80;

    /// <summary>The clock that a processor was held at from the first second of a full load, MHz; null when it was not.</summary>
    public static double? PinnedClock(Log log, Phase load, double start, double end)
    {
        double? first = Series.Of(log, ChannelRole.CpuClock)?.MeanBetween(load.StartSeconds + 1, load.StartSeconds + PinnedAfterSeconds),
            later = Series.Of(log, ChannelRole.CpuClock)?.MeanBetween(start, end);
        bool full = Series.Of(log, ChannelRole.CpuLoad)?.MeanBetween(start, end) is not { } percent || percent > FullLoadPercent;
        return full && first < PinnedMHz && later < PinnedMHz ? later : null;
    }

    /// <summary>
    /// How the processor fan answered: by its speed before the load and in the window, and by how near the chip came to its limit.
    /// </summary>
    public static FanFigures Fan(Log log, RunConditions conditions, Phase load, double start, double end, double sustainedC)
    {
        if (Series.Of(log, ChannelRole.CpuFanSpeed) is not { } fan)
        {
            return new FanFigures("unknown", null, null);
        }

        double? idle = fan.MeanBetween(Math.Max(0, load.StartSeconds - 60), load.StartSeconds - 1),
            loaded = fan.MeanBetween(start, end);
        double fastest = Statistics.Quantile(fan.Values, 0.99);
        bool hot = sustainedC > (conditions.TemperatureLimitC ?? Defaults.LimitC) - 15;
        string state =
            loaded < 50 ? "stopped"
            : conditions.FanPolicy == "fixed" ? "fixed"
            : loaded > 1.15 * idle || idle is null ? "ramps"
            : hot && fastest < 1.15 * loaded ? "low-while-hot"
            : "fixed";
        return new FanFigures(state, idle, loaded);
    }
}
