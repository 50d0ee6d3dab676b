using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Repair;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Tests.Repair;

/// <summary>What the first power-on asks for tells a cooler that sits from one that does not touch.</summary>
public class FirstPowerTests
{
    private static Build Machine(double watts, double roomC) =>
        new(
            new ProcessorPart("Corbel C125", "Q4", watts, 95, InsideResistanceCPerW: 0.1),
            new BoardPart("Q4", Headers: [new Header("CPU", 1, "cpu")]),
            Case: new CasePart(Fans: [new FanNote("front", "in", 120, 900), new FanNote("rear", "out", 120, 1000)]),
            RoomC: roomC
        );

    private static CoolerPart Tower(double full) =>
        new(
            "t",
            "Mullion 120",
            "tower",
            Fans: [new Fan(120, 1600, 500, 0.2, 30)],
            Performance: [new PerformancePoint(800, full * 1.3), new PerformancePoint(1600, full)]
        );

    [Fact]
    public void A_cooler_that_sits_passes_and_one_that_hangs_in_the_air_does_not()
    {
        foreach (double watts in new[] { 65.0, 125, 180 })
        foreach (double room in new[] { 18.0, 24, 31 })
        {
            (Build build, CoolerPart cooler) = (Machine(watts, room), Tower(0.22));
            double most = FirstPower.MaxC(build, cooler);
            HeatMachine machine = HeatMachines.Of(build, cooler, AirPlanner.Start(build, cooler));
            double At(FaultEffects faults, double share) =>
                new SteadySolver(machine, faults).Solve(new SteadyLoad(share * watts, 0, room)).ChipC!.Value;
            Assert.InRange(At(FaultEffects.None, 0.35), room, most);
            // A film left on, or stand-offs at their stop: a degree and a half and more for each watt.
            Assert.True(At(FaultEffects.None with { PasteAddCPerW = 1.5 }, 0.35) > most, $"{watts} W, {room} °C: {most} °C");
        }
    }

    [Fact]
    public void It_never_asks_for_more_than_is_well_clear_of_the_limit() => Assert.Equal(85, FirstPower.MaxC(Machine(400, 30), Tower(0.9)));
}
