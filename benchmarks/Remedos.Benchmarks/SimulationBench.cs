using Remedos.Core.Machines;
using Remedos.Core.Physics;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Benchmarks;

/// <summary>An hour of the largest machine of the library, and the balance of its air.</summary>
internal static class SimulationBench
{
    private const int AirSolves = 1000;

    public static void Run()
    {
        BenchMachine machine = MachineLibrary.Machines.Single(one => one.Id == "survey-workstation");
        (double fixedMs, double autoMs) = Table.Medians(() => Hour(machine, 60), () => Hour(machine, null));
        Table.Row("an hour at 10 Hz simulated, fans fixed (aim: 5 ms)", $"{fixedMs:0.0} ms", "", "");
        Table.Row("an hour at 10 Hz simulated, fans steered", $"{autoMs:0.0} ms", "", "");
        HeatMachine heat = HeatMachines.Of(machine);
        double[] speeds = [.. heat.Fans.Select((_, i) => 0.5 + (0.1 * i))];
        (double airMs, _) = Table.Medians(
            () =>
            {
                for (int i = 0; i < AirSolves; i++)
                {
                    CaseAir.Solve(heat.Fans, speeds, heat.Openings);
                }

                return 0;
            },
            () => 0
        );
        Table.Row("air of a case balanced (aim: 50 µs)", $"{1000 * airMs / AirSolves:0.0} µs", "", "");
    }

    private static double Hour(BenchMachine machine, double? fanPercent)
    {
        MachineOnBench bench = new(machine, [], machine.RoomC, seed: 1);
        for (int tick = 0; tick < 36_000; tick++)
        {
            if (tick % 6000 == 0)
            {
                bench.Settings = new BenchSettings(tick / 6000 % 2, FanPercent: fanPercent);
            }

            bench.Tick();
        }

        return bench.Truth.DieC;
    }
}
