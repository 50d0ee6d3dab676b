using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;

namespace Remedos.Server.Bays;

/// <summary>Tells the workshops that have a bay of that number when somebody came with a wrong token; of a flood, once a minute.</summary>
internal sealed class RefusedTokens(IDbContextFactory<RemedosContext> contexts, IHttpContextAccessor http, TimeProvider clock)
{
    private const int MostKept = 1000;

    private static readonly TimeSpan Again = TimeSpan.FromMinutes(1);

    private readonly ConcurrentDictionary<(int Bay, string Address), DateTimeOffset> _told = new();

    public async Task TellAsync(int number, CancellationToken cancellation)
    {
        DateTimeOffset now = clock.GetUtcNow();
        string address = http.HttpContext is { } request ? Session.AccessLog.AddressOf(request) : "";
        if (_told.Count >= MostKept)
        {
            _told.Clear();
        }

        bool first = false;
        _told.AddOrUpdate(
            (number, address),
            _ =>
            {
                first = true;
                return now;
            },
            (_, last) =>
            {
                first = now - last >= Again;
                return first ? now : last;
            }
        );
        if (!first)
        {
            return;
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Guid[] workshops = await context.Bays.Where(bay => bay.Number == number).Select(bay => bay.WorkshopId).ToArrayAsync(cancellation);
        context.AccessEvents.AddRange(
            workshops.Select(workshop => new AccessEvent
            {
                WorkshopId = workshop,
                At = now,
                Kind = AccessKinds.TokenRefused,
                Subject = $"bay {number}",
                Address = address,
            })
        );
        await context.SaveChangesAsync(cancellation);
    }
}
