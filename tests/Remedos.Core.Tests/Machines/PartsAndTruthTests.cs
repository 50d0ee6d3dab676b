using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Tests.Machines;

/// <summary>A part is one thing: what a workshop knows of it, and what the simulated bench lets it do, agree.</summary>
public sealed class PartsAndTruthTests
{
    public static TheoryData<string> All => [.. MachineLibrary.Machines.Select(machine => machine.Id)];

    private static BenchMachine Machine(string id) => MachineLibrary.Machines.Single(machine => machine.Id == id);

    /// <summary>A catalogue is measured on the cooler itself, its pump on its own curve.</summary>
    [Theory]
    [MemberData(nameof(All))]
    public void A_coolers_catalogue_says_what_is_true_of_it(string id)
    {
        CoolerHeat cooler = HeatMachines.Of(Machine(id)).Cooler!;
        Assert.All(Machine(id).Cooler.Performance!, point => Assert.Equal(cooler.BaseToAirCPerW(point.Rpm), point.ResistanceCPerW, 0.0006));
    }

    /// <summary>
    /// A workshop that has noted the parts expects what the machine does: the rise and the case's air, the card idle and at work.
    /// </summary>
    [Theory]
    [MemberData(nameof(All))]
    public void What_is_expected_of_the_noted_parts_holds_what_the_machine_does(string id)
    {
        BenchMachine machine = Machine(id);
        HeatMachine truth = HeatMachines.Of(machine);
        ReferenceMachine noted = AirPlanner.ReferenceOf(machine.Build, machine.Cooler)!;
        Assert.True(noted.ByParts);
        foreach (double load in machine.Graphics is null ? [0] : new double[] { 0, 1 })
        {
            RunPoint at = new(machine.Processor.SustainedPowerW, machine.CardW(load), machine.RoomC, 0.8 * machine.Cooler.FullRpm);
            ExpectedState does = ExpectedState.Of(truth, at)!,
                expected = ExpectedState.Of(noted.Machine, at)!;
            Assert.Equal(does.RiseC.Value, expected.RiseC.Value, expected.RiseC.HalfWidth);
            Assert.Equal(does.CaseAirC.Value, expected.CaseAirC.Value, 1.2 * expected.CaseAirC.HalfWidth);
        }
    }

    private static readonly ProcessorPart Chip = new("chip", "Q4", 120, 95, InsideResistanceCPerW: 0.08);

    private static readonly CoolerPart Loop = CoolerPart.OfKind("liquid") with
    {
        Id = "loop",
        Performance = [new(900, 0.2), new(1600, 0.16)],
    };

    private static readonly CasePart Box = new(
        Radiators: [new("front", [240]), new("top", [240])],
        Fans: [new("front", "in", 120, 1000, 1200), new("rear", "out", 120, 1000, 1200)]
    );

    /// <summary>Where a radiator hangs is noted of the one that is on it; another one hangs where it does best.</summary>
    [Theory]
    [InlineData("top-out", "top", RadiatorAir.Out)]
    [InlineData("top-in", "top", RadiatorAir.In)]
    [InlineData("front-out", "front", RadiatorAir.Out)]
    public void A_radiator_hangs_where_it_was_seen(string noted, string place, RadiatorAir air)
    {
        Build build = new(Chip, Case: Box, CurrentCooler: "loop", RadiatorAt: noted);
        Assert.Null(build.Problem());
        AirPlan plan = AirPlanner.Start(build, Loop);
        Assert.Equal(place, plan.Cooler!.Place);
        Assert.Equal(air, HeatMachines.Of(build, Loop, plan).Cooler!.Radiator);
        CoolerPart other = Loop with { Id = "other" };
        Assert.Equal(AirPlanner.Start(build with { RadiatorAt = null }, other).Cooler!.Place, AirPlanner.Start(build, other).Cooler!.Place);
        Assert.Contains("radiatorAt: “floor-in” is none of front-in", (build with { RadiatorAt = "floor-in" }).Problem());
    }

