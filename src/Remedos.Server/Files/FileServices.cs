using Remedos.Server.Hosting;

namespace Remedos.Server.Files;

internal static class FileServices
{
    public static void AddFiles(this IServiceCollection services, IConfiguration configuration)
    {
        // No usual place: a store that is elsewhere by mistake would look like one whose files are all missing.
        services.AddSingleton<IFileStore>(_ =>
            configuration.GetValue<string>("FileStore") is { Length: > 0 } folder
                ? new FolderStore(Path.GetFullPath(folder))
                : throw new StartupException(
                    "FileStore is not set: it names the folder in which originals and pictures are kept (docs/operating.md)."
                )
        );
        services.AddSingleton<Pictures>();
    }
}
