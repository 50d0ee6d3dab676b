using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Tests.Bays;

/// <summary>Guided runs on simulated machines: they end where a technician would end them, and stop where one must.</summary>
public sealed class GuidedRunTests
{
    /// <summary>A machine on a bench that obeys a guided run, a reading a second.</summary>
    private sealed class Session(string machine, GuidedPlan plan, params (string Id, double Severity)[] faults)
    {
        private readonly List<BenchReading> _readings = [];

        public MachineOnBench Bench { get; } = new(Spec(machine), faults.ToDictionary(fault => fault.Id, fault => fault.Severity), Spec(machine).RoomC, seed: 2);

        public GuidedAnswer Last { get; private set; } = new(GuidedState.Start, new BenchOrder(0), "", null);

        public List<(double Seconds, string Stage, string Says)> Heard { get; } = [];

        /// <summary>What the readings lose on their way; identity by default.</summary>
        public Func<BenchReading, BenchReading> Through { get; init; } = reading => reading;

        public Log Log => new(
            [.. _readings.Select(r => r.Seconds)],
            [Channel(0, ChannelRole.CpuTemperature, r => r.ChipC), Channel(1, ChannelRole.CpuPower, r => r.PowerW), Channel(2, ChannelRole.CpuFanSpeed, r => r.FanRpm), Channel(3, ChannelRole.AmbientTemperature, r => r.RoomC)],
            null, []);

        public Session Go(double most = 5400)
        {
            while (!Last.State.IsOver && Bench.Seconds < most)
            {
                Bench.Settings = new BenchSettings(Last.Order.Load, 0, Last.Order.FanPercent, Last.Order.PowerCapW, plan.Variant.Id == "panel-off", Last.Order.PumpFull);
                for (int tick = 0; tick < 10; tick++)
                {
                    Bench.Tick();
                }

                _readings.Add(Through(Bench.Read()));
                Last = GuidedRun.Next(plan, Last.State, Log);
                if (Heard.Count == 0 || Heard[^1].Says != Last.Says)
                {
                    Heard.Add((Bench.Seconds, Last.State.Stage, Last.Says));
                }
            }

            return this;
        }

        private Channel Channel(int column, ChannelRole role, Func<BenchReading, double> of)
        {
            float[] values = [.. _readings.Select(r => (float)of(r))];
            return new Channel(column, role.Name(), role, "", values, values.Count(v => !float.IsNaN(v)), 0, null);
        }
    }

    private static MachineSpec Spec(string machine) => MachineLibrary.Machines.Single(one => one.Id == machine);

    private static GuidedPlan Plan(string machine, string variant = "usual", double? loadSeconds = null) =>
        new(RunVariant.All.Single(one => one.Id == variant), Spec(machine).Processor.LimitC, Spec(machine).Processor.SustainedW, null, loadSeconds);

    /// <summary>The run ends by itself, is level, and its forecast is where the machine would really have come to rest.</summary>
    [Theory]
    [InlineData("home-tower")]
    [InlineData("survey-workstation")]
    [InlineData("bakery-till")]
    public void A_run_goes_on_until_it_is_level_and_no_longer(string machine)
    {
        Session session = new Session(machine, Plan(machine)).Go();
        Assert.Equal(GuidedState.Done, session.Last.State.Stage);
        Assert.InRange(session.Bench.Seconds, 480, 3600);
        RunAnalysis run = RunAnalyzer.Analyze(session.Log, new RunConditions(TemperatureLimitC: 95));
        Assert.Equal([Phase.Idle, Phase.Load, Phase.CoolDown], run.Phases.Select(phase => phase.Kind));
        Assert.True(run.Load!.Settled);
        double longer = SimulatedRun.Of(Spec(machine), new SimulationRequest([new(300, 0), new(7200, 1)], machine), 2).Truth!.SustainedTemperatureC;
        Assert.Equal(longer, run.Load.ForecastFinalTemperatureC!.Value, 1.5);
        Assert.Equal(new BenchOrder(0), session.Last.Order);
        Assert.Contains(session.Heard, said => said.Says.StartsWith("Level at", StringComparison.Ordinal));
    }

    [Fact]
    public void A_set_time_is_kept_and_variants_ask_for_what_they_say()
    {
        Session set = new Session("home-tower", Plan("home-tower", "fixed-fans", loadSeconds: 400)).Go();
        (double begins, _, _) = set.Heard.First(said => said.Stage == GuidedState.Load);
        (double ends, _, _) = set.Heard.First(said => said.Stage == GuidedState.CoolDown);
        Assert.Equal(400, ends - begins, 1.0);
        Assert.All(set.Log.Channels[2].Values[60..], rpm => Assert.Equal(0.6 * 1600, rpm, 40.0));
        Assert.Equal(43, RunVariant.All.Single(one => one.Id == "capped-power").For(65).PowerCapW);
        Assert.True(RunVariant.All.Single(one => one.Id == "pump-full").Under.PumpFull);
        Assert.Equal(0, RunVariant.All.Single(one => one.Id == "by-hand").For(65).Load);
        Assert.All(RunVariant.All, one => Assert.True(one.Why.Length > 20));
    }

    [Fact]
    public void A_chip_above_its_limit_that_does_not_give_up_stops_the_run()
    {
        Session session = new("small-radiator", Plan("small-radiator") with { LimitC = 60 }, ("pump-failed", 1));
        session.Go();
        Assert.Equal(GuidedState.Stopped, session.Last.State.Stage);
        Assert.Contains("above its limit of 60 °C", session.Last.State.Reason!, StringComparison.Ordinal);
        Assert.Equal(0, session.Last.Order.Load);
        Assert.InRange(session.Bench.Seconds, 60, 200);
    }

    [Theory]
    [InlineData(true, "no processor temperature")]
    [InlineData(false, "no processor power")]
    public void Readings_that_fall_silent_stop_the_run(bool temperature, string words)
    {
        Session session = new("home-tower", Plan("home-tower"))
        {
            Through = reading => reading.Seconds < 300 ? reading : temperature ? reading with { ChipC = double.NaN } : reading with { PowerW = double.NaN },
        };
        session.Go();
        Assert.Contains(words, session.Last.Says, StringComparison.Ordinal);
        Assert.InRange(session.Bench.Seconds, 305, 320);
    }

    [Fact]
    public void Asked_again_it_says_the_same_and_over_is_over()
    {
        Session session = new Session("home-tower", Plan("home-tower")).Go(most: 200);
        Assert.Equal(GuidedRun.Next(Plan("home-tower"), session.Last.State, session.Log), GuidedRun.Next(Plan("home-tower"), session.Last.State, session.Log));
        GuidedAnswer stopped = GuidedRun.Stop(Plan("home-tower"), 200);
        Assert.Equal("Stopped by hand.", GuidedRun.Next(Plan("home-tower"), stopped.State, session.Log).Says);
    }
}
