using CsCheck;
using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Tests.Matching;

namespace Remedos.Core.Tests.Airflow;

/// <summary>A machine's air with its fans, cooler and steering: against the matcher's closed form, and against what air must do.</summary>
public sealed class AirPlanTests
{
    private static readonly Build Build = MatchingExample.Build with
    {
        Case = MatchingExample.Build.Case! with
        {
            Radiators = [new("front", [120, 240], 60), new("top", [240], 60), new("rear", [120], 60)],
            FanPlaces = [new("front", [120, 140], 2), new("top", [120], 2), new("rear", [120], 1)],
        },
    };

    private static AirPlan Plan(CoolerPart cooler, string? steeredBy = null) =>
        AirPlanner.Start(Build with { FansFollow = steeredBy }, cooler);

    private static AirAnswer Solve(CoolerPart cooler, AirPlan plan, string load = AirLoad.Both) =>
        new AirSolver(Build, cooler, plan).Solve(load);

    /// <summary>Coolers and Air show one machine: they say the same, with nothing set alike by hand.</summary>
    [Fact]
    public void It_agrees_with_the_prediction_of_a_cooler()
    {
        foreach (CoolerPart cooler in (CoolerPart[])[MatchingExample.Tower, MatchingExample.Liquid, MatchingExample.Box])
        {
            Candidate predicted = Matcher.Match(Build, [cooler]).Candidates[0];
            AirAnswer air = Solve(cooler, Plan(cooler));
            Assert.Equal(predicted.TemperatureC.Value, air.ProcessorC!.Value, 0.05);
            Assert.Equal(predicted.NoiseDba, air.NoiseDba, 0.05);
            Assert.Equal(predicted.FanRpm!.Value, air.CoolerRpm!.Value, 1.0);
        }
    }

    /// <summary>
    /// Whatever the curves, steep ones on two headers too, each fan turns as fast as its curve asks at the temperature that comes out; or
    /// it is said.
    /// </summary>
    [Fact]
    public void Fans_and_temperatures_agree()
    {
        int settled = 0;
        Gen<Steering> any = Gen.Select(
                Gen.Int[0, 4].Select(i => Steering.Sources[i]),
                Gen.Double[20, 60],
                Gen.Double[0.5, 40],
                Gen.Double[5, 60],
                Gen.Double[0, 90]
            )
            .Select(
                (source, from, width, slow, more) => new Steering(source, [new(from, slow), new(from + width, Math.Min(100, slow + more))])
            );
        Gen.Select(any, any)
            .Sample(
                (first, second) =>
                {
                    AirPlan plan = Plan(MatchingExample.Liquid) with
                    {
                        Headers = [new("CPU", 1, first), new("CASE", 1, second), new("PUMP", 2, null)],
                    };
                    plan = plan with
                    {
                        Fans = [.. plan.Fans.Select(fan => fan with { Header = "CASE", MaxRpm = 1500 })],
                        Cooler = plan.Cooler! with { FanHeader = "CPU", PumpHeader = "PUMP" },
                    };
                    AirAnswer air = Solve(MatchingExample.Liquid, plan);
                    Interlocked.Add(ref settled, air.Converged ? 1 : 0);
                    if (air.Converged)
                    {
                        Assert.Equal(100 * second.Share(air.SourceC(second.Source)), air.Fans[0].Percent, 0.11);
                    }
                },
                iter: 400
            );
        Assert.InRange(settled, 392, 400);
    }

    [Fact]
    public void An_open_panel_never_warms_and_dust_never_cools()
    {
        foreach (CoolerPart cooler in (CoolerPart[])[MatchingExample.Tower, MatchingExample.Liquid])
        {
            AirPlan plan = Plan(cooler);
            AirAnswer closed = Solve(cooler, plan),
                open = Solve(cooler, plan with { PanelOff = true }),
                dusty = Solve(cooler, plan with { Filter = FilterState.Dusty });
            Assert.True(open.ProcessorC <= closed.ProcessorC + 0.05 && open.CardC <= closed.CardC + 0.05);
            Assert.True(dusty.ProcessorC >= closed.ProcessorC - 0.05 && dusty.CardC >= closed.CardC - 0.05);
            Assert.True(closed.Fans.Sum(fan => Math.Max(0, fan.InflowM3PerH)) <= closed.ExchangeM3PerH + 0.01);
        }
    }

