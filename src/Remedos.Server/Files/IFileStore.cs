namespace Remedos.Server.Files;

/// <summary>
/// Keeps files byte for byte, named by their SHA-256. A file appears there whole or not at all, equal files are kept once, and none is ever
/// changed.
/// </summary>
public interface IFileStore
{
    /// <summary>Copies a stream into the store.</summary>
    /// <param name="content">Read to its end.</param>
    /// <param name="expectedBytes">How much will come; null when nobody knows.</param>
    /// <returns>Its hash in lower-case hexadecimal, and its length.</returns>
    /// <exception cref="StoreFullException">There is not enough room for it.</exception>
    Task<(string Sha256, long Bytes)> SaveAsync(Stream content, long? expectedBytes, CancellationToken cancellation);

    /// <summary>Opens a file for reading from its beginning to its end.</summary>
    /// <exception cref="OriginalMissingException">It is not there.</exception>
    Task<Stream> OpenAsync(string sha256, CancellationToken cancellation);

    /// <summary>Removes a file for good, where somebody’s data are erased; one that is not there is gone already.</summary>
    Task RemoveAsync(string sha256, CancellationToken cancellation);

    /// <summary>Whether a file is there.</summary>
    Task<bool> HasAsync(string sha256, CancellationToken cancellation);

    /// <summary>An empty file on this machine for what is not to be kept; it is gone once it is closed.</summary>
    Stream OpenScratch();

    /// <summary>How much there is room for on this machine, bytes.</summary>
    long Room { get; }

    /// <summary>Which store this is; null while nobody has said.</summary>
    Task<Guid?> IdentityAsync(CancellationToken cancellation);

    /// <summary>Says which store this is.</summary>
    Task NameAsync(Guid identity, CancellationToken cancellation);
}

/// <summary>A file that was kept is not in the store any more, or this is another store.</summary>
public sealed class OriginalMissingException(string sha256) : Exception($"{sha256} is not in the file store.");

/// <summary>There is no room for a file.</summary>
public sealed class StoreFullException(long freeBytes) : Exception($"{freeBytes} bytes are free.")
{
    public long FreeBytes => freeBytes;
}

/// <summary>The store does not answer; it may soon.</summary>
public sealed class StoreAwayException(string why, Exception? inner = null) : Exception(why, inner);
