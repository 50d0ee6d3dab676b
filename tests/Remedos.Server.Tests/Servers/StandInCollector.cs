using System.Collections.Concurrent;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Logging;

namespace Remedos.Server.Tests.Servers;

/// <summary>
/// A small stand-in for a collector: takes what is sent by OTLP over gRPC without encryption, and keeps it as it came. It refuses what is
/// not one whole message of one of the three services.
/// </summary>
internal sealed class StandInCollector : IAsyncDisposable
{
    /// <summary>Before each message: whether it is compressed, and its length.</summary>
    private const int PrefixBytes = 5;

    public const string Metrics = "metrics",
        Traces = "trace",
        Logs = "logs";

    private readonly int _port = RedisOfTests.FreePort();
    private WebApplication? _app;

    private readonly ConcurrentDictionary<string, ConcurrentQueue<byte[]>> _kept = new(
        new[] { Metrics, Traces, Logs }.Select(kind => KeyValuePair.Create(kind, new ConcurrentQueue<byte[]>()))
    );

    /// <summary>As a server's setting names it.</summary>
    public string Address => $"http://127.0.0.1:{_port}";

    /// <summary>How many requests were none that a collector takes.</summary>
    public int Refused { get; private set; }

    /// <summary>All messages of a kind that were sent until now; names and words stand in them as they are.</summary>
    public string Text(string kind) => string.Join('\n', _kept[kind].Select(Encoding.UTF8.GetString));

    public async Task StartAsync()
    {
        WebApplicationBuilder builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(kestrel =>
            kestrel.Listen(IPAddress.Loopback, _port, listen => listen.Protocols = HttpProtocols.Http2)
        );
        _app = builder.Build();
        _app.Run(AnswerAsync);
        await _app.StartAsync();
    }

    private async Task AnswerAsync(HttpContext http)
    {
        // /opentelemetry.proto.collector.trace.v1.TraceService/Export
        string kind =
            http.Request.Path.Value!.Split('.') is ["/opentelemetry", "proto", "collector", { } of, "v1", { } method]
            && method.EndsWith("/Export", StringComparison.Ordinal)
                ? of
                : "";
        using MemoryStream body = new();
        await http.Request.Body.CopyToAsync(body);
        byte[] sent = body.ToArray();
        bool isWhole =
            http.Request.ContentType == "application/grpc"
            && sent.Length >= PrefixBytes
            && sent[0] == 0
            && System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(sent.AsSpan(1)) == sent.Length - PrefixBytes;
        http.Response.ContentType = "application/grpc";
        if (isWhole && _kept.TryGetValue(kind, out ConcurrentQueue<byte[]>? kept))
        {
            kept.Enqueue(sent[PrefixBytes..]);
            await http.Response.Body.WriteAsync(new byte[PrefixBytes]);
            http.Response.AppendTrailer("grpc-status", "0");
        }
        else
        {
            Refused++;
            http.Response.AppendTrailer("grpc-status", "3");
        }
    }

    public async ValueTask DisposeAsync()
    {
        if (_app is not null)
        {
            await _app.DisposeAsync();
        }
    }
}
