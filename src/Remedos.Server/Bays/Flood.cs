using System.Globalization;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace Remedos.Server.Bays;

/// <summary>
/// Keeps one sender that floods from taking the server from all the others. It is counted by token: a stranger uses up nobody's share.
/// </summary>
internal static class Flood
{
    public const string Policy = "readings";

    private const int BatchesASecond = 50,
        Burst = 200;

    public static void Limit(RateLimiterOptions options)
    {
        options.AddPolicy(Policy, http =>
            RateLimitPartition.GetTokenBucketLimiter(
                BayToken.Sha256(BayToken.Of(http.Request.Headers.Authorization.ToString())),
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = Burst,
                    TokensPerPeriod = BatchesASecond,
                    ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                    QueueLimit = 0,
                }
            )
        );
        options.OnRejected = async (rejected, cancellation) =>
        {
            rejected.HttpContext.Response.Headers.RetryAfter = 1.ToString(CultureInfo.InvariantCulture);
            await TypedResults
                .Problem(
                    rejected.HttpContext.GetRouteValue("number") is { } bay
                        ? $"Bay {bay} is sent more than {BatchesASecond} batches a second. Put more readings into each, and send "
                            + "again in a second."
                        : "That was asked for too often. Try again in a second.",
                    statusCode: StatusCodes.Status429TooManyRequests
                )
                .ExecuteAsync(rejected.HttpContext);
        };
    }
}
