using CsCheck;
using Remedos.Core.Machines;
using Remedos.Core.Physics;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Tests.Simulation;

public sealed class SimulationTests
{
    [Fact]
    public void One_capacity_follows_its_exponential()
    {
        ThermalNetwork network = new([50], [0.4]);
        double[] rises = [0];
        network.Advance(rises, [100], 13);
        Assert.Equal(40 * (1 - Math.Exp(-13 / 20.0)), rises[0], 10);
    }

    [Fact]
    public void Rest_is_where_stepping_ends_and_a_step_is_as_good_as_many() =>
        Gen.Select(Gen.Double[1, 10].Array[4], Gen.Double[0.02, 0.6].Array[4], Gen.Double[0, 200])
            .Sample(
                (capacities, resistances, watts) =>
                {
                    ThermalNetwork network = new([capacities[0], 20 * capacities[1], 80 * capacities[2], 500 * capacities[3]], resistances);
                    double[] heat = [watts, 0, 0, 30];
                    double[] rest = network.Rest(heat);
                    // At rest all the heat passes the last resistance, and the die's own heat every one.
                    Assert.Equal((watts + 30) * resistances[3], rest[3], 1e-9 * (1 + rest[3]));
                    Assert.Equal(rest[3] + (watts * (resistances[0] + resistances[1] + resistances[2])), rest[0], 1e-9 * (1 + rest[0]));
                    double[] still = [.. rest],
                        once = [0, 0, 0, 0],
                        stepped = [0, 0, 0, 0];
                    network.Advance(still, heat, 777);
                    Assert.Equal(rest[0], still[0], 1e-9 * (1 + rest[0]));
                    Assert.Equal(
                        rest[0] - rest[3],
                        network.Modes.Sum(mode => mode.ResistanceCPerW) * watts - (watts * resistances[3]),
                        1e-8 * (1 + rest[0])
                    );
                    network.Advance(once, heat, 60);
                    for (int i = 0; i < 600; i++)
                    {
                        network.Advance(stepped, heat, 0.1);
                    }

                    Assert.Equal(once[0], stepped[0], 1e-8 * (1 + once[0]));
                },
                iter: 100
            );

    [Fact]
    public void No_heat_is_lost()
    {
        double[] capacities = [6, 110, 700, 3200],
            resistances = [0.12, 0.08, 0.1, 0.05],
            heat = [120, 0, 0, 25];
        ThermalNetwork network = new(capacities, resistances);
        double[] rises = [0, 0, 0, 0];
        double out_ = 0;
        const double step = 0.05;
        for (int i = 0; i < 40000; i++)
        {
            double[] next = [.. rises];
            network.Advance(next, heat, step);
            out_ += step * (rises[3] + next[3]) / 2 / resistances[3];
            rises = next;
        }

        double stored = capacities.Zip(rises, (c, x) => c * x).Sum(),
            into = heat.Sum() * 40000 * step;
        Assert.InRange(Math.Abs(into - out_ - stored) / into, 0, 1e-4);
    }

    [Fact]
    public void Equal_seeds_give_equal_logs()
    {
        string Log(int seed)
        {
            SimulationRequest request = new([new(60, 0), new(120, 1)], "home-tower");
            return SimulatedRun.Of(request.Resolve(out _)!, request, seed).LogCsv();
        }

        Assert.Equal(Log(3), Log(3));
        Assert.NotEqual(Log(3), Log(4));
    }

    [Fact]
    public void Thicker_paste_is_never_cooler() =>
        Gen.Double[0.02, 0.3]
            .Select(Gen.Double[0.01, 0.3], Gen.Int[0, MachineLibrary.Machines.Count - 1])
            .Sample(
                (paste, more, which) =>
                {
                    BenchMachine machine = MachineLibrary.Machines[which];
                    double Hot(double r) =>
                        new SteadySolver(
                            HeatMachines.Of(
                                machine with
                                {
                                    Truth = machine.Truth with { Cooler = machine.Truth.Cooler with { PasteCPerW = r } },
                                }
                            )
                        )
                            .Solve(new SteadyLoad(machine.Processor.SustainedPowerW, 0, machine.RoomC))
                            .ChipC!.Value;
                    Assert.True(Hot(paste + more) > Hot(paste));
                }
            );
}
