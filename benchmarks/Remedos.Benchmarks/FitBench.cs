using Remedos.Core.HeatPath;
using Remedos.Core.Simulation;

namespace Remedos.Benchmarks;

/// <summary>The fit of the heat path with its half-widths, on runs of the simulated bench.</summary>
internal static class FitBench
{
    private static readonly SimulatedMachine Machine = new(
        0.12,
        0.08,
        0.10,
        0.05,
        6,
        110,
        700,
        3200,
        1500,
        45,
        85,
        120,
        150,
        56,
        20,
        25,
        100,
        4500
    );

    public static void Run()
    {
        Fit("fit of a 45-minute run with its half-widths (aim: 60 ms)", [new(300, 0), new(1800, 1), new(600, 0)]);
        Fit(
            "fit of a 24-hour run with its half-widths (aim: 300 ms)",
            [.. Enumerable.Range(0, 24).SelectMany(_ => new ProtocolStep[] { new(600, 0), new(2400, 1), new(600, 0) })]
        );
    }

    private static void Fit(string what, ProtocolStep[] protocol)
    {
        IReadOnlyList<BenchSample> samples = BenchRun.Simulate(Machine, protocol, 22, null, seed: 1);
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
