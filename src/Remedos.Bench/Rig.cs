using Remedos.Core.Machines;

namespace Remedos.Bench;

/// <summary>The machines that stand in the demo's bays, each with what ails it.</summary>
internal static class Rig
{
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
        IReadOnlyList<BayLink> links = await BayLink.OfferedAsync(http, Standing.Length, cancellation);
        string stream = Guid.NewGuid().ToString("N")[..12];
        await Task.WhenAll(Standing.Zip(links, (standing, link) => new RiggedBay(
            link,
            MachineLibrary.Machines.Single(machine => machine.Id == standing.Machine),
            standing.Fault is null ? [] : [KeyValuePair.Create(standing.Fault, standing.Severity)],
            stream,
            speed).RunAsync(cancellation)));
    }
}
