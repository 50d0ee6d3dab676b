using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Learning;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Options;
using Remedos.Core.Repair;
using Remedos.Core.Runs;
using Remedos.Core.Tests.Matching;

namespace Remedos.Core.Tests.Options;

/// <summary>All that could be done, side by side: which are open, in what order, and that no number differs from another page's.</summary>
public class RepairOptionsTests
{
    private static readonly DateOnly Today = new(2026, 11, 28);

    private static DiagnosisAnswer Found(params (string Cause, double P)[] found) =>
        new([.. found.Select(one => new CauseAnswer(one.Cause, one.P, [], []))], [], [])
        {
            NothingWrong = Math.Max(0, 1 - found.Sum(one => one.P)),
            Repairs =
            [
                .. found
                    .GroupBy(one => DiagnosisTables.CauseOf(one.Cause).Repair)
                    .Select(group => new RepairAnswer(group.Key, group.Sum(one => one.P)))
                    .OrderByDescending(repair => repair.Probability),
            ],
        };

    private static OptionFacts Facts(DiagnosisAnswer? diagnosis, CoolerPart? on = null, double? holds = null, double? now = null)
    {
        CoolerPart cooler = on ?? MatchingExample.Tower;
        Build build = MatchingExample.Build with { CurrentCooler = cooler.Id };
        MatchAnswer match = Matcher.Match(build, [MatchingExample.Tower, MatchingExample.Box, MatchingExample.Liquid]);
        RepairFacts machine = RepairFacts.OfMachine(build.Board, build.Processor, build.Case, cooler.Kind);
        Rates rates = new(4800, 20);
        return new OptionFacts
        {
            Build = build,
            Cooler = cooler,
            Match = match,
            Diagnosis = diagnosis,
            Decision = Decision.Of(build, match, diagnosis, holds, machine, rates),
            Machine = machine,
            Rates = rates,
            Seen = now is { } chip ? Seen(build, build.Processor.SustainedPowerW, chip) : null,
            Today = Today,
        };
    }

    /// <summary>A run of a full load beside which nothing is expected.</summary>
    private static SeenRun Seen(Build build, double watts, double chipC, params Limit[] limits) =>
        new(
            new RunAnalysis(
                100,
                1,
                100,
                [],
                [],
                build.RoomC,
                null,
                new LoadFigures(chipC, chipC, 0.3, watts, 4000, 900, true, 300, chipC, 400, 500),
                null,
                limits,
                null,
                null,
                null,
                null,
                []
            ),
            new RunConditions
            {
                Workload = "all-core",
                RatedPowerW = build.Processor.SustainedPowerW,
                TemperatureLimitC = build.Processor.TemperatureLimitC,
            },
            null
        );

    private static RepairOption Open(OptionAnswer answer, string id) => answer.Open.Single(option => option.Id == id);

    private static string WhyNot(OptionAnswer answer, string id) => answer.Closed.Single(option => option.Id == id).WhyNot!;

    [Fact]
    public void Only_what_diagnosis_and_machine_allow_is_open_and_the_others_say_why_not()
    {
        OptionAnswer answer = RepairOptions.Of(Facts(Found(("dust-blocked-fins", 0.8), ("paste-aged", 0.15)), now: 92, holds: 100));
        Assert.Equal("clean", answer.Open[0].Id);
        Assert.Contains(answer.Open, option => option.Id == "remount");
        Assert.Contains("Nothing speaks for it", WhyNot(answer, "replace-fan"));
        Assert.Contains("No warranty is noted", WhyNot(answer, "warranty-claim"));
        // A loop is nothing that a tower could have replaced.
        Assert.DoesNotContain(answer.Open.Concat(answer.Closed), option => option.Id == "replace-loop");
        Assert.Contains("Nothing was observed yet", WhyNot(RepairOptions.Of(Facts(null)), "clean"));
        Assert.Contains(
            "locked",
            WhyNot(
                RepairOptions.Of(
                    Facts(null) is var facts
                        ? facts with
                        {
                            Build = facts.Build with { Processor = facts.Build.Processor with { Unlocked = false } },
                        }
                        : facts
                ),
                "undervolt"
            )
        );
        Assert.Equal(
            answer.Open.Count + answer.Closed.Count,
            answer.Open.Concat(answer.Closed).Select(option => option.Id).Distinct().Count()
        );
    }

