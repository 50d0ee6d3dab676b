using System.Net.Http.Json;
using Remedos.Bench.Sending;

namespace Remedos.Bench.Rigs;

/// <summary>The rig signs in as the demo lets everybody in: by a touch, as one of its invented people.</summary>
internal static class DemoDoor
{
    /// <summary>Signs in where nobody is yet; the client keeps the cookie.</summary>
    /// <exception cref="HttpRequestException">The server is not there, or is no demo.</exception>
    public static async Task<OfferedSession> EnterAsync(HttpClient http, CancellationToken cancellation)
    {
        OfferedSession session = await AskAsync(http, cancellation);
        if (session.Me is not null)
        {
            return session;
        }

        OfferedTouch somebody = session.Touch.Find(one => one.Role == "technician")
            ?? throw new HttpRequestException("This Remedos is no demo: its people sign in, and a rig cannot.");
        using HttpRequestMessage touch = new(HttpMethod.Post, "/api/sign-in/touch")
        {
            Content = JsonContent.Create(new RigTouch(somebody.Id), WireJson.Default.RigTouch),
        };
        touch.Headers.Add("X-Remedos-Token", session.Token);
        (await http.SendAsync(touch, cancellation)).EnsureSuccessStatusCode().Dispose();
        return await AskAsync(http, cancellation);
    }

    private static async Task<OfferedSession> AskAsync(HttpClient http, CancellationToken cancellation) =>
        (await http.GetFromJsonAsync("/api/session", WireJson.Default.OfferedSession, cancellation))!;
}
