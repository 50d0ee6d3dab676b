using CsCheck;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using static Remedos.Core.Tests.Matching.MatchingExample;

namespace Remedos.Core.Tests.Matching;

/// <summary>Who comes first, what is on the front, and what is said.</summary>
public sealed class RankingTests
{
    private static readonly CoolerPart Big = Tower with
    {
        Id = "big",
        Name = "Ridge 2",
        Kind = "dual-tower",
        HeightMm = 157,
        ReachTowardMemoryMm = 40,
        Performance = [new(1600, 0.13)],
        PriceMinor = 8900,
    };

    private static MatchAnswer Answer(Func<Build, Build>? change, params CoolerPart[] coolers) =>
        Matcher.Match(change is null ? MatchingExample.Build : change(MatchingExample.Build), coolers);

    private static string[] Order(MatchAnswer answer) => [.. answer.Candidates.Select(one => one.Id)];

    [Fact]
    public void What_is_there_stays_when_it_suffices()
    {
        MatchAnswer answer = Answer(build => build with { CurrentCooler = "tower", HottestRoomC = 25 }, Box, Big, Tower);
        Assert.Equal("tower", Order(answer)[0]);
        Assert.StartsWith("Leave it: Mullion 120 holds 125 W at", answer.Advice, StringComparison.Ordinal);
        // A run of the processor alone stood lower: what heats the case meanwhile is said.
        Assert.Contains(" °C with the card at its 220 W, and at ", answer.Advice, StringComparison.Ordinal);
        Assert.Equal((0, 1), ((int)answer.Candidates[0].PriceMinor!.Value, answer.Candidates[0].Rank));
        Assert.True(answer.Candidates[0].IsCurrent);
    }

    [Fact]
    public void A_cooler_that_throttles_gives_way_and_the_advice_says_what_it_costs()
    {
        MatchAnswer answer = Answer(build => build with { CurrentCooler = "box" }, Box, Tower);
        Assert.Equal(["tower", "box"], Order(answer));
        Assert.Contains("now it is held at", answer.Advice, StringComparison.Ordinal);
        Assert.Contains("the chip throttles", answer.Candidates[1].Why, StringComparison.Ordinal);
    }

    /// <summary>The same cooler may do for games and not for renders.</summary>
    [Fact]
    public void One_that_throttles_says_whether_it_holds_a_game()
    {
        CoolerPart poor = Box with { Id = "poor", Performance = [new(2900, 1.4)] };
        MatchAnswer answer = Answer(build => build, Box, poor, Tower);
        Candidate One(string id) => answer.Candidates.Single(one => one.Id == id);
        Assert.Null(One("tower").GamesC);
        Assert.EndsWith($"In games it stays at {One("box").GamesC:0} °C.", One("box").Why, StringComparison.Ordinal);
        Assert.InRange(One("box").GamesC!.Value, 50, 95);
        Assert.EndsWith("Not even games.", One("poor").Why, StringComparison.Ordinal);
    }

    [Fact]
    public void Schools_reorder_the_same_facts()
    {
        string First(string school) =>
            Order(Answer(build => build with { HottestRoomC = 24, Wants = new Wants(school) }, Tower, Big, Liquid))[0];
        Assert.Equal("liquid", First("liquid-first"));
        Assert.Equal("tower", First("least-spend"));
        Assert.NotEqual("liquid", First("air-first"));
        MatchAnswer one = Answer(build => build with { Wants = new Wants("air-first") }, Tower, Liquid),
            other = Answer(build => build with { Wants = new Wants("liquid-first") }, Tower, Liquid);
        Assert.Equal(
            one.Candidates.OrderBy(c => c.Id).Select(c => c.TemperatureC),
            other.Candidates.OrderBy(c => c.Id).Select(c => c.TemperatureC)
        );
    }

    [Fact]
    public void A_workshops_own_weights_go_before_the_school()
    {
        School own = School.Of("air-first") with { Liquid = -5 };
        Assert.Equal("liquid", Matcher.Match(MatchingExample.Build, [Tower, Liquid], own).Candidates[0].Id);
    }

