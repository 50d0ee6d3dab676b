using Remedos.Core.Airflow;
using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;
using Remedos.Core.Tests.Matching;

namespace Remedos.Core.Tests.Learning;

/// <summary>What a bench learns of a cooler: nothing from nothing, a little from one machine, nearly all from many.</summary>
public sealed class CoolerLeagueTests
{
    private const double Rpm = 1200,
        Watts = 100;

    /// <summary>A run of a machine whose cooler is so much worse than its catalogue.</summary>
    private static LeagueRun Run(Guid machine, double factor, CoolerPart? cooler = null)
    {
        CoolerPart known = cooler ?? MatchingExample.Tower;
        Build build = MatchingExample.Build with { Graphics = null };
        // The case's air as the Air place computes it, the processor working alone.
        double caseAir = new AirSolver(build, known, AirPlanner.Start(build, known)).Solve(Watts, 0, 22).CaseAirC - 22;
        double total = build.Processor.InsideResistanceCPerW!.Value + (caseAir / Watts) + (factor * new CoolerCurve(known).At(Rpm));
        LoadFigures load = new(80, 78, 0.3, Watts, 4000, Rpm, true, 300, 78, 400, 500);
        return new LeagueRun(machine, build, known, Analysis(load, new ResistanceFigures(total, 0.01)));
    }

    private static RunAnalysis Analysis(LoadFigures load, ResistanceFigures resistance) =>
        new(100, 1, 100, [], [], 22, null, load, resistance, [], null, null, null, null, []);

    [Fact]
    public void The_more_machines_the_less_the_catalogue_counts()
    {
        Assert.Null(CoolerLeague.Of([]));
        Guid one = Guid.NewGuid();
        LeagueEntry single = CoolerLeague.Of([Run(one, 1.2)])!,
            same = CoolerLeague.Of([Run(one, 1.2), Run(one, 1.2), Run(one, 1.2)])!,
            many = CoolerLeague.Of([.. Enumerable.Range(0, 30).Select(_ => Run(Guid.NewGuid(), 1.2))])!;
        // A normal mean with known spreads, by hand: half-widths of 10 % before and 20 % a machine.
        Assert.Equal(Math.Exp(Math.Log(1.2) * 25 / (25 + 100)), single.Factor, 1e-6);
        Assert.Equal(1, same.Machines);
        Assert.Equal(single.Factor, same.Factor, 1e-9);
        Assert.InRange(many.Factor, 1.17, 1.18);
        Assert.True(many.HalfWidthShare < single.HalfWidthShare);
        Assert.Equal("Measured on this bench in 30 machines: 17 % worse than its catalogue.", many.Sentence);
    }

    /// <summary>Case fans at another speed are no merit of the cooler: as logged, and as noted, the ratio is the same.</summary>
    [Fact]
    public void A_log_of_the_cases_fans_goes_into_what_is_learnt()
    {
        LeagueRun run = Run(Guid.NewGuid(), 1.1);
        LeagueRun logged =
                run with
                {
                    Analysis = run.Analysis with
                    {
                        Beside = new BesideFigures(null, null, null, null, null, null, null) { CaseFanRpm = 300 },
                    },
                },
            noted = run with { Build = run.Build with { FansFollow = Steering.Fixed, FansFixedRpm = 300 } };
        Assert.Equal(CoolerLeague.LogRatio(noted)!.Value, CoolerLeague.LogRatio(logged)!.Value, 1e-6);
        Assert.True(CoolerLeague.LogRatio(logged) < CoolerLeague.LogRatio(run) - 0.02);
    }

