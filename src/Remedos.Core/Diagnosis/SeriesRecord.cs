namespace Remedos.Core.Diagnosis;

/// <summary>What the workshop has found in machines with coolers of one series, over the years.</summary>
/// <param name="Name">The series.</param>
/// <param name="Machines">How many of them came in and were found out.</param>
/// <param name="Causes">In how many of those each cause was found.</param>
public sealed record SeriesRecord(string Name, int Machines, IReadOnlyDictionary<string, int> Causes)
{
    /// <summary>Fewer machines than this tell nothing of a series.</summary>
    public const int FewestMachines = 5;

    /// <summary>The tables' prior weighs as much as so many machines (a beta prior of that strength).</summary>
    private const double PriorMachines = 6;

    /// <summary>Why it cannot be, as a sentence; null when all is well.</summary>
    public string? Problem =>
        Machines < 0 ? $"{Machines} machines cannot be."
        : Causes.FirstOrDefault(cause => DiagnosisTables.Causes.All(row => row.Id != cause.Key)) is { Key: { } unknown }
            ? $"there is no cause “{unknown}”."
        : Causes.FirstOrDefault(cause => cause.Value < 0 || cause.Value > Machines) is { Key: { } wrong }
            ? $"“{wrong}” in {Causes[wrong]} of {Machines} machines cannot be."
        : null;

    /// <summary>Whether there are machines enough to tell anything.</summary>
    public bool IsEnough => Machines >= FewestMachines;

    /// <summary>The prior of a cause when these records stand beside the tables; the tables' own while there are too few.</summary>
    /// <param name="prior">The tables' own, before anything is known of this machine.</param>
    public double Prior(string cause, double prior) =>
        IsEnough && prior > 0 ? (Causes.GetValueOrDefault(cause) + (PriorMachines * prior)) / (Machines + PriorMachines) : prior;

    /// <summary>What the records say, as a sentence; null when they are too few or say nothing.</summary>
    public string? Sentence()
    {
        KeyValuePair<string, int>[] found =
        [
            .. Causes
                .Where(cause => cause.Value > 0)
                .OrderByDescending(cause => cause.Value)
                .ThenBy(cause => cause.Key, StringComparer.Ordinal)
                .Take(2),
        ];
        return !IsEnough || found.Length == 0
            ? null
            : $"This workshop has diagnosed {Machines} machines with {Name}: "
                + $"{string.Join(", ", found.Select(cause => $"{Lower(DiagnosisTables.CauseOf(cause.Key).Title)} in {cause.Value}"))}. "
                + $"The odds start from that.";
    }

    private static string Lower(string title) => char.ToLowerInvariant(title[0]) + title[1..];
}
