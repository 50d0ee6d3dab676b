using CsCheck;
using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Physics;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Tests.SteadyState;

/// <summary>
/// One answer to “what should this machine do”: Coolers, Air and the simulator, over kinds of cooler, places, loads and fans.
/// </summary>
public sealed class SteadyStateTests
{
    private sealed record Any(Build Build, CoolerPart Cooler, AirPlan Plan);

    private static readonly Gen<Any> Machines =
        from kind in Words("down-draught", "tower", "dual-tower", "liquid", "passive")
        from place in Words("front", "top", "rear")
        from watts in Gen.Double[30, 180]
        from card in Gen.OneOf(Gen.Const(0.0), Gen.Double[60, 300])
        from room in Gen.Double[12, 32]
        from resistance in Gen.Double[0.12, 0.5]
        from max in Gen.Double[900, 2600]
        from slow in Gen.Double[0.4, 0.8]
        from fanRpm in Gen.Double[500, 1600]
        from source in Words("cpu", "board", "gpu", "cpu-gpu")
        select Make(kind, place, watts, card, room, resistance, max, slow, fanRpm, source);

    private static Gen<string> Words(params string[] words) => Gen.Int[0, words.Length - 1].Select(i => words[i]);

    private static Any Make(
        string kind,
        string place,
        double watts,
        double card,
        double room,
        double resistance,
        double max,
        double slow,
        double fanRpm,
        string source
    )
    {
        bool passive = kind == "passive",
            liquid = kind == "liquid";
        double least = passive ? 0.6 : resistance;
        CoolerPart cooler = new(
            "it",
            "It",
            kind,
            RadiatorSizeMm: liquid
                ? place == "rear"
                    ? 120
                    : 240
                : null,
            RadiatorThicknessMm: liquid ? 52 : null,
            Fans: passive ? [] : [.. Enumerable.Repeat(new Fan(120, max, 0, 0.2, 34), liquid && place != "rear" ? 2 : 1)],
            Performance: passive ? [new(0, least)] : [new(slow * max, least * 1.25), new(max, least)]
        );
        Build build = new(
            new ProcessorPart("chip", null, watts, 125, InsideResistanceCPerW: 0.08),
            RoomC: room,
            FansFollow: source,
            Graphics: card > 0 ? new GraphicsPart(card, ResistanceCPerW: 33 / card) : null,
            Case: new CasePart(
                Radiators: [new RadiatorPlace(place, [120, 240])],
                FanPlaces: [new("front", [120], 2), new("top", [120], 2), new("rear", [120], 1)],
                Fans: [new("front", "in", 120, fanRpm, 1600), new("front", "in", 120, fanRpm, 1600), new("rear", "out", 120, fanRpm, 1600)]
            )
        );
        return new Any(build, cooler, AirPlans.Of(build, cooler, liquid ? place : null));
    }

    /// <summary>What it comes to on the simulated bench after hours: its own controllers, fans and network.</summary>
    private static (double DieC, double CaseAirC) OnBench(Any any)
    {
        BenchMachine home = MachineLibrary.Machines.Single(one => one.Id == "home-tower");
        HeatMachine heat = HeatMachines.Of(any.Build, any.Cooler, any.Plan);
        BenchMachine spec = home with
        {
            Build = any.Build with { Processor = any.Build.Processor with { TemperatureLimitC = 129 } },
            Cooler = any.Cooler,
            Plan = any.Plan,
            Truth = home.Truth with { Processor = home.Truth.Processor with { StaticShare = 0 } },
        };
        MachineOnBench bench = new(spec, [], any.Build.RoomC, 1, heat) { Settings = new BenchSettings(1, 1) };
        (double die, double air, int count) = (0, 0, 0);
        for (int tick = 0; tick < 90_000; tick++)
        {
            bench.Tick();
            if (tick > 70_000)
            {
                BenchTruth truth = bench.Truth;
                die += truth.DieC - truth.RoomC;
                air += truth.CaseAirC - truth.RoomC;
                count++;
            }
        }

        return (any.Build.RoomC + (die / count), any.Build.RoomC + (air / count));
    }

