using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;

namespace Remedos.Server.Tests.Servers;

/// <summary>
/// A small stand-in for an S3-compatible store: one bucket in memory, on this machine. It believes nobody whose request is not signed as
/// version 4 of the protocol's signature says, by its own reckoning, and nothing whose content is not what was signed.
/// </summary>
internal sealed class StandInStore : IAsyncDisposable
{
    public const string Key = "tide",
        Secret = "nine lanterns",
        Bucket = "originals";

    private readonly int _port = RedisOfTests.FreePort();
    private WebApplication? _app;

    /// <summary>What is kept, by its name in the bucket.</summary>
    public ConcurrentDictionary<string, byte[]> Kept { get; } = new(StringComparer.Ordinal);

    /// <summary>As a server's setting names it.</summary>
    public string Address => $"http://127.0.0.1:{_port}/{Bucket}/workshop";

    /// <summary>How many files were sent.</summary>
    public int Puts { get; private set; }

    public async Task StartAsync()
    {
        WebApplicationBuilder builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.Listen(IPAddress.Loopback, _port);
            kestrel.Limits.MaxRequestBodySize = null;
        });
        _app = builder.Build();
        _app.Run(AnswerAsync);
        await _app.StartAsync();
    }

    /// <summary>The store is gone; what it has kept it still has when it comes back.</summary>
    public async Task StopAsync()
    {
        await _app!.StopAsync();
        await _app.DisposeAsync();
        _app = null;
    }

    public async ValueTask DisposeAsync()
    {
        if (_app is not null)
        {
            await StopAsync();
        }
    }

    private async Task AnswerAsync(HttpContext http)
    {
        using MemoryStream body = new();
        await http.Request.Body.CopyToAsync(body);
        byte[] content = body.ToArray();
        string path = http.Request.Path.Value!;
        if (!IsSigned(http.Request, content))
        {
            await FailAsync(http, 403, "SignatureDoesNotMatch");
            return;
        }

        if (!path.StartsWith($"/{Bucket}/", StringComparison.Ordinal))
        {
            await FailAsync(http, 404, "NoSuchBucket");
            return;
        }

        string name = path[(Bucket.Length + 2)..];
        switch (http.Request.Method)
        {
            case "PUT":
                Kept[name] = content;
                Puts++;
                http.Response.Headers.ETag = $"\"{Convert.ToHexStringLower(SHA256.HashData(content))}\"";
                break;
            case "DELETE":
                Kept.TryRemove(name, out _);
                http.Response.StatusCode = 204;
                break;
            case "GET" or "HEAD" when Kept.TryGetValue(name, out byte[]? there):
                http.Response.ContentLength = there.Length;
                if (http.Request.Method == "GET")
                {
                    await http.Response.Body.WriteAsync(there);
                }

                break;
            default:
                await FailAsync(http, 404, "NoSuchKey");
                break;
        }
    }

    private static async Task FailAsync(HttpContext http, int status, string code)
    {
        http.Response.StatusCode = status;
        if (http.Request.Method != "HEAD")
        {
            http.Response.ContentType = "application/xml";
            await http.Response.WriteAsync($"<?xml version=\"1.0\"?><Error><Code>{code}</Code><Message>{code}</Message></Error>");
        }
    }

    private static bool IsSigned(HttpRequest request, byte[] content)
    {
        string[] said = request
            .Headers.Authorization.ToString()
            .Split(["AWS4-HMAC-SHA256 ", "Credential=", ", SignedHeaders=", ", Signature="], StringSplitOptions.RemoveEmptyEntries);
        string hash = request.Headers["x-amz-content-sha256"].ToString(),
            at = request.Headers["x-amz-date"].ToString();
        if (
            said.Length != 3
            || said[0].Split('/') is not [Key, var day, var region, var service, "aws4_request"]
            || !at.StartsWith(day, StringComparison.Ordinal)
        )
        {
            return false;
        }

        DateTimeOffset when = DateTimeOffset.ParseExact(
            at,
            "yyyyMMdd'T'HHmmss'Z'",
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal
        );
        if ((DateTimeOffset.UtcNow - when).Duration() > TimeSpan.FromMinutes(15) || hash != Hex(SHA256.HashData(content)))
        {
            return false;
        }

        string headers = string.Concat(said[1].Split(';').Select(name => $"{name}:{ValueOf(request, name)}\n")),
            asked = $"{request.Method}\n{Path(request)}\n{QueryOf(request)}\n{headers}\n{said[1]}\n{hash}",
            toSign =
                $"AWS4-HMAC-SHA256\n{at}\n{day}/{region}/{service}/aws4_request\n{Hex(SHA256.HashData(Encoding.UTF8.GetBytes(asked)))}";
        byte[] key = Hmac(Hmac(Hmac(Hmac(Encoding.UTF8.GetBytes("AWS4" + Secret), day), region), service), "aws4_request");
        return Hex(Hmac(key, toSign)) == said[2];
    }

    private static string Path(HttpRequest request) => string.Join('/', request.Path.Value!.Split('/').Select(Uri.EscapeDataString));

    private static string QueryOf(HttpRequest request) =>
        string.Join(
            '&',
            request
                .Query.SelectMany(pair =>
                    pair.Value.Select(value => $"{Uri.EscapeDataString(pair.Key)}={Uri.EscapeDataString(value ?? "")}")
                )
                .Order(StringComparer.Ordinal)
        );

    private static string ValueOf(HttpRequest request, string name) =>
        name == "host" ? request.Host.Value! : string.Join(',', request.Headers[name].Select(value => value!.Trim()));

    private static byte[] Hmac(byte[] key, string text) => HMACSHA256.HashData(key, Encoding.UTF8.GetBytes(text));

    private static string Hex(byte[] bytes) => Convert.ToHexStringLower(bytes);
}