    /// <summary>Nobody on the front is beaten in price, temperature and noise at once, and whoever is not on it is.</summary>
    [Fact]
    public void The_front_is_what_nobody_beats() =>
        (
            from many in (
                from price in Gen.Long[1000, 20000]
                from r in Gen.Double[0.12, 0.4]
                from noise in Gen.Double[22, 45]
                select (price, r, noise)
            ).Array[1, 20]
            select many
        ).Sample(
            many =>
            {
                CoolerPart[] coolers =
                [
                    .. many.Select(
                        (one, i) =>
                            Tower with
                            {
                                Id = $"c{i:00}",
                                ReachTowardMemoryMm = 30,
                                PriceMinor = one.price,
                                Performance = [new(1600, one.r)],
                                Fans = [Tower.Fans![0] with { NoiseAtMaxDba = one.noise }],
                            }
                    ),
                ];
                MatchAnswer answer = Answer(null, coolers);
                Candidate[] front = [.. answer.Candidates.Where(one => answer.Front.Contains(one.Id))];
                bool Beats(Candidate a, Candidate b) =>
                    a.PriceMinor <= b.PriceMinor
                    && a.TemperatureC.Value <= b.TemperatureC.Value + 0.5
                    && a.NoiseDba <= b.NoiseDba + 0.5
                    && a.Id != b.Id;
                Candidate[] able = answer.Candidates.Any(one => !one.Throttles)
                    ? [.. answer.Candidates.Where(one => !one.Throttles)]
                    : [.. answer.Candidates];
                Assert.NotEmpty(front);
                Assert.All(front, one => Assert.Contains(one, able));
                Assert.All(able.Where(one => !answer.Front.Contains(one.Id)), one => Assert.Contains(front, other => Beats(other, one)));
                Assert.All(front, one =>
                    Assert.DoesNotContain(front, other =>
                        other.PriceMinor < one.PriceMinor
                        && other.TemperatureC.Value < one.TemperatureC.Value
                        && other.NoiseDba < one.NoiseDba
                    )
                );
            },
            iter: 200
        );

    [Fact]
    public void What_would_change_the_answer_is_said()
    {
        CoolerPart Tall(int i, double height) =>
            Tower with
            {
                Id = $"t{i}",
                Name = $"Tall {i}",
                HeightMm = height,
                ReachTowardMemoryMm = 40,
            };
        Assert.Contains("In a case that takes 160 mm, 2 more fit.", Answer(null, Tall(1, 159), Tall(2, 160), Tall(3, 180)).Changes);
        Assert.Contains(
            "With memory no higher than 40 mm, one more fits (Low fan).",
            Answer(null, Tower with { Name = "Low fan", HeightMm = 120, ClearanceUnderFanMm = 40, FanCanRiseMm = 0 }).Changes
        );
        Assert.Contains(
            "With a card no longer than 305 mm, one more fits (Rill 240).",
            Answer(build => build with { Graphics = new GraphicsPart(220, 308) }, Liquid with { RadiatorThicknessMm = 55 }).Changes
        );
    }

    [Fact]
    public void Wants_order_and_never_hide()
    {
        MatchAnswer answer = Answer(
            build => build with { HottestRoomC = 24, Wants = new Wants("air-first", MaxPriceMinor: 5000) },
            Big,
            Tower,
            Liquid
        );
        Assert.Equal("tower", Order(answer)[0]);
        Assert.Equal(
            "It costs 78 % more than wanted.",
            answer.Candidates.Single(one => one.Id == "big").Reasons.Single(reason => reason.Code == FitCode.Price).Message
        );
        Assert.Equal([1, 2, 3], answer.Candidates.Select(one => one.Rank));
    }

    [Fact]
    public void More_than_a_chip_can_use_is_called_that() =>
        Assert.Contains(
            "more than this chip can use",
            Answer(
                build => build with { HottestRoomC = 24, Processor = build.Processor with { SustainedPowerW = 65, UsefulPowerW = 70 } },
                Big
            )
                .Candidates[0]
                .Why,
            StringComparison.Ordinal
        );

