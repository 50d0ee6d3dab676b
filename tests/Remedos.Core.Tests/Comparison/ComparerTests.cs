using System.Text.Json;
using CsCheck;
using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Comparison;

public sealed class ComparerTests
{
    [Theory]
    [InlineData("paste", "02-paste-before", "03-paste-after")]
    [InlineData("loop", "04-loop-before", "05-loop-after-tower")]
    public void The_true_change_lies_within_the_half_width(string change, string before, string after)
    {
        JsonElement truth = Example.Truth("runs").GetProperty("changes").GetProperty(change);
        ComparisonResult result = Comparer.Compare([Example.Run(before)], [Example.Run(after)]);
        Assert.Equal(truth.GetProperty("verdict").GetString(), Kebab.Of(result.Verdict));
        Assert.Equal(truth.Number("referencePowerW"), result.Change!.ReferencePowerW, 0.5);
        Assert.InRange(Math.Abs(truth.Number("atReferencePowerC") - result.Change.AtReferencePowerC), 0, result.Change.HalfWidthC);
        // One mount a side: t with a prior's six degrees of freedom times √2 of a degree, and a little for what the runs leave open.
        Assert.InRange(result.Change.HalfWidthC, 2.0 * Math.Sqrt(2), 3.8);
    }

    /// <summary>
    /// A hand computation: s_m = 1 °C with six degrees of freedom, s_w = 0.3 with ten and the repeats' own, one mount a side.
    /// </summary>
    [Fact]
    public void The_interval_is_that_of_two_levels()
    {
        // At 120 W: two mounts of one run each differ by 1.2 °C, so SS = 0.72 and s_m² = (6·1 + 0.72) / 7.
        ConditionedRun[] before = [On("a", 0.50), On("b", 0.51)],
            after = [On("c", 0.40)];
        ComparisonResult result = Comparer.Compare(before, after);
        double mount = (6 + 0.72) / 7,
            variance = (mount * 1.5) + (0.09 * 1.5) + (0.01 * 1.5);
        double degrees =
            variance * variance / ((Math.Pow(mount * 1.5, 2) / 7) + (Math.Pow(0.09 * 1.5, 2) / 10) + (Math.Pow(0.01 * 1.5, 2) / 1000));
        double half = MathNet.Numerics.Distributions.StudentT.InvCDF(0, 1, degrees, 0.975) * Math.Sqrt(variance);
        Assert.Equal(-12.6, result.Change!.AtReferencePowerC, 1e-6);
        Assert.Equal(half, result.Change.HalfWidthC, 1e-6);
        Assert.Equal((2, 2, 1, 1), (result.Before.Runs, result.Before.Mounts, result.After.Runs, result.After.Mounts));
    }

    /// <summary>Repeats on one mount are no mounts: they narrow only what they scatter by themselves.</summary>
    [Fact]
    public void Repeats_on_a_mount_are_not_mounts()
    {
        ComparisonResult repeats = Comparer.Compare(
            [On("a", 0.50), On("a", 0.501), On("a", 0.499)],
            [On("b", 0.49), On("b", 0.491), On("b", 0.489)]
        );
        ComparisonResult mounts = Comparer.Compare(
            [On("a", 0.50), On("b", 0.501), On("c", 0.499)],
            [On("d", 0.49), On("e", 0.491), On("f", 0.489)]
        );
        Assert.InRange(repeats.Change!.HalfWidthC, 3.0, 3.6);
        Assert.InRange(mounts.Change!.HalfWidthC, 1.2, 2.0);
        Assert.Equal(Verdict.NoMeasurableChange, repeats.Verdict);
    }

    [Fact]
    public void A_run_against_itself_shows_nothing()
    {
        ConditionedRun run = Example.Run("01-tower-healthy");
        ComparisonResult result = Comparer.Compare([run], [run]);
        Assert.Equal((Verdict.NoMeasurableChange, 0.0), (result.Verdict, result.Change!.AtReferencePowerC));
        Assert.False(result.Matters);
    }

