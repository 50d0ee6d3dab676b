using Remedos.Core.Money;

namespace Remedos.Data.Jobs;

/// <summary>A quote or a bill that went out: never changed again, but for the owner's yes and for being taken back.</summary>
public sealed class Paper : IOfWorkshop
{
    /// <summary>The kinds.</summary>
    public const string Quote = "quote",
        Bill = "bill";

    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary><see cref="Quote"/> or <see cref="Bill"/>.</summary>
    public required string Kind { get; init; }

    /// <summary>Counted by kind in the workshop that made it, without a gap.</summary>
    public int Number { get; init; }

    /// <summary>The workshop that made it, where the job was read in; null for this one.</summary>
    public string? From { get; init; }

    /// <summary>Who made it.</summary>
    public Guid PersonId { get; init; }

    public DateTimeOffset MadeAt { get; init; }

    /// <summary>As it was printed.</summary>
    public required Statement Statement { get; init; }

    /// <summary>How the owner's yes came: in person, by telephone, by mail, on paper; null while there is none.</summary>
    public string? YesBy { get; set; }

    public DateTimeOffset? YesAt { get; set; }

    /// <summary>Taken back; its number stays taken.</summary>
    public DateTimeOffset? VoidedAt { get; set; }

    public string? VoidedWhy { get; set; }

    /// <summary>PostgreSQL's xmin.</summary>
    public uint Version { get; init; }
}
