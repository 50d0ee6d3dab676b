using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Net.Http.Headers;
using Remedos.Core;

namespace Remedos.Server.Hosting;

/// <summary>Whether who asks has the answer already: it comes with a tag, by which it is asked for again (RFC 9110).</summary>
internal static class EntityTag
{
    /// <summary>Tells the tag of what will be answered; true where who asks has it, and nothing need be reckoned.</summary>
    /// <param name="http">The request.</param>
    /// <param name="state">Everything that the answer is made from, as a text; another state is another text.</param>
    public static bool IsKnown(HttpContext http, string state)
    {
        // Another build may answer the same state otherwise, and other degrees do.
        byte[] all = Encoding.UTF8.GetBytes($"{Build.Id} {Degrees.Unit} {state}");
        string tag = $"\"{Convert.ToHexStringLower(SHA256.HashData(all).AsSpan(0, 16))}\"";
        http.Response.Headers.ETag = tag;
        return http
            .Request.GetTypedHeaders()
            .IfNoneMatch.Any(known => known.Compare(new EntityTagHeaderValue(tag), useStrongComparison: false));
    }

    public static StatusCodeHttpResult NotModified => TypedResults.StatusCode(StatusCodes.Status304NotModified);
}
