using System.Security.Cryptography;
using System.Text;

namespace Remedos.Server.Bays;

/// <summary>What a sender shows to be believed. The server keeps only its hash.</summary>
internal static class BayToken
{
    private const string Scheme = "Bearer ";

    private const int LongestShown = 200;

    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    public static string Sha256(string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));

    /// <summary>The token of an Authorization header; empty for none.</summary>
    public static string Of(string header) =>
        header.StartsWith(Scheme, StringComparison.OrdinalIgnoreCase) && header.Length <= LongestShown
            ? header[Scheme.Length..].Trim()
            : "";
}