    [Fact]
    public void What_a_repair_gains_is_what_the_sound_machine_does_and_costs_what_its_steps_take()
    {
        OptionFacts facts = Facts(Found(("dust-blocked-fins", 0.8)), now: 92, holds: 100);
        OptionAnswer answer = RepairOptions.Of(facts);
        RepairOption clean = Open(answer, "clean");
        Candidate sound = facts.Match.Candidates.Single(one => one.IsCurrent);
        Assert.Equal(sound.TemperatureC, clean.TemperatureC);
        Assert.Equal(sound.NoiseDba, clean.NoiseDba);
        Assert.Equal(0.8 * 0.9, clean.Works!.Value, 1e-9);
        Assert.Equal(RepairPlanner.MinutesOf(facts.Machine, "clean"), clean.Quote.Minutes);
        Assert.Equal(facts.Decision.Ways[0].Steps.Single(step => step.Id == "clean").Quote.TotalMinor, clean.Quote.TotalMinor);
        Assert.Contains("if not, it stays at 92 °C", clean.Says);
        RepairOption leave = Open(answer, "leave");
        Assert.Equal((92, 0), (leave.TemperatureC!.Value, leave.Quote.TotalMinor));
        RepairOption cap = Open(answer, "cap-power");
        Assert.Equal(facts.Decision.Ways.Single(way => way.Id == DecisionRoute.Cap).ClockLossPercent, cap.ClockLossPercent);
        Assert.Equal("Cap the power at 100 W", cap.Title);
        // A tenth of the heat above the room: the room, and nine tenths of the rest.
        RepairOption less = Open(answer, "undervolt");
        Assert.Equal(facts.Build.RoomC + (0.9 * (92 - facts.Build.RoomC)), less.TemperatureC!.Value, 1e-9);
        Assert.True(less.TemperatureC.Low < less.TemperatureC.Value && less.TemperatureC.Value < less.TemperatureC.High);
    }

    /// <summary>Who is held by a budget stays held whatever else is done, and loses on every page what the run says it loses.</summary>
    [Fact]
    public void A_budget_of_watts_goes_on_until_it_is_lifted()
    {
        OptionFacts facts = Facts(Found(("power-limited", 0.9), ("fan-control", 0.3)));
        SeenRun held = Seen(facts.Build, 72, 51, new Limit(LimitKind.Power, 60, 0.9, 27, 190));
        facts = facts with
        {
            Seen = held,
            Decision = Decision.Of(facts.Build, facts.Match, facts.Diagnosis, null, facts.Machine, facts.Rates, held.Held),
        };
        OptionAnswer answer = RepairOptions.Of(facts);
        Assert.Equal((51, 72), (answer.NowC!.Value, answer.Held!.Watts));
        RepairOption leave = Open(answer, "leave"),
            lift = Open(answer, "lift-limit"),
            fans = Open(answer, "re-steer"),
            less = Open(answer, "undervolt");
        Assert.Equal((51, 27), (leave.TemperatureC!.Value, leave.ClockLossPercent));
        Assert.Contains("goes on holding it to 72 W of 125 W: about 27 % of the clock", leave.Says);
        Candidate sound = facts.Match.Candidates.Single(one => one.IsCurrent);
        Assert.Equal((sound.TemperatureC, 0), (lift.TemperatureC, lift.ClockLossPercent));
        Assert.Contains("stays held to 72 W", lift.Says);
        Assert.Equal(27, fans.ClockLossPercent);
        Assert.True(fans.TemperatureC!.Value < sound.TemperatureC.Value - 10);
        Assert.EndsWith("Its power limit goes on holding it back.", fans.Says, StringComparison.Ordinal);
        Assert.Null(less.ClockLossPercent);
    }

    /// <summary>A clock that firmware pins is lost as well: how much of it, no watts tell.</summary>
    [Fact]
    public void A_pinned_clock_is_no_full_clock()
    {
        OptionFacts facts = Facts(Found(("clock-held", 0.9)));
        SeenRun seen = Seen(facts.Build, 20, 35);
        seen = seen with { Run = seen.Run with { Warnings = [new Warning(RunFigures.ClockPinned, "")] } };
        Decision decision = Decision.Of(facts.Build, facts.Match, facts.Diagnosis, null, facts.Machine, facts.Rates, seen.Held);
        OptionAnswer answer = RepairOptions.Of(facts with { Seen = seen, Decision = decision });
        Assert.Equal((35, (double?)null), (answer.NowC!.Value, Open(answer, "leave").ClockLossPercent));
        Assert.Contains("how much of the clock that costs is not known", Open(answer, "leave").Says);
        Assert.Contains("Its firmware goes on holding it to 20 W", Open(answer, "leave").Says);
        Assert.Equal(0, Open(answer, "release-clock").ClockLossPercent);
    }

    [Fact]
    public void The_owners_wish_orders_them_and_what_is_advised_stays_first()
    {
        OptionFacts facts = Facts(Found(("cooler-undersized", 0.9)), MatchingExample.Box, 80, 95);
        foreach (string? wish in new[] { null, "quiet", "cheap", "fast", "lasting", "looks" })
        {
            OptionAnswer answer = RepairOptions.Of(facts with { Wish = wish });
            Assert.Equal((answer.Advised, "another-cooler"), (answer.Open[0].Id, answer.Advised));
            Assert.Equal(facts.Decision.Sentence, answer.Sentence);
            Assert.Equal("leave", answer.Open[^1].Id);
        }

        RepairOption[] quiet =
        [
            .. RepairOptions.Of(facts with { Wish = "quiet" }).Open.Where(one => one.NoiseDba is not null && !(one.Works < 0.5)).Skip(1),
        ];
        Assert.Equal(quiet.OrderBy(one => one.NoiseDba).Select(one => one.Id), quiet.Select(one => one.Id));
    }

