using System.Text;
using CsCheck;
using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Tests.Simulation;

/// <summary>The library's machines behave as machines do, and what the bench writes reads back to what is true.</summary>
public sealed class MachineOnBenchTests
{
    private static readonly SimulationStep[] Usual = [new(300, 0), new(1800, 1), new(300, 0)];

    public static TheoryData<string> All => [.. MachineLibrary.Machines.Select(machine => machine.Id)];

    private static BenchMachine Machine(string id) => MachineLibrary.Machines.Single(machine => machine.Id == id);

    private static SimulatedRun Run(string machine, IReadOnlyList<SimulationStep> steps, params (string Id, double Severity)[] faults) =>
        SimulatedRun.Of(
            Machine(machine),
            new SimulationRequest(steps, machine, Faults: faults.ToDictionary(fault => fault.Id, fault => fault.Severity)),
            seed: 3
        );

    private static RunAnalysis Analyzed(SimulatedRun run) =>
        RunAnalyzer.Analyze(LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(run.LogCsv()))).Log!, run.Conditions);

    [Fact]
    public void The_library_holds_enough_machines_each_with_its_reason()
    {
        Assert.True(MachineLibrary.Machines.Count >= 12);
        Assert.Equal(
            ["down-draught", "dual-tower", "liquid", "passive", "tower"],
            MachineLibrary.Machines.Select(machine => machine.Cooler.Kind).Distinct().Order()
        );
        Assert.Equal(
            ["front", "rear", "top"],
            MachineLibrary.Machines.Select(machine => machine.Plan.Cooler!.Place).OfType<string>().Distinct().Order()
        );
    }

    /// <summary>Healthy, each machine is read to its truth: temperature, resistance, and every band within its half-width.</summary>
    [Theory]
    [MemberData(nameof(All))]
    public void A_healthy_machine_reads_back_to_its_truth(string id)
    {
        SimulatedRun run = Run(id, Usual);
        RunAnalysis analysis = Analyzed(run);
        SimulationTruth truth = run.Truth!;
        Assert.Equal(truth.SustainedTemperatureC, analysis.Load!.SustainedTemperatureC, 0.5);
        Assert.Equal(truth.ResistanceCPerW, analysis.Resistance!.ValueCPerW, 0.02 * truth.ResistanceCPerW);
        Assert.Equal(300, analysis.Phases.Single(phase => phase.Kind == PhaseKind.Load).StartSeconds, 1.5);
        foreach (HeatBand band in analysis.HeatPath!)
        {
            Assert.InRange(Math.Abs(band.ResistanceCPerW - truth.Bands[band.Band]), 0, 1.25 * band.HalfWidthCPerW);
        }

        Assert.Equal(truth.SelfResistanceCPerW, truth.Bands.Values.Sum(), 1e-9);
        Assert.Equal(
            truth.AmbientC + truth.OtherHeatRiseC + (truth.SelfResistanceCPerW * truth.SustainedPowerW),
            truth.FinalTemperatureC,
            0.01
        );
    }

    /// <summary>
    /// A healthy machine that its steering keeps quiet is not told that its fins are blocked; dust under a fixed fan still is.
    /// </summary>
    [Fact]
    public void Slow_fans_of_a_cool_machine_are_no_dust()
    {
        HeatStaircase quiet = Analyzed(Run("home-tower", Usual)).Staircase!;
        Assert.DoesNotContain(quiet.Steps, step => step.Swollen);
        SimulationStep[] steps = [new(300, 0, FanPercent: 100), new(1800, 1, FanPercent: 100), new(300, 0, FanPercent: 100)];
        SimulatedRun dusty = Run("image-stacker", steps, ("dust-blocked-fins", 0.9));
        RunAnalysis run = Analyzed(dusty);
        ExpectedRun expected = ExpectedRun.Of(
            new ReferenceMachine(HeatMachines.Of(Machine("image-stacker")), true, [], []),
            run,
            dusty.Conditions
        )!;
        Assert.Equal(HeatStep.Bulk, HeatStaircase.Of(run, dusty.Conditions, expected)!.Steps.Single(step => step.Swollen).Id);
    }

    [Fact]
    public void An_ordinary_desktop_of_180_W_rises_by_55_to_75_degrees()
    {
        BenchMachine machine = MachineLibrary.Resolve(
            MachineLibrary.Rows.Single(row => row.Id == "home-tower") with
            {
                Processor = "corbel-180",
            },
            out _
        )!;
        SimulationTruth truth = SimulatedRun.Of(machine, new SimulationRequest(Usual), 1).Truth!;
        Assert.InRange(truth.SustainedPowerW, 175, 185);
        Assert.InRange(truth.SustainedTemperatureC - truth.AmbientC, 50, 75);
    }

    [Fact]
    public void A_dead_pump_is_at_the_limit_within_a_minute_and_the_tubes_part()
    {
        SimulatedRun run = Run("small-radiator", Usual, ("pump-failed", 1));
        RunAnalysis analysis = Analyzed(run);
        Assert.InRange(analysis.ThermalLimit!.FirstSeconds - 300, 3, 60);
        Assert.InRange(analysis.Flow!.LitresPerMinute, 0.01, 0.1);
        Assert.Equal(0, run.Readings[900].PumpRpm!.Value);
    }

    [Fact]
    public void A_power_budget_falls_while_cool_and_a_cap_holds()
    {
        Assert.Contains(Analyzed(Run("survey-workstation", Usual, ("power-limited", 0.6))).Limits, limit => limit.Kind == LimitKind.Power);
        SimulatedRun capped = Run("home-tower", [new(120, 0), new(900, 1, PowerCapW: 40)]);
        Assert.InRange(capped.Truth!.SustainedPowerW, 38, 42);
        Assert.Equal(40, capped.Conditions.PowerCapW);
    }

    public static TheoryData<string, string, string> Swellings =>
        new()
        {
            { "paste-aged", "home-tower", "up" },
            { "poor-contact", "home-tower", "up" },
            { "dust-blocked-fins", "home-tower", "up" },
            { "cooler-undersized", "home-tower", "up" },
            { "loop-restricted", "boat-station", "up" },
            { "coolant-lost", "boat-station", "up" },
            { "case-starved", "render-dual-tower", "up" },
            { "fan-control", "home-tower", "up" },
            { "room-hot", "home-tower", "same" },
            { "power-excess", "home-tower", "same" },
        };

    /// <summary>A graver fault is never cooler, with the fans held; and what is no resistance leaves the resistance alone.</summary>
    [Theory]
    [MemberData(nameof(Swellings))]
    public void A_graver_fault_is_never_cooler(string fault, string machine, string resistance)
    {
        double[] severities = [0, 0.15, 0.4, 0.7, 1];
        double? fan = fault == "fan-control" ? null : 60;
        SimulationTruth[] truths =
        [
            .. severities.Select(severity =>
                Run(machine, [new(60, 0), new(1200, 1, FanPercent: fan, PowerCapW: 60)], (fault, severity)).Truth!
            ),
        ];
        Assert.All(truths.Zip(truths.Skip(1)), pair =>
            Assert.True(
                pair.Second.FinalTemperatureC > pair.First.FinalTemperatureC - 0.05,
                $"{fault}: {pair.First.FinalTemperatureC} then {pair.Second.FinalTemperatureC}"
            )
        );
        Assert.True(truths[^1].FinalTemperatureC > truths[0].FinalTemperatureC + 1 || fault == "power-excess");
        double change = truths[^1].SelfResistanceCPerW / truths[0].SelfResistanceCPerW;
        Assert.True(resistance == "up" ? change > 1.05 : Math.Abs(change - 1) < 0.02, $"{fault}: {change}");
    }

    [Theory]
    [InlineData("paste-aged", "home-tower", HeatStep.Chip)]
    [InlineData("loop-restricted", "boat-station", HeatStep.Cooler)]
    [InlineData("dust-blocked-fins", "home-tower", HeatStep.Bulk)]
    public void A_fault_swells_its_own_band(string fault, string machine, HeatStep band)
    {
        SimulationStep[] steps = [new(60, 0), new(1200, 1, FanPercent: 70)];
        IReadOnlyDictionary<HeatStep, double> healthy = Run(machine, steps).Truth!.Bands,
            faulty = Run(machine, steps, (fault, 0.4)).Truth!.Bands;
        Assert.Equal(band, faulty.MaxBy(pair => pair.Value - healthy[pair.Key]).Key);
    }

    [Fact]
    public void Taking_the_panel_off_cools_a_starved_case_and_hardly_an_airy_one()
    {
        double Drop(string machine, params (string, double)[] faults)
        {
            double Final(string panel) =>
                Run(machine, [new(60, 0), new(1800, 1, FanPercent: 60, Panel: panel, GraphicsLoad: 0.8)], faults).Truth!.FinalTemperatureC;
            return Final("closed") - Final("side-off");
        }

        double starved = Drop("render-dual-tower", ("case-starved", 0.8)),
            airy = Drop("render-dual-tower");
        Assert.True(starved > 8, $"{starved}");
        Assert.InRange(airy, -0.5, starved / 2);
        Assert.All(MachineLibrary.Machines, machine => Assert.True(Drop(machine.Id, ("case-starved", 0.5)) > -0.5, machine.Id));
    }

    [Fact]
    public void A_pump_set_to_full_moves_more_and_a_fan_by_hand_turns_as_told()
    {
        SimulationStep own = new(900, 1, FanPercent: 50);
        SimulationTruth slow = Run("boat-station", [new(60, 0), own]).Truth!,
            full = Run("boat-station", [new(60, 0), own with { PumpFull = true }]).Truth!;
        Assert.True(full.FlowLitresPerMinute > slow.FlowLitresPerMinute && full.FinalTemperatureC < slow.FinalTemperatureC);
        Assert.Equal(0.5 * Machine("boat-station").Cooler.FullRpm, slow.SustainedFanRpm, 20.0);
    }

    [Fact]
    public void Sensors_show_their_faults_and_the_truth_does_not()
    {
        SimulatedRun misread = Run("box-cooler-chiplet", [new(60, 0), new(600, 1, PowerCapW: 50)], ("sensor-misread", 0.5));
        Assert.Equal(15.5, misread.Readings[^1].ChipC - misread.Truth!.SustainedTemperatureC, 2.0);
        Assert.Equal(10, misread.Readings[^1].ControlC!.Value - misread.Readings[^1].ChipC, 1.5);
        SimulatedRun loose = Run("home-tower", [new(60, 0), new(600, 1)], ("poor-contact", 0.5)),
            seated = Run("home-tower", [new(60, 0), new(600, 1)]);
        double Spread(SimulatedRun run) => Analyzed(run).Load!.CoreSpreadC!.Value;
        Assert.True(Spread(loose) > Spread(seated) + 4);
    }

    [Fact]
    public void Equal_inputs_with_an_equal_seed_give_equal_logs()
    {
        SimulationRequest request = new([new(60, 0), new(120, 1)], "survey-workstation");
        string Log(int seed) => SimulatedRun.Of(Machine("survey-workstation"), request, seed).LogCsv();
        Assert.Equal(Log(1), Log(1));
        Assert.NotEqual(Log(1), Log(2));
    }

    /// <summary>Rest is where stepping ends, also where air carries heat one way.</summary>
    [Theory]
    [InlineData("survey-workstation")]
    [InlineData("simulation-box")]
    public void Stepping_ends_at_rest(string id)
    {
        HeatMachine machine = HeatMachines.Of(Machine(id));
        HeatNetwork at = HeatNetwork.At(new HeatPaths(machine), [0.6, 0.6], 0.5, false, false);
        double[] heat = new double[HeatNetwork.Nodes(machine)],
            rises = new double[heat.Length];
        (heat[HeatNetwork.Die], heat[HeatNetwork.CaseNode]) = (150, 40);
        at.Network.Advance(rises, heat, 1e6);
        double[] rest = at.Network.Rest(heat);
        Assert.All(rises.Zip(rest), pair => Assert.Equal(pair.Second, pair.First, 1e-9 * (1 + pair.Second)));
        Assert.Equal(rest[0] - at.Network.Rest([0, .. heat[1..]])[0], 150 * at.Network.Modes.Sum(mode => mode.ResistanceCPerW), 1e-6);
    }

    public static TheoryData<SimulationRequest, string> Wrong =>
        new()
        {
            { new([new(10, 0)], "no-such"), "machine: there is no “no-such”" },
            { new(null), "steps: say at least one" },
            { new([new(10, 2)]), "steps[0].load: 2 is not between 0 and 1" },
            { new([new(10, 0), new(-1, 0)]), "steps[1].seconds" },
            { new([new(10, 0, Panel: "ajar")]), "steps[0].panel: “ajar”" },
            { new([new(10, 0)], Cooler: "teapot"), "There is no cooler “teapot”" },
            { new([new(10, 0)], Faults: new Dictionary<string, double> { ["gremlins"] = 1 }), "faults.gremlins" },
            { new([new(10, 0)], Faults: new Dictionary<string, double> { ["paste-aged"] = 2 }), "between 0 and 1" },
            { new([new(10, 0)], Faults: new Dictionary<string, double> { ["pump-failed"] = 1 }), "has no loop" },
            { new([new(10, 0)], Radiator: "top-out"), "has no radiator" },
            { new([new(10, 0)], RoomC: 90), "roomC: 90" },
            {
                new([new(10, 0)], Values: new Dictionary<string, double> { ["cooler.finsCPerW"] = -0.1 }),
                "values.cooler.finsCPerW: -0.1 is not above 0."
            },
            {
                new([new(10, 0)], Values: new Dictionary<string, double> { ["cooler.colour"] = 1 }),
                "values: there is no “cooler.colour”; known are processor.insideCPerW"
            },
            { new([new(10, 0)], Values: new Dictionary<string, double> { ["processor.idleW"] = 500 }), "sustains more watts" },
            { new([new(10, 0)], Values: new Dictionary<string, double> { ["processor.limitC"] = 20 }), "20 is not between 60 and 130" },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_gets_a_sentence(SimulationRequest request, string words)
    {
        Assert.Null(request.Resolve(out string? problem));
        Assert.Contains(words, problem!, StringComparison.Ordinal);
    }

    /// <summary>
    /// A value set otherwise shows where it belongs: a watt through the fins alone costs as much more as their resistance grew by.
    /// </summary>
    [Fact]
    public void A_machine_file_may_set_single_values()
    {
        BenchMachine set = new SimulationRequest(
            [new(10, 0)],
            "home-tower",
            Values: new Dictionary<string, double> { ["processor.insideCPerW"] = 0.5, ["processor.limitC"] = 120 }
        ).Resolve(out _)!;
        Assert.Equal((0.5, 120.0), (set.Processor.InsideResistanceCPerW, set.Processor.TemperatureLimitC));
        double Resistance(double inside) =>
            SimulatedRun
                .Of(
                    set with
                    {
                        Processor = set.Processor with { InsideResistanceCPerW = inside },
                    },
                    new SimulationRequest([new(300, 0), new(3600, 1, FanPercent: 80)], "home-tower"),
                    4
                )
                .Truth!.SelfResistanceCPerW;
        Assert.Equal(0.3, Resistance(0.5) - Resistance(0.2), 1e-6);
    }

    [Fact]
    public void Another_cooler_can_be_mounted()
    {
        BenchMachine liquid = new SimulationRequest([new(10, 0)], "home-tower", Cooler: "liquid-240").Resolve(out _)!,
            air = new SimulationRequest([new(10, 0)], "boat-station", Cooler: "dual-tower").Resolve(out _)!;
        Assert.Equal(("front", true, null), (liquid.Plan.Cooler!.Place, liquid.Plan.Cooler.Inward, air.Plan.Cooler!.Place));
    }
}
