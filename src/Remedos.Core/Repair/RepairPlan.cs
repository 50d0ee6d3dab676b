namespace Remedos.Core.Repair;

/// <summary>A step of a plan, its words filled in for this machine.</summary>
/// <param name="MakesSetup">Whether the machine is another one once it is done: its next setup begins with it.</param>
/// <param name="Screws">The order of the screws, for its drawing; null where it has none.</param>
/// <param name="Dots">Of paste, likewise.</param>
public sealed record PlanStep(
    string Id,
    StepStage Stage,
    string Title,
    string How,
    string Why,
    double Minutes,
    StepHold Hold,
    string? Ask,
    string? Unit,
    double? Least,
    double? Most,
    string? Outside,
    string? Caution,
    string? Drawing,
    IReadOnlyList<string> Tools,
    bool Baseline,
    bool Irreversible,
    string? UndoneBy,
    bool MakesSetup,
    IReadOnlyList<int>? Screws,
    int? Dots
)
{
    /// <summary>Lines that its list begins with; empty for none.</summary>
    public IReadOnlyList<string> Suggested { get; init; } = [];
}

/// <summary>What is to be done, step by step.</summary>
/// <param name="Title">“Fit Mullion 120” or what the acts are called.</param>
/// <param name="Minutes">Of hands; runs on the bench are not in it.</param>
/// <param name="Tools">All that has to lie ready.</param>
public sealed record RepairPlan(string Title, IReadOnlyList<PlanStep> Steps, double Minutes, IReadOnlyList<string> Tools);
