namespace Remedos.Data.Parts;

/// <summary>A part that the workshop knows by name.</summary>
public sealed class Part
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Of <see cref="Core.Parts.PartKind.All"/>.</summary>
    public required string Kind { get; init; }

    public required string Name { get; set; }

    /// <summary>What is known of it.</summary>
    public Core.Parts.PartValues Values { get; set; } = new();

    public DateTimeOffset ChangedAt { get; set; }

    /// <summary>PostgreSQL's xmin.</summary>
    public uint Version { get; init; }
}
