namespace Remedos.Data.Jobs;

/// <summary>An owner's page that can be opened without signing in, as it was when the link was made.</summary>
public sealed class ReportLink : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>Of what stands in the link; the link itself is kept nowhere.</summary>
    public required string TokenSha256 { get; init; }

    /// <summary>Who made it.</summary>
    public Guid PersonId { get; init; }

    public DateTimeOffset MadeAt { get; init; }

    public DateTimeOffset ExpiresAt { get; init; }

    /// <summary>Null while it holds.</summary>
    public DateTimeOffset? WithdrawnAt { get; set; }

    public int Openings { get; set; }

    public DateTimeOffset? LastOpenedAt { get; set; }

    /// <summary>The headline, for the small page before the document.</summary>
    public required string Headline { get; init; }

    /// <summary>The document in the file store.</summary>
    public required string PdfSha256 { get; init; }
}