    [Fact]
    public void Price_share_warranty_and_what_cannot_be_undone_stand_beside_each()
    {
        OptionFacts facts = Facts(Found(("cooler-undersized", 0.9)), MatchingExample.Box, 80, 95) with
        {
            Warranty = new Warranty(Today.AddMonths(-6), 24, true, CauseRow.Cooler, null),
            MostPriceSharePercent = 10,
        };
        OptionAnswer answer = RepairOptions.Of(facts);
        RepairOption another = Open(answer, "another-cooler");
        Candidate best = facts.Match.Candidates.First(one => one.Name == another.Cooler);
        Assert.Equal((double)best.PriceMinor! / facts.Build.Processor.PriceMinor, another.PriceShare);
        Assert.Equal(another.PriceShare > 0.1, another.TooDear);
        Assert.Equal("It ends the warranty.", another.Warranty);
        Assert.Equal("The warranty goes on.", Open(answer, "undervolt").Warranty);
        Assert.Null(Open(answer, "warranty-claim").WhyNot);
        Assert.Equal(0, Open(answer, "warranty-claim").Quote.TotalMinor);
        Assert.True(Open(answer, "warranty-claim").Days > 7);
        // The like of one that is too small is too small; of one whose fan has failed, it goes on new or at half its price.
        Assert.Contains("too small as well", WhyNot(answer, "like-for-like"));
        OptionAnswer failed = RepairOptions.Of(Facts(Found(("fan-failed", 0.95)), now: 95, holds: 60));
        Assert.Equal(
            MatchingExample.Tower.PriceMinor!.Value / 2.0,
            Open(failed, "like-for-like").Quote.NetMinor - Open(failed, "used-part").Quote.NetMinor,
            1.0
        );
        // How long the like of it lasted here stands with it.
        SeriesWear wear = new("Mullion 120", Survival.Of([.. Enumerable.Range(0, 6).Select(i => new SeenUnit(40 + i, i < 4))]), []);
        Assert.EndsWith(
            "Mullion 120 here: 4 of 6 had failed; one in four by 41 months, half by 42.",
            Open(RepairOptions.Of(Facts(Found(("fan-failed", 0.95)), now: 95, holds: 60) with { Wear = wear }), "like-for-like").Lasts
        );
        Assert.Contains("has not failed", WhyNot(RepairOptions.Of(Facts(Found(("dust-blocked-fins", 0.9)))), "like-for-like"));
        Assert.Contains("after run first", WhyNot(RepairOptions.Of(Facts(null) with { ChangedSince = true }), "clean"));
        Assert.Contains("Nothing is found yet", WhyNot(RepairOptions.Of(facts with { Diagnosis = null }), "warranty-claim"));
    }

    [Fact]
    public void Every_figure_of_every_option_is_finite_or_unknown()
    {
        foreach (CauseRow cause in DiagnosisTables.Causes)
        foreach (CoolerPart on in new[] { MatchingExample.Tower, MatchingExample.Box, MatchingExample.Liquid })
        foreach (double? holds in new double?[] { null, 60, 200 })
        {
            OptionAnswer answer = RepairOptions.Of(Facts(Found((cause.Id, 0.9)), on, holds, holds is null ? null : 90));
            Assert.NotEmpty(answer.Open);
            Assert.Contains(answer.Open, option => option.Id == answer.Advised);
            foreach (RepairOption option in answer.Open.Concat(answer.Closed))
            {
                double?[] figures =
                [
                    option.Works,
                    option.TemperatureC?.Low,
                    option.TemperatureC?.High,
                    option.ClockLossPercent,
                    option.NoiseDba,
                    option.PriceShare,
                ];
                Assert.All(figures.OfType<double>(), figure => Assert.True(double.IsFinite(figure), $"{cause.Id}, {option.Id}"));
                Assert.DoesNotContain("—", option.Says);
            }
        }
    }

    [Fact]
    public void A_choice_that_cannot_be_is_refused_in_a_sentence()
    {
        OptionChoice choice = new("clean", "Clean fins and filters", null, 2880, "EUR", [new QuoteLine("Labour, 30 min", 2400)]);
        Assert.Null(choice.Problem());
        Assert.Equal((DecisionRoute.Repair, "clean"), (choice.Route, choice.Act));
        Assert.Equal(DecisionRoute.Cooler, (choice with { Option = "used-part" }).Route);
        Assert.Null((choice with { Option = "warranty-claim" }).Route);
        Assert.Contains("“weld” is no option", (choice with { Option = "weld" }).Problem());
        Assert.Contains("nothing or more", (choice with { TotalMinor = -1 }).Problem());
        Assert.Contains("three letters", (choice with { Currency = "€" }).Problem());
        Assert.Contains("1 to 200 letters", (choice with { Title = "" }).Problem());
    }
}
