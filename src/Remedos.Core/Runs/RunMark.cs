namespace Remedos.Core.Runs;

/// <summary>
/// Something that was done or seen during a run, at a time since its first row: “panel off”, “fan by hand to full”.
/// </summary>
public sealed record RunMark(double Seconds, string Text)
{
    /// <summary>Limits of what is kept.</summary>
    public const int LongestText = 80,
        Most = 40;

    /// <summary>Why these cannot be the marks of a run, as a sentence; null when they can.</summary>
    public static string? Problem(IReadOnlyList<RunMark> marks, double durationSeconds) =>
        marks.Count > Most ? $"A run holds up to {Most} marks."
        : marks.FirstOrDefault(mark => string.IsNullOrWhiteSpace(mark.Text)) is { } silent
            ? $"The mark at {silent.Seconds:0} s says nothing."
        : marks.FirstOrDefault(mark => mark.Text.Length > LongestText) is { } wordy
            ? $"The mark at {wordy.Seconds:0} s is longer than {LongestText} letters."
        : marks.FirstOrDefault(mark => !(mark.Seconds >= 0 && mark.Seconds <= durationSeconds)) is { } outside
            ? $"“{outside.Text}” stands outside the run, which lasts {durationSeconds:0} s."
        : null;
}
