namespace Remedos.Server.Hosting;

/// <summary>
/// The address by which others reach this server, for codes that are scanned; what the request came by where none is set.
/// </summary>
internal sealed class PublicAddress(IConfiguration configuration)
{
    private readonly string? _set = Set(configuration);

    /// <summary>As the settings have it; else this machine by itself.</summary>
    public static string Of(IConfiguration configuration) =>
        Set(configuration) ?? $"http://127.0.0.1:{configuration.GetValue("Port", 5080)}";

    private static string? Set(IConfiguration configuration) => configuration.GetValue<string>("PublicAddress")?.TrimEnd('/');

    public string For(HttpRequest request) => _set ?? $"{request.Scheme}://{request.Host}";

    /// <summary>Whether a telephone can open what is scanned; loopback leads each machine to itself.</summary>
    public bool IsElsewhere(HttpRequest request) => Uri.TryCreate(For(request), UriKind.Absolute, out Uri? address) && !address.IsLoopback;
}
