using System.Security.Cryptography;

namespace Remedos.Server.Runs;

/// <summary>
/// Keeps originals byte for byte under the data directory, named by their SHA-256. A file appears there whole or not at all: it is
/// written under another name, flushed, and renamed. Equal files are kept once; nothing is ever deleted.
/// </summary>
public sealed class FileStore(string directory)
{
    /// <summary>Copies a stream into the store.</summary>
    /// <returns>Its hash in lower-case hexadecimal, and its length.</returns>
    public async Task<(string Sha256, long Bytes)> SaveAsync(Stream content, CancellationToken cancellation)
    {
        string incoming = Path.Combine(directory, "incoming");
        Directory.CreateDirectory(incoming);
        string temporary = Path.Combine(incoming, Guid.NewGuid().ToString("N"));
        try
        {
            using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            long bytes = 0;
            await using (FileStream file = new(temporary, FileMode.CreateNew, FileAccess.Write, FileShare.None, 1 << 16, useAsync: true))
            {
                byte[] buffer = new byte[1 << 16];
                int read;
                while ((read = await content.ReadAsync(buffer, cancellation)) > 0)
                {
                    hash.AppendData(buffer, 0, read);
                    await file.WriteAsync(buffer.AsMemory(0, read), cancellation);
                    bytes += read;
                }

                file.Flush(flushToDisk: true);
            }

            string name = Convert.ToHexStringLower(hash.GetHashAndReset());
            string place = PathOf(name);
            Directory.CreateDirectory(Path.GetDirectoryName(place)!);
            File.Move(temporary, place, overwrite: true);
            return (name, bytes);
        }
        finally
        {
            File.Delete(temporary);
        }
    }

    public FileStream Open(string sha256) => new(PathOf(sha256), FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.SequentialScan);

    private string PathOf(string sha256) => Path.Combine(directory, sha256[..2], sha256);
}
