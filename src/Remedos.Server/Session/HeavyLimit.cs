using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace Remedos.Server.Session;

/// <summary>
/// What takes long to reckon or to write is done for each sign-in a few at a time; more of it waits its turn, so that one page that asks
/// for very much keeps nobody else waiting.
/// </summary>
internal static class HeavyLimit
{
    private const string Policy = "heavy";

    private const int AtOnce = 4,
        Waiting = 60;

    public static T Heavy<T>(this T endpoint)
        where T : IEndpointConventionBuilder => endpoint.RequireRateLimiting(Policy);

    public static void Limit(RateLimiterOptions options) =>
        options.AddPolicy(Policy, http =>
            RateLimitPartition.GetConcurrencyLimiter(
                http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? "",
                _ => new ConcurrencyLimiterOptions { PermitLimit = AtOnce, QueueLimit = Waiting }
            )
        );
}
