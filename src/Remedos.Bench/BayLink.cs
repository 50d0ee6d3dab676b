using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using Remedos.Core.Bays;

namespace Remedos.Bench;

/// <summary>What the server answers to readings.</summary>
internal sealed record IngestAnswer(long Acknowledged, BenchOrder Order, string Stage, string Says);

/// <summary>One bay's end of the protocol (docs/formats.md).</summary>
internal sealed class BayLink(HttpClient http, int number, string token)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    /// <summary>The first bays of the workshop, added where there are too few; waits for a server that is not there yet.</summary>
    public static async Task<IReadOnlyList<BayLink>> OfferedAsync(HttpClient http, int count, CancellationToken cancellation)
    {
        while (true)
        {
            try
            {
                Session session = (await http.GetFromJsonAsync<Session>("/api/session", cancellation))!;
                List<Bay> bays = (await http.GetFromJsonAsync<List<Bay>>("/api/bays", cancellation))!;
                while (bays.Count < count)
                {
                    HttpRequestMessage add = new(HttpMethod.Post, "/api/bays");
                    add.Headers.Add("X-Remedos-Token", session.Token);
                    HttpResponseMessage added = await http.SendAsync(add, cancellation);
                    bays.Add((await added.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<Bay>(cancellation))!);
                }

                return [.. bays.Take(count).Select(bay => new BayLink(http, bay.Number, bay.Token))];
            }
            catch (HttpRequestException)
            {
                await Task.Delay(Patience, cancellation);
            }
        }
    }

    /// <summary>Sends lines; null when they did not arrive, so that they are sent again.</summary>
    public async Task<IngestAnswer?> SendAsync(string stream, string lines, CancellationToken cancellation)
    {
        try
        {
            HttpRequestMessage request = new(HttpMethod.Post, $"/api/bays/{number}/readings?stream={stream}") { Content = new StringContent(lines, Encoding.UTF8, "application/x-ndjson") };
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
            HttpResponseMessage answer = await http.SendAsync(request, cancellation);
            return answer.IsSuccessStatusCode ? await answer.Content.ReadFromJsonAsync<IngestAnswer>(cancellation) : null;
        }
        catch (HttpRequestException)
        {
            return null;
        }
    }

    private sealed record Session(string Token);

    private sealed record Bay(int Number, string Token);
}
