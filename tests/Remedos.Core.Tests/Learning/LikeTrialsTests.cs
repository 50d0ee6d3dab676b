using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Core.Learning;
using Remedos.Validation;

namespace Remedos.Core.Tests.Learning;

public sealed class LikeTrialsTests
{
    private const double PowerW = 120,
        Settled = 48,
        Fresh = 2;

    /// <summary>A setup of one machine whose own resistance is that of its paste.</summary>
    private static TriedSetup Setup(
        SimulatedRuns bench,
        int number,
        double ownCPerW,
        string? paste,
        string? method = "one dot",
        string kind = SetupKind.Paste,
        double hours = Settled,
        int mounts = 2,
        string? fans = null
    ) =>
        new(
            new SetupFacts(
                number,
                paste ?? "",
                1,
                kind,
                [
                    .. Enumerable
                        .Range(0, mounts)
                        .SelectMany(_ => bench.Mount(new TrueMachine(ownCPerW, 0.1, 2, PowerW), 1, 1000, 22))
                        .Select(run => run with { Conditions = run.Conditions with { HoursSinceMount = hours } }),
                ]
            ),
            new SetupDifference
            {
                Cooler = "Mullion 120",
                Paste = paste,
                PasteMethod = method,
                Fans = fans,
            }
        );

    private static SimulatedRuns Bench(int seed = 1) => new(new Random(seed), new TrueBench(0.3, 0.1, 0.1));

    private static Trial[] Pairs(params TriedSetup[] setups) => [.. LikeTrials.Of(setups).Where(trial => trial.Kind != TrialKind.Settling)];

    [Fact]
    public void Two_pastes_on_one_machine_are_a_pair_at_100_watts()
    {
        SimulatedRuns bench = Bench();
        // As it came is dry, and no paste to compare with.
        Trial pair = Pairs(
                Setup(bench, 1, 0.40, "Chalk 2", kind: SetupKind.AsItCame),
                Setup(bench, 2, 0.32, "Tallow Grey 5"),
                Setup(bench, 3, 0.30, " chalk 2")
            )
            .Single();
        Assert.Equal((TrialKind.Paste, "chalk 2", "Tallow Grey 5", 4), (pair.Kind, pair.One, pair.Other, pair.Runs));
        Assert.Equal(2, pair.ChangeC, 1.0);
        Figure figure = Trial.FigureOf(pair.ChangeC, pair.MountWeight, pair.WithinWeight, pair.RestVariance, Repeatability.Prior);
        // Two mounts of a run on each side, at 100 W of 120.
        Assert.Equal(100 / PowerW * Math.Sqrt(1 + 0.09), figure.StandardError, 0.05);
        Assert.Equal(
            "Tallow Grey 5 and chalk 2 cannot be told apart: ",
            TrialWords.Of(TrialKind.Paste, "chalk 2", "Tallow Grey 5", new Pooled(1, -1.4, 0.8, 0), null)[..48]
        );
    }

    /// <summary>The interval that its weights make holds the truth about 19 times in 20, on the bench that it is told of.</summary>
    [Fact]
    public void The_interval_of_a_pair_holds()
    {
        TrueBench truth = new(0.8, 0.2, 0.1);
        int held = 0;
        for (int seed = 0; seed < 300; seed++)
        {
            SimulatedRuns bench = new(new Random(seed), truth);
            Trial pair = Pairs(Setup(bench, 2, 0.32, "B", mounts: 1), Setup(bench, 3, 0.30, "A", mounts: 1)).Single();
            Figure figure = Trial.FigureOf(
                pair.ChangeC,
                pair.MountWeight,
                pair.WithinWeight,
                pair.RestVariance,
                new Repeatability(truth.MountC, 100, truth.WithinC, 100)
            );
            held += Math.Abs(figure.Value - 2) <= 1.96 * figure.StandardError ? 1 : 0;
        }

        Assert.InRange(held, 275, 297);
    }