    /// <summary>In front a radiator breathes the room and warms the case; on top it is the other way round.</summary>
    [Fact]
    public void Where_a_radiator_hangs_trades_one_chip_against_the_other()
    {
        AirQuestion radiator = AirComparison
            .Of(Build, MatchingExample.Liquid, Plan(MatchingExample.Liquid))
            .Single(question => question.Id == "radiator");
        AirWay front = radiator.Ways.Single(way => way.Title == "in front, blowing in"),
            top = radiator.Ways.Single(way => way.Title == "on top, blowing out");
        Assert.True(front.ProcessorC < top.ProcessorC - 1 && front.CardC > top.CardC + 1, radiator.Sentence);
        Assert.StartsWith("Processor coolest with in front", radiator.Sentence, StringComparison.Ordinal);
        Assert.False(radiator.Ways.Single(way => way.Title == "at the rear, blowing out").Fits, "240 mm do not go where 120 are");
        Assert.Single(radiator.Ways, way => way.IsNow);
    }

    /// <summary>Fans that follow the processor rest while the card works alone.</summary>
    [Fact]
    public void Fans_that_follow_the_wrong_chip_starve_the_other()
    {
        AirPlan plan = Plan(MatchingExample.Liquid);
        AirQuestion follow = AirComparison
            .Of(Build, MatchingExample.Liquid, plan with { Fans = [.. plan.Fans.Select(fan => fan with { Header = "CPU" })] })
            .Single(question => question.Id == "follow");
        AirWay Way(string title) => follow.Ways.Single(way => way.Title == title);
        Assert.True(Way("the processor").CardAloneC > Way("the hotter of the two").CardAloneC + 2);
        Assert.True(Way("the hotter of the two").ProcessorC <= Way("the card").ProcessorC + 0.5);
    }

    [Fact]
    public void More_in_than_out_is_pressure_and_turning_a_fan_is_seen()
    {
        AirPlan plan = Plan(MatchingExample.Tower);
        AirQuestion balance = AirComparison
            .Of(Build, MatchingExample.Tower, plan with { Fans = [.. plan.Fans, new PlannedFan("third", "front", true, 120, 1300)] })
            .Single(question => question.Id == "balance");
        Assert.Equal(["2 case fans in, 1 out", "1 case fan in, 2 out"], balance.Ways.Select(way => way.Title));
        Assert.True(balance.Ways[0].CasePa > balance.Ways[1].CasePa && balance.Ways[1].Pressure == AirPressure.MoreOut);
        Assert.Equal(3, AirComparison.Of(Build, MatchingExample.Tower, plan).Single(question => question.Id == "balance").Ways.Count);
        AirAnswer against = Solve(
            MatchingExample.Tower,
            plan with
            {
                Fans =
                [
                    new("weak", "front", true, 120, 300),
                    new("strong", "top", true, 140, 2500),
                    new("strong-too", "top", true, 140, 2500),
                ],
            }
        );
        Assert.True(against.Fans[0].Overcome && against.Pressure == AirPressure.MoreIn, "the weak one is blown through");
    }

    [Theory]
    [InlineData("cpu", 66.0, null, true)]
    [InlineData("coolant", 66.0, null, true)]
    [InlineData("cpu-gpu", 68.0, 60.0, true)]
    [InlineData("cpu", 20.0, null, false)]
    [InlineData("cpu", 64.0, 12.0, false)]
    public void A_steering_holds_what_it_says(string source, double limitC, double? noise, bool holds)
    {
        AirPlan plan = Plan(MatchingExample.Liquid);
        SteeringAdvice advice = SteeringPlan.Of(Build, MatchingExample.Liquid, plan, 0, source, limitC, noise);
        Assert.Equal(holds, advice.Holds);
        Assert.Null((plan with { Headers = [plan.Headers[0] with { Steering = advice.Steering }, .. plan.Headers.Skip(1)] }).Problem());
        AirAnswer typed = Solve(
            MatchingExample.Liquid,
            plan with
            {
                Headers = [plan.Headers[0] with { Steering = advice.Steering }, .. plan.Headers.Skip(1)],
            }
        );
        Assert.Equal(advice.ProcessorC!.Value, typed.ProcessorC!.Value, 0.01);
        Assert.Equal(advice.NoiseDba, typed.NoiseDba, 0.01);
        if (holds)
        {
            Assert.InRange(typed.ProcessorC.Value, 0, limitC + 0.7);
            Assert.True(noise is null || typed.NoiseDba <= noise + 0.5);
            Assert.True(advice.RestingDba <= advice.NoiseDba);
        }

        Assert.Equal(source == "coolant", advice.LateMinutes is not null);
    }

