using System.Security.Cryptography;

namespace Remedos.Server.Files;

/// <summary>A folder for what is on its way: files that nobody else reads, and that a crash leaves behind for some hours at most.</summary>
internal sealed class Scratch
{
    /// <summary>Room that is left to the rest of the machine.</summary>
    private const long KeptFree = 200L << 20;

    public const UnixFileMode OwnFolder = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    public const UnixFileMode OwnFile = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private static readonly TimeSpan LeftOver = TimeSpan.FromHours(6);

    private readonly string _folder;

    public Scratch(string folder)
    {
        _folder = folder;
        Directory.CreateDirectory(folder, OwnFolder);
        foreach (
            FileInfo left in new DirectoryInfo(folder).EnumerateFiles().Where(file => DateTime.UtcNow - file.LastWriteTimeUtc > LeftOver)
        )
        {
            // A crash in the middle of an upload left it; what is being written by another server is younger.
            left.Delete();
        }
    }

    /// <summary>A name that no other file has.</summary>
    public string NewPath() => Path.Combine(_folder, Guid.NewGuid().ToString("N"));

    /// <summary>An empty file that is gone once it is closed.</summary>
    public FileStream Open() => Open(NewPath(), FileAccess.ReadWrite, FileOptions.DeleteOnClose);

    public static FileStream Open(string path, FileAccess access, FileOptions more = FileOptions.None) =>
        new(
            path,
            new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = access,
                Share = FileShare.None,
                BufferSize = 1 << 16,
                Options = FileOptions.Asynchronous | more,
                UnixCreateMode = OwnFile,
            }
        );

    /// <summary>How much there is room for, bytes.</summary>
    public long Room => Free - KeptFree;

    private long Free => new DriveInfo(_folder).AvailableFreeSpace;

    /// <summary>Refuses what there is no room for.</summary>
    /// <exception cref="StoreFullException">There is less room than that.</exception>
    public void MakeSure(long bytes)
    {
        if (bytes > Room)
        {
            throw new StoreFullException(Free);
        }
    }

    /// <summary>Copies a stream into a file of this folder.</summary>
    /// <returns>The hash of what came, in lower-case hexadecimal, and its length.</returns>
    /// <exception cref="StoreFullException">There is not enough room for it.</exception>
    public async Task<(string Sha256, long Bytes)> TakeAsync(Stream content, FileStream file, CancellationToken cancellation)
    {
        using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        long bytes = 0;
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

        return (Convert.ToHexStringLower(hash.GetHashAndReset()), bytes);
    }
}
