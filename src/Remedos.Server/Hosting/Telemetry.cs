using System.Diagnostics.Metrics;
using System.Net;
using Npgsql;
using OpenTelemetry.Logs;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;
using Remedos.Server.Queue;

namespace Remedos.Server.Hosting;

/// <summary>
/// What this server tells of itself: figures, the way of a request, its log. Nothing leaves it that nobody has asked for.
/// </summary>
internal sealed class Telemetry
{
    public const string Name = "Remedos";

    private readonly Counter<long> _readings,
        _dropped,
        _imports;
    private readonly Histogram<double> _ingest,
        _import;

    public Telemetry(IMeterFactory meters, QueueFigures queue)
    {
        Meter meter = meters.Create(Name);
        _readings = meter.CreateCounter<long>("remedos.bays.readings", "{reading}", "Readings that bays have sent and that are kept.");
        _dropped = meter.CreateCounter<long>(
            "remedos.bays.news_dropped",
            "{message}",
            "News of bays that no page was told, for too many waited."
        );
        _imports = meter.CreateCounter<long>("remedos.imports", "{log}", "Logs that were read, by how it ended.");
        _ingest = meter.CreateHistogram<double>("remedos.bays.ingest", "s", "From a batch’s arrival until it is kept.");
        _import = meter.CreateHistogram<double>("remedos.import.duration", "s", "From a log’s upload until its runs stand on the sheet.");
        meter.CreateObservableGauge("remedos.queue.waiting", () => queue.Last.Waiting, "{item}", "Work that waits.");
        meter.CreateObservableGauge("remedos.queue.set_aside", () => queue.Last.SetAside, "{item}", "Work that failed for good.");
        meter.CreateObservableGauge("remedos.queue.age", () => queue.Last.Age.TotalSeconds, "s", "How long the oldest of it waits.");
    }

    public void Ingested(int readings, TimeSpan took)
    {
        _readings.Add(readings);
        _ingest.Record(took.TotalSeconds);
    }

    public void Dropped() => _dropped.Add(1);

    public void Imported(string how, TimeSpan took)
    {
        _imports.Add(1, new KeyValuePair<string, object?>("outcome", how));
        _import.Record(took.TotalSeconds);
    }

    /// <summary>Adds what measures; it is sent where a collector is named, and shown under <see cref="Path"/>.</summary>
    public static void Add(WebApplicationBuilder builder)
    {
        builder.Services.AddSingleton<QueueFigures>();
        builder.Services.AddSingleton<Telemetry>();
        if (Pages.IsGeneratingDocuments)
        {
            return;
        }

        builder.Services.AddHostedService(provider => provider.GetRequiredService<QueueFigures>());
        // Also by the name that every collector's own documents use.
        string? collector = builder.Configuration["Otlp"] ?? builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"];
        // Several servers may run on one machine.
        string instance = $"{Environment.MachineName}:{builder.Configuration.GetValue("Port", 5080)}";
        Uri? otlp = string.IsNullOrWhiteSpace(collector) ? null : new Uri(collector, UriKind.Absolute);
        var told = builder
            .Services.AddOpenTelemetry()
            .ConfigureResource(resource => resource.AddService("remedos", serviceVersion: Build.Version, serviceInstanceId: instance))
            .WithMetrics(metrics =>
            {
                metrics
                    .AddMeter(Name, "Microsoft.AspNetCore.Hosting", "Microsoft.AspNetCore.Server.Kestrel", "Npgsql", "System.Runtime")
                    .AddMeter("Microsoft.AspNetCore.RateLimiting", "Microsoft.AspNetCore.Authentication")
                    .AddPrometheusExporter();
                if (otlp is not null)
                {
                    metrics.AddOtlpExporter(exporter => exporter.Endpoint = otlp);
                }
            });
        if (otlp is not null)
        {
            told.WithTracing(traces =>
                traces.AddAspNetCoreInstrumentation().AddNpgsql().AddOtlpExporter(exporter => exporter.Endpoint = otlp)
            );
            builder.Logging.AddOpenTelemetry(log => log.AddOtlpExporter(exporter => exporter.Endpoint = otlp));
        }
    }

    /// <summary>Where figures are read, as text that Prometheus and its like take.</summary>
    public const string Path = "/metrics";

    /// <summary>Only this machine reads them: they say how busy a workshop is. A proxy passes on where a request came from.</summary>
    public static bool IsFromHere(HttpContext http) =>
        http.Request.Path == Path && http.Connection.RemoteIpAddress is { } from && IPAddress.IsLoopback(from);
}