    [Fact]
    public void What_cannot_be_held_is_met_at_full_before_the_wanted_limit()
    {
        Build hot = Build with { Processor = Build.Processor with { SustainedPowerW = 260 } };
        SteeringAdvice advice = SteeringPlan.Of(hot, MatchingExample.Tower, Plan(MatchingExample.Tower), 0, "cpu", 80, null);
        Assert.False(advice.Holds);
        SteeringPoint full = advice.Steering.Points.First(point => point.Percent >= 100);
        Assert.InRange(full.C, 0, 80);
    }

    /// <summary>The quietest way is no advice where it overheats a chip.</summary>
    [Fact]
    public void A_way_over_a_limit_is_marked_and_not_advised()
    {
        AirPlan plan = Plan(MatchingExample.Tower);
        AirQuestion Panel(double limitC) =>
            AirComparison
                .Of(Build with { Processor = Build.Processor with { TemperatureLimitC = limitC } }, MatchingExample.Tower, plan)
                .Single(question => question.Id == "panel");
        double[] at = [.. Panel(120).Ways.Select(way => way.ProcessorC!.Value).Order()];
        Assert.All(Panel(120).Ways, way => Assert.Empty(way.Over));

        // The hottest of them goes over, the others do not.
        AirQuestion one = Panel((at[^1] + at[^2]) / 2);
        AirWay over = Assert.Single(one.Ways, way => way.Over.Count > 0);
        Assert.Contains("over its limit", over.Over[0], StringComparison.Ordinal);
        Assert.Contains(
            $"{char.ToUpperInvariant(over.Title[0])}{over.Title[1..]} goes over a limit",
            one.Sentence,
            StringComparison.Ordinal
        );
        Assert.DoesNotContain($"with {over.Title}", one.Sentence, StringComparison.Ordinal);

        AirQuestion none = Panel(at[0] - 1);
        Assert.All(none.Ways, way => Assert.NotEmpty(way.Over));
        Assert.Contains("None of them holds every limit", none.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void Fans_that_the_firmware_may_refuse_are_told()
    {
        Build prebuilt = Build with { Case = Build.Case! with { Obstacles = [CaseObstacle.OwnFans] } };
        AirPlan own = AirPlanner.Start(prebuilt, MatchingExample.Tower);
        Assert.DoesNotContain(AirPlanner.Findings(prebuilt, MatchingExample.Tower, own), finding => finding.Code == CaseObstacle.OwnFans);
        AirPlan more = own with { Fans = [.. own.Fans, new PlannedFan("new", "top", false, 120, 1777)] };
        AirFinding told = Assert.Single(AirPlanner.Findings(prebuilt, MatchingExample.Tower, more), finding =>
            finding.Code == CaseObstacle.OwnFans
        );
        Assert.Equal("new", told.Subject);
    }

    /// <summary>However hot the chip may be and however quiet it is wanted, a loop's liquid is spared where the fans can.</summary>
    [Fact]
    public void A_loop_is_not_cooked_for_silence()
    {
        Build hungry = Build with { Processor = Build.Processor with { SustainedPowerW = 200, InsideResistanceCPerW = 0.05 } };
        SteeringAdvice advice = SteeringPlan.Of(hungry, MatchingExample.Liquid, Plan(MatchingExample.Liquid), 0, "coolant", 94, 60);
        Assert.True(advice.Holds);
        AirPlan typed = Plan(MatchingExample.Liquid);
        typed = typed with { Headers = [typed.Headers[0] with { Steering = advice.Steering }, .. typed.Headers.Skip(1)] };
        Assert.InRange(new AirSolver(hungry, MatchingExample.Liquid, typed).Solve().LiquidC!.Value, 0, 51);
        Assert.InRange(advice.Steering.Points[^1].C, 0, 54);
        Assert.Equal(100, advice.Steering.Points[^1].Percent);
    }

    [Fact]
    public void Headers_say_what_they_carry()
    {
        AirPlan plan = Plan(MatchingExample.Liquid) with
        {
            Headers = [new("CPU", 1, AirPlanner.SteeringOf("cpu")), new("PUMP", 2, null), new("CASE", 0.3, AirPlanner.SteeringOf("board"))],
        };
        plan = plan with
        {
            Fans =
            [
                new("a", "rear", false, 120, 1200, CurrentA: 0.2, Header: "CASE"),
                new("b", "top", false, 120, 1200, CurrentA: 0.2, Header: "CASE"),
                new("c", "top", false, 120, 1200, Header: null),
            ],
            Cooler = new("front", true, "CPU", "CPU"),
        };
        IReadOnlyList<HeaderLoad> loads = HeaderDesk.Of(MatchingExample.Liquid, plan);
        Assert.Equal(
            [("CPU", 1.0, true, false), ("PUMP", 0.0, false, false), ("CASE", 0.4, true, true)],
            loads.Take(3).Select(load => (load.Name, Math.Round(load.CurrentA!.Value, 3), load.Splitter, load.Overloaded))
        );
        Assert.Contains("The pump is on CPU, which is steered: set it to full, or it slows the pump.", loads[0].Sentences);
        Assert.Contains("CASE carries 0.3 A and is asked for 0.4 A: move one, or take a hub with its own supply.", loads[2].Sentences);
        Assert.Equal(("supply", "c"), (loads[3].Name, loads[3].Loads.Single()));
        HeaderLoad unknown = HeaderDesk.Of(null, plan with { Cooler = null, Fans = [plan.Fans[0] with { CurrentA = null }] })[2];
        Assert.Equal((null, "Read on the label what the rear fan draws."), (unknown.CurrentA, unknown.Sentences.Single()));
    }

    [Fact]
    public void What_does_not_go_in_is_told_with_its_place()
    {
        AirPlan plan = Plan(MatchingExample.Liquid) with { Cooler = new("front", true, "CPU", "PUMP") };
        Assert.Empty(AirPlanner.Findings(Build, MatchingExample.Liquid, plan));
        IReadOnlyList<AirFinding> found = AirPlanner.Findings(
            Build,
            MatchingExample.Liquid,
            plan with
            {
                Fans = [new("a", "front", true, 120, 1200), new("b", "rear", false, 140, 1200), new("c", "side", true, 120, 1200)],
            }
        );
        Assert.Equal([("place-full", "a"), ("fan-size", "b"), ("no-place", "c")], found.Select(one => (one.Code, one.Subject)));
        Build tight = Build with { Graphics = new GraphicsPart(220, 330) };
        AirFinding card = Assert.Single(AirPlanner.Findings(tight, MatchingExample.Liquid, plan));
        Assert.Equal(("card-length", 22.0), (card.Code, card.ByMm));
        Assert.Equal(-22, AirPlanner.Clearances(tight, MatchingExample.Liquid, plan).Single(one => one.Id == "card-front").FreeMm);
        Assert.Contains(
            "there is no header “X”",
            (plan with { Fans = [new("a", "front", true, 120, 1200, Header: "X")] }).Problem(),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "fans[0].place: “attic” is none of",
            (plan with { Fans = [new("a", "attic", true, 120, 1200)] }).Problem(),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "each is hotter than the one before",
            (plan with { Headers = [new("CPU", 1, new Steering("cpu", [new(60, 40), new(50, 60)])), new("PUMP", 2, null)] }).Problem(),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// The plan of a machine as it is: pump on full, cooler on the processor's header, case fans on the rest; a radiator takes the fans of
    /// its place, but for those that fit beside it.
    /// </summary>
    [Fact]
    public void A_machine_as_it_is_has_its_plan()
    {
        FanNote fan = new("front", "in", 120, 900);
        Build wide = Build with
        {
            Case = Build.Case! with
            {
                FanPlaces = [new("front", [120], 3), new("rear", [120], 1)],
                Fans = [fan, fan, fan, fan with { Place = "rear", Direction = "out" }],
            },
        };
        AirPlan plan = AirPlanner.Start(wide with { FansFollow = "coolant" }, MatchingExample.Liquid);
        Assert.Equal(["front", "rear"], plan.Fans.Select(one => one.Place));
        Assert.Equal(
            ("front", true, "CPU", "PUMP"),
            (plan.Cooler!.Place, plan.Cooler.Inward, plan.Cooler.FanHeader, plan.Cooler.PumpHeader)
        );
        Assert.Equal("coolant", plan.Headers[0].Steering!.Source);
        Assert.Equal((900.0, null), (plan.Fans[0].MaxRpm, plan.Fans[0].Header)); // its full speed is not known: it runs as noted
        Assert.Null(plan.Problem());
        Assert.Empty(AirPlanner.Findings(wide, MatchingExample.Liquid, plan));

        // Nothing known but the chip: headers are assumed, their rating is asked for.
        AirPlan bare = AirPlanner.Start(new Build(Build.Processor), MatchingExample.Tower);
        Assert.Equal([("CPU", null), ("CASE", null)], bare.Headers.Select(header => (header.Name, header.MaxCurrentA)));
        Assert.Contains(
            "What CPU can carry stands in the board’s handbook; 1 A is usual.",
            HeaderDesk.Of(MatchingExample.Tower, bare)[0].Sentences
        );
        Assert.Empty(AirPlanner.PlacesOf(null));
        Assert.Equal(["front", "rear"], AirPlanner.PlacesOf(MatchingExample.Build.Case).Select(place => place.Place).Order());
    }
}
