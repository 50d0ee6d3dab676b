using System.Text.Json;
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
        Assert.Equal(truth.GetProperty("verdict").GetString(), result.Verdict);
        Assert.Equal(truth.Number("referencePowerW"), result.Change!.ReferencePowerW, 0.5);
        Assert.InRange(Math.Abs(truth.Number("atReferencePowerC") - result.Change.AtReferencePowerC), 0, result.Change.HalfWidthC);
        // One run a side: 1.0 °C a run at reference power, so 1.96·√2 and a little for what the runs themselves leave open.
        Assert.InRange(result.Change.HalfWidthC, 1.96 * Math.Sqrt(2), 3.2);
    }

    /// <summary>Welch's interval against an independent computation (R: t.test of these two samples, in °C/W).</summary>
    [Fact]
    public void Several_runs_a_side_follow_Welch()
    {
        ComparisonResult result = Comparer.Compare(Runs(0.50, 0.53, 0.52, 0.49), Runs(0.40, 0.44, 0.36));
        // means 0.51 and 0.40; s² = 0.000333 and 0.0016; u² = 0.00008333 + 0.00053333; ν = 2.6327
        Assert.Equal(-0.11, result.Change!.ResistanceCPerW, 6);
        double degrees = Math.Pow(0.000616667, 2) / ((Math.Pow(0.0000833333, 2) / 3) + (Math.Pow(0.000533333, 2) / 2));
        double t = MathNet.Numerics.Distributions.StudentT.InvCDF(0, 1, degrees, 0.975);
        Assert.Equal(2.63, degrees, 0.01);
        Assert.Equal(t * Math.Sqrt(0.000616667), result.Change.HalfWidthCPerW, 1e-4);
        Assert.Equal(ComparisonResult.Improved, result.Verdict);
    }

    [Fact]
    public void A_run_against_itself_shows_nothing()
    {
        ConditionedRun run = Example.Run("01-tower-healthy");
        ComparisonResult result = Comparer.Compare([run], [run]);
        Assert.Equal((ComparisonResult.NoMeasurableChange, 0.0), (result.Verdict, result.Change!.AtReferencePowerC));
        Assert.False(result.Matters);
    }

    [Fact]
    public void Exchanging_the_sides_turns_the_change_round()
    {
        ComparisonResult there = Comparer.Compare(Runs(0.50), Runs(0.40)), back = Comparer.Compare(Runs(0.40), Runs(0.50));
        Assert.Equal((ComparisonResult.Improved, ComparisonResult.Worse), (there.Verdict, back.Verdict));
        Assert.Equal(there.Change!.ResistanceCPerW, -back.Change!.ResistanceCPerW, 9);
    }

    [Theory]
    [InlineData("panel-differs")]
    [InlineData("workload-differs")]
    [InlineData("fan-policy-differs")]
    [InlineData("fan-percent-differs")]
    public void A_different_condition_blocks_and_says_what_would_make_it_fair(string code)
    {
        RunConditions conditions = new("all-core", "closed", "fixed", 60), other = code switch
        {
            "panel-differs" => conditions with { Panel = "side-off" },
            "workload-differs" => conditions with { Workload = "vector" },
            "fan-policy-differs" => conditions with { FanPolicy = "auto", FanPercent = null },
            _ => conditions with { FanPercent = 80 },
        };
        ComparisonResult result = Comparer.Compare(Runs(conditions, 0.50), Runs(other, 0.40));
        Obstacle obstacle = Assert.Single(result.Obstacles, o => o.Severity == Obstacle.Blocking);
        Assert.Equal((ComparisonResult.NotComparable, false, code), (result.Verdict, result.Comparable, obstacle.Code));
        Assert.NotEmpty(obstacle.Remedy);
        Assert.Null(result.Change);
    }

    [Theory]
    [InlineData(true, "room-unknown")]
    [InlineData(false, "no-power")]
    public void A_side_without_room_or_power_blocks(bool room, string code)
    {
        ConditionedRun run = Runs(0.5)[0];
        ConditionedRun lacking = run with { Analysis = room ? run.Analysis with { AmbientC = null, Resistance = null } : run.Analysis with { Resistance = null, Load = run.Analysis.Load! with { SustainedPowerW = null } } };
        Assert.Contains(Comparer.Compare([run], [lacking]).Obstacles, o => o.Code == code && o.Severity == Obstacle.Blocking);
    }

    [Fact]
    public void A_run_stopped_early_is_compared_by_where_it_was_going()
    {
        ConditionedRun early = Runs(0.40)[0];
        early = early with { Analysis = early.Analysis with { Load = early.Analysis.Load! with { Settled = false, ForecastFinalTemperatureC = early.Analysis.Load.SustainedTemperatureC + 6 } } };
        ComparisonResult result = Comparer.Compare(Runs(0.50), [early]);
        Assert.Contains(result.Obstacles, o => o.Code == "not-settled" && o.Severity == Obstacle.Corrected);
        Assert.Equal(-0.10 + (6.0 / 120), result.Change!.ResistanceCPerW, 6);
        Assert.True(result.Change.HalfWidthCPerW > Comparer.Compare(Runs(0.50), Runs(0.40)).Change!.HalfWidthCPerW);
    }

    [Theory]
    [InlineData(0.50, 0.496, false)]
    [InlineData(0.50, 0.40, true)]
    public void Measurable_and_of_use_are_two_statements(double before, double after, bool matters) =>
        Assert.Equal(matters, Comparer.Compare(Runs(before, before + 0.001, before - 0.001, before), Runs(after, after + 0.001, after - 0.001, after)).Matters);

    [Theory]
    [InlineData(true, false, 0.40, "Fixed:")]
    [InlineData(true, true, 0.40, "Better, not fixed:")]
    [InlineData(false, false, 0.40, "Better:")]
    [InlineData(false, false, 0.501, "No measurable change:")]
    [InlineData(false, true, 0.60, "Worse:")]
    public void The_sentence_leads_with_the_outcome(bool heldBefore, bool heldAfter, double resistance, string lead)
    {
        ConditionedRun before = Held(Runs(0.50)[0], heldBefore), after = Held(Runs(resistance)[0], heldAfter);
        VerdictWords.Sentence sentence = VerdictWords.Of(Comparer.Compare([before], [after]), before.Analysis, after.Analysis);
        Assert.Equal(lead, sentence.Lead);
        Assert.EndsWith(".", sentence.ToString(), StringComparison.Ordinal);
    }

    private static ConditionedRun Held(ConditionedRun run, bool held) =>
        held ? run with { Analysis = run.Analysis with { Limits = [new Limit(Limit.Thermal, 400, 0.5, 8, 130)] } } : run;

    private static ConditionedRun[] Runs(params double[] resistances) => Runs(new RunConditions("all-core", "closed", "auto"), resistances);

    /// <summary>Runs of 120 W in a room of 22 °C with these resistances, °C/W.</summary>
    private static ConditionedRun[] Runs(RunConditions conditions, params double[] resistances) =>
    [
        .. resistances.Select(r => new ConditionedRun(
            new RunAnalysis(1800, 1, 1800, [], [new Phase(Phase.Load, 200, 1600)], 22, null,
                new LoadFigures(90, 22 + (120 * r), 0.2, 120, 4400, 1500, true, 900, 22 + (120 * r), 1320, 1600),
                new ResistanceFigures(r, 0.002), [], (95 - 22) / r, null, null, null, []),
            conditions)),
    ];
}
