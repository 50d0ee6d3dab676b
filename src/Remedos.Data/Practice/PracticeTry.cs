using Remedos.Core.Practice;

namespace Remedos.Data.Practice;

/// <summary>A case that somebody works, or has worked; it belongs to the workshop in which that person practises.</summary>
public sealed class PracticeTry : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Its sheet.</summary>
    public Guid JobId { get; init; }

    /// <summary>Where its machine stands.</summary>
    public Guid BayId { get; init; }

    public int Level { get; init; }

    public int Seed { get; init; }

    /// <summary>Whether the sheet keeps what it thinks to itself until the case is ended.</summary>
    public bool Alone { get; init; }

    public DateTimeOffset StartedAt { get; init; }

    /// <summary>Null while it is worked.</summary>
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>How many times faster than real its runs go.</summary>
    public double Speed { get; set; }

    /// <summary>What was done so far.</summary>
    public required PracticeStand Stand { get; set; }

    /// <summary>What its owner was told; null while it is worked, and where it was left.</summary>
    public PracticeEnding? Ending { get; set; }

    /// <summary>Null likewise.</summary>
    public PracticeScore? Score { get; set; }

    /// <summary>The server that drives its machine, and until when it may.</summary>
    public Guid? DrivenBy { get; set; }

    /// <inheritdoc cref="DrivenBy"/>
    public DateTimeOffset? DrivenUntil { get; set; }

    public uint Version { get; init; }
}
