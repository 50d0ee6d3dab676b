using System.Text.Json.Serialization;
using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Physics;

namespace Remedos.Core.Runs;

/// <summary>One column in an analysis; the values themselves stay in the log.</summary>
public sealed record ChannelSummary(int Column, string Source, string Role, string Unit, int Samples, int Rejected, double? Mean);

/// <summary>The minute before the load, °C.</summary>
public sealed record IdleFigures(double TemperatureC, double? RiseC)
{
    /// <summary>Means of the same minute, W; null where it is not logged.</summary>
    public double? PowerW { get; init; }

    /// <summary>The graphics card in the same minute, W; null where it is not logged.</summary>
    public double? CardPowerW { get; init; }

    /// <summary>The fastest of the case's fans in the same minute, rpm; null where it is not logged.</summary>
    public double? CaseFanRpm { get; init; }
}

/// <summary>The load phase; the sustained figures are means over its last 20 %, at least 60 s and at most 300 s.</summary>
/// <param name="PeakTemperatureC">Highest reading, single-row blips aside (median of three).</param>
/// <param name="SustainedHalfWidthC">Half of the 95 % interval of the sustained temperature; allows for autocorrelation and
/// rounding.</param>
/// <param name="Settled">Whether the forecast final temperature is within 1.0 °C of the sustained one; null when there is no
/// forecast.</param>
/// <param name="SettledAtSeconds">From when on the temperature stayed within 1.0 °C of the forecast, since the first row.</param>
/// <param name="ForecastFinalTemperatureC">Where the chip comes to rest if sustained power and fan speed go on.</param>
public sealed record LoadFigures(
    double PeakTemperatureC,
    double SustainedTemperatureC,
    double SustainedHalfWidthC,
    double? SustainedPowerW,
    double? SustainedClockMHz,
    double? SustainedFanRpm,
    bool? Settled,
    double? SettledAtSeconds,
    double? ForecastFinalTemperatureC,
    double WindowStartSeconds,
    double WindowEndSeconds
)
{
    /// <summary>How much longer the load would have had to last until it is level; 0 when it was, null without a forecast.</summary>
    public double? NeedsSeconds { get; init; }

    /// <summary>Hottest minus coolest core, means over the window, °C; null with fewer than two.</summary>
    public double? CoreSpreadC { get; init; }

    /// <summary>Work done, in the logger's own unit; null when it is not logged.</summary>
    public double? SustainedScore { get; init; }

    /// <summary>Sound during the load, dB(A); null when nobody measured it.</summary>
    public double? SoundDba { get; init; }
}

/// <summary>Rise above room per watt, °C/W, with half of its 95 % interval.</summary>
public sealed record ResistanceFigures(double ValueCPerW, double HalfWidthCPerW);

/// <summary>The part of the own resistance that goes as the processor fan's speed to the power −0.7.</summary>
/// <param name="ResistanceCPerW">At <paramref name="Rpm"/>, °C/W.</param>
/// <param name="StandardUncertaintyCPerW">Of that.</param>
/// <param name="Rpm">The speed in the sustained window.</param>
public sealed record FanResistance(double ResistanceCPerW, double StandardUncertaintyCPerW, double Rpm)
{
    /// <summary>By how much the resistance is more at another speed, °C/W.</summary>
    public double MoreAt(double rpm) => ResistanceCPerW * (Math.Pow(rpm / Rpm, PhysicalConstants.FanExponent) - 1);

    /// <summary>Standard uncertainty of that.</summary>
    public double UncertaintyAt(double rpm) => StandardUncertaintyCPerW * Math.Abs(Math.Pow(rpm / Rpm, PhysicalConstants.FanExponent) - 1);
}

/// <summary>How the chip comes down after the load.</summary>
/// <param name="HalfSeconds">Until the rise is half of what it was at the load's end; null if the log ends before.</param>
/// <param name="After60sRiseC">Rise above room a minute after the load's end, °C.</param>
public sealed record RecoveryFigures(double? HalfSeconds, double? After60sRiseC);

/// <summary>Flow of the loop, L/min, and what it was told by.</summary>
public sealed record FlowFigures(double LitresPerMinute, string Basis);

/// <summary>How the processor fan answered the heat.</summary>
/// <param name="State">ramps, low-while-hot, stopped or fixed; unknown when it is not logged.</param>
/// <param name="IdleRpm">In the minute before the load.</param>
/// <param name="LoadRpm">In the sustained window.</param>
public sealed record FanFigures(string State, double? IdleRpm, double? LoadRpm);

/// <summary>A fit drawn over what was measured: fitted temperature and measured minus fitted at some seconds, °C.</summary>
public sealed record FittedLine(double[] Seconds, double[] FittedC, double[] ResidualC, FitQuality Quality);

