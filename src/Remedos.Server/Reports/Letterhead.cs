using Remedos.Data;
using Remedos.Server.Files;

namespace Remedos.Server.Reports;

/// <summary>Who writes, at the head of a document.</summary>
/// <param name="Address">Lines under the name; null for none.</param>
/// <param name="Open">When it is open, in words; null where nobody has said.</param>
/// <param name="Logo">A JPEG picture; null for none.</param>
internal sealed record Letterhead(string Name, string? Address, string? Open, byte[]? Logo)
{
    /// <summary>A workshop's own.</summary>
    public static async Task<Letterhead> OfAsync(Workshop workshop, IFileStore files, CancellationToken cancellation) =>
        new(
            workshop.Name,
            string.IsNullOrWhiteSpace(workshop.Address) ? null : workshop.Address,
            workshop.Open is { } open ? $"Open {open.Words()}" : null,
            await LogoAsync(workshop, files, cancellation)
        );

    /// <summary>A document without its picture is better than none.</summary>
    private static async Task<byte[]?> LogoAsync(Workshop workshop, IFileStore files, CancellationToken cancellation)
    {
        if (workshop.LogoSha256 is not { } sha256)
        {
            return null;
        }

        try
        {
            await using Stream content = await files.OpenAsync(sha256, cancellation);
            using MemoryStream bytes = new();
            await content.CopyToAsync(bytes, cancellation);
            return bytes.ToArray();
        }
        catch (Exception missing) when (missing is OriginalMissingException or StoreAwayException)
        {
            return null;
        }
    }
}
