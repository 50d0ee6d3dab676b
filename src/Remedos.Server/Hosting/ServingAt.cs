using System.Net;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Server.Kestrel.Core;

namespace Remedos.Server.Hosting;

/// <summary>
/// Where this server is reached. On this machine alone it may do without TLS; beyond it only with a certificate of its own, or behind a
/// proxy
/// that is named and speaks TLS for it.
/// </summary>
/// <param name="Address">What it listens on.</param>
/// <param name="Certificate">A PEM file with the certificate and those above it; null for none.</param>
/// <param name="Key">A PEM file with the certificate's key.</param>
/// <param name="Proxy">The one address whose word of who asks, and how, is believed; null for none.</param>
internal sealed record ServingAt(IPAddress Address, int Port, string? Certificate, string? Key, IPAddress? Proxy)
{
    /// <summary>Whether everybody comes by TLS.</summary>
    public bool Secure => Certificate is not null || Proxy is not null;

    public CookieSecurePolicy CookiePolicy => Secure ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;

    /// <summary>Opens the port.</summary>
    public void Listen(KestrelServerOptions kestrel) => kestrel.Listen(Address, Port, port =>
        {
            if (Certificate is not null)
            {
                port.UseHttps(X509Certificate2.CreateFromPemFile(Certificate, Key));
            }
        });

    /// <summary>Believes the proxy, and whoever comes past it is sent to it.</summary>
    public void Trust(WebApplication app)
    {
        if (Proxy is not null)
        {
            ForwardedHeadersOptions forwarded = new()
            {
                ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
                ForwardLimit = 1,
            };
            forwarded.KnownIPNetworks.Clear();
            forwarded.KnownProxies.Clear();
            forwarded.KnownProxies.Add(Proxy);
            app.UseForwardedHeaders(forwarded);
        }

        if (Secure)
        {
            app.UseHsts();
            app.Use(
                (context, next) =>
                    context.Request.IsHttps || IsOfThisMachine(context)
                        ? next(context)
                        : TypedResults
                            .Problem("Remedos is reached by https here.", statusCode: StatusCodes.Status403Forbidden)
                            .ExecuteAsync(context)
            );
        }
    }

    /// <summary>
    /// What watches over the server from this machine asks for its health and its figures alone, and needs no TLS for it.
    /// </summary>
    private static bool IsOfThisMachine(HttpContext context) =>
        (context.Request.Path.StartsWithSegments("/health") || context.Request.Path == Telemetry.Path)
        && context.Connection.RemoteIpAddress is { } from
        && IPAddress.IsLoopback(from);

    /// <summary>Reads the settings.</summary>
    /// <exception cref="StartupException">They would let people in unguarded.</exception>
    public static ServingAt Of(IConfiguration configuration)
    {
        IPAddress AddressOf(string setting, string text) =>
            IPAddress.TryParse(text, out IPAddress? address)
                ? address
                : throw new StartupException($"{setting} is an address in figures, such as 192.168.1.20, not “{text}”.");
        string? FileOf(string setting) =>
            configuration.GetValue<string>(setting) is not { Length: > 0 } file ? null
            : File.Exists(file) ? file
            : throw new StartupException($"{setting} names {file}, and there is no such file.");
        string listen = configuration.GetValue<string>("Address") is { Length: > 0 } given ? given : "127.0.0.1";
        ServingAt serving = new(
            AddressOf("Address", listen),
            configuration.GetValue("Port", 5080),
            FileOf("Certificate"),
            FileOf("CertificateKey"),
            configuration.GetValue<string>("Proxy") is { Length: > 0 } proxy ? AddressOf("Proxy", proxy) : null
        );
        if ((serving.Certificate is null) != (serving.Key is null))
        {
            throw new StartupException("a certificate and its key go together: Certificate and CertificateKey.");
        }

        bool beyond = !IPAddress.IsLoopback(serving.Address);
        if (beyond && !serving.Secure)
        {
            throw new StartupException(
                $"beyond this machine Remedos is reached by TLS alone: give a certificate and its key, or name the proxy that has them "
                    + "(docs/operating.md)."
            );
        }

        if ((beyond || serving.Proxy is not null) && configuration.GetValue<string>("PublicAddress") is not { Length: > 0 })
        {
            throw new StartupException(
                "others reach Remedos by a name, and it answers to no other: set PublicAddress, such as https://repairs.example."
            );
        }

        return (beyond || serving.Proxy is not null) && configuration.GetValue("Demo", false)
            ? throw new StartupException("the demo lets everybody in by a touch, so it stays on this machine: start with --no-demo.")
            : serving;
    }
}
