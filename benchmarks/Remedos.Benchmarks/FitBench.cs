using Remedos.Core.HeatPath;
using Remedos.Core.Simulation;

namespace Remedos.Benchmarks;

/// <summary>The fit of the heat path with its half-widths, on runs of the simulated bench.</summary>
internal static class FitBench
{
    public static void Run()
    {
        Fit("fit of a 45-minute run with its half-widths (aim: 60 ms)", [new(300, 0), new(1800, 1), new(600, 0)]);
        Fit(
            "fit of a 24-hour run with its half-widths (aim: 300 ms)",
            [.. Enumerable.Range(0, 24).SelectMany(_ => new SimulationStep[] { new(600, 0), new(2400, 1), new(600, 0) })]
        );
    }

    private static void Fit(string what, SimulationStep[] protocol)
    {
        SimulationRequest request = new(protocol, "image-stacker");
        IReadOnlyList<BenchReading> samples = SimulatedRun.Of(request.Resolve(out _)!, request, seed: 1).Readings;
        FitInput input = new(
            [.. samples.Select(s => s.Seconds)],
            [.. samples.Select(s => s.ChipC - s.RoomC)],
            [.. samples.Select(s => s.PowerW)],
            [.. samples.Select(s => s.FanRpm / 1400)],
            []
        );
        (double ms, _) = Table.Medians(() => HeatBands.Of(ThermalFit.Fit(input)!, 120, 1800, seed: 1), () => 0);
        Table.Row(what, $"{ms:0} ms", "", "");
    }
}
