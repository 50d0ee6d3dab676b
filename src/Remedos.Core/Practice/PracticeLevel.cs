namespace Remedos.Core.Practice;

/// <summary>How hard a case is to find.</summary>
/// <param name="Number">From 1.</param>
/// <param name="What">What it trains, in a sentence.</param>
/// <param name="LeastSeverity">Faults are at least so severe, 0 … 1.</param>
/// <param name="FeltC">A fault of the heat raises the chip at its rated watts by this much at least, °C.</param>
/// <param name="Faults">The most faults that it has.</param>
/// <param name="SoundShare">How often there is none at all.</param>
/// <param name="Tells">How the owner answers.</param>
public sealed record PracticeLevel(
    int Number,
    string Title,
    string What,
    double LeastSeverity,
    double FeltC,
    int Faults,
    double SoundShare,
    OwnerTells Tells
)
{
    /// <summary>All of them, the easiest first.</summary>
    public static IReadOnlyList<PracticeLevel> All { get; } =
    [
        new(
            1,
            "One clear fault",
            "A severe fault, and an owner who tells all of it. For the order of work.",
            0.75,
            12,
            1,
            0,
            OwnerTells.Clearly
        ),
        new(
            2,
            "One fault, as they come",
            "Any severity; the owner has not noticed everything. For choosing the next check.",
            0.35,
            6,
            1,
            0,
            OwnerTells.Usually
        ),
        new(
            3,
            "A fault or none, and a theory",
            "One machine in four is sound, and the owner is sure what it is, and wrong. For trusting the runs.",
            0.35,
            6,
            1,
            0.25,
            OwnerTells.Misleadingly
        ),
        new(
            4,
            "Two faults and a theory",
            "The first repair helps and does not end it, and the owner points elsewhere. For looking further.",
            0.4,
            6,
            2,
            0,
            OwnerTells.Misleadingly
        ),
    ];

    /// <summary>The level of a number; null where there is none.</summary>
    public static PracticeLevel? Of(int number) => All.FirstOrDefault(level => level.Number == number);
}

/// <summary>How an owner answers.</summary>
public enum OwnerTells
{
    /// <summary>All, and what is most often seen with such a fault.</summary>
    Clearly,

    /// <summary>As often as the tables have it, and does not know everything.</summary>
    Usually,

    /// <summary>The same, with a theory of another fault that colours some of it.</summary>
    Misleadingly,
}
