using System.Text.Json.Serialization;
using Remedos.Core.HeatPath;

namespace Remedos.Core.Comparison;

/// <summary>How much a difference of conditions weighs.</summary>
[JsonConverter(typeof(KebabEnum<ObstacleWeight>))]
public enum ObstacleWeight
{
    /// <summary>There is no verdict.</summary>
    Blocking,

    /// <summary>It is corrected for.</summary>
    Corrected,

    /// <summary>It is told.</summary>
    Note,
}

/// <summary>Something that differs between the sides or is missing on one.</summary>
/// <param name="Code">Stable kebab-case code.</param>
/// <param name="Severity">How much it weighs.</param>
/// <param name="Message">What was found.</param>
/// <param name="Remedy">What would make it fair; empty for notes that need none.</param>
public sealed record Obstacle(string Code, ObstacleWeight Severity, string Message, string Remedy);

/// <summary>One side of a comparison, as it ran; means over its runs, null for what is not known.</summary>
/// <param name="Mounts">How many times the cooler was put on for these runs.</param>
/// <param name="ResistanceCPerW">Of its own heat, at the before runs' fan speed where both are logged, °C/W.</param>
public sealed record Side(int Runs, int Mounts, double? ResistanceCPerW, double? FanRpm)
{
    /// <summary>Chip under sustained load, °C.</summary>
    public double? TemperatureC { get; init; }

    /// <summary>Sustained power, W.</summary>
    public double? PowerW { get; init; }

    /// <summary>Sustained clock, MHz.</summary>
    public double? ClockMHz { get; init; }

    /// <summary>Its benchmark's score, in the benchmark's own unit.</summary>
    public double? Score { get; init; }

    /// <summary>The room, °C.</summary>
    public double? RoomC { get; init; }

    /// <summary>Whether any of its runs was held by heat.</summary>
    public bool AtLimit { get; init; }

    /// <summary>Where it protects itself, °C.</summary>
    public double? LimitC { get; init; }

    /// <summary>What it could hold at its limit in the before runs' room, at its own fan speed, W.</summary>
    public double? SustainablePowerW { get; init; }
}

/// <summary>The change from before to after; negative is cooler. Half-widths are of the 95 % interval.</summary>
/// <param name="ResistanceCPerW">Of the own resistance at the before runs' fan speed, °C/W.</param>
/// <param name="AtReferencePowerC">The same at reference power, °C.</param>
/// <param name="ReferencePowerW">Mean of the before runs' sustained powers, W.</param>
public sealed record Change(
    double ResistanceCPerW,
    double HalfWidthCPerW,
    double AtReferencePowerC,
    double HalfWidthC,
    double ReferencePowerW
)
{
    /// <summary>What the change of fan speed adds at reference power, °C; null where a speed is not logged.</summary>
    public double? FanPartC { get; init; }

    /// <summary>Both together: what the owner's thermometer would show at reference power, °C.</summary>
    public double AsItRunsC { get; init; }

    /// <summary>At the before runs' room and each side's own fan speed, W.</summary>
    public double? SustainablePowerW { get; init; }

    /// <summary>Change of the sustained clock, MHz.</summary>
    public double? ClockMHz { get; init; }

    /// <summary>Change of the score, %.</summary>
    public double? ScorePercent { get; init; }

    /// <summary>Half of the 95 % interval of that, percentage points.</summary>
    public double? ScoreHalfWidthPercent { get; init; }
}

/// <summary>Change of one stretch of the heat path, at the before runs' mean fan speed.</summary>
public sealed record BandChange(HeatStep Band, double ResistanceCPerW, double HalfWidthCPerW);

/// <summary>
/// The fewest further mounts, or runs on the mounts there are, a side that would settle an open change of this size with 80 % power.
/// </summary>
public sealed record Wanted(int Mounts, int Runs);

/// <summary>The sound of both sides at a metre, and what is left when they are equally loud.</summary>
/// <param name="AtEqualNoiseC">Change at reference power with the after side's fans as loud as the before side was, °C; null where the
/// fan's part is not known.</param>
/// <param name="AtEqualTemperatureDba">How loud the after side would be at the before side's temperature, dB(A); null where no fan speed
/// gives it.</param>
public sealed record NoiseChange(double? BeforeDba, double? AfterDba, double? AtEqualNoiseC, double? AtEqualTemperatureDba);

/// <summary>What a comparison comes to.</summary>
[JsonConverter(typeof(KebabEnum<Verdict>))]
public enum Verdict
{
    /// <summary>Cooler than before.</summary>
    Improved,

    /// <summary>Warmer than before.</summary>
    Worse,

    /// <summary>Neither can be told.</summary>
    NoMeasurableChange,

    /// <summary>The sides differ in more than what was done.</summary>
    NotComparable,
}

/// <summary>The contract's answer of `compare` (docs/formats.md).</summary>
/// <param name="Verdict">What it comes to.</param>
/// <param name="Matters">Whether the change is of use: ≥ 2 °C, ≥ 3 % clock or score, or a thermal limit gone (or come) in one
/// room.</param>
/// <param name="SmallestDetectableC">The smallest change that would have been found four times in five, °C at reference power.</param>
public sealed record ComparisonResult(
    Verdict Verdict,
    bool Comparable,
    bool Matters,
    IReadOnlyList<Obstacle> Obstacles,
    Side Before,
    Side After,
    Change? Change = null,
    double? SmallestDetectableC = null
)
{
    /// <summary>What would settle an open change of this size; null when it is settled or would take more than twenty.</summary>
    public Wanted? Wanted { get; init; }

    /// <summary>What a sound meter heard before and after; null where it was not there.</summary>
    public NoiseChange? Noise { get; init; }

    /// <summary>The same for the graphics card; null where a side does not log its temperature and power.</summary>
    public ComparisonResult? Graphics { get; init; }

    /// <summary>Change of each band of the heat path; null where one side has none.</summary>
    public IReadOnlyList<BandChange>? ByBand { get; init; }

    /// <summary>Whether the change is clear of zero.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool Measurable => Verdict is Verdict.Improved or Verdict.Worse;

    /// <summary>A thermal limit that was there before is gone in the before runs' room.</summary>
    public bool LimitGone { get; init; }

    /// <summary>A thermal limit has come in the before runs' room.</summary>
    public bool LimitCame { get; init; }
}
