using System.Runtime.InteropServices;

namespace Remedos.Server.Files;

/// <summary>
/// A store in a folder. A file is written under another name, flushed, renamed, and the folder flushed too, so that not even a power cut
/// leaves a half one or loses
/// one that was told as kept. Only the user who runs the server can read any of it.
/// </summary>
public sealed partial class FolderStore : IFileStore
{
    private const string MarkerName = "store-id";

    private readonly string _folder;
    private readonly Scratch _incoming;

    public FolderStore(string folder)
    {
        _folder = folder;
        Directory.CreateDirectory(folder, Scratch.OwnFolder);
        File.SetUnixFileMode(folder, Scratch.OwnFolder);
        _incoming = new Scratch(Path.Combine(folder, "incoming"));
    }

    /// <inheritdoc/>
    public async Task<Guid?> IdentityAsync(CancellationToken cancellation) =>
        File.Exists(Marker) && Guid.TryParse(await File.ReadAllTextAsync(Marker, cancellation), out Guid id) ? id : null;

    /// <inheritdoc/>
    public Task NameAsync(Guid identity, CancellationToken cancellation) => File.WriteAllTextAsync(Marker, $"{identity}\n", cancellation);

    private string Marker => Path.Combine(_folder, MarkerName);

    /// <inheritdoc/>
    public async Task<(string Sha256, long Bytes)> SaveAsync(Stream content, long? expectedBytes, CancellationToken cancellation)
    {
        _incoming.MakeSure(expectedBytes ?? 0);
        string temporary = _incoming.NewPath();
        try
        {
            (string Sha256, long Bytes) taken;
            await using (FileStream file = Scratch.Open(temporary, FileAccess.Write))
            {
                taken = await _incoming.TakeAsync(content, file, cancellation);
                file.Flush(flushToDisk: true);
            }

            string place = PathOf(taken.Sha256),
                folder = Path.GetDirectoryName(place)!;
            bool isNew = !Directory.Exists(folder);
            Directory.CreateDirectory(folder, Scratch.OwnFolder);
            File.Move(temporary, place, overwrite: true);
            FlushFolder(folder);
            if (isNew)
            {
                FlushFolder(_folder);
            }

            return taken;
        }
        finally
        {
            File.Delete(temporary);
        }
    }

    /// <inheritdoc/>
    public Task<Stream> OpenAsync(string sha256, CancellationToken cancellation)
    {
        try
        {
            return Task.FromResult<Stream>(
                new FileStream(PathOf(sha256), FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.SequentialScan)
            );
        }
        catch (Exception missing) when (missing is FileNotFoundException or DirectoryNotFoundException)
        {
            throw new OriginalMissingException(sha256);
        }
    }

    /// <inheritdoc/>
    public Task RemoveAsync(string sha256, CancellationToken cancellation)
    {
        // Deleting what is not there is no failure; a folder that is not there is.
        if (File.Exists(PathOf(sha256)))
        {
            File.Delete(PathOf(sha256));
        }

        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public Task<bool> HasAsync(string sha256, CancellationToken cancellation) => Task.FromResult(File.Exists(PathOf(sha256)));

    /// <inheritdoc/>
    public Stream OpenScratch() => _incoming.Open();

    /// <inheritdoc/>
    public long Room => _incoming.Room;

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
