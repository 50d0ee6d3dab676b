using System.Net.Http.Json;
using System.Text.Json;
using Remedos.Bench.Sending;
using Remedos.Core.Bays;
using Remedos.Core.Machines;

namespace Remedos.Bench.Rigs;

/// <summary>The machines that stand in the demo's bays, each with what ails it.</summary>
internal static class Rig
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    private static readonly (string Machine, string? Fault, double Severity)[] Standing =
    [
        ("boat-station", "loop-restricted", 0.7),
        ("bakery-till", "dust-blocked-fins", 0.6),
        ("bedroom-tower", null, 0),
        ("box-cooler-chiplet", "paste-aged", 0.5),
    ];

    /// <summary>Runs all bays until it is told to stop.</summary>
    public static async Task RunAsync(Uri server, double speed, bool opensBench, CancellationToken cancellation)
    {
        using HttpClient http = new() { BaseAddress = server };
        IReadOnlyList<BayLink> links = await OfferedAsync(http, Standing.Length, cancellation);
        Task opening = opensBench ? OpeningBench.BeginAsync(http, cancellation) : Task.CompletedTask;
        await Task.WhenAll(
            Standing
                .Zip(links, (standing, link) =>
                    new RiggedBay(
                        link,
                        new SimulatedBay(
                            MachineLibrary.Rows.Single(machine => machine.Id == standing.Machine),
                            standing.Fault is null
                                ? new Dictionary<string, double>()
                                : new Dictionary<string, double> { [standing.Fault] = standing.Severity },
                            seed: 1
                        ),
                        speed
                    ).RunAsync(cancellation)
                )
                .Append(opening)
        );
    }

    /// <summary>The first bays of the workshop, added where there are too few; waits for a server that is not there yet.</summary>
    private static async Task<IReadOnlyList<BayLink>> OfferedAsync(HttpClient http, int count, CancellationToken cancellation)
    {
        while (true)
        {
            try
            {
                OfferedSession session = await DemoDoor.EnterAsync(http, cancellation);
                List<OfferedBay> bays = (await http.GetFromJsonAsync("/api/bays", WireJson.Default.ListOfferedBay, cancellation))!;
                for (int missing = count - bays.Count(bay => bay.Sender is null or { Simulated: true }); missing > 0; missing--)
                {
                    (await PostAsync(http, session, "/api/bays", cancellation)).Dispose();
                }

                // A bay in which a real machine stands is left alone.
                OfferedBay[] free = [.. bays.Where(bay => bay.Sender is null or { Simulated: true }).Take(count)];
                if (free.Length == count)
                {
                    List<BayLink> links = [];
                    foreach (OfferedBay bay in free)
                    {
                        links.Add(new BayLink(http, bay.Number, await TokenAsync(http, session, bay, cancellation)));
                    }

                    return links;
                }
            }
            catch (Exception failure) when (failure is HttpRequestException or JsonException)
            {
                await Task.Delay(Patience, cancellation);
            }
        }
    }

    private static async Task<string> TokenAsync(HttpClient http, OfferedSession session, OfferedBay bay, CancellationToken cancellation)
    {
        using HttpResponseMessage made = await PostAsync(http, session, $"/api/bays/{bay.Id}/token", cancellation);
        return (await made.Content.ReadFromJsonAsync(WireJson.Default.OfferedToken, cancellation))!.Token;
    }

    private static async Task<HttpResponseMessage> PostAsync(
        HttpClient http,
        OfferedSession session,
        string path,
        CancellationToken cancellation
    )
    {
        using HttpRequestMessage request = new(HttpMethod.Post, path);
        request.Headers.Add("X-Remedos-Token", session.Token);
        return (await http.SendAsync(request, cancellation)).EnsureSuccessStatusCode();
    }
}
