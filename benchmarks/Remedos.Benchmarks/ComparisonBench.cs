using Remedos.Core.Comparison;
using Remedos.Validation;

namespace Remedos.Benchmarks;

/// <summary>Verdicts: ten runs a side, and a series of twelve setups with three mounts each.</summary>
internal static class ComparisonBench
{
    public static void Run()
    {
        SimulatedRuns bench = new(new Random(3), new TrueBench(1, 0.25, 0.3));
        TrueMachine machine = new(0.4, 0.12, 2, 120);
        IReadOnlyList<ConditionedRun> before = bench.Of(machine, 5, 2, 1000, 22),
            after = bench.Of(machine with { FixedCPerW = 0.35 }, 5, 2, 900, 23);
        SeriesSetup[] setups =
        [
            .. Enumerable
                .Range(0, 12)
                .Select(k => new SeriesSetup($"{k}", bench.Of(machine with { FixedCPerW = 0.3 + (0.02 * k) }, 3, 1, 1000, 22))),
        ];
        (double verdict, _) = Table.Medians(() => Comparer.Compare(before, after).Obstacles.Count, () => 0);
        Table.Row("verdict of 10 runs a side (aim: 20 ms)", $"{verdict:0.00} ms", "", "");
        (double series, _) = Table.Medians(() => SeriesComparer.Compare(setups).Pairs.Count, () => 0);
        Table.Row("series of 12 setups × 3 mounts (aim: 100 ms)", $"{series:0.0} ms", "", "");
    }
}