    [Fact]
    public void Exchanging_the_sides_turns_the_change_round()
    {
        ComparisonResult there = Comparer.Compare(Runs(0.50), Runs(0.40)),
            back = Comparer.Compare(Runs(0.40), Runs(0.50));
        Assert.Equal((Verdict.Improved, Verdict.Worse), (there.Verdict, back.Verdict));
        Assert.Equal(there.Change!.ResistanceCPerW, -back.Change!.ResistanceCPerW, 9);
    }

    [Theory]
    [InlineData("panel-differs")]
    [InlineData("workload-differs")]
    [InlineData("fan-policy-differs")]
    [InlineData("fan-percent-differs")]
    public void A_different_condition_blocks_and_says_what_would_make_it_fair(string code)
    {
        RunConditions conditions = new("all-core", "closed", "fixed", 60),
            other = code switch
            {
                "panel-differs" => conditions with { Panel = "side-off" },
                "workload-differs" => conditions with { Workload = "vector" },
                "fan-policy-differs" => conditions with { FanPolicy = "auto", FanPercent = null },
                _ => conditions with { FanPercent = 80 },
            };
        ComparisonResult result = Comparer.Compare(Runs(conditions, 0.50), Runs(other, 0.40));
        Obstacle obstacle = Assert.Single(result.Obstacles, o => o.Severity == ObstacleWeight.Blocking);
        Assert.Equal((Verdict.NotComparable, false, code), (result.Verdict, result.Comparable, obstacle.Code));
        Assert.NotEmpty(obstacle.Remedy);
        Assert.Null(result.Change);
    }

    [Theory]
    [InlineData(true, "room-unknown")]
    [InlineData(false, "no-power")]
    public void A_side_without_room_or_power_blocks(bool room, string code)
    {
        ConditionedRun run = Runs(0.5)[0];
        ConditionedRun lacking = run with
        {
            Analysis = room
                ? run.Analysis with
                {
                    AmbientC = null,
                    Resistance = null,
                }
                : run.Analysis with
                {
                    Resistance = null,
                    Load = run.Analysis.Load! with { SustainedPowerW = null },
                },
        };
        Assert.Contains(Comparer.Compare([run], [lacking]).Obstacles, o => o.Code == code && o.Severity == ObstacleWeight.Blocking);
    }

    [Fact]
    public void A_run_stopped_early_is_compared_by_where_it_was_going()
    {
        ConditionedRun early = Runs(0.40)[0];
        early = early with
        {
            Analysis = early.Analysis with
            {
                Load = early.Analysis.Load! with
                {
                    Settled = false,
                    ForecastFinalTemperatureC = early.Analysis.Load.SustainedTemperatureC + 6,
                },
            },
        };
        ComparisonResult result = Comparer.Compare(Runs(0.50), [early]);
        Assert.Contains(result.Obstacles, o => o.Code == "not-settled" && o.Severity == ObstacleWeight.Corrected);
        Assert.Equal(-0.10 + (6.0 / 120), result.Change!.ResistanceCPerW, 6);
        Assert.True(result.Change.HalfWidthCPerW > Comparer.Compare(Runs(0.50), Runs(0.40)).Change!.HalfWidthCPerW);
    }

    /// <summary>A room that is warmer by any amount changes no figure but the rooms themselves.</summary>
    [Fact]
    public void The_room_is_no_change_of_watts() =>
        Gen.Double[-12, 12]
            .Sample(warmer =>
            {
                ComparisonResult result = Comparer.Compare(Runs(0.50), [InRoom(Runs(0.50)[0], 22 + warmer)]);
                Assert.Equal(0, result.Change!.AtReferencePowerC, 1e-9);
                Assert.Equal(0, result.Change.SustainablePowerW!.Value, 1e-9);
                Assert.False(result.Matters);
            });

    /// <summary>A limit that is gone only because the day was cool is not gone.</summary>
    [Theory]
    [InlineData(22, true)]
    [InlineData(9, false)]
    public void A_limit_is_gone_only_in_one_room(double roomAfter, bool gone)
    {
        ConditionedRun before = Held(Runs(0.61)[0], true);
        Assert.Equal(gone, Comparer.Compare([before], [InRoom(Runs(gone ? 0.45 : 0.60)[0], roomAfter)]).LimitGone);
    }