/// <summary>Means of what stands beside the chip: before the load, and in its sustained window. Null where it is not logged.</summary>
public sealed record BesideFigures(
    double? IdleLoadPercent,
    double? PumpRpm,
    double? GraphicsPowerW,
    double? GraphicsC,
    double? GraphicsHotspotC,
    double? TubeOutC,
    double? TubeReturnC
)
{
    /// <summary>The air in the case under sustained load, °C.</summary>
    public double? CaseAirC { get; init; }

    /// <summary>The liquid under sustained load, °C.</summary>
    public double? CoolantC { get; init; }

    /// <summary>The fastest of the case's fans under sustained load, rpm; a header that reads nothing but 0 has no fan on it.</summary>
    public double? CaseFanRpm { get; init; }
}

/// <summary>One of several runs in a log.</summary>
public sealed record RepeatFigures(
    double StartSeconds,
    double EndSeconds,
    double SustainedTemperatureC,
    double? SustainedPowerW,
    ResistanceFigures? Resistance
);

/// <summary>Everything read from one run: the contract's answer of `analyze` (docs/formats.md).</summary>
/// <param name="HeatPath">chip, cooler and bulk; null when the log cannot carry it.</param>
public sealed record RunAnalysis(
    int Samples,
    double IntervalSeconds,
    double DurationSeconds,
    IReadOnlyList<ChannelSummary> Channels,
    IReadOnlyList<Phase> Phases,
    double? AmbientC,
    IdleFigures? Idle,
    LoadFigures? Load,
    ResistanceFigures? Resistance,
    IReadOnlyList<Limit> Limits,
    double? SustainablePowerW,
    double? ProjectedAtRatedPowerC,
    RecoveryFigures? Recovery,
    IReadOnlyList<HeatBand>? HeatPath,
    IReadOnlyList<Warning> Warnings
)
{
    /// <summary>What board, supply and graphics card add to the chip, °C; beside <see cref="HeatPath"/>.</summary>
    public double? OtherHeatRiseC { get; init; }

    /// <summary>
    /// Standard uncertainty of <see cref="AmbientC"/>: of one reading, or of the sensor with its rounding, °C; null without a load.
    /// </summary>
    public double? AmbientUncertaintyC { get; init; }

    /// <summary>
    /// Rise of the chip's own heat per watt: <see cref="Resistance"/> without <see cref="OtherHeatRiseC"/>; null where the fit does not
    /// tell the two apart.
    /// </summary>
    public ResistanceFigures? OwnResistance { get; init; }

    /// <summary>Null where the fan is not logged or stands still.</summary>
    public FanResistance? FanResistance { get; init; }

    /// <summary>The graphics card, read like the processor; null where it is not logged or rested.</summary>
    public GpuFigures? Graphics { get; init; }

    /// <summary>How many cores the log tells apart: another number is another processor; null when it tells none.</summary>
    public int? Cores { get; init; }

    /// <summary>How far the heat path's fit can be trusted.</summary>
    public FitQuality? HeatPathFit { get; init; }

    /// <summary>
    /// Held against the usual machine of its kind of cooler; who knows the parts holds it against those (<see cref="HeatStaircase.Of"/>).
    /// </summary>
    public HeatStaircase? Staircase { get; init; }

    /// <summary>What the tubes tell of the flow; null where they are not read.</summary>
    public FlowFigures? Flow { get; init; }

    /// <summary>How the cooler's fan behaves; null where its speed is not read.</summary>
    public FanFigures? Fan { get; init; }

    /// <summary>Null without a load.</summary>
    public BesideFigures? Beside { get; init; }

    /// <summary>By how much the control temperature stands above the real one, °C; null without both.</summary>
    public double? ControlOffsetC { get; init; }

    /// <summary>The runs that the log holds, when it repeats its load; each analysed by itself. Null for a single run.</summary>
    public IReadOnlyList<RepeatFigures>? Repeats { get; init; }

    /// <summary>Half of the 95 % interval of the sustained rise above the room, °C.</summary>
    [JsonIgnore]
    public double RiseHalfC
    {
        get
        {
            double chip = Load?.SustainedHalfWidthC ?? 0,
                room = 1.96 * (AmbientUncertaintyC ?? UnknownRoomC);
            return Math.Sqrt((chip * chip) + (room * room));
        }
    }

    /// <summary>A room of which nobody said how well it is known, as a standard deviation, °C.</summary>
    private const double UnknownRoomC = 0.5;

    /// <summary>The limit by heat; null where none was met.</summary>
    public Limit? ThermalLimit => Limits.FirstOrDefault(limit => limit.Kind == LimitKind.Thermal);

    /// <summary>The limit by power; null where none was met.</summary>
    public Limit? PowerLimit => Limits.FirstOrDefault(limit => limit.Kind == LimitKind.Power);
}
