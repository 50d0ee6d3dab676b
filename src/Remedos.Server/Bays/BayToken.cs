using System.Linq.Expressions;
using System.Security.Cryptography;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;

namespace Remedos.Server.Bays;

/// <summary>What a sender shows to be believed. The server keeps only its hash.</summary>
internal static class BayToken
{
    private const string Scheme = "Bearer ";

    private const int LongestShown = 200;

    /// <summary>A token that nobody has used for so long is forgotten.</summary>
    public static readonly TimeSpan Unused = TimeSpan.FromDays(90);

    /// <summary>However often it is used.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(365);

    /// <summary>Bays whose token still holds.</summary>
    public static Expression<Func<Bay, bool>> Holds(DateTimeOffset now)
    {
        (DateTimeOffset used, DateTimeOffset made) = (now - Unused, now - Longest);
        return bay => bay.TokenMadeAt > made && (bay.TokenMadeAt > used || bay.LastSeenAt > used);
    }

    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    public static string Sha256(string token) => SecretToken.Sha256(token);

    /// <summary>The token of an Authorization header; empty for none.</summary>
    public static string Of(string header) =>
        header.StartsWith(Scheme, StringComparison.OrdinalIgnoreCase) && header.Length <= LongestShown
            ? header[Scheme.Length..].Trim()
            : "";
}
