using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;

namespace Remedos.Server.Session;

/// <summary>Writes down who came, was refused, left, or took something out.</summary>
internal sealed class AccessLog(IDbContextFactory<RemedosContext> contexts, IHttpContextAccessor http, TimeProvider clock)
{
    private const int LongestAddress = 60,
        LongestSubject = 200;

    /// <summary>The address that a request comes from.</summary>
    public static string AddressOf(HttpContext http)
    {
        string address = http.Connection.RemoteIpAddress?.ToString() ?? "";
        return address.Length > LongestAddress ? address[..LongestAddress] : address;
    }

    public async Task WriteAsync(Guid workshop, Guid? person, string kind, string? subject, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.AccessEvents.Add(
            new AccessEvent
            {
                WorkshopId = workshop,
                PersonId = person,
                At = clock.GetUtcNow(),
                Kind = kind,
                Subject = subject is { Length: > LongestSubject } ? subject[..LongestSubject] : subject,
                Address = http.HttpContext is { } request ? AddressOf(request) : null,
            }
        );
        await context.SaveChangesAsync(cancellation);
    }

    /// <summary>Of whoever is signed in.</summary>
    public Task WriteAsync(Who who, string kind, string? subject, CancellationToken cancellation) =>
        WriteAsync(who.Workshop.Id, who.Person.Id, kind, subject, cancellation);
}