    [Fact]
    public void What_differs_in_more_or_failed_or_was_repaired_between_is_no_pair()
    {
        SimulatedRuns bench = Bench();
        TriedSetup chalk = Setup(bench, 2, 0.32, "Chalk 2"),
            tallow = Setup(bench, 3, 0.30, "Tallow Grey 5");
        Assert.Single(Pairs(chalk, tallow));
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, "Tallow Grey 5", method: "spread film")));
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, "Tallow Grey 5", fans: "two")));
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, "Tallow Grey 5", kind: SetupKind.Repair)));
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, LikeTrials.UnnamedPaste)));
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, null)));
        Assert.Empty(Pairs(chalk, tallow with { Facts = tallow.Facts with { FailedWhy = "it leaked" } }));
        Assert.Empty(Pairs(chalk, tallow with { Facts = tallow.Facts with { Print = "ring-or-spot" } }));
        // A fresh paste is not held against a settled one.
        Assert.Empty(Pairs(chalk, Setup(bench, 3, 0.30, "Tallow Grey 5", hours: Fresh)));
        Assert.Single(Pairs(Setup(bench, 2, 0.32, "Chalk 2", hours: Fresh), Setup(bench, 3, 0.30, "Tallow Grey 5", hours: Fresh)));
    }

    [Fact]
    public void A_way_to_put_it_on_is_a_pair_of_its_own_and_a_setup_made_twice_is_one()
    {
        SimulatedRuns bench = Bench();
        Trial[] pairs = Pairs(
            Setup(bench, 2, 0.30, "Tallow Grey 5"),
            Setup(bench, 3, 0.31, "Tallow Grey 5", method: "spread film"),
            Setup(bench, 4, 0.30, "Tallow Grey 5")
        );
        Assert.Equal((TrialKind.PasteMethod, "one dot", "spread film", 6), pairs.Select(p => (p.Kind, p.One, p.Other, p.Runs)).Single());
    }

    [Fact]
    public void A_named_paste_that_settles_is_told_with_its_half_life()
    {
        SimulatedRuns bench = new(new Random(4), new TrueBench(0, 0.02, 0));
        double[] hours = [1, 8, 24, 48, 96, 168];
        TriedSetup chalk = Setup(bench, 2, 0.3, "Chalk 2", mounts: 1);
        TriedSetup settling = chalk with
        {
            Facts = chalk.Facts with
            {
                Runs =
                [
                    .. hours
                        .Select(age =>
                            bench.Mount(new TrueMachine(0.3 + (4 / PowerW * Math.Pow(2, -age / 24)), 0.1, 2, PowerW), 1, 1000, 22)[0] with
                            {
                                Mount = "one",
                            }
                        )
                        .Zip(hours, (run, age) => run with { Conditions = run.Conditions with { HoursSinceMount = age } }),
                ],
            },
        };
        Trial found = Assert.Single(LikeTrials.Of([settling]));
        Assert.Equal((TrialKind.Settling, "Chalk 2", "Chalk 2", 6), (found.Kind, found.One, found.Other, found.Runs));
        Assert.Equal(-4 * Math.Pow(2, -1 / 24.0) * 100 / PowerW, found.ChangeC, 0.3);
        Assert.Equal(24, found.HalfLifeHours!.Value, 8.0);
        Assert.Equal(
            "Chalk 2 gains 3.2 ± 0.4 °C at 100 W as it settles, half of it after 24 hours, in 2 machines.",
            TrialWords.Of(TrialKind.Settling, "Chalk 2", "Chalk 2", new Pooled(2, -3.2, 0.2, 0), 24)
        );
    }

    [Theory]
    [InlineData(9, 1, 2, 14.0, "Fitted here in 9 machines; taken off again in one; 2 came back, after 14 months.")]
    [InlineData(1, 0, 0, null, "Fitted here in one machine, none came back.")]
    [InlineData(3, 2, 0, null, "Fitted here in 3 machines; taken off again in 2; none came back.")]
    public void How_parts_fare_is_said(int fitted, int off, int back, double? months, string sentence) =>
        Assert.Equal(sentence, new FittedParts(fitted, off, back, months).Sentence);
}
