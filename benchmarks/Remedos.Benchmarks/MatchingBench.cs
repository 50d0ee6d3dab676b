using Remedos.Core.Machines;
using Remedos.Core.Matching;

namespace Remedos.Benchmarks;

/// <summary>2,000 coolers of every kind held against one build, with all its places for radiators.</summary>
internal static class MatchingBench
{
    private const int Coolers = 2000;

    public static void Run()
    {
        Random random = new(7);
        Build build = new(
            new ProcessorPart("Corbel C125", "Q4", 125, 95, UsefulPowerW: 150, InsideResistanceCPerW: 0.1, PriceMinor: 28900),
            new BoardPart("Q4", 48, 62, [new Header("CPU", 1, "cpu"), new Header("PUMP", 2, "full")]),
            new MemoryPart(44),
            new CasePart(
                158,
                360,
                [
                    new RadiatorPlace("front", [120, 240, 280], 55),
                    new RadiatorPlace("top", [120, 240], 55),
                    new RadiatorPlace("rear", [120], 60),
                ],
                [new FanNote("front", "in", 120, 900), new FanNote("rear", "out", 120, 1000)]
            ),
            new GraphicsPart(220, 305),
            24,
            33,
            "c0",
            new Wants("air-first", 9000, 36)
        );
        CoolerPart[] coolers = [.. Enumerable.Range(0, Coolers).Select(i => CoolerOf(i, random))];
        (double ms, _) = Table.Medians(() => Matcher.Match(build, coolers).Candidates.Count, () => 0);
        Table.Row($"{Coolers} coolers matched against one build (aim: 25 ms)", $"{ms:0.0} ms", "", "");
    }

    private static CoolerPart CoolerOf(int i, Random random)
    {
        double r = 0.14 + (0.3 * random.NextDouble());
        PerformancePoint[] points = [new(800, r * 1.35), new(1200, r * 1.12), new(1700, r)];
        Fan fan = new(120, 1700, 400, 0.25, 28 + (12 * random.NextDouble()));
        return i % 3 == 0
            ? new CoolerPart(
                $"c{i}",
                $"Rill {i}",
                "liquid",
                ["Q4"],
                RadiatorSizeMm: i % 2 == 0 ? 240 : 120,
                RadiatorThicknessMm: 52,
                Fans: i % 2 == 0 ? [fan, fan] : [fan],
                PumpCurrentA: 0.4,
                Performance: points,
                PriceMinor: 5000 + (i * 3)
            )
            : new CoolerPart(
                $"c{i}",
                $"Mullion {i}",
                "tower",
                ["Q4"],
                110 + (60 * random.NextDouble()),
                30 + (40 * random.NextDouble()),
                38,
                8,
                40 + (30 * random.NextDouble()),
                Fans: [fan],
                Performance: points,
                PriceMinor: 1500 + (i * 3)
            );
    }
}