    /// <summary>Coolers and Air are one computation; the simulator, in time, comes to the same.</summary>
    [Fact]
    public void Coolers_Air_and_the_simulator_agree() =>
        Machines.Sample(
            any =>
            {
                AirAnswer air = new AirSolver(any.Build, any.Cooler, any.Plan).Solve();
                Candidate predicted = Matcher.Match(any.Build, [any.Cooler]).Candidates[0];
                Assert.Equal(predicted.TemperatureC.Value, air.ProcessorC!.Value, 0.05);
                Assert.True(air.Converged);
                if (air.ProcessorC < 122)
                {
                    (double die, double caseAir) = OnBench(any);
                    Assert.Equal(air.CaseAirC, caseAir, 0.3);
                    Assert.Equal(air.ProcessorC.Value, die, 0.3);
                }
            },
            iter: 40,
            threads: 2
        );

    /// <summary>A library machine is the same to the solver and on its own bench, faults included.</summary>
    [Theory]
    [InlineData("home-tower", "dust-blocked-fins")]
    [InlineData("survey-workstation", "loop-restricted")]
    [InlineData("silent-library", "case-starved")]
    [InlineData("boat-station", "pump-failed")]
    public void Faults_are_the_same_to_both(string id, string fault)
    {
        BenchMachine machine = MachineLibrary.Machines.Single(one => one.Id == id);
        FaultEffects faults = FaultEffects.Of([new(fault, 0.4)]);
        double watts = machine.Truth.Processor.IdleW * 2.5,
            card = machine.Truth.Graphics?.IdleW ?? 0;
        MachineOnBench bench = new(machine, [new(fault, 0.4)], 22, 3) { Settings = new BenchSettings(FanPercent: 60) };
        for (int tick = 0; tick < 3000; tick++)
        {
            bench.Tick(); // until its fans are there
        }

        SteadyResult at = new SteadySolver(HeatMachines.Of(machine), faults).Solve(
            new SteadyLoad(watts, card, bench.Truth.RoomC, FansAt: 0.6)
        );
        Assert.Equal(bench.RestC(watts, card), at.ChipC!.Value, 0.3);
    }

    /// <summary>By hand: a passive cooler in an open frame has nothing but its own resistances above the room.</summary>
    [Fact]
    public void Without_walls_only_the_cooler_counts()
    {
        Any any = Make("passive", "front", 50, 0, 20, 0.5, 1000, 0.5, 800, "board");
        Build open = any.Build with { Case = any.Build.Case! with { OpenFrame = true } };
        Assert.Equal(20 + (50 * (0.08 + 0.6)), new AirSolver(open, any.Cooler, any.Plan).Solve().ProcessorC!.Value, 0.05);
    }

    /// <summary>A front of mesh is never warmer than one of glass.</summary>
    [Fact]
    public void A_mesh_lets_through_what_glass_does_not()
    {
        Any any = Make("tower", "front", 120, 220, 22, 0.2, 1500, 0.5, 900, "board");
        double At(string front) =>
            new AirSolver(any.Build with { Case = any.Build.Case! with { Front = front } }, any.Cooler, any.Plan).Solve().CaseAirC;
        Assert.True(At(CaseFront.Mesh) < At(CaseFront.Grille) && At(CaseFront.Grille) < At(CaseFront.Closed) - 1);
    }

    [Fact]
    public void Every_constant_has_its_source_and_every_default_its_reason()
    {
        Assert.All(PhysicalConstants.All, one => Assert.True(one.Source.Length > 20 && one.Low < one.High, one.Id));
        Assert.All(Defaults.All, one => Assert.True(one.Reason.Length > 12 && double.IsFinite(one.Value), one.Id));
    }
}