    /// <summary>Half of the watts with the same own resistance is no change, whatever board and supply add.</summary>
    [Fact]
    public void Other_heat_does_not_pass_for_resistance()
    {
        ConditionedRun Watts(double watts) => OfRise(watts, 8 + (0.4 * watts), otherHeatC: 8);
        ComparisonResult result = Comparer.Compare([Watts(120)], [Watts(60)]);
        Assert.Equal(0, result.Change!.AtReferencePowerC, 1e-9);
        Assert.Contains(result.Obstacles, o => o is { Code: "power-differs", Severity: ObstacleWeight.Corrected });
    }

    /// <summary>
    /// Slower fans after a good repair: the repair and the fans are told apart, and add up to what the thermometer shows.
    /// </summary>
    [Fact]
    public void The_fans_part_is_told_apart()
    {
        ConditionedRun before = WithFan(Runs(0.50)[0], 1600),
            after = WithFan(Runs(0.45)[0], 800);
        ComparisonResult result = Comparer.Compare([before], [after]);
        // 0.15 °C/W at 800 rpm would be 0.15·2^−0.7 at 1600: 0.0577 °C/W less, 6.92 °C at 120 W.
        Assert.Equal(120 * 0.15 * (1 - Math.Pow(2, -0.7)), result.Change!.FanPartC!.Value, 1e-6);
        Assert.Equal(-6 - result.Change.FanPartC.Value, result.Change.AtReferencePowerC, 1e-6);
        Assert.Equal(-6, result.Change.AsItRunsC, 1e-6);
        Assert.Equal(Verdict.Improved, result.Verdict);
        Assert.Contains("as it runs", VerdictWords.Of(result).ToString(), StringComparison.Ordinal);
    }

    /// <summary>Turned down until it is as quiet as before, a louder fan's gain may be no gain.</summary>
    [Fact]
    public void At_equal_noise_a_louder_fan_gains_nothing()
    {
        ConditionedRun before = WithFan(Runs(0.50)[0], 1000, 34),
            after = WithFan(Runs(0.50 - (0.15 * (Math.Pow(2, 0.7) - 1)))[0], 2000, 34 + (50 * Math.Log10(2)));
        ComparisonResult result = Comparer.Compare([before], [after]);
        Assert.True(result.Change!.AsItRunsC < -6);
        Assert.Equal(0, result.Change.AtReferencePowerC, 1e-6);
        Assert.Equal(0, result.Noise!.AtEqualNoiseC!.Value, 1e-6);
        Assert.Equal(34, result.Noise.AtEqualTemperatureDba!.Value, 1e-3);
    }

    [Theory]
    [InlineData("power-cap-differs")]
    [InlineData("clock-lock-differs")]
    [InlineData("voltage-lock-differs")]
    [InlineData("card-load-differs")]
    [InlineData("processor-differs")]
    public void What_was_set_on_one_side_only_blocks(string code)
    {
        RunConditions conditions = new("all-core", "closed", "auto", RatedPowerW: 125) { CardLoad = "idle" },
            other = code switch
            {
                "power-cap-differs" => conditions with { PowerCapW = 65 },
                "clock-lock-differs" => conditions with { ClockLockMHz = 4000 },
                "voltage-lock-differs" => conditions with { VoltageLockV = 1.1 },
                "card-load-differs" => conditions with { CardLoad = "full" },
                _ => conditions with { RatedPowerW = 65 },
            };
        Assert.Equal(
            code,
            Assert
                .Single(Comparer.Compare(Runs(conditions, 0.5), Runs(other, 0.4)).Obstacles, o => o.Severity == ObstacleWeight.Blocking)
                .Code
        );
        Assert.DoesNotContain(Comparer.Compare(Runs(other, 0.5), Runs(other, 0.4)).Obstacles, o => o.Severity == ObstacleWeight.Blocking);
    }

    /// <summary>Nothing is assumed: a condition that nobody stated is told as unknown, also when neither side has it.</summary>
    [Fact]
    public void Unknown_is_not_equal()
    {
        ComparisonResult result = Comparer.Compare(Runs(new RunConditions(), 0.5), Runs(new RunConditions(), 0.4));
        Assert.True(result.Comparable);
        Assert.Superset(
            new HashSet<string> { "workload-unknown", "panel-unknown", "fan-policy-unknown" },
            result.Obstacles.Select(o => o.Code).ToHashSet()
        );
    }