    [Fact]
    public void What_was_measured_moves_the_prediction_and_narrows_it()
    {
        Candidate before = MatchingExample.Match(MatchingExample.Tower);
        CoolerPart learnt = CoolerLeague.Apply(
            MatchingExample.Tower,
            CoolerLeague.Of([.. Enumerable.Range(0, 8).Select(_ => Run(Guid.NewGuid(), 1.3))])
        );
        Candidate after = MatchingExample.Match(learnt);
        Assert.True(after.TemperatureC.Value > before.TemperatureC.Value + 2 && after.Measured && !before.Measured);
        Assert.True(after.TemperatureC.High - after.TemperatureC.Low < before.TemperatureC.High - before.TemperatureC.Low);
        Assert.StartsWith("Measured on this bench in 8 machines", after.Notes[0], StringComparison.Ordinal);
        Assert.Same(MatchingExample.Tower, CoolerLeague.Apply(MatchingExample.Tower, null));
        // One that is known by a claim alone learns faster.
        CoolerPart claimed = MatchingExample.Tower with { Performance = null, ClaimedW = 200 };
        Assert.True(CoolerLeague.Of([Run(Guid.NewGuid(), 1.3, claimed)])!.Factor > CoolerLeague.Of([Run(Guid.NewGuid(), 1.3)])!.Factor);
    }

    /// <summary>A catalogue is worth 10 %, a claim 40 %, whoever asks: the first machine makes it less, not more.</summary>
    [Fact]
    public void A_cooler_that_was_measured_is_never_known_less()
    {
        CoolerPart claimed = MatchingExample.Tower with { Performance = null, ClaimedW = 200 };
        foreach (CoolerPart cooler in (CoolerPart[])[MatchingExample.Tower, claimed])
        {
            double known = HalfShare(cooler);
            for (int machines = 1; machines <= 40; machines++)
            {
                double now = HalfShare(CoolerLeague.Apply(cooler, CoolerLeague.Pool(cooler, machines, 0)));
                Assert.True(now < known);
                known = now;
            }
        }
    }

    /// <summary>How well the expected state knows a cooler.</summary>
    private static double HalfShare(CoolerPart cooler) =>
        HeatMachines.Of(MatchingExample.Build, cooler, AirPlans.Of(MatchingExample.Build, cooler, null)).Cooler!.HalfShare;

    [Fact]
    public void A_run_that_something_else_spoilt_is_left_out()
    {
        Assert.Null(CoolerLeague.Of([Run(Guid.NewGuid(), 4)]));
        LeagueRun blind = Run(Guid.NewGuid(), 1.1);
        Assert.Null(CoolerLeague.Of([blind with { Analysis = blind.Analysis with { Resistance = null } }]));
        Assert.Null(
            CoolerLeague.Of([
                blind with
                {
                    Build = blind.Build with { Processor = blind.Build.Processor with { InsideResistanceCPerW = null } },
                },
            ])
        );
    }

    [Theory]
    [InlineData(1.04, 1.06, "SL-0433", "6 % worse than its catalogue (4 % worse until Tuesday, SL-0433)")]
    [InlineData(0.99, 1.05, "SL-0433", "5 % worse than its catalogue (as its catalogue says until Tuesday, SL-0433)")]
    [InlineData(1.05, 0.95, null, "5 % better than its catalogue (5 % worse until Tuesday, another value of the part)")]
    // What reads the same has not moved.
    [InlineData(1.051, 1.049, "SL-0433", "5 % worse than its catalogue")]
    public void A_figure_that_moved_says_from_where_and_by_what(double before, double now, string? by, string words)
    {
        LeagueEntry moved = new LeagueEntry(5, now, 0.04).After(new LeagueEntry(4, before, 0.05), "Tuesday", by);
        Assert.Equal($"Measured on this bench in 5 machines: {words}.", moved.Sentence);
    }

    [Fact]
    public void Many_machines_pooled_are_the_same_as_their_runs_together()
    {
        CoolerPart cooler = CoolerPart.OfKind("tower");
        LeagueEntry one = CoolerLeague.Pool(cooler, 1, 0.2),
            many = CoolerLeague.Pool(cooler, 400, 400 * 0.2);
        // One machine moves a claim a part of the way; hundreds decide.
        Assert.InRange(one.Factor, 1.01, Math.Exp(0.2) - 0.01);
        Assert.Equal(Math.Exp(0.2), many.Factor, 2);
        Assert.True(many.HalfWidthShare < one.HalfWidthShare / 10);
    }
}
