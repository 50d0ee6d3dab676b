namespace Remedos.Data.Backups;

/// <summary>How a workshop's backups stand: the last that was made, and what went wrong since.</summary>
public sealed class BackupStand : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>When the last was begun, whatever became of it.</summary>
    public DateTimeOffset TriedAt { get; set; }

    /// <summary>When the last that is whole was made; null before the first.</summary>
    public DateTimeOffset? MadeAt { get; set; }

    /// <summary>Its file's name in the server's folder.</summary>
    public string? FileName { get; set; }

    public long Bytes { get; set; }

    /// <summary>Why the last try made none, as a sentence; null where it did.</summary>
    public string? Problem { get; set; }
}
