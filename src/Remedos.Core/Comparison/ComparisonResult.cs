namespace Remedos.Core.Comparison;

/// <summary>Something that differs between the sides or is missing on one.</summary>
/// <param name="Code">Stable kebab-case code.</param>
/// <param name="Severity">blocking, corrected or note.</param>
/// <param name="Message">What was found.</param>
/// <param name="Remedy">What would make it fair; empty for notes that need none.</param>
public sealed record Obstacle(string Code, string Severity, string Message, string Remedy)
{
    public const string Blocking = "blocking", Corrected = "corrected", Note = "note";
}

/// <summary>One side of a comparison.</summary>
public sealed record Side(int Runs, double? ResistanceCPerW);

/// <summary>The change from before to after; negative is cooler. Half-widths are of the 95 % interval.</summary>
public sealed record Change(
    double ResistanceCPerW,
    double HalfWidthCPerW,
    double AtReferencePowerC,
    double HalfWidthC,
    double ReferencePowerW,
    double? SustainablePowerW,
    double? ClockMHz,
    double? ScorePercent);

/// <summary>Change of one stretch of the heat path.</summary>
public sealed record BandChange(string Band, double ResistanceCPerW, double HalfWidthCPerW);

/// <summary>The contract's answer of `compare` (docs/formats.md), with two statements beside it.</summary>
/// <param name="Verdict">improved, worse, no-measurable-change or not-comparable.</param>
/// <param name="Matters">Whether the change is of use: ≥ 2 °C, ≥ 3 % clock, or a thermal limit gone (or come).</param>
/// <param name="SmallestDetectableC">The smallest change that these runs could have shown, °C at reference power.</param>
public sealed record ComparisonResult(
    string Verdict,
    bool Comparable,
    bool Matters,
    IReadOnlyList<Obstacle> Obstacles,
    Side Before,
    Side After,
    Change? Change,
    double? SmallestDetectableC,
    int? MoreRunsASide,
    IReadOnlyList<BandChange>? ByBand)
{
    public const string Improved = "improved", Worse = "worse", NoMeasurableChange = "no-measurable-change", NotComparable = "not-comparable";
}