    /// <summary>A radiator that blows out of the case leaves its heat outside: the case is cooler, the chip breathes its air.</summary>
    [Fact]
    public void What_was_noted_of_the_radiator_moves_what_is_expected()
    {
        ExpectedState Expected(string at) =>
            ExpectedState.Of(
                AirPlanner.ReferenceOf(new Build(Chip, Case: Box, CurrentCooler: "loop", RadiatorAt: at), Loop)!.Machine,
                new RunPoint(120, 200, 22, 1200)
            )!;
        Assert.True(Expected("front-in").CaseAirC.Value > Expected("top-out").CaseAirC.Value + 3);
        Assert.True(Expected("top-out").RiseC.Value > Expected("front-in").RiseC.Value + 3);
    }

    /// <summary>
    /// Case fans that are fixed say nothing of their speed: whether they are silenced or left at full, what is expected holds it. A curve
    /// that is noted leaves less open.
    /// </summary>
    [Theory]
    [InlineData(35)]
    [InlineData(60)]
    [InlineData(100)]
    public void Fans_that_are_fixed_leave_the_cases_air_open(double percent)
    {
        double does = ExpectedState.CaseAirAt(Turning(percent), 120, 0, 22).Value;
        Expected expected = ExpectedState.CaseAirAt(Noted(Steering.Fixed), 120, 0, 22),
            noted = ExpectedState.CaseAirAt(Noted("board"), 120, 0, 22);
        Assert.Equal(does, expected.Value, expected.HalfWidth);
        Assert.True(noted.HalfWidth / noted.Value < 0.7 * expected.HalfWidth / expected.Value);
    }

    /// <summary>A log of their speed closes it, whatever they were said to follow; under load, at rest, and for the card.</summary>
    [Theory]
    [InlineData(35, Steering.Fixed)]
    [InlineData(100, Steering.Fixed)]
    [InlineData(35, "board")]
    [InlineData(80, "cpu")]
    public void A_log_of_the_cases_fans_says_how_its_air_goes(double percent, string follow)
    {
        RunPoint plain = new(120, 40, 22, 1200, Idle: new IdlePoint(20, 10, 700)),
            logged = plain with { CaseFanRpm = 12 * percent, Idle = plain.Idle! with { CaseFanRpm = 12 * percent } };
        HeatMachine noted = Noted(follow);
        ExpectedState does = ExpectedState.Of(Turning(percent), plain)!,
            expected = ExpectedState.Of(noted, logged)!;
        Assert.Equal(does.CaseAirC.Value, expected.CaseAirC.Value, 0.01);
        Assert.Equal(does.RiseC.Value, expected.RiseC.Value, 0.01);
        Assert.Equal(does.IdleC!.Value.Value, expected.IdleC!.Value.Value, 0.01);
        Assert.Equal(
            ExpectedState.CaseAirAt(Turning(percent), 120, 40, 22).Value,
            ExpectedState.CaseAirAt(noted, 120, 40, 22, 12 * percent).Value,
            0.01
        );
        Assert.Equal(0.35, ExpectedState.CaseAirAt(noted, 120, 40, 22, 12 * percent) is var air ? air.HalfWidth / air.Value : 0, 0.001);
        // Of a case of which nothing is known, nobody knows how fast its fans could turn.
        HeatMachine unknown = AirPlanner.ReferenceOf(new Build(Chip), Tower)!.Machine;
        Assert.Equal(ExpectedState.Of(unknown, plain)!.RiseC, ExpectedState.Of(unknown, logged)!.RiseC);
    }

