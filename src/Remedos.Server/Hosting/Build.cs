using System.Reflection;
using System.Security.Cryptography;
using System.Text;

namespace Remedos.Server.Hosting;

/// <summary>Which Remedos this is: the server with the page that lies beside it.</summary>
internal static class Build
{
    /// <summary>Under which every answer says it, so that a page that is older than its server can tell.</summary>
    public const string Header = "Remedos-Build";

    /// <summary>As it was released.</summary>
    public static string Version { get; } =
        typeof(Build).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()!.InformationalVersion;

    /// <summary>Another one for every other server or page.</summary>
    public static string Id { get; } = Make();

    private static string Make()
    {
        // The page's own file names say what is in them.
        string page = Path.Combine(AppContext.BaseDirectory, "wwwroot", "index.html");
        string made = typeof(Build).Assembly.ManifestModule.ModuleVersionId + (File.Exists(page) ? File.ReadAllText(page) : "");
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(made)))[..10];
    }
}
