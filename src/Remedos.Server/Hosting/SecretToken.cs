using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.WebUtilities;

namespace Remedos.Server.Hosting;

/// <summary>What somebody shows to be believed: made here, told once, and kept as a hash alone.</summary>
internal static class SecretToken
{
    private const int Bytes = 32;

    public static string New() => WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(Bytes));

    public static string Sha256(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
