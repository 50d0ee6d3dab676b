using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;

namespace Remedos.Server.Session;

/// <summary>What a page needs to know before anything else.</summary>
/// <param name="Token">Goes into the X-Remedos-Token header of every request that changes something.</param>
/// <param name="LargestLogBytes">The largest log that this server takes.</param>
public sealed record SessionAnswer(string Workshop, string TagPrefix, string Currency, string Person, string Token, long LargestLogBytes);

internal static class SessionEndpoints
{
    public static void MapSession(this RouteGroupBuilder api) => api.MapGet("/session", GetAsync).WithName("getSession");

    private static async Task<Ok<SessionAnswer>> GetAsync(Bench bench, IAntiforgery antiforgery, HttpContext http, IConfiguration configuration, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        return TypedResults.Ok(new SessionAnswer(workshop.Name, workshop.TagPrefix, workshop.Currency, person.Name, antiforgery.GetAndStoreTokens(http).RequestToken!, Runs.UploadLimit.Of(configuration)));
    }
}
