using System.Globalization;
using System.Text.RegularExpressions;

namespace Remedos.Core.Repair;

/// <summary>The pads of one zone of a card, as a line: “memory: 1.5 mm, at work 1.2 mm”.</summary>
/// <param name="ThicknessMm">New.</param>
/// <param name="AtWorkMm">What is left of it under pressure.</param>
public sealed partial record PadZone(string Zone, double ThicknessMm, double AtWorkMm)
{
    private const double ThinnestMm = 0.2,
        ThickestMm = 6;

    [GeneratedRegex(@"^(.{1,60}): (\d{1,2}(?:\.\d{1,2})?) mm, at work (\d{1,2}(?:\.\d{1,2})?) mm$")]
    private static partial Regex Line();

    /// <summary>Reads a line; null where it is none.</summary>
    public static PadZone? Read(string line) =>
        Line().Match(line) is { Success: true } match
            ? new PadZone(match.Groups[1].Value, Number(match.Groups[2]), Number(match.Groups[3]))
            : null;

    /// <summary>Why the lines of a step are no pads, as a sentence; null when they are.</summary>
    public static string? Problem(PlanStep step, IReadOnlyList<string> lines) =>
        lines.Count == 0 ? $"“{step.Title}” needs the thickness of one zone at least; skip it where no pad was touched."
        : lines.FirstOrDefault(line => Read(line) is null) is { } odd
            ? $"“{odd}”: a zone is written with both thicknesses, as “memory: 1.5 mm, at work 1.2 mm”."
        : lines.Select(line => Read(line)!).FirstOrDefault(pad => !(pad.ThicknessMm is >= ThinnestMm and <= ThickestMm)) is { } thick
            ? $"{thick.Zone}: pads are {ThinnestMm} to {ThickestMm} mm thick, not {thick.ThicknessMm:0.##} mm."
        : lines.Select(line => Read(line)!).FirstOrDefault(pad => !(pad.AtWorkMm < pad.ThicknessMm && pad.AtWorkMm > pad.ThicknessMm / 2))
            is { } hard
            ? $"{hard.Zone}: under pressure a pad of {hard.ThicknessMm:0.##} mm has between half and all of that, not "
                + $"{hard.AtWorkMm:0.##} mm."
        : null;

    private static double Number(Group digits) => double.Parse(digits.ValueSpan, CultureInfo.InvariantCulture);
}
