using System.Runtime.InteropServices;
using System.Security.Cryptography;

namespace Remedos.Server.Files;

/// <summary>
/// A store in a folder. A file is written under another name, flushed, renamed, and the folder flushed too, so that not even a power cut
/// leaves a half one or loses
/// one that was told as kept. Only the user who runs the server can read any of it.
/// </summary>
public sealed partial class FolderStore : IFileStore
{
    /// <summary>Room that is left to the rest of the machine.</summary>
    private const long KeptFree = 200L << 20;

    private const string MarkerName = "store-id";

    private static readonly TimeSpan LeftOver = TimeSpan.FromHours(6);

    private const UnixFileMode OwnFolder = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    private const UnixFileMode OwnFile = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private readonly string _folder;
    private readonly string _incoming;

    public FolderStore(string folder)
    {
        _folder = folder;
        _incoming = Path.Combine(folder, "incoming");
        Directory.CreateDirectory(folder, OwnFolder);
        Directory.CreateDirectory(_incoming, OwnFolder);
        File.SetUnixFileMode(folder, OwnFolder);
        foreach (
            FileInfo left in new DirectoryInfo(_incoming).EnumerateFiles().Where(file => DateTime.UtcNow - file.LastWriteTimeUtc > LeftOver)
        )
        {
            // A crash in the middle of an upload left it; what is being written by another server is younger.
            left.Delete();
        }
    }

    public Guid? Identity
    {
        get => File.Exists(Marker) && Guid.TryParse(File.ReadAllText(Marker), out Guid id) ? id : null;
        set => File.WriteAllText(Marker, $"{value}\n");
    }

    private string Marker => Path.Combine(_folder, MarkerName);

    /// <inheritdoc/>
    public async Task<(string Sha256, long Bytes)> SaveAsync(Stream content, long? expectedBytes, CancellationToken cancellation)
    {
        MakeSure(expectedBytes ?? 0);
        string temporary = Path.Combine(_incoming, Guid.NewGuid().ToString("N"));
        try
        {
            using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            long bytes = 0;
            FileStreamOptions options = new()
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.Write,
                Share = FileShare.None,
                BufferSize = 1 << 16,
                Options = FileOptions.Asynchronous,
                UnixCreateMode = OwnFile,
            };
            await using (FileStream file = new(temporary, options))
            {
                byte[] buffer = new byte[1 << 16];
                int read;
                while ((read = await content.ReadAsync(buffer, cancellation)) > 0)
                {
                    hash.AppendData(buffer, 0, read);
                    await file.WriteAsync(buffer.AsMemory(0, read), cancellation);
                    if ((bytes += read) >> 24 != (bytes - read) >> 24)
                    {
                        MakeSure(0);
                    }
                }

                file.Flush(flushToDisk: true);
            }

            string name = Convert.ToHexStringLower(hash.GetHashAndReset());
            string place = PathOf(name),
                folder = Path.GetDirectoryName(place)!;
            bool isNew = !Directory.Exists(folder);
            Directory.CreateDirectory(folder, OwnFolder);
            File.Move(temporary, place, overwrite: true);
            FlushFolder(folder);
            if (isNew)
            {
                FlushFolder(_folder);
            }

            return (name, bytes);
        }
        finally
        {
            File.Delete(temporary);
        }
    }

    /// <inheritdoc/>
    public Stream Open(string sha256)
    {
        try
        {
            return new FileStream(PathOf(sha256), FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.SequentialScan);
        }
        catch (Exception missing) when (missing is FileNotFoundException or DirectoryNotFoundException)
        {
            throw new OriginalMissingException(sha256);
        }
    }

    /// <inheritdoc/>
    public void Remove(string sha256)
    {
        // Deleting what is not there is no failure; a folder that is not there is.
        if (Has(sha256))
        {
            File.Delete(PathOf(sha256));
        }
    }

    /// <inheritdoc/>
    public bool Has(string sha256) => File.Exists(PathOf(sha256));

    /// <inheritdoc/>
    public Stream OpenScratch() =>
        new FileStream(
            Path.Combine(_incoming, Guid.NewGuid().ToString("N")),
            new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.ReadWrite,
                Share = FileShare.None,
                BufferSize = 1 << 16,
                Options = FileOptions.Asynchronous | FileOptions.DeleteOnClose,
                UnixCreateMode = OwnFile,
            }
        );

    /// <inheritdoc/>
    public long Room => Free - KeptFree;

    private long Free => new DriveInfo(_folder).AvailableFreeSpace;

    private void MakeSure(long bytes)
    {
        if (bytes > Room)
        {
            throw new StoreFullException(Free);
        }
    }

    private string PathOf(string sha256) => Path.Combine(_folder, sha256[..2], sha256);

    /// <summary>A rename is safe from a power cut only once its folder is flushed; the framework has no call for that.</summary>
    private static void FlushFolder(string folder)
    {
        int handle = OpenFolder(folder, 0);
        if (handle >= 0)
        {
            _ = Flush(handle);
            _ = Close(handle);
        }
    }

    [LibraryImport("libc", EntryPoint = "open", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int OpenFolder(string path, int flags);

    [LibraryImport("libc", EntryPoint = "fsync")]
    private static partial int Flush(int handle);

    [LibraryImport("libc", EntryPoint = "close")]
    private static partial int Close(int handle);
}