    /// <summary>A card's watts that differ by more than 60 heat the processor's air differently.</summary>
    [Theory]
    [InlineData(250, 190, false)]
    [InlineData(250, 180, true)]
    public void A_card_that_worked_on_one_side_only_blocks(double before, double after, bool blocks)
    {
        ConditionedRun Card(double watts) =>
            Runs(0.5)[0] is var run
                ? run with
                {
                    Analysis = run.Analysis with { Beside = new BesideFigures(null, null, watts, null, null, null, null) },
                }
                : run;
        Assert.Equal(
            blocks,
            Comparer
                .Compare([Card(before)], [Card(after)])
                .Obstacles.Any(o => o is { Code: "card-power-differs", Severity: ObstacleWeight.Blocking })
        );
    }

    [Fact]
    public void Scores_are_compared_with_their_scatter()
    {
        ConditionedRun Scored(double score) => Runs(new RunConditions("all-core", "closed", "auto") { Score = score }, 0.5)[0];
        Change change = Comparer.Compare([Scored(1000), Scored(1010)], [Scored(1077)]).Change!;
        Assert.Equal(100 * ((1077 / 1005.0) - 1), change.ScorePercent!.Value, 1e-9);
        // 1 % with six degrees of freedom, and what two runs show: s² = (6·10⁻⁴ + 4.95·10⁻⁵)/7.
        double sd = Math.Sqrt(((6 * 1e-4) + (2 * Math.Pow(5 / 1005.0, 2))) / 7);
        Assert.Equal(
            100 * sd * Math.Sqrt(1.5) * MathNet.Numerics.Distributions.StudentT.InvCDF(0, 1, 7, 0.975),
            change.ScoreHalfWidthPercent!.Value,
            1e-6
        );
        Assert.True(Comparer.Compare([Scored(1000), Scored(1010)], [Scored(1077)]).Matters);
        Assert.Null(Comparer.Compare([Scored(1000)], Runs(0.5)).Change!.ScorePercent);
    }

    [Theory]
    [InlineData(0.50, 0.496, false)]
    [InlineData(0.50, 0.40, true)]
    public void Measurable_and_of_use_are_two_statements(double before, double after, bool matters) =>
        Assert.Equal(
            matters,
            Comparer.Compare(Runs(before, before + 0.001, before - 0.001, before), Runs(after, after + 0.001, after - 0.001, after)).Matters
        );

    [Theory]
    [InlineData(true, false, 0.40, "Fixed:")]
    [InlineData(true, true, 0.40, "Better, not fixed:")]
    [InlineData(false, false, 0.40, "Better:")]
    [InlineData(false, false, 0.501, "No measurable change:")]
    [InlineData(false, true, 0.66, "Worse:")]
    public void The_sentence_leads_with_the_outcome_and_says_whether_it_matters(
        bool heldBefore,
        bool heldAfter,
        double resistance,
        string lead
    )
    {
        ConditionedRun before = Held(Runs(0.50)[0], heldBefore),
            after = Held(Runs(resistance)[0], heldAfter);
        VerdictWords.Sentence sentence = VerdictWords.Of(Comparer.Compare([before], [after]));
        Assert.Equal(lead, sentence.Lead);
        Assert.Contains("easurable", sentence.ToString(), StringComparison.Ordinal);
    }

    /// <summary>Where both stand at the limit, no degrees lead: watts and clock do.</summary>
    [Fact]
    public void Where_both_throttle_watts_and_clock_lead()
    {
        VerdictWords.Sentence sentence = VerdictWords.Of(Comparer.Compare([Held(OfRise(60, 78), true)], [Held(OfRise(110, 78), true)]));
        Assert.Equal(("Better, not fixed:", "it now holds 110 W and 4.40 GHz"), (sentence.Lead, sentence.Claim));
        Assert.Contains("before, 60 W", sentence.Rest, StringComparison.Ordinal);
    }

