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
    private sealed class Session
    {
        private readonly GuidedPlan _plan;
        private readonly BayLog _readings = new();

        public Session(string machine, GuidedPlan plan, BayHello? sender = null, params (string Id, double Severity)[] faults)
        {
            _plan = plan;
            Machine = new SimulatedBay(
                MachineLibrary.Rows.Single(row => row.Id == machine),
                faults.ToDictionary(fault => fault.Id, fault => fault.Severity),
                seed: 2
            );
            Last = GuidedRun.Begin(plan, sender ?? Machine.Hello);
        }

        public SimulatedBay Machine { get; }

        public GuidedAnswer Last { get; set; }

        public List<(double Seconds, GuidedStage Stage, string Says)> Heard { get; } = [];

        /// <summary>What the readings lose on their way; identity by default.</summary>
        public Func<BayReading, BayReading> Through { get; init; } = reading => reading;

        /// <summary>What else makes the machine work; nothing by default.</summary>
        public Func<double, double> OwnersLoad { get; init; } = _ => 0;

        public Log Log => _readings.ToLog();

        public BayLog Readings => _readings;

        public Session Go(double most = 5400)
        {
            while (!Last.State.IsOver && Machine.Seconds < most)
            {
                Machine.Obey(Last.Order with { Load = Math.Max(Last.Order.Load, OwnersLoad(Machine.Seconds)) }, null);
                _readings.Add(Through(Machine.Second()));
                Last = GuidedRun.Next(_plan, Last.State, _readings);
                if (Heard.Count == 0 || Heard[^1].Says != Last.Says)
                {
                    Heard.Add((Machine.Seconds, Last.State.Stage, Last.Says));
                }
            }

            return this;
        }
    }

    private static BenchMachine Spec(string machine) => MachineLibrary.Machines.Single(one => one.Id == machine);

    private static GuidedPlan Plan(string machine, string variant = "usual", double? loadSeconds = null) =>
        new(
            RunVariant.All.Single(one => one.Id == variant),
            Spec(machine).Processor.TemperatureLimitC,
            Spec(machine).Processor.SustainedPowerW,
            null,
            loadSeconds
        );

    /// <summary>The run ends by itself, is level, and its forecast is where the machine would really have come to rest.</summary>
    [Theory]
    [InlineData("home-tower")]
    [InlineData("survey-workstation")]
    [InlineData("bakery-till")]
    public void A_run_goes_on_until_it_is_level_and_no_longer(string machine)
    {
        Session session = new Session(machine, Plan(machine)).Go();
        Assert.Equal(GuidedStage.Done, session.Last.State.Stage);
        Assert.InRange(session.Machine.Seconds, 480, 3600);
        RunAnalysis run = RunAnalyzer.Analyze(session.Log, new RunConditions(TemperatureLimitC: 95));
        Assert.Equal([PhaseKind.Idle, PhaseKind.Load, PhaseKind.CoolDown], run.Phases.Select(phase => phase.Kind));
        Assert.True(run.Load!.Settled);
        double longer = SimulatedRun
            .Of(Spec(machine), new SimulationRequest([new(300, 0), new(7200, 1)], machine), 2)
            .Truth!.SustainedTemperatureC;
        Assert.Equal(longer, run.Load.ForecastFinalTemperatureC!.Value, 1.5);
        Assert.Equal(new BenchOrder(0), session.Last.Order);
        Assert.Contains(session.Heard, said => said.Says.StartsWith("Level at", StringComparison.Ordinal));
    }

    /// <summary>Ten readings a second tell a run no more than their means: its stages change in the same moments.</summary>
    [Fact]
    public void A_fast_sender_is_led_by_its_seconds()
    {
        GuidedPlan plan = Plan("home-tower");
        Session session = new("home-tower", plan);
        Random noise = new(5);
        BayLog all = new(),
            seconds = GuidedRun.NewLog();
        (GuidedState ofAll, GuidedState ofSeconds) = (session.Last.State, session.Last.State);
        (List<(GuidedStage Stage, double At)> fast, List<(GuidedStage Stage, double At)> slow) = ([], []);
        while (!(ofAll.IsOver && ofSeconds.IsOver) && session.Machine.Seconds < 5400)
        {
            session.Machine.Obey(GuidedRun.OrderOf(plan, ofAll), null);
            BayReading reading = session.Machine.Second();
            for (int tenth = 0; tenth < 10; tenth++)
            {
                BayReading one = new(
                    all.LastSequence + 1,
                    reading.Seconds + (tenth / 10.0),
                    reading.Values.ToDictionary(pair => pair.Key, pair => pair.Value * (1 + (0.004 * (noise.NextDouble() - 0.5))))
                );
                all.Add(one);
                seconds.Add(one);
            }

            ofAll = GuidedRun.Next(plan, ofAll, all).State;
            ofSeconds = GuidedRun.Next(plan, ofSeconds, seconds).State;
            Note(fast, ofAll);
            Note(slow, ofSeconds);
        }

        Assert.Equal([GuidedStage.Idle, GuidedStage.Load, GuidedStage.CoolDown, GuidedStage.Done], fast.Select(one => one.Stage));
        Assert.Equal(fast.Select(one => one.Stage), slow.Select(one => one.Stage));
        Assert.All(fast.Zip(slow), pair => Assert.Equal(pair.First.At, pair.Second.At, 20.0));
        Assert.InRange(seconds.Count, all.Count / 11, (all.Count / 10) + 1);

        void Note(List<(GuidedStage Stage, double At)> changes, GuidedState state)
        {
            if (changes.Count == 0 || changes[^1].Stage != state.Stage)
            {
                changes.Add((state.Stage, session.Machine.Seconds));
            }
        }
    }

    /// <summary>Of thirty channels six are kept while a run goes on; its answers are those that all would give, word for word.</summary>
    [Theory]
    [InlineData("home-tower", false)]
    [InlineData("survey-workstation", false)]
    [InlineData("survey-workstation", true)]
    [InlineData("small-radiator", false)]
    public void What_is_kept_of_a_run_leads_it_as_all_of_it_would(string machine, bool coresAlone)
    {
        GuidedPlan plan = Plan(machine);
        BayLog all = new(),
            kept = GuidedRun.NewLog();
        Session session = new(machine, plan);
        (GuidedAnswer byAll, GuidedAnswer byKept) = (session.Last, session.Last);
        while (!byAll.State.IsOver && session.Machine.Seconds < 5400)
        {
            session.Machine.Obey(byAll.Order, null);
            BayReading reading = session.Machine.Second();
            double chip = reading.ChipC!.Value;
            Dictionary<BayChannel, double> values = new(reading.Values)
            {
                [new(ChannelRole.CoreTemperature)] = chip,
                [new(ChannelRole.CoreTemperature, 1)] = chip - 3,
                [new(ChannelRole.GpuPower)] = 15 + (40 * byAll.Order.Load),
                [new(ChannelRole.SoundLevel)] = 34,
            };
            if (coresAlone)
            {
                values.Remove(new(ChannelRole.CpuTemperature));
            }

            reading = reading with { Values = values };
            all.Add(reading);
            kept.Add(reading);
            (byAll, byKept) = (GuidedRun.Next(plan, byAll.State, all), GuidedRun.Next(plan, byKept.State, kept));
            Assert.Equal(byAll, byKept);
        }

        Assert.Equal(GuidedStage.Done, byAll.State.Stage);
        Assert.InRange(kept.ToLog().Channels.Count, 3, 7);
        Assert.DoesNotContain(kept.ToLog().Channels, channel => channel.Role is ChannelRole.CoreTemperature or ChannelRole.SoundLevel);
    }

    [Fact]
    public void A_set_time_is_kept_and_variants_ask_for_what_they_say()
    {
        Session set = new Session("home-tower", Plan("home-tower", "fixed-fans", loadSeconds: 400)).Go();
        (double begins, _, _) = set.Heard.First(said => said.Stage == GuidedStage.Load);
        (double ends, _, _) = set.Heard.First(said => said.Stage == GuidedStage.CoolDown);
        Assert.Equal(400, ends - begins, 1.0);
        Assert.All(set.Log.Channels.Single(channel => channel.Role == ChannelRole.CpuFanSpeed).Values[60..], rpm =>
            Assert.Equal(0.6 * 1600, rpm, 40.0)
        );
        Assert.Equal(43, RunVariant.All.Single(one => one.Id == "capped-power").For(65, LoadKind.AllCore).PowerCapW);
        Assert.True(RunVariant.All.Single(one => one.Id == "pump-full").Under.PumpFull);
        Assert.Equal(0, RunVariant.All.Single(one => one.Id == "by-hand").For(65, LoadKind.AllCore).Load);
        Assert.All(RunVariant.All, one => Assert.True(one.Why.Length > 20));
    }

    [Fact]
    public void A_chip_above_its_limit_that_does_not_give_up_stops_the_run()
    {
        Session session = new("small-radiator", Plan("small-radiator") with { LimitC = 60 }, null, ("pump-failed", 1));
        session.Go();
        Assert.Equal(GuidedStage.Stopped, session.Last.State.Stage);
        Assert.Contains("above its limit of 60 °C", session.Last.State.Reason!, StringComparison.Ordinal);
        Assert.Equal(0, session.Last.Order.Load);
        Assert.InRange(session.Machine.Seconds, 60, 200);
    }

    [Theory]
    [InlineData(true, "no processor temperature")]
    [InlineData(false, "no processor power")]
    public void Readings_that_fall_silent_stop_the_run(bool temperature, string words)
    {
        Session session = new("home-tower", Plan("home-tower"))
        {
            Through = reading =>
                reading.Seconds < 300
                    ? reading
                    : reading with
                    {
                        Values = reading
                            .Values.Where(pair =>
                                temperature ? !pair.Key.Role.IsProcessorTemperature() : pair.Key.Role != ChannelRole.CpuPower
                            )
                            .ToDictionary(),
                    },
        };
        session.Go();
        Assert.Contains(words, session.Last.Says, StringComparison.Ordinal);
        Assert.InRange(session.Machine.Seconds, 305, 320);
    }

    [Fact]
    public void Asked_again_it_says_the_same_and_over_is_over()
    {
        Session session = new Session("home-tower", Plan("home-tower")).Go(most: 200);
        Assert.Equal(
            GuidedRun.Next(Plan("home-tower"), session.Last.State, session.Readings),
            GuidedRun.Next(Plan("home-tower"), session.Last.State, session.Readings)
        );
        GuidedAnswer stopped = GuidedRun.Stop(Plan("home-tower"), session.Last.State, 200);
        Assert.Equal("Stopped by hand.", GuidedRun.Next(Plan("home-tower"), stopped.State, session.Readings).Says);
    }

    /// <summary>What a machine cannot do by itself a hand does, and the run waits for it as long as it takes.</summary>
    [Theory]
    [InlineData("panel-off", "Take the side panel off. Then go on.")]
    [InlineData("fixed-fans", "Set all fans to 60 % in the firmware. Then go on.")]
    [InlineData("pump-full", "Set the pump’s header to full in the firmware. Then go on.")]
    public void A_run_waits_for_the_hand_that_it_needs(string variant, string words)
    {
        BayHello plain = new("a machine", [BayHello.Load], []);
        Session session = new Session("home-tower", Plan("home-tower", variant), plain).Go(most: 100);
        Assert.Equal((GuidedStage.Hand, words, 0.0), (session.Last.State.Stage, session.Last.Says, session.Last.Order.Load));
        session.Last = GuidedRun.GoOn(Plan("home-tower", variant), session.Last.State, session.Readings.DurationSeconds);
        session.Go();
        Assert.Equal(GuidedStage.Done, session.Last.State.Stage);
        Assert.Equal(GuidedStage.Idle, GuidedRun.Begin(Plan("home-tower", variant), new BayHello(null, BayHello.AllObeys, [])).State.Stage);
    }

    /// <summary>The owner's program is asked for, seen by its watts, and its edges are kept.</summary>
    [Fact]
    public void An_owners_load_begins_when_its_watts_are_seen()
    {
        Session session = new Session("home-tower", Plan("home-tower", "by-hand", loadSeconds: 300))
        {
            OwnersLoad = seconds => seconds is > 250 and < 640 ? 0.8 : 0,
        }.Go();
        Assert.Contains(session.Heard, said => said is { Stage: GuidedStage.Hand, Says: "Start the owner’s program now." });
        Assert.Equal(250, session.Last.State.Edges!.StartSeconds, 10.0);
        Assert.Equal(300, session.Last.State.Edges.EndSeconds - session.Last.State.Edges.StartSeconds, 2.0);
        Assert.Contains(session.Heard, said => said.Says.StartsWith("End the owner’s program now.", StringComparison.Ordinal));
        Assert.Equal(GuidedStage.Done, session.Last.State.Stage);
    }

    [Fact]
    public void A_stage_that_is_held_goes_on_until_it_is_let_go_but_not_past_danger()
    {
        Session session = new Session("home-tower", Plan("home-tower", loadSeconds: 120)).Go(most: 100);
        session.Last = session.Last with { State = session.Last.State with { Held = true } };
        session.Go(most: 700);
        GuidedStage stage = session.Last.State.Stage;
        Assert.Equal("Held here until it is let go.", session.Last.Says);
        session.Last = session.Last with { State = session.Last.State with { Held = false } };
        session.Go(most: 702);
        Assert.NotEqual(stage, session.Last.State.Stage);

        GuidedPlan cool = Plan("home-tower") with { LimitC = 40 };
        Session danger = new Session("home-tower", cool).Go(most: 90);
        danger.Last = danger.Last with { State = danger.Last.State.Next(GuidedStage.Load, 90) with { Held = true } };
        Assert.Equal(GuidedStage.Stopped, danger.Go().Last.State.Stage);
    }

    /// <summary>Bursts keep their edges, because a machine that works and rests has none that could be found.</summary>
    [Fact]
    public void Bursts_work_and_rest_and_end_like_any_load()
    {
        GuidedPlan plan = Plan("home-tower", loadSeconds: 360) with { Work = LoadKind.Bursty };
        Session session = new Session("home-tower", plan).Go();
        Assert.Equal(360, session.Last.State.Edges!.EndSeconds - session.Last.State.Edges.StartSeconds, 1.0);
        float[] load = session.Log.Channels.Single(channel => channel.Role == ChannelRole.CpuLoad).Values[
            (int)session.Last.State.Edges.StartSeconds..(int)session.Last.State.Edges.EndSeconds
        ];
        Assert.Equal(2.0 / 3, load.Count(share => share > 50) / (double)load.Length, 0.05);
    }
}
