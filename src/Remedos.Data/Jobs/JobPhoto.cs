namespace Remedos.Data.Jobs;

/// <summary>A picture on a job; the file itself lies in the file store.</summary>
public sealed class JobPhoto : IOfWorkshop
{
    public const string Photo = "photo",
        Proof = "proof";

    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public Guid PersonId { get; init; }

    /// <summary><see cref="Photo"/>, or <see cref="Proof"/> for a proof of purchase.</summary>
    public required string Kind { get; set; }

    public required string Name { get; init; }

    public required string MediaType { get; init; }

    /// <summary>
    /// Of the file as it was given, so that it is taken once; the file itself, with what a camera writes into it, is not kept.
    /// </summary>
    public required string GivenSha256 { get; init; }

    /// <summary>Of the picture that is kept, upright and without the place it was taken.</summary>
    public required string Sha256 { get; init; }

    public required string ThumbnailSha256 { get; init; }

    public long Bytes { get; init; }

    public DateTimeOffset AddedAt { get; init; }

    /// <summary>Taken off the sheet; kept, so that it can be put back.</summary>
    public DateTimeOffset? RemovedAt { get; set; }
}
