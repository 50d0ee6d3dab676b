using NetVips;

namespace Remedos.Server.Files;

/// <summary>A picture that was taken in: where it lies, and its small one.</summary>
/// <param name="GivenSha256">Of the file as it came.</param>
internal sealed record KeptPicture(string GivenSha256, string Sha256, string ThumbnailSha256, string MediaType, long Bytes);

/// <summary>
/// Decodes pictures, and keeps what is seen: upright, of a size that a page can show, and without what the camera wrote into it (place,
/// time, serial number).
/// A file that only begins like a picture is none.
/// </summary>
internal sealed class Pictures(IFileStore files)
{
    public const long LargestBytes = 40_000_000;

    /// <summary>A larger one would fill the memory of whoever looks at it; what telephones take is below half of it.</summary>
    private const long MostPixels = 120_000_000;

    private const int LongestSide = 3000,
        ThumbnailSide = 400;

    private static readonly string[] Loaders = ["jpegload", "pngload", "webpload", "heifload"];

    /// <summary>Keeps a picture and its thumbnail.</summary>
    /// <param name="content">The file.</param>
    /// <param name="cancellation">Stops it.</param>
    /// <returns>What is kept, or the sentence that says why it is no picture.</returns>
    public async Task<(KeptPicture? Kept, string? Problem)> KeepAsync(byte[] content, CancellationToken cancellation)
    {
        byte[] picture,
            thumbnail;
        try
        {
            (picture, thumbnail) = await Task.Run(() => Drawn(content), cancellation);
        }
        catch (PictureException problem)
        {
            return (null, problem.Message);
        }
        catch (VipsException)
        {
            return (
                null,
                "is no picture that can be read to its end. JPEG, PNG, WebP and AVIF are shown; a log goes to the before or the after run."
            );
        }

        (string sha256, long bytes) = await files.SaveAsync(new MemoryStream(picture), picture.Length, cancellation);
        (string small, _) = await files.SaveAsync(new MemoryStream(thumbnail), thumbnail.Length, cancellation);
        return (
            new KeptPicture(
                Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content)),
                sha256,
                small,
                "image/jpeg",
                bytes
            ),
            null
        );
    }

    private static (byte[] Picture, byte[] Thumbnail) Drawn(byte[] content)
    {
        using (Image head = Image.NewFromBuffer(content, access: Enums.Access.Sequential))
        {
            string loader = head.Get("vips-loader") as string ?? "";
            if (!Array.Exists(Loaders, known => loader.StartsWith(known, StringComparison.Ordinal)))
            {
                throw new PictureException("is no picture of a kind that is shown. JPEG, PNG, WebP and AVIF are.");
            }

            if ((long)head.Width * head.Height > MostPixels)
            {
                throw new PictureException(
                    $"has {head.Width} × {head.Height} dots; pictures up to {MostPixels / 1_000_000} million dots are taken."
                );
            }
        }

        return (Sized(content, LongestSide, 85), Sized(content, ThumbnailSide, 78));
    }

    private static byte[] Sized(byte[] content, int side, int quality)
    {
        using Image sized = Image.ThumbnailBuffer(content, side, height: side, size: Enums.Size.Down, failOn: Enums.FailOn.Truncated);
        using Image flat = sized.HasAlpha() ? sized.Flatten(background: [255]) : sized.Copy();
        return flat.JpegsaveBuffer(q: quality, keep: Enums.ForeignKeep.None);
    }

    private sealed class PictureException(string sentence) : Exception(sentence);
}
