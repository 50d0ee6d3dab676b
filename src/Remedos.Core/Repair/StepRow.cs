using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Remedos.Core.Repair;

/// <summary>Where in the work a step stands, in order.</summary>
[JsonConverter(typeof(KebabEnum<StepStage>))]
public enum StepStage
{
    /// <summary>While it still runs.</summary>
    Before,

    /// <summary>Without power.</summary>
    SwitchOff,

    /// <summary>Panel off, looked at.</summary>
    Open,

    /// <summary>What stands in the way comes out.</summary>
    TakeOut,

    /// <summary>The cooler comes off.</summary>
    Off,

    /// <summary>Cleaned and made ready.</summary>
    Clean,

    /// <summary>What is repaired beside the cooler.</summary>
    Work,

    /// <summary>The cooler goes on.</summary>
    On,

    /// <summary>What came out goes back.</summary>
    PutBack,

    /// <summary>Looked at under power while it is open.</summary>
    FirstPower,

    /// <summary>Firmware and programs.</summary>
    Settings,

    /// <summary>Closed, bagged, labelled.</summary>
    Close,

    /// <summary>Measured again.</summary>
    After,
}

/// <summary>What a step wants to see before it counts as done.</summary>
[JsonConverter(typeof(KebabEnum<StepHold>))]
public enum StepHold
{
    /// <summary>Nothing: a tick.</summary>
    None,

    /// <summary>A look that is confirmed.</summary>
    Look,

    /// <summary>A figure within its bounds.</summary>
    Reading,

    /// <summary>A picture on the job.</summary>
    Photo,

    /// <summary>The print that was found.</summary>
    Print,

    /// <summary>A line for each thing that came out, or was kept.</summary>
    List,

    /// <summary>Every line of the list that it puts back, ticked.</summary>
    Ticks,

    /// <summary>A run on the sheet.</summary>
    Run,

    /// <summary>Pads by zone: how thick, and what is left of it under pressure.</summary>
    Pads,
}

/// <summary>A step as the table has it.</summary>
/// <param name="Title">What to do, in a line; words in braces are filled in.</param>
/// <param name="How">How it is done.</param>
/// <param name="Why">What goes wrong without it.</param>
/// <param name="Minutes">For usual hands; a run's bench time.</param>
/// <param name="When">Marks that must all hold; “a|b” is either, “!a” is not.</param>
/// <param name="Ask">What the hold point asks for.</param>
/// <param name="Unit">Of a reading.</param>
/// <param name="Least">Of a reading; and its most.</param>
/// <param name="Outside">What to do where the reading lies outside.</param>
/// <param name="Drawing">The picture that says it better; null for none.</param>
/// <param name="Baseline">Whether later steps make it impossible.</param>
/// <param name="Irreversible">Whether it cannot be undone.</param>
/// <param name="UndoneBy">The step that puts back what this one takes out.</param>
/// <param name="Uses">What is used up or built in with it, a line each.</param>
/// <param name="Mounts">Whether the cooler sits again with it.</param>
public sealed record StepRow(
    string Id,
    StepStage Stage,
    string Title,
    string How,
    string Why,
    double Minutes,
    IReadOnlyList<string> When,
    StepHold Hold = StepHold.None,
    string? Ask = null,
    string? Unit = null,
    double? Least = null,
    double? Most = null,
    string? Outside = null,
    string? Caution = null,
    string? Drawing = null,
    IReadOnlyList<string>? Tools = null,
    bool Baseline = false,
    bool Irreversible = false,
    string? UndoneBy = null,
    bool Mounts = false,
    IReadOnlyList<string>? Uses = null
)
{
    /// <summary>All steps, in the order of work.</summary>
    public static IReadOnlyList<StepRow> All { get; } = Load();

    private static StepRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Repair.steps.json")!;
        StepRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.StepRowArray)!;
        string? problem =
            rows.GroupBy(row => row.Id).FirstOrDefault(same => same.Count() > 1) is { } twice ? $"“{twice.Key}” stands twice"
            : rows.Zip(rows.Skip(1)).FirstOrDefault(pair => pair.First.Stage > pair.Second.Stage) is { First: { } early }
                ? $"“{early.Id}” stands after a later stage"
            : rows.FirstOrDefault(row =>
                row is not { Minutes: > 0, Title.Length: > 3, How.Length: > 10, Why.Length: > 10, When.Count: > 0 }
            )
                is { } bare
                ? $"“{bare.Id}” lacks words, minutes or marks"
            : rows.FirstOrDefault(row => row.Hold != StepHold.None && row.Ask is null) is { } dumb ? $"“{dumb.Id}” asks for nothing"
            : rows.FirstOrDefault(row => row.Hold == StepHold.Reading && row is not { Unit: not null, Least: not null, Most: not null })
                is { } boundless
                ? $"“{boundless.Id}” has no bounds"
            : rows.FirstOrDefault(row => row.UndoneBy is { } back && Array.TrueForAll(rows, other => other.Id != back)) is { } lost
                ? $"“{lost.Id}” is undone by a step that is not there"
            : rows.SelectMany(row => row.When).SelectMany(Marks.In).FirstOrDefault(mark => !Marks.All.Contains(mark)) is { } unknown
                ? $"there is no mark “{unknown}”"
            : null;
        return problem is null ? rows : throw new InvalidDataException($"steps.json: {problem}.");
    }
}
