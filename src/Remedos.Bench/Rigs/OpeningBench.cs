using System.Net.Http.Json;
using System.Text.Json;
using Remedos.Bench.Sending;

namespace Remedos.Bench.Rigs;

/// <summary>
/// A bench at work for whoever sees the demo first: a run under way, one that waits for a hand, one that is soon done. Only where nobody
/// has run anything yet, and
/// only on machines of the demo.
/// </summary>
internal static class OpeningBench
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1);

    private const int Tries = 30;

    /// <summary>By bay, in order: whose machine, how it is run, for how long under load, how often.</summary>
    private static readonly (string Tag, string Variant, double? LoadSeconds, int Times)[] Runs =
    [
        ("SL-0418", "usual", 3600, 3),
        ("SL-0417", "by-hand", null, 1),
        ("SL-0415", "capped-power", 120, 1),
    ];

    public static async Task BeginAsync(HttpClient http, CancellationToken cancellation)
    {
        try
        {
            List<OfferedBay> bays = (await http.GetFromJsonAsync("/api/bays", WireJson.Default.ListOfferedBay, cancellation))!;
            List<OfferedJob> jobs = (await http.GetFromJsonAsync("/api/jobs", WireJson.Default.ListOfferedJob, cancellation))!;
            if (bays.Exists(bay => bay.Run is not null))
            {
                return;
            }

            string token = (await DemoDoor.EnterAsync(http, cancellation)).Token;
            foreach ((OfferedBay bay, (string tag, string variant, double? load, int times)) in bays.Zip(Runs))
            {
                if (jobs.Find(job => job.Tag == tag) is { } job)
                {
                    await StartAsync(http, token, bay, new OpeningRun(job.Id, variant, load, times), cancellation);
                }
            }
        }
        catch (Exception failure) when (failure is HttpRequestException or JsonException)
        {
            // The bench then begins empty; whoever sits at it starts the first run.
        }
    }

    /// <summary>Starts a run as soon as the bay's machine has been heard.</summary>
    private static async Task StartAsync(HttpClient http, string token, OfferedBay bay, OpeningRun run, CancellationToken cancellation)
    {
        for (int attempt = 0; attempt < Tries; attempt++)
        {
            using HttpRequestMessage request = new(HttpMethod.Put, $"/api/bays/{bay.Id}/run")
            {
                Content = JsonContent.Create(run, WireJson.Default.OpeningRun),
            };
            request.Headers.Add("X-Remedos-Token", token);
            using HttpResponseMessage answer = await http.SendAsync(request, cancellation);
            if (answer.IsSuccessStatusCode)
            {
                return;
            }

            await Task.Delay(Patience, cancellation);
        }
    }
}
