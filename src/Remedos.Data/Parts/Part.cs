namespace Remedos.Data.Parts;

/// <summary>A part that the workshop knows by name.</summary>
public sealed class Part : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Of <see cref="Core.Parts.PartKind.All"/>.</summary>
    public required string Kind { get; init; }

    public required string Name { get; set; }

    /// <summary>What is known of it.</summary>
    public Core.Parts.PartValues Values { get; set; } = new();

    public DateTimeOffset ChangedAt { get; set; }

    /// <summary>Not offered any more, but known; null while it is.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>PostgreSQL's xmin.</summary>
    public uint Version { get; init; }
}

/// <summary>One change to a part; appended, never altered.</summary>
public sealed class PartEvent : IOfWorkshop
{
    public long Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid PartId { get; init; }

    public Guid PersonId { get; init; }

    public DateTimeOffset At { get; init; }

    /// <summary>added, changed, retired, brought-back or imported.</summary>
    public required string Kind { get; init; }

    /// <summary>JSON of name and values; null before the first.</summary>
    public string? Before { get; init; }

    public required string After { get; init; }
}
