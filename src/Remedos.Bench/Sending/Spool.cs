namespace Remedos.Bench.Sending;

/// <summary>
/// Where readings wait for the server: a place that outlives the machine's switching itself off, and that is nobody else's.
/// </summary>
internal static class Spool
{
    /// <summary>
    /// The folder for a bay of a server: beside the program where that can be written to, as on a stick; else among the user's own state.
    /// </summary>
    public static string FolderFor(Uri server, int bay)
    {
        string name = $"{server.Host}-{server.Port}-bay-{bay}";
        string? beside = Path.GetDirectoryName(Environment.ProcessPath);
        return beside is not null && !IsMemory(beside) && CanWrite(beside)
            ? Path.Combine(beside, "remedos-readings", name)
            : Path.Combine(State, "remedos-probe", name);
    }

    private static string State =>
        Environment.GetEnvironmentVariable("STATE_DIRECTORY") is { Length: > 0 } given ? given
        : Environment.IsPrivilegedProcess ? "/var/lib"
        : Environment.GetEnvironmentVariable("XDG_STATE_HOME") is { Length: > 0 } state ? state
        : Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".local", "state");

    /// <summary>A file system that is gone when the machine switches itself off.</summary>
    private static bool IsMemory(string folder) => new DriveInfo(folder).DriveFormat is "tmpfs" or "ramfs" or "overlay" or "overlayfs";

    private static bool CanWrite(string folder)
    {
        string probe = Path.Combine(folder, $".{Guid.NewGuid():N}");
        try
        {
            using (File.Create(probe, 1, FileOptions.DeleteOnClose))
            {
                return true;
            }
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }
}