    /// <summary>
    /// Noted once, a fixed speed counts wherever that machine is computed: what its runs are held against, the list of coolers and Air.
    /// </summary>
    [Theory]
    [InlineData(35)]
    [InlineData(100)]
    public void Where_fans_are_fixed_can_be_noted(double percent)
    {
        Build unnoted = new(Chip, Case: Box, CurrentCooler: "tower", FansFollow: Steering.Fixed),
            noted = unnoted with { FansFixedRpm = 12 * percent };
        ReferenceMachine reference = AirPlanner.ReferenceOf(noted, Tower)!;
        RunPoint plain = new(120, 0, 22, 1200);
        Expected logged =
                ExpectedState.Of(AirPlanner.ReferenceOf(unnoted, Tower)!.Machine, plain with { CaseFanRpm = 12 * percent })!.RiseC,
            expected = ExpectedState.Of(reference.Machine, plain)!.RiseC;
        Assert.Equal(logged.Value, expected.Value, 1e-4);
        Assert.Equal(logged.HalfWidth, expected.HalfWidth, 1e-4);
        double inCase = new SteadySolver(Turning(percent)).Solve(new SteadyLoad(120, 0, 22)).ChipC!.Value;
        Assert.Equal(inCase, Matcher.Match(noted, [Tower]).Candidates.Single().TemperatureC.Value, 0.05);
        Assert.Equal(inCase, new AirSolver(noted, Tower, AirPlanner.Start(noted, Tower)).Solve(120, 0, 22).ProcessorC!.Value, 0.05);
        Assert.Contains($"fans fixed at {12 * percent:0} rpm", string.Join("; ", reference.Sources), StringComparison.Ordinal);
        Assert.DoesNotContain(reference.Missing, what => what.Contains("fixed", StringComparison.Ordinal));
        Assert.Contains("at what speed its case fans are fixed", AirPlanner.ReferenceOf(unnoted, Tower)!.Missing);
        Assert.Equal("fansFixedRpm: 20 is outside 60 to 10000 rpm.", (noted with { FansFixedRpm = 20 }).Problem());
    }

    private static readonly CoolerPart Tower = CoolerPart.OfKind("tower") with { Id = "tower" };

    private static HeatMachine Noted(string follow) =>
        AirPlanner.ReferenceOf(new Build(Chip, Case: Box, CurrentCooler: "tower", FansFollow: follow), Tower)!.Machine;

    /// <summary>The same with its case's fans at a share of full speed.</summary>
    private static HeatMachine Turning(double percent)
    {
        Build build = new(Chip, Case: Box, CurrentCooler: "tower");
        AirPlan plan = AirPlanner.Start(build, Tower);
        PlannedHeader[] headers =
        [
            .. plan.Headers.Select(header =>
                plan.Fans.Any(fan => fan.Header == header.Name) ? header with { Steering = new("board", [new(20, percent)]) } : header
            ),
        ];
        return HeatMachines.Of(build, Tower, plan with { Headers = headers });
    }

    /// <summary>Less sheet and a supply that breathes elsewhere leave a case warmer; what nobody has measured is a mid tower.</summary>
    [Fact]
    public void A_cases_measures_and_its_supply_are_part_of_its_air()
    {
        double Air(CasePart box) =>
            ExpectedState
                .CaseAirAt(AirPlanner.ReferenceOf(new Build(Chip, Case: box), CoolerPart.OfKind("tower"))!.Machine, 120, 0, 22)
                .Value;
        double unknown = Air(Box),
            mid = Air(Box with { HeightMm = 460, DepthMm = 440, WidthMm = 215 }),
            small = Air(Box with { HeightMm = 95, DepthMm = 330, WidthMm = 290 });
        Assert.Equal(0.79, (Box with { HeightMm = 460, DepthMm = 440, WidthMm = 215 }).SheetM2!.Value, 0.005);
        Assert.Null((Box with { HeightMm = 460, DepthMm = 440 }).SheetM2);
        Assert.Equal(unknown, mid, 0.1);
        Assert.True(small > mid + 0.3);
        Assert.True(Air(Box with { SupplyApart = true }) > unknown + 1);
        Assert.Equal(unknown, Air(Box with { SupplyApart = false }));
    }

    /// <summary>A front that is shut stands before all air that comes in, whether a fan hangs behind it or not.</summary>
    [Fact]
    public void A_case_that_is_shut_in_front_is_warmer()
    {
        double Air(string? front, params FanNote[] fans) =>
            ExpectedState
                .CaseAirAt(AirPlanner.ReferenceOf(new Build(Chip, Case: new(Fans: fans, Front: front)), Tower)!.Machine, 120, 0, 22)
                .Value;
        FanNote intake = new("front", "in", 120, 1000, 1200),
            exhaust = new("rear", "out", 120, 1000, 1200);
        Assert.True(Air("closed", exhaust) > Air(null, exhaust) + 1);
        Assert.True(Air("closed", intake, exhaust) > Air("grille", intake, exhaust) + 1);
        Assert.Equal(Air(null, exhaust), Air("mesh", exhaust));
    }
}
