using Remedos.Core.Logs;

namespace Remedos.Core.Runs;

/// <summary>The single figures of a run, each from its own definition.</summary>
internal static class RunFigures
{
    /// <summary>Standard uncertainty of the room when only one reading was noted, °C (docs/science.md).</summary>
    private const double SingleReadingC = 0.5;

    /// <summary>Standard uncertainty of a logged room sensor against the air the cooler breathes, °C.</summary>
    private const double LoggedRoomC = 0.1;

    /// <summary>ρ·c_p of a coolant, kJ/(L·K).</summary>
    private const double CoolantHeat = 4.1;

    /// <summary>Tubes nearer than this cannot be told apart by ordinary sensors, °C.</summary>
    private const double SmallestTubeDifferenceC = 0.3;

    /// <summary>R = (T − T_room)/P with first-order propagation (JCGM 100:2008).</summary>
    public static ResistanceFigures? Resistance(Estimate temperature, Estimate? power, double? ambientC, bool ambientIsLogged)
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

    public static IdleFigures? Idle(IReadOnlyList<Phase> phases, Phase load, Series temperature, Series? ambient, List<Warning> warnings)
    {
        double start = Math.Max(phases[0].StartSeconds, load.StartSeconds - 60);
        if (phases[0].Kind != Phase.Idle || temperature.MeanBetween(start, load.StartSeconds) is not { } idle || load.StartSeconds - start < 10)
        {
            warnings.Add(new Warning("no-idle", "The log starts within the load: nothing can be said about idle."));
            return null;
        }

        return new IdleFigures(idle, idle - ambient?.MeanBetween(start, load.StartSeconds));
    }

    public static RecoveryFigures? Recovery(IReadOnlyList<Phase> phases, Phase load, Series temperature, Series? ambient)
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

    /// <summary>Flow by the tubes' difference: 60·P/(ρ·c_p·ΔT), L/min.</summary>
    public static FlowFigures? Flow(Log log, double start, double end, double? watts)
    {
        double? difference = Series.Of(log, ChannelRole.TubeOutTemperature)?.MeanBetween(start, end) - Series.Of(log, ChannelRole.TubeReturnTemperature)?.MeanBetween(start, end);
        return watts is null || difference is not { } apart || apart < SmallestTubeDifferenceC ? null : new FlowFigures(FlowOf(watts.Value, apart), "tube temperatures");
    }

    /// <summary>Flow that carries so many watts with so many degrees between the tubes, L/min.</summary>
    public static double FlowOf(double watts, double apartC) => 60 * watts / (CoolantHeat * 1000 * apartC);

    /// <summary>The code of the warning for a clock that firmware holds far below the base.</summary>
    public const string ClockPinned = "clock-pinned";

    /// <summary>No desktop's base clock lies below this, MHz.</summary>
    private const double PinnedMHz = 1200;

    private const double PinnedAfterSeconds = 10, FullLoadPercent = 80;

    /// <summary>The clock that a processor was held at from the first second of a full load, MHz; null when it was not.</summary>
    public static double? PinnedClock(Log log, Phase load, double start, double end)
    {
        double? first = Series.Of(log, ChannelRole.CpuClock)?.MeanBetween(load.StartSeconds + 1, load.StartSeconds + PinnedAfterSeconds), later = Series.Of(log, ChannelRole.CpuClock)?.MeanBetween(start, end);
        bool full = Series.Of(log, ChannelRole.CpuLoad)?.MeanBetween(start, end) is not { } percent || percent > FullLoadPercent;
        return full && first < PinnedMHz && later < PinnedMHz ? later : null;
    }

    /// <summary>How the processor fan answered: by its speed before the load and in the window, and by how near the chip came to its limit.</summary>
    public static FanFigures Fan(Log log, RunConditions conditions, Phase load, double start, double end, double sustainedC)
    {
        if (Series.Of(log, ChannelRole.CpuFanSpeed) is not { } fan)
        {
            return new FanFigures("unknown", null, null);
        }

        double? idle = fan.MeanBetween(Math.Max(0, load.StartSeconds - 60), load.StartSeconds - 1), loaded = fan.MeanBetween(start, end);
        double fastest = Statistics.Quantile(fan.Values, 0.99);
        bool hot = sustainedC > (conditions.TemperatureLimitC ?? 95) - 15;
        string state = loaded < 50 ? "stopped"
            : conditions.FanPolicy == "fixed" ? "fixed"
            : loaded > 1.15 * idle || idle is null ? "ramps"
            : hot && fastest < 1.15 * loaded ? "low-while-hot"
            : "fixed";
        return new FanFigures(state, idle, loaded);
    }
}