    [Fact]
    public void What_a_degree_of_the_next_better_costs()
    {
        Candidate tower = Answer(null, Tower, Big).Candidates.Single(one => one.Id == "tower");
        Assert.Equal("big", tower.NextBetter!.Id);
        Assert.Equal(4400, tower.NextBetter.MinorPerC * tower.NextBetter.GainsC, 1e-6);
    }

    [Fact]
    public void Contradictions_and_what_is_missing_are_told()
    {
        MatchAnswer answer = Answer(
            build =>
                build with
                {
                    CurrentCooler = "gone",
                    HottestRoomC = 10,
                    Processor = build.Processor with { Socket = "Q5", InsideResistanceCPerW = null },
                },
            Tower
        );
        Assert.Equal(4, answer.Warnings.Count);
        Assert.Contains("The processor is for socket Q5, the board has Q4: one of them is noted wrongly.", answer.Warnings);
        Assert.Contains(answer.Warnings, warning => warning.Contains("“gone”", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("processor.sustainedPowerW: 5000 is outside 5 to 1000 W.")]
    [InlineData("case.fans[0].direction: “sideways” is neither in nor out.")]
    [InlineData("wants.school: “none” is none of air-first, liquid-first, quiet-first, least-spend.")]
    [InlineData("roomC: 200 is outside -20 to 60 °C.")]
    public void What_cannot_be_is_told_with_its_place(string sentence)
    {
        Build good = MatchingExample.Build;
        Assert.Null(good.Problem());
        Build bad = sentence[0] switch
        {
            'p' => good with { Processor = good.Processor with { SustainedPowerW = 5000 } },
            'c' => good with { Case = good.Case! with { Fans = [new FanNote("front", "sideways", 120, 900)] } },
            'w' => good with { Wants = new Wants("none") },
            _ => good with { RoomC = 200 },
        };
        Assert.Equal(sentence, bad.Problem());
        Assert.Equal(
            "kind: “kettle” is none of down-draught, tower, dual-tower, liquid, passive.",
            (Tower with { Kind = "kettle" }).Problem()
        );
    }

    /// <summary>Work goes with their length, and room for it is taken on the stack.</summary>
    [Fact]
    public void Lists_longer_than_anything_real_are_refused()
    {
        Build good = MatchingExample.Build;
        Header[] headers = [.. Enumerable.Range(0, 100_000).Select(i => new Header($"H{i}", 1))];
        FanNote[] fans = [.. Enumerable.Repeat(new FanNote("front", "in", 120, 900), 100_000)];
        Assert.Equal("board.headers: more than 16.", (good with { Board = good.Board! with { Headers = headers } }).Problem());
        Assert.Equal("case.fans: more than 24.", (good with { Case = good.Case! with { Fans = fans } }).Problem());
        Assert.Equal("fans: more than 24.", (Tower with { Fans = [.. Enumerable.Repeat(new Fan(120, 900), 100_000)] }).Problem());
        PerformancePoint[] points = [.. Enumerable.Repeat(new PerformancePoint(900, 0.3), 100_000)];
        Assert.Equal("performance: more than 100.", (Tower with { Performance = points }).Problem());
    }

    [Fact]
    public void A_cooler_that_contradicts_itself_is_told()
    {
        IReadOnlyList<string> Warnings(CoolerPart cooler) => Matcher.Match(MatchingExample.Build, [cooler]).Warnings;
        Assert.Empty(Warnings(MatchingExample.Tower));
        Assert.Contains(
            "has a radiator of 240 mm: one of them is wrong.",
            Assert.Single(Warnings(MatchingExample.Tower with { RadiatorSizeMm = 240 })),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "cool worse with faster fans",
            Assert.Single(Warnings(MatchingExample.Tower with { Performance = [new(800, 0.2), new(1600, 0.3)] })),
            StringComparison.Ordinal
        );
    }
}
