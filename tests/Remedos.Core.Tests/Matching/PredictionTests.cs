using CsCheck;
using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using static Remedos.Core.Tests.Matching.MatchingExample;

namespace Remedos.Core.Tests.Matching;

/// <summary>What a cooler is said to do: against the simulation, and as physics must have it.</summary>
public sealed class PredictionTests
{
    /// <summary>Through the points that are known, and as speed^−0.7 between them.</summary>
    [Fact]
    public void Resistance_follows_the_fan()
    {
        Assert.Equal(0.26, new CoolerCurve(Tower).At(800), 9);
        Assert.Equal(0.2, new CoolerCurve(Tower).At(1600), 9);
        Assert.InRange(new CoolerCurve(Tower).At(1100), 0.215, 0.26);
        Assert.True(new CoolerCurve(Tower).At(400) > 0.3 && new CoolerCurve(Tower).At(2400) < 0.2);
        CoolerPart one = Tower with { Performance = [new(1600, 0.2)] };
        Assert.True(new CoolerCurve(one).At(1600) == 0.2 && new CoolerCurve(one).At(800) is > 0.23 and < 0.3);
    }

    /// <summary>
    /// A hotter room, a hungrier chip or a warmer card never cools; more air, a better cooler or a larger radiator of one design never
    /// warms.
    /// </summary>
    [Fact]
    public void What_physics_forbids_never_happens() =>
        (
            from room in Gen.Double[10, 35]
            from more in Gen.Double[0, 15]
            from watts in Gen.Double[35, 250]
            from card in Gen.Double[0, 350]
            from fan in Gen.Double[300, 1500]
            from resistance in Gen.Double[0.1, 0.5]
            from which in Gen.Int[0, 1]
            select (room, more, watts, card, fan, resistance, which)
        ).Sample(
            any =>
            {
                CoolerPart cooler = (any.which == 0 ? Tower : Liquid) with { Performance = [new(1500, any.resistance)] };
                Build build = MatchingExample.Build with
                {
                    RoomC = any.room,
                    HottestRoomC = null,
                    Processor = MatchingExample.Build.Processor with { SustainedPowerW = any.watts },
                    Graphics = new GraphicsPart(any.card, 300),
                    Case = MatchingExample.Build.Case! with { Fans = [new FanNote("rear", "in", 120, any.fan)] },
                };
                double At(Build one, CoolerPart with) => Matcher.Match(one, [with]).Candidates[0].TemperatureC.Value;
                double now = At(build, cooler) - 0.05; // speeds settle to a turn
                Assert.True(At(build with { RoomC = any.room + any.more }, cooler) >= now);
                Assert.True(At(build with { Processor = build.Processor with { SustainedPowerW = any.watts + any.more } }, cooler) >= now);
                Assert.True(At(build with { Graphics = new GraphicsPart(any.card + (10 * any.more), 300) }, cooler) >= now);
                Assert.True(At(build, cooler with { Performance = [new(1500, any.resistance + (any.more / 100))] }) >= now);
                Assert.True(
                    At(
                        build with
                        {
                            Case = build.Case! with { Fans = [new FanNote("rear", "in", 120, any.fan + (50 * any.more))] },
                        },
                        cooler
                    )
                        <= now + 0.1
                );
            },
            iter: 300
        );

    [Fact]
    public void A_larger_radiator_of_one_design_is_never_warmer()
    {
        Build roomy = MatchingExample.Build with
        {
            Case = MatchingExample.Build.Case! with { Radiators = [new RadiatorPlace("top", [120, 240, 360], 60)] },
        };
        double[] temperatures =
        [
            .. new[] { 1, 2, 3 }.Select(fans =>
                Matcher
                    .Match(
                        roomy,
                        [
                            Liquid with
                            {
                                RadiatorSizeMm = 120 * fans,
                                Fans = [.. Enumerable.Repeat(Liquid.Fans![0], fans)],
                                Performance = [new(1800, 0.08 + (0.16 / fans))],
                            },
                        ]
                    )
                    .Candidates[0]
                    .TemperatureC.Value
            ),
        ];
        Assert.Equal(temperatures.OrderDescending(), temperatures);
    }