    /// <summary>
    /// “No measurable change” says how small a change would have been found four times in five, and what would settle it.
    /// </summary>
    [Fact]
    public void An_open_question_says_what_would_settle_it()
    {
        ComparisonResult open = Comparer.Compare(Runs(0.50), Runs(0.475));
        Assert.Equal(Verdict.NoMeasurableChange, open.Verdict);
        Assert.InRange(open.SmallestDetectableC!.Value / open.Change!.HalfWidthC, 1.3, 1.5);
        Assert.Equal((2, 0), (open.Wanted!.Mounts, open.Wanted.Runs));
        Assert.Null(Comparer.Compare(Runs(0.50), Runs(0.4999)).Wanted);
        Assert.Null(Comparer.Compare(Runs(0.50), Runs(0.30)).Wanted);
    }

    /// <summary>The card is a subject of its own: nine degrees at equal watts, while the processor does not change.</summary>
    [Fact]
    public void The_card_has_its_own_verdict()
    {
        ConditionedRun Card(double c) => Runs(0.5)[0] is var run ? run with { Analysis = run.Analysis with { Graphics = GpuOf(c) } } : run;
        ComparisonResult result = Comparer.Compare([Card(86)], [Card(77)]);
        Assert.Equal((Verdict.NoMeasurableChange, Verdict.Improved), (result.Verdict, result.Graphics!.Verdict));
        Assert.Equal(-9, result.Graphics.Change!.AtReferencePowerC, 0.01);
        Assert.Null(Comparer.Compare([Card(86)], Runs(0.5)).Graphics);
    }

    private static GpuFigures GpuOf(double c) =>
        new(
            new Phase(PhaseKind.Load, 200, 1600),
            new GpuTemperature(c + 1, c, 0.2, 93),
            null,
            null,
            250,
            null,
            40,
            22,
            22,
            false,
            new ResistanceFigures((c - 22) / 250, 0.001),
            new ResistanceFigures((c - 22) / 250, 0.001),
            [],
            null
        );

    private static ConditionedRun Held(ConditionedRun run, bool held) =>
        held ? run with { Analysis = run.Analysis with { Limits = [new Limit(LimitKind.Thermal, 400, 0.5, 8, 130)] } } : run;

    private static ConditionedRun InRoom(ConditionedRun run, double roomC)
    {
        double more = roomC - 22;
        LoadFigures load = run.Analysis.Load! with
        {
            SustainedTemperatureC = run.Analysis.Load.SustainedTemperatureC + more,
            ForecastFinalTemperatureC = run.Analysis.Load.ForecastFinalTemperatureC + more,
        };
        return run with { Analysis = run.Analysis with { AmbientC = roomC, Load = load } };
    }

    private static ConditionedRun WithFan(ConditionedRun run, double rpm, double? sound = null) =>
        run with
        {
            Analysis = run.Analysis with
            {
                FanResistance = new FanResistance(0.15, 0, rpm),
                Load = run.Analysis.Load! with { SustainedFanRpm = rpm, SoundDba = sound },
            },
        };

    private static ConditionedRun On(string mount, double resistance) => Runs(resistance)[0] with { Mount = mount };

    private static ConditionedRun[] Runs(params double[] resistances) => Runs(new RunConditions("all-core", "closed", "auto"), resistances);

    /// <summary>Runs of 120 W in a room of 22 °C with these resistances, °C/W.</summary>
    private static ConditionedRun[] Runs(RunConditions conditions, params double[] resistances) =>
        [.. resistances.Select(r => OfRise(120, 120 * r) with { Conditions = conditions with { TemperatureLimitC = 95 } })];

    private static ConditionedRun OfRise(double watts, double riseC, double? otherHeatC = null)
    {
        ResistanceFigures all = new(riseC / watts, 0.0001);
        return new ConditionedRun(
            new RunAnalysis(
                1800,
                1,
                1800,
                [],
                [new Phase(PhaseKind.Load, 200, 1600)],
                22,
                null,
                new LoadFigures(90, 22 + riseC, 0.2, watts, 4400, 1500, true, 900, 22 + riseC, 1320, 1600),
                all,
                [],
                null,
                null,
                null,
                null,
                []
            )
            {
                AmbientUncertaintyC = 0.1,
                OtherHeatRiseC = otherHeatC,
                OwnResistance = otherHeatC is { } other ? new ResistanceFigures(all.ValueCPerW - (other / watts), 0.0001) : null,
            },
            new RunConditions("all-core", "closed", "auto", TemperatureLimitC: 95)
        );
    }
}
