using System.Text;
using Remedos.Core.Diagnosis;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;
using Remedos.Validation;

namespace Remedos.Core.Tests.Diagnosis;

public sealed class SeenRunTests
{
    private static SeenRun Seen(SimulationRequest request)
    {
        SimulatedRun run = SimulatedRun.Of(request.Resolve(out _)!, request, seed: 4);
        RunConditions conditions = run.Conditions with { Workload = "all-core" };
        return SeenRun.Of(
            RunAnalyzer.Analyze(LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(run.LogCsv()))).Log!, conditions),
            conditions,
            null
        );
    }

    /// <summary>A sound machine of known parts.</summary>
    private static SeenRun HomeTower()
    {
        BenchMachine spec = MachineLibrary.Machines.Single(one => one.Id == "home-tower");
        CaseMachine told = new(spec.Cooler.Kind, 30, false, "home", HasCard: spec.Graphics is not null);
        return new SimulatedCase(
            new DrawnMachine(spec, spec, HeatMachines.Of(spec), told, new Dictionary<string, double>()),
            byParts: true,
            seed: 5
        ).Runs[0];
    }

    /// <summary>A machine at its limit holds what it held there; one below it more than it draws; a light load tells nothing.</summary>
    [Fact]
    public void What_it_holds_is_told_by_a_full_load_alone()
    {
        static SimulationStep[] Load(double load) => [new(200, 0), new(1500, load), new(200, 0)];
        SeenRun hot = Seen(new(Load(1), "image-stacker", RoomC: 24, Faults: new Dictionary<string, double> { ["paste-aged"] = 0.9 }));
        Assert.NotNull(hot.Run.ThermalLimit);
        Assert.Equal(hot.Run.Load!.SustainedPowerW!.Value, hot.HoldsW(100, 24, 125)!.Value, 3.0);

        SeenRun sound = Seen(new(Load(1), "image-stacker", RoomC: 24));
        Assert.InRange(sound.HoldsW(100, 24, 125)!.Value, 150, 260);
        Assert.True(sound.HoldsW(100, 34, 125) < sound.HoldsW(100, 24, 125));

        Assert.Null(Seen(new(Load(0.5), "image-stacker", RoomC: 24)).HoldsW(100, 24, 125));
    }

    /// <summary>
    /// A forecast is believed by half of what it adds; where it adds more than half of what was seen, nothing is known of the level, nor
    /// that the limit would never be reached.
    /// </summary>
    [Fact]
    public void A_load_that_was_stopped_early_says_little_of_where_it_ends()
    {
        SeenRun level = HomeTower();
        double stood = level.Run.Load!.SustainedTemperatureC,
            rise = level.RiseC!.Value;
        SeenRun Stopped(double toCome) =>
            level with
            {
                Run = level.Run with { Load = level.Run.Load with { Settled = false, ForecastFinalTemperatureC = stood + toCome } },
            };
        Assert.Equal(rise + 8, Stopped(8).RiseC!.Value, 1e-9);
        Assert.Equal(Math.Sqrt((level.RiseHalfC * level.RiseHalfC) + 16), Stopped(8).RiseHalfC, 1e-9);
        Assert.Null(Stopped((0.5 * rise) + 1).RiseC);

        double limit = level.Conditions.TemperatureLimitC!.Value;
        Assert.Equal("never", State(level, "time-to-limit"));
        Assert.Equal("never", State(Stopped(2), "time-to-limit"));
        // By where it was going it might reach it yet.
        SeenRun near = Stopped(8) with { Conditions = level.Conditions with { TemperatureLimitC = stood + 9 } };
        Assert.Null(State(near, "time-to-limit"));
        Assert.Null(State(Stopped((0.5 * rise) + 1), "resistance-ratio"));
        Assert.Null(TrialEvidence.Of("capped-power", level, Stopped((0.5 * rise) + 1)));
        Assert.True(limit > stood + 12);

        static string? State(SeenRun seen, string id) => RunEvidence.Of(seen, null).SingleOrDefault(item => item.Id == id)?.State;
    }

    /// <summary>As it is: what a sound one would be there, and by watts what it stood beyond one; never above its limit.</summary>
    [Fact]
    public void Where_it_stands_at_other_watts_goes_by_a_sound_one_and_its_own_excess()
    {
        SeenRun seen = HomeTower();
        double drawn = seen.Run.Load!.SustainedPowerW!.Value,
            excess = seen.RiseC!.Value - seen.Expected!.State.RiseC.Value;
        Assert.Equal(70 + (1.2 * excess), seen.ChipAtC(1.2 * drawn, 24, 100, 70)!.Value, 1e-9);
        Assert.Equal(60, seen.ChipAtC(1.2 * drawn, 24, 60, 70)!.Value);
        // What was at its limit is no cooler than by its own resistance, and hotter where a card heats the case as well.
        SeenRun hot = seen with { Run = seen.Run with { Limits = [new Limit(LimitKind.Thermal, 400, 0.6, 10, null)] } };
        double own = 24 + (1.2 * seen.RiseC.Value);
        Assert.Equal(own, hot.ChipAtC(1.2 * drawn, 24, 200, own - 20 - (1.2 * excess))!.Value, 1e-9);
        Assert.Equal(own + 5, hot.ChipAtC(1.2 * drawn, 24, 200, own + 5 - (1.2 * excess))!.Value, 1e-9);
        // Where nothing is expected, by its own resistance alone.
        Assert.Equal(24 + (1.2 * seen.RiseC.Value), (seen with { Expected = null }).ChipAtC(1.2 * drawn, 24, 200, 70)!.Value, 1e-9);
        Assert.Null((seen with { Conditions = seen.Conditions with { Workload = "game" } }).ChipAtC(drawn, 24, 100, 70));
    }
}
