namespace Remedos.Server.Photos;

/// <summary>Tells pictures by their first bytes: a name can say anything.</summary>
internal static class PictureKind
{
    /// <summary>As many bytes as are needed to tell.</summary>
    public const int HeadBytes = 16;

    /// <summary>The media type; null for anything but a picture that browsers show.</summary>
    public static string? Of(ReadOnlySpan<byte> head) =>
        head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : head.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png"
        : head.Length >= 12 && head.StartsWith("RIFF"u8) && head[8..].StartsWith("WEBP"u8) ? "image/webp"
        : head.Length >= 12 && head[4..].StartsWith("ftypavif"u8) ? "image/avif"
        : null;
}
