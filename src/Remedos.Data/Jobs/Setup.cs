using Remedos.Core.Jobs;

namespace Remedos.Data.Jobs;

/// <summary>What a technician changed on purpose, as a difference to the setup before; the first is the machine as it came in.</summary>
public sealed class Setup : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>Counted in the job from 1.</summary>
    public int Number { get; init; }

    /// <summary>In which round it was made, from 1.</summary>
    public int Round { get; set; }

    /// <summary>Of <see cref="SetupKind"/>.</summary>
    public required string Kind { get; set; }

    /// <summary>The setup that it is like but for its difference; null for the first.</summary>
    public int? LikeNumber { get; init; }

    public SetupDifference Difference { get; init; } = new();

    /// <summary>What it costs the owner, in the currency's minor unit; null when it was not noted.</summary>
    public long? PriceMinor { get; set; }

    /// <summary>Why it was given up: a try that failed stays on the sheet, outside the verdict.</summary>
    public string? FailedWhy { get; set; }

    public DateTimeOffset CreatedAt { get; init; }

    /// <summary>Taken off the sheet, not deleted.</summary>
    public DateTimeOffset? RemovedAt { get; set; }

    public List<Mount> Mounts { get; init; } = [];
}

/// <summary>One time that the cooler was put on.</summary>
public sealed class Mount : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public Guid SetupId { get; init; }

    /// <summary>Counted in the setup from 1.</summary>
    public int Number { get; init; }

    public DateTimeOffset? MountedAt { get; set; }

    /// <summary>What the paste showed when it was lifted, in the words of the diagnosis; null while it sits.</summary>
    public string? Print { get; set; }

    /// <summary>How the screws were tightened.</summary>
    public string? Torque { get; set; }

    public int? Minutes { get; set; }

    public DateTimeOffset CreatedAt { get; init; }

    public DateTimeOffset? RemovedAt { get; set; }
}

/// <summary>A round that is over: what was found and done in it, and why the next one was opened.</summary>
public sealed class Round : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>Counted in the job from 1.</summary>
    public int Number { get; init; }

    /// <summary>Of <see cref="RoundReason"/>: why it did not end the job.</summary>
    public required string Reason { get; init; }

    /// <summary>The verdict it ended with, as a sentence; null without one.</summary>
    public string? Verdict { get; init; }

    public required RoundNote Note { get; init; }

    public DateTimeOffset ClosedAt { get; init; }

    /// <summary>Opened again by an undo.</summary>
    public DateTimeOffset? RemovedAt { get; set; }
}

/// <summary>What a round found out.</summary>
/// <param name="Observations">What hands and eyes told of the machine as it was then.</param>
public sealed record RoundNote(
    string? Found,
    string? Done,
    string? Parts,
    int? Minutes,
    IReadOnlyList<string> Causes,
    string? DecisionRoute,
    string? LastDone,
    IReadOnlyList<Core.Diagnosis.EvidenceItem> Observations,
    Core.Options.OptionChoice? Choice = null
);
