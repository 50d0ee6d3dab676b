using System.IO.Compression;
using System.Security.Cryptography;
using Remedos.Server.Files;

namespace Remedos.Server.Bundles;

/// <summary>A bundle or an archive that somebody gave: nothing in it is believed before it was looked at.</summary>
internal sealed class BundleZip : IAsyncDisposable
{
    private const int MostEntries = 2_000_000;

    private const long LongestManifest = 16L << 20,
        LongestRecord = 128L << 20;

    private readonly ZipArchive _zip;
    private readonly Dictionary<string, ZipArchiveEntry> _entries;
    private readonly long _room;

    private BundleZip(ZipArchive zip, long room)
    {
        _zip = zip;
        _room = room;
        _entries = new Dictionary<string, ZipArchiveEntry>(StringComparer.OrdinalIgnoreCase);
        foreach (ZipArchiveEntry entry in zip.Entries)
        {
            if (!IsInside(entry.FullName))
            {
                throw new BundleException("holds a file whose name leads outside of it, and is not opened.");
            }

            if (!_entries.TryAdd(entry.FullName, entry))
            {
                throw new BundleException($"holds “{entry.FullName}” twice, and is not opened.");
            }
        }
    }

    /// <summary>Opens a ZIP.</summary>
    /// <param name="content">Where it can be read in any order.</param>
    /// <param name="room">How many bytes it may unpack to.</param>
    /// <exception cref="BundleException">It is none.</exception>
    public static async Task<BundleZip> OpenAsync(Stream content, long room, CancellationToken cancellation)
    {
        if (content.Length == 0)
        {
            throw new BundleException("is empty.");
        }

        ZipArchive? zip = null;
        try
        {
            zip = await ZipArchive.CreateAsync(content, ZipArchiveMode.Read, leaveOpen: true, null, cancellation);
            return zip.Entries.Count > MostEntries
                ? throw new BundleException($"holds more than {MostEntries} files, and is not opened.")
                : new BundleZip(zip, room);
        }
        catch (Exception problem) when (IsDamage(problem))
        {
            zip?.Dispose();
            throw new BundleException("is no ZIP file, or it is damaged. Copy it once more from where it was made.");
        }
    }

    public ValueTask DisposeAsync() => _zip.DisposeAsync();

    /// <summary>What is in a folder of it.</summary>
    /// <param name="folder">Empty for all of it; else with a slash behind.</param>
    /// <param name="format">What is wanted: <see cref="Manifest.Job"/> or <see cref="Manifest.Workshop"/>.</param>
    public async Task<Manifest> ManifestAsync(string folder, string format, CancellationToken cancellation)
    {
        if (!_entries.ContainsKey(folder + Manifest.Name))
        {
            throw new BundleException(
                folder.Length == 0
                    ? "holds no remedos.json: it was not made by Remedos, or it was packed anew with a folder around it."
                    : $"is not whole: {folder}{Manifest.Name} is not in it."
            );
        }

        Manifest manifest = BundleJson.Read<Manifest>(
            await BytesAsync(folder + Manifest.Name, LongestManifest, cancellation),
            folder + Manifest.Name
        );
        return manifest.Version > Manifest.Current
                ? throw new BundleException(
                    $"was made by a newer Remedos (its format is {manifest.Version}, and up to {Manifest.Current} is read here). Update "
                        + $"this one first."
                )
            : manifest.Format == format && manifest.Version >= 1 ? manifest
            : throw new BundleException(
                manifest.Format switch
                {
                    Manifest.Job => "is one job: it is read in under Jobs.",
                    Manifest.Workshop => "is a whole workshop: it is read in under Workshop.",
                    _ => "is of a kind that is not known here.",
                }
            );
    }

    /// <summary>The JSON with the rows, as its hash tells it.</summary>
    public async Task<byte[]> RecordAsync(string folder, Manifest manifest, CancellationToken cancellation)
    {
        byte[] json = await BytesAsync(folder + manifest.Record.Path, LongestRecord, cancellation);
        return Convert.ToHexStringLower(SHA256.HashData(json)) == manifest.Record.Sha256
            ? json
            : throw Damaged(folder + manifest.Record.Path);
    }

    /// <summary>Sees to it that every file of a folder is there, as long and as it was.</summary>
    /// <returns>How many bytes they are.</returns>
    public async Task<long> VerifyAsync(string folder, Manifest manifest, CancellationToken cancellation)
    {
        long sum = 0;
        foreach (FileRecord file in manifest.Files)
        {
            sum = file.Bytes < 0 || file.Bytes > _room - sum ? throw TooLarge() : sum + file.Bytes;
        }

        byte[] buffer = new byte[1 << 16];
        foreach (FileRecord file in manifest.Files)
        {
            using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            await using Stream content = await OpenAsync(folder + file.Path, file.Bytes, cancellation);
            try
            {
                int read;
                while ((read = await content.ReadAsync(buffer, cancellation)) > 0)
                {
                    hash.AppendData(buffer, 0, read);
                }
            }
            catch (Exception problem) when (IsDamage(problem))
            {
                throw Damaged(folder + file.Path);
            }

            if (Convert.ToHexStringLower(hash.GetHashAndReset()) != file.Sha256)
            {
                throw Damaged(folder + file.Path);
            }
        }

        return sum;
    }

    /// <summary>Keeps the files of a folder, which were looked at.</summary>
    public async Task KeepAsync(string folder, Manifest manifest, IFileStore files, CancellationToken cancellation)
    {
        foreach (FileRecord file in manifest.Files)
        {
            if (await files.HasAsync(file.Sha256, cancellation))
            {
                continue;
            }

            await using Stream content = await OpenAsync(folder + file.Path, file.Bytes, cancellation);
            if ((await files.SaveAsync(content, file.Bytes, cancellation)).Sha256 != file.Sha256)
            {
                throw Damaged(folder + file.Path);
            }
        }
    }

    private async Task<byte[]> BytesAsync(string path, long most, CancellationToken cancellation)
    {
        await using Stream content = await OpenAsync(path, most, cancellation);
        using MemoryStream bytes = new();
        try
        {
            await content.CopyToAsync(bytes, cancellation);
            return bytes.ToArray();
        }
        catch (Exception problem) when (IsDamage(problem))
        {
            throw Damaged(path);
        }
    }

    private async Task<Stream> OpenAsync(string path, long most, CancellationToken cancellation)
    {
        if (!_entries.TryGetValue(path, out ZipArchiveEntry? entry))
        {
            throw new BundleException($"is not whole: {path} is not in it.");
        }

        try
        {
            return new BoundedStream(await entry.OpenAsync(cancellation), most, TooLarge);
        }
        catch (Exception problem) when (IsDamage(problem))
        {
            throw Damaged(path);
        }
    }

    private static bool IsDamage(Exception problem) =>
        problem is InvalidDataException or EndOfStreamException or NotSupportedException or ArgumentException or OverflowException;

    private static BundleException Damaged(string path) =>
        new($"is damaged: {path} is not what it was. Copy it once more from where it was made.");

    private BundleException TooLarge() =>
        new($"unpacks to more than it says or than is taken here ({_room / 1e6:0} MB), and is not opened.");

    /// <summary>Whether a name stays in the ZIP, on any system.</summary>
    private static bool IsInside(string name) =>
        name.Length is > 0 and < 1000
        && !name.Contains('\\', StringComparison.Ordinal)
        && !name.Contains(':', StringComparison.Ordinal)
        && !name.Any(char.IsControl)
        && name.TrimEnd('/').Split('/').All(step => step.Length > 0 && step is not ("." or ".."));
}
