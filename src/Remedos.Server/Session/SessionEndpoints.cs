using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Remedos.Server.Session;

/// <summary>What a page needs to know before anything else.</summary>
/// <param name="Token">Goes into the X-Remedos-Token header of every request that changes something.</param>
/// <param name="TimeZone">The workshop's own, by its IANA name: what “today” means.</param>
/// <param name="Today">The day it is there.</param>
/// <param name="LargestLogBytes">The largest log that this server takes.</param>
public sealed record SessionAnswer(
    string Workshop,
    string TagPrefix,
    string Currency,
    string Person,
    string TimeZone,
    DateOnly Today,
    string Token,
    long LargestLogBytes
);

internal static class SessionEndpoints
{
    public static void MapSession(this RouteGroupBuilder api) => api.MapGet("/session", GetAsync).WithName("getSession");

    private static async Task<Ok<SessionAnswer>> GetAsync(
        Caller caller,
        IAntiforgery antiforgery,
        HttpContext http,
        IConfiguration configuration,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return TypedResults.Ok(
            new SessionAnswer(
                who.Workshop.Name,
                who.Workshop.TagPrefix,
                who.Workshop.Currency,
                who.Person.Name,
                who.Workshop.TimeZone,
                who.Today(clock.GetUtcNow()),
                antiforgery.GetAndStoreTokens(http).RequestToken!,
                Runs.UploadLimit.Of(configuration)
            )
        );
    }
}
