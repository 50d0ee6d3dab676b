using CsCheck;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Repair;
using Remedos.Core.Tests.Matching;

namespace Remedos.Core.Tests.Money;

/// <summary>Quotes to the cent, the order of repairs against every other order, and which way is advised.</summary>
public sealed class DecisionTests
{
    private static readonly Rates Rates = new(4800, 20);

    private static readonly RepairFacts Tower = RepairFacts.OfMachine(null, null, null, "tower");

    private static double Minutes(string act) => RepairPlanner.MinutesOf(Tower, act);

    private static CauseAnswer Cause(string id, double probability) => new(id, probability, [], []);

    private static DiagnosisAnswer Diagnosis(double nothing, params CauseAnswer[] causes) =>
        new(causes, [], [])
        {
            NothingWrong = nothing,
            Repairs =
            [
                .. causes
                    .GroupBy(cause => DiagnosisTables.CauseOf(cause.Id).Repair)
                    .Select(group => new RepairAnswer(group.Key, group.Sum(cause => cause.Probability)))
                    .OrderByDescending(repair => repair.Probability),
            ],
        };

    [Fact]
    public void A_quote_adds_up()
    {
        Quote quote = Quote.Of([new("Mullion 120", 4500), new("Paste", 400)], 45, Rates);
        Assert.Equal(
            [("Mullion 120", 4500L), ("Paste", 400L), ("Labour, 45 min", 3600L)],
            quote.Lines.Select(line => (line.What, line.NetMinor))
        );
        Assert.Equal((8500L, 1700L, 10200L), (quote.NetMinor, quote.TaxMinor, quote.TotalMinor));
        Assert.Equal(0, Quote.Of([], 0, Rates).TotalMinor);
        Assert.Contains("outside 0 to 60 %", new Rates(0, 99).Problem(), StringComparison.Ordinal);
    }

    /// <summary>Two steps by hand: c₁ + (1 − p₁s₁)·c₂; and no other order of the steps costs less on average.</summary>
    [Fact]
    public void Repairs_are_tried_in_the_cheapest_order()
    {
        RepairSequence two = RepairSequence.Of(Diagnosis(0.2, Cause("dust-blocked-fins", 0.5), Cause("paste-aged", 0.3)), Tower, Rates);
        Assert.Equal(["clean", "remount"], two.Steps.Select(step => step.Id));
        // Labour is billed by whole minutes.
        double clean = Math.Round(Minutes("clean")),
            remount = Math.Round(Minutes("remount"));
        Assert.Equal((1.2 * 80 * clean) + ((1 - (0.5 * 0.9)) * 1.2 * (400 + (80 * remount))), two.ExpectedMinor, 1.0);
        Assert.Equal((0.5 * 0.9) + (0.3 * 0.92), two.Fixed, 1e-9);
        Assert.Equal(Minutes("clean") + (0.55 * Minutes("remount")), two.ExpectedMinutes, 1e-9);

        // Both may be there at once: each says how probably it is needed, and together they do not fix more than the machine.
        RepairSequence both = RepairSequence.Of(Diagnosis(0, Cause("dust-blocked-fins", 0.9), Cause("paste-aged", 0.6)), Tower, Rates);
        Assert.Equal([0.9, 0.6], both.Steps.Select(step => step.Probability));
        Assert.Equal(((0.9 * 0.9) + (0.6 * 0.92)) / 1.5, both.Fixed, 1e-9);

        string[] ids = ["dust-blocked-fins", "paste-aged", "fan-failed", "fan-control"];
        Gen.Double[0.04, 0.24]
            .Array[4]
            .Sample(
                odds =>
                {
                    CauseAnswer[] causes = [.. ids.Zip(odds, Cause)];
                    RepairSequence best = RepairSequence.Of(Diagnosis(0, causes), Tower, Rates);
                    double Cost(IEnumerable<RepairStep> order)
                    {
                        double left = 1,
                            cost = 0;
                        foreach (RepairStep step in order)
                        {
                            cost += left * step.Quote.TotalMinor;
                            left -= step.Probability * RepairRow.All.Single(row => row.Id == step.Id).Settles;
                        }

                        return cost;
                    }

                    Assert.All(Orders(best.Steps), order => Assert.True(Cost(order) >= best.ExpectedMinor - 1));
                },
                iter: 100
            );
    }

    private static IEnumerable<IReadOnlyList<T>> Orders<T>(IReadOnlyList<T> all) =>
        all.Count <= 1
            ? [all]
            : all.SelectMany((first, i) => Orders<T>([.. all.Where((_, j) => j != i)]).Select(rest => (IReadOnlyList<T>)[first, .. rest]));

    private static Decision Decide(CoolerPart current, DiagnosisAnswer? diagnosis, double? holds, Func<Build, Build>? change = null)
    {
        Build build = MatchingExample.Build with { CurrentCooler = current.Id };
        build = change is null ? build : change(build);
        return Decision.Of(
            build,
            Matcher.Match(build, [MatchingExample.Tower, MatchingExample.Box, MatchingExample.Liquid]),
            diagnosis,
            holds,
            Tower,
            Rates
        );
    }

