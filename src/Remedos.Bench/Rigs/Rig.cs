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
    public static async Task RunAsync(Uri server, double speed, CancellationToken cancellation)
    {
        using HttpClient http = new() { BaseAddress = server };
        IReadOnlyList<BayLink> links = await OfferedAsync(http, Standing.Length, cancellation);
        await Task.WhenAll(Standing.Zip(links, (standing, link) => new RiggedBay(
            link,
            new SimulatedBay(
                MachineLibrary.Rows.Single(machine => machine.Id == standing.Machine),
                standing.Fault is null ? new Dictionary<string, double>() : new Dictionary<string, double> { [standing.Fault] = standing.Severity },
                seed: 1),
            speed).RunAsync(cancellation)));
    }

    /// <summary>The first bays of the workshop, added where there are too few; waits for a server that is not there yet.</summary>
    private static async Task<IReadOnlyList<BayLink>> OfferedAsync(HttpClient http, int count, CancellationToken cancellation)
    {
        while (true)
        {
            try
            {
                OfferedSession session = (await http.GetFromJsonAsync("/api/session", WireJson.Default.OfferedSession, cancellation))!;
                List<OfferedBay> bays = (await http.GetFromJsonAsync("/api/bays", WireJson.Default.ListOfferedBay, cancellation))!;
                for (int missing = count - bays.Count; missing > 0; missing--)
                {
                    using HttpRequestMessage add = new(HttpMethod.Post, "/api/bays");
                    add.Headers.Add("X-Remedos-Token", session.Token);
                    (await http.SendAsync(add, cancellation)).EnsureSuccessStatusCode();
                }

                if (bays.Count >= count)
                {
                    return [.. bays.Take(count).Select(bay => new BayLink(http, bay.Number, bay.Token))];
                }
            }
            catch (Exception failure) when (failure is HttpRequestException or JsonException)
            {
                await Task.Delay(Patience, cancellation);
            }
        }
    }
}
