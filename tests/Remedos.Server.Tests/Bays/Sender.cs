using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;

namespace Remedos.Server.Tests.Bays;

/// <summary>What stands at the other end of the bay protocol.</summary>
internal sealed record Sender(App App, string Id, int Number, string Token, string Stream)
{
    public static async Task<Sender> ConnectAsync(App app)
    {
        JsonElement bay = await App.ReadAsync(await app.Client.PostAsync("/api/bays", null));
        return new Sender(app, bay.Text("id"), bay.GetProperty("number").GetInt32(), await TokenAsync(app, bay.Text("id")), "first");
    }

    /// <summary>Makes a new token for a bay; the one before is not believed any more.</summary>
    public static async Task<string> TokenAsync(App app, string id) =>
        (await App.ReadAsync(await app.Client.PostAsync($"/api/bays/{id}/token", null))).Text("token");

    /// <summary>Readings of a machine at rest, one a second.</summary>
    public static string Lines(long from, long to, double chipC = 40, double watts = 20) =>
        string.Concat(
            Enumerable
                .Range(0, (int)Math.Max(0, to - from + 1))
                .Select(i =>
                    FormattableString.Invariant(
                        $"{{\"seq\":{from + i},\"t\":{from + i},\"cpu-temperature\":{chipC + (i % 2)},\"cpu-power\":{watts}}}\n"
                    )
                )
        );

    /// <summary>Sends, and waits where the server asks for it.</summary>
    public async Task<long> SendAsync(long from, long to)
    {
        HttpResponseMessage answer = await PostAsync(Lines(from, to));
        for (; answer.StatusCode == HttpStatusCode.TooManyRequests; answer = await PostAsync(Lines(from, to)))
        {
            await Task.Delay(500);
        }

        return (await App.ReadAsync(answer)).GetProperty("acknowledged").GetInt64();
    }

    public Task<HttpResponseMessage> PostAsync(string body) => PostAsync(body, App.Client);

    /// <summary>Sends by way of another server.</summary>
    public Task<HttpResponseMessage> PostAsync(string body, HttpClient server)
    {
        HttpRequestMessage request = new(HttpMethod.Post, $"/api/bays/{Number}/readings?stream={Stream}")
        {
            Content = new StringContent(body, Encoding.UTF8, "application/x-ndjson"),
        };
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", Token);
        return server.SendAsync(request);
    }

    /// <summary>Starts a run on the machine as it came in (“before”) or as it is after a change.</summary>
    public async Task<HttpResponseMessage> StartAsync(
        string job,
        string side,
        string variant,
        double? loadSeconds = null,
        string? work = null,
        int? times = null
    ) =>
        await App.Client.PutAsJsonAsync(
            $"/api/bays/{Id}/run",
            new
            {
                jobId = job,
                mountId = await App.MountAsync(job, side),
                variant,
                loadSeconds,
                work,
                times,
            }
        );

    public async Task<JsonElement> BayAsync() => (await App.GetAsync("/api/bays")).EnumerateArray().Single(bay => bay.Text("id") == Id);

    public Task<JsonElement> StoredAsync() => App.GetAsync($"/api/bays/{Id}/readings");
}
