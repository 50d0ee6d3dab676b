using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace Remedos.Server.Session;

/// <summary>Whoever tries many names and passwords from one address is slowed down, whatever names they are.</summary>
internal static class SignInLimit
{
    public const string Policy = "sign-in";

    /// <summary>Of tries at once, and in a minute after that; a house of many people behind one address may set more.</summary>
    private const int Usual = 30;

    public static void Limit(RateLimiterOptions options, IConfiguration configuration)
    {
        int tries = configuration.GetValue("SignInTries", Usual);
        options.AddPolicy(Policy, http =>
            RateLimitPartition.GetTokenBucketLimiter(AccessLog.AddressOf(http), _ => new TokenBucketRateLimiterOptions
            {
                TokenLimit = tries,
                TokensPerPeriod = Math.Max(1, tries / 6),
                ReplenishmentPeriod = TimeSpan.FromSeconds(10),
                QueueLimit = 0,
            })
        );
    }
}
