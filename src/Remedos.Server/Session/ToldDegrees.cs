using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Data;

namespace Remedos.Server.Session;

/// <summary>Tells whoever asks, and whoever is worked for, in the degrees of their workshop.</summary>
internal static class ToldDegrees
{
    private const string Header = "Remedos-Degrees";

    public static async Task ForWhoAsksAsync(HttpContext http, RequestDelegate next)
    {
        if (Caller.Of(http) is { } who)
        {
            Degrees.TellIn(who.Workshop.TemperatureUnit);
            // A page that tells in others learns by it that they were changed.
            http.Response.Headers[Header] = Kebab.Of(Degrees.Unit);
        }

        await next(http);
    }

    /// <summary>The unit of a workshop that is worked for; a practice goes by its workshop's.</summary>
    public static Task<TemperatureUnit> OfAsync(RemedosContext context, Guid workshop, CancellationToken cancellation) =>
        context
            .Workshops.IgnoreQueryFilters()
            .Where(one => one.Id == workshop)
            .Select(one =>
                context
                    .Workshops.IgnoreQueryFilters()
                    .Where(home => home.Id == one.PracticeOf)
                    .Select(home => (TemperatureUnit?)home.TemperatureUnit)
                    .FirstOrDefault()
                ?? one.TemperatureUnit
            )
            .SingleOrDefaultAsync(cancellation);
}