    /// <summary>
    /// A radiator in front cools the processor with the room's air and warms the card; at the rear it is the other way round.
    /// </summary>
    [Fact]
    public void Places_trade_the_processor_against_the_card()
    {
        CoolerPart small = Liquid with { RadiatorSizeMm = 120, Fans = [Liquid.Fans![0]] };
        Candidate At(string place) =>
            Matcher
                .Match(
                    MatchingExample.Build with
                    {
                        CurrentCooler = "tower",
                        Case = MatchingExample.Build.Case! with { Radiators = [new RadiatorPlace(place, [120], 60)] },
                    },
                    [Tower, small]
                )
                .Candidates.Single(one => one.Id == "liquid");
        Assert.True(At("front").TemperatureC.Value < At("rear").TemperatureC.Value);
        Assert.True(At("front").GraphicsChangeC > At("rear").GraphicsChangeC);
        Assert.True(At("rear").GraphicsChangeC < 0);
    }

    [Fact]
    public void Intervals_are_as_wide_as_what_is_known_is_poor()
    {
        double Width(CoolerPart cooler, Func<Build, Build>? change = null) =>
            Match(cooler, change).TemperatureC is var t ? t.High - t.Low : 0;
        Assert.True(Width(Tower with { Measured = true }) < Width(Tower));
        Assert.True(Width(Tower) < Width(Tower with { Performance = null, ClaimedW = 220 }) / 1.5);
        Assert.True(Width(Tower) < Width(Tower, build => build with { Processor = build.Processor with { InsideResistanceCPerW = null } }));
        Assert.Contains(
            "by its maker’s claim alone",
            Match(Tower with { Performance = null, ClaimedW = 250 }, build => build with { HottestRoomC = 24 }).Why,
            StringComparison.Ordinal
        );
    }

    /// <summary>Headroom is what the chip could draw more: with as much on top it stands at its limit.</summary>
    [Fact]
    public void With_its_headroom_used_it_stands_at_the_limit()
    {
        CoolerPart full = Tower with { Fans = [Tower.Fans![0] with { MinRpm = 1600 }] };
        Candidate one = Match(full);
        Candidate used = Match(full, build => build with { Processor = build.Processor with { SustainedPowerW = 125 + one.HeadroomW } });
        Assert.Equal(95, used.TemperatureC.Value, 0.01);
        Assert.Equal(0, used.HeadroomW, 0.01);
    }

    /// <summary>
    /// Wanted quiet, the fans turn as fast as the owner can bear; where that is too slow for the chip, as fast as they must, and it is
    /// said.
    /// </summary>
    [Fact]
    public void Fans_turn_no_faster_than_the_owner_bears()
    {
        Candidate free = Match(Tower),
            quiet = Match(Tower, build => build with { Wants = new Wants(MaxNoiseDba: free.NoiseDba - 2) });
        Assert.True(
            quiet.NoiseDba <= free.NoiseDba - 1.9 && quiet.TemperatureC.Value > free.TemperatureC.Value && quiet.Reasons.Count == 0
        );
        Candidate silent = Match(Tower, build => build with { Wants = new Wants(MaxNoiseDba: 10) });
        Assert.Contains(silent.Reasons, reason => reason.Code == FitCode.Noise);
    }

    /// <summary>
    /// The predicted stairs lead from the room to the predicted chip, and a radiator that breathes the room has no case air below it.
    /// </summary>
    [Fact]
    public void The_predicted_stairs_add_up()
    {
        foreach (CoolerPart cooler in (CoolerPart[])[MatchingExample.Tower, MatchingExample.Box, MatchingExample.Liquid])
        {
            Candidate one = MatchingExample.Match(cooler);
            Core.Runs.HeatStaircase stairs = one.Staircase!;
            Assert.Equal(one.TemperatureC.Value, stairs.RoomC + stairs.Steps.Sum(step => step.RiseC), 0.2);
            Assert.Equal(one.TemperatureC.Value, stairs.ChipC, 0.2);
            Assert.Equal(one.Place == "front", stairs.Steps.All(step => step.Id != HeatStep.CaseAir));
            Assert.All(stairs.Steps, step => Assert.True(step.RiseC > 0 && Math.Abs(step.ResistanceCPerW - (step.RiseC / 125)) < 1e-9));
        }
    }
}
