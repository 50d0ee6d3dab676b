using System.Text.Json.Serialization;

namespace Remedos.Core.Repair;

/// <summary>How a step ended.</summary>
[JsonConverter(typeof(KebabEnum<StepState>))]
public enum StepState
{
    /// <summary>Done as it says.</summary>
    Done,

    /// <summary>Left out, with a reason.</summary>
    Skipped,
}

/// <summary>What was done to a step.</summary>
/// <param name="At">When, by the clock of the hand that ticked it: it may reach the server later.</param>
/// <param name="Reading">Of a reading.</param>
/// <param name="Text">The print, or why it was skipped.</param>
/// <param name="Lines">Of a list, or those of one that were ticked.</param>
/// <param name="Photo">The picture on the job.</param>
/// <param name="Seconds">How long it stood before the hands; null where nobody looked at a clock.</param>
public sealed record StepMark(
    StepState State,
    DateTimeOffset At,
    double? Reading = null,
    string? Text = null,
    IReadOnlyList<string>? Lines = null,
    Guid? Photo = null,
    double? Seconds = null
)
{
    /// <summary>Prints that can be picked.</summary>
    public static readonly string[] Prints = ["full", "thin", "ring-or-spot", "untouched", "dried"];

    private const int MostLines = 60,
        LongestLine = 200;

    private const double MostSeconds = 24 * 3600;

    /// <summary>Why a step's hold point is not passed, as a sentence; null when it is.</summary>
    /// <param name="listed">The lines that came out by the step that this one puts back; empty for none.</param>
    public string? Problem(PlanStep step, IReadOnlyList<string> listed) =>
        Lines?.Count > MostLines || Lines?.Any(line => line.Length is 0 or > LongestLine) == true
            ? $"A list holds up to {MostLines} lines of {LongestLine} letters, and none that is empty."
        : Text?.Length > LongestLine ? $"At most {LongestLine} letters fit here."
        : Seconds is < 0 or > MostSeconds ? "A step takes between no time and a day."
        : State == StepState.Skipped
            ? string.IsNullOrWhiteSpace(Text) ? $"“{step.Title}” is left out for a reason: say which."
                : null
        : step.Hold switch
        {
            StepHold.Reading when Reading is null => $"“{step.Title}” needs a reading: {step.Ask}, {step.Unit}.",
            StepHold.Reading when !(Reading >= step.Least && Reading <= step.Most) =>
                $"{step.Ask}: {Reading:0.#} {step.Unit} is outside {step.Least:0.#} to {step.Most:0.#}. {step.Outside}".TrimEnd(),
            StepHold.Photo when Photo is null => $"“{step.Title}” needs a picture, or a reason why there is none.",
            StepHold.Print when !Prints.Contains(Text) => $"“{step.Title}” is one of {string.Join(", ", Prints)}.",
            StepHold.Pads => PadZone.Problem(step, Lines ?? []),
            StepHold.List when Lines is not { Count: > 0 } => $"“{step.Title}” needs at least one line; skip it where there is none.",
            StepHold.Ticks when listed.FirstOrDefault(line => Lines?.Contains(line) != true) is { } left =>
                $"“{left}” was pulled and is not ticked: put it back, or tick it as one that stays out.",
            _ => null,
        };
}
