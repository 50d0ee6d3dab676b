using Remedos.Server.Hosting;

namespace Remedos.Server.Files;

internal static class FileServices
{
    public static void AddFiles(this IServiceCollection services, IConfiguration configuration)
    {
        // No usual place: a store that is elsewhere by mistake would look like one whose files are all missing.
        services.AddSingleton<IFileStore>(_ =>
            configuration.GetValue<string>("FileStore") switch
            {
                { Length: > 0 } address when IsAddress(address) => new S3Store(
                    StoreAddress.Of(address, configuration),
                    new Scratch(configuration.GetValue<string>("Scratch") ?? Path.Combine(Path.GetTempPath(), "remedos-scratch"))
                ),
                { Length: > 0 } folder => new FolderStore(Path.GetFullPath(folder)),
                _ => throw new StartupException(
                    "FileStore is not set: it names the folder, or the S3-compatible address, in which originals and pictures are kept "
                        + "(docs/operating.md)."
                ),
            }
        );
        services.AddSingleton<Pictures>();
    }

    private static bool IsAddress(string store) =>
        store.StartsWith("https://", StringComparison.OrdinalIgnoreCase) || store.StartsWith("http://", StringComparison.OrdinalIgnoreCase);
}
