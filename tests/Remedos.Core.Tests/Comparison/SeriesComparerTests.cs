using Remedos.Core.Comparison;
using Remedos.Validation;

namespace Remedos.Core.Tests.Comparison;

public sealed class SeriesComparerTests
{
    /// <summary>Holm's example of steps: the smallest p times 4, then 3, 2, 1, never decreasing.</summary>
    [Fact]
    public void Holm_steps_down()
    {
        double[] adjusted = SeriesComparer.Holm([0.01, 0.04, 0.03, 0.005]);
        Assert.Equal([0.03, 0.06, 0.06, 0.02], adjusted.Select(p => Math.Round(p, 10)));
        Assert.Equal([1.0, 1.0], SeriesComparer.Holm([0.6, 0.9]));
    }

    /// <summary>Letters of four in a chain: neighbours cannot be told apart, those further away can.</summary>
    [Fact]
    public void Those_with_a_letter_in_common_cannot_be_told_apart()
    {
        bool[,] apart = new bool[4, 4];
        void Apart(int a, int b) => apart[a, b] = apart[b, a] = true;
        Apart(0, 2);
        Apart(0, 3);
        Apart(1, 3);
        Assert.Equal(["a", "ab", "bc", "c"], SeriesComparer.Groups([0, 1, 2, 3], apart));
        Assert.Equal(["a", "a", "a"], SeriesComparer.Groups([2, 0, 1], new bool[3, 3]));
    }

    [Fact]
    public void Four_coolers_are_ranked_and_bracketed()
    {
        SimulatedRuns runs = new(new Random(4), new TrueBench(0.6, 0.2, 0.2));
        SeriesSetup Setup(string name, double fixedCPerW, long price) =>
            new(name, runs.Of(new TrueMachine(fixedCPerW, 0.1, 2, 120), 3, 1, 1000, 22), price);
        SeriesResult result = SeriesComparer.Compare(
            [Setup("box", 0.50, 0), Setup("Rill 120", 0.30, 5900), Setup("Rill 240", 0.295, 9900), Setup("Mullion", 0.38, 4500)],
            new Repeatability(0.6, 30, 0.2, 30)
        );
        Assert.Equal(["box", "Rill 120", "Rill 240", "Mullion"], result.Setups.Select(row => row.Name));
        Assert.Equal(4, result.Setups[0].Rank);
        Assert.Equal(3, result.Setups[3].Rank);
        Assert.Equal([1, 2], result.Setups.Skip(1).Take(2).Select(row => row.Rank!.Value).Order());
        Assert.Equal(result.Setups[1].Group, result.Setups[2].Group);
        Assert.Equal(3, result.Setups.Select(row => row.Group).Distinct().Count());
        Assert.Equal(6, result.Pairs.Count);
        Assert.Equal(Verdict.NoMeasurableChange, result.Pairs.Single(pair => pair is { A: "Rill 120", B: "Rill 240" }).Verdict);
        Assert.Equal(22 + 2 + (120 * 0.6), result.Setups[0].AtReferencePowerC!.Value, 3.0);
        Assert.All(result.Setups, row => Assert.InRange(row.HalfWidthC!.Value, 0.4, 2.0));
    }

    /// <summary>One that was made under other conditions is told and left out; the others are ranked all the same.</summary>
    [Fact]
    public void A_setup_under_other_conditions_is_left_out()
    {
        SimulatedRuns runs = new(new Random(5), new TrueBench(0.6, 0.2, 0.2));
        IReadOnlyList<ConditionedRun> Of(double r) => runs.Of(new TrueMachine(r, 0.1, 2, 120), 2, 1, 1000, 22);
        IReadOnlyList<ConditionedRun> open =
        [
            .. Of(0.2).Select(run => run with { Conditions = run.Conditions with { Panel = "open-bench" } }),
        ];
        SeriesResult result = SeriesComparer.Compare([new("first", Of(0.5)), new("open", open), new("third", Of(0.4))]);
        Assert.Equal([2, null, 1], result.Setups.Select(row => row.Rank));
        Assert.Contains(result.Obstacles, o => o is { Setup: "open", Code: "panel-differs", Severity: ObstacleWeight.Blocking });
    }

    /// <summary>Over all pairs of equal coolers, one false difference in twenty series at most.</summary>
    [Fact]
    public void Equal_coolers_are_told_apart_in_one_series_of_twenty()
    {
        int wrong = 0;
        for (int seed = 0; seed < 120; seed++)
        {
            SimulatedRuns runs = new(new Random(seed), new TrueBench(1, 0.25, 0.3));
            SeriesResult result = SeriesComparer.Compare([
                .. Enumerable.Range(0, 4).Select(k => new SeriesSetup($"{k}", runs.Of(new TrueMachine(0.4, 0.1, 2, 120), 2, 1, 1000, 22))),
            ]);
            wrong += result.Pairs.Any(pair => pair.Verdict != Verdict.NoMeasurableChange) ? 1 : 0;
        }

        Assert.InRange(wrong, 0, 13);
    }
}