    [Fact]
    public void What_is_wrong_is_repaired_first()
    {
        Decision dusty = Decide(MatchingExample.Tower, Diagnosis(0.05, Cause("dust-blocked-fins", 0.85), Cause("paste-aged", 0.1)), 90);
        Assert.Equal(DecisionRoute.Repair, dusty.Advised);
        Assert.Equal(("Clean fins and filters", 0.85), (dusty.Ways[0].Steps[0].Title, dusty.Ways[0].Steps[0].Probability));
        Assert.StartsWith(
            "In this order it costs least on average; one of 2 steps fixes",
            dusty.Ways[0].Sentence,
            StringComparison.Ordinal
        );
        // Another cooler brings clean fins along; of a starved case it cures nothing.
        Assert.Equal("Repair it first: fins or filters clogged with dust, 85 %.", dusty.Sentence);
        Assert.DoesNotContain("stays", dusty.Ways.Single(way => way.Id == DecisionRoute.Cooler).Sentence, StringComparison.Ordinal);
        Decision starved = Decide(MatchingExample.Tower, Diagnosis(0.05, Cause("case-starved", 0.85)), 90);
        Assert.EndsWith("another cooler would not cure that.", starved.Sentence, StringComparison.Ordinal);
        Assert.Contains(
            "What is wrong now stays: case gets too little air.",
            starved.Ways.Single(way => way.Id == DecisionRoute.Cooler).Sentence,
            StringComparison.Ordinal
        );
        // 90 of 125 W: the clock goes as the cube root.
        Assert.Equal(
            100 * (1 - Math.Cbrt(90.0 / 125)),
            dusty.Ways.Single(way => way.Id == DecisionRoute.Cap).ClockLossPercent!.Value,
            1e-9
        );
    }

    /// <summary>Where the cooler itself is the likeliest fault, another one is the repair, at its own price.</summary>
    [Fact]
    public void A_cooler_that_is_too_small_is_repaired_by_another()
    {
        Decision small = Decide(
            MatchingExample.Box,
            Diagnosis(0.02, Cause("cooler-undersized", 0.7), Cause("dust-blocked-fins", 0.25)),
            80
        );
        Assert.Equal(
            (DecisionRoute.Cooler, "Another cooler is the cure: cooler too small for this chip, 70 %."),
            (small.Advised, small.Sentence)
        );
        Assert.Equal(
            small.Ways.Single(way => way.Id == DecisionRoute.Cooler).ExpectedMinor,
            small.Ways.Single(way => way.Id == DecisionRoute.Repair).Steps.Single(step => step.Id == RepairRow.Upgrade).Quote.TotalMinor
        );
    }

    /// <summary>A loop that failed is replaced by any cooler that fits; it used to be called no cure (T14).</summary>
    [Fact]
    public void A_failed_loop_is_cured_by_another_cooler() =>
        Assert.Equal(
            (DecisionRoute.Cooler, "Another cooler is the cure: pump stopped or barely turning, 97 %."),
            Decide(MatchingExample.Liquid, Diagnosis(0.01, Cause("pump-failed", 0.97)), 60) is var failed
                ? (failed.Advised, failed.Sentence)
                : default
        );

    [Fact]
    public void A_cooler_is_bought_where_it_is_missing_and_nothing_where_it_is_not()
    {
        Decision box = Decide(MatchingExample.Box, null, null);
        Assert.Equal(
            (DecisionRoute.Cooler, "Fit Mullion 120"),
            (box.Advised, box.Ways.Single(way => way.Id == DecisionRoute.Cooler).Title)
        );
        Assert.Equal(
            Quote.Of([new("Mullion 120", 4500), new("Paste", 400)], Minutes(RepairRow.Upgrade), Rates).TotalMinor,
            box.Ways.Single(way => way.Id == DecisionRoute.Cooler).ExpectedMinor
        );

        Decision sound = Decide(MatchingExample.Tower, Diagnosis(0.9, Cause("paste-aged", 0.05)), 160);
        Assert.Equal(DecisionRoute.Leave, sound.Advised);
        Assert.DoesNotContain(sound.Ways, way => way.Id == DecisionRoute.Cap);

        // A chip that nothing holds: capped, and what it costs in clock is said.
        Decision hopeless = Decide(MatchingExample.Box, null, 100, build =>
            build with
            {
                Processor = build.Processor with { SustainedPowerW = 400, UsefulPowerW = 400 },
            }
        );
        Assert.Equal(DecisionRoute.Cap, hopeless.Advised);
        Assert.Equal("Cap the power at 100 W", hopeless.Ways.Single(way => way.Id == DecisionRoute.Cap).Title);
    }
}
