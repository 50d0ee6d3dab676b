using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Benchmarks;

/// <summary>One steady state, fans, air and heat in agreement, over all machines of the library.</summary>
internal static class SteadyStateBench
{
    private const int Times = 200;

    public static void Run()
    {
        (SteadySolver Solver, SteadyLoad Load)[] machines =
        [
            .. MachineLibrary.Machines.Select(machine =>
                (
                    new SteadySolver(HeatMachines.Of(machine)),
                    new SteadyLoad(machine.Processor.SustainedPowerW, machine.Graphics?.PowerW ?? 0, machine.RoomC)
                )
            ),
        ];
        (double ms, _) = Table.Medians(
            () =>
            {
                double sum = 0;
                for (int i = 0; i < Times; i++)
                {
                    foreach ((SteadySolver solver, SteadyLoad load) in machines)
                    {
                        sum += solver.Solve(load).ChipC!.Value;
                    }
                }

                return sum;
            },
            () => 0
        );
        Table.Row("a steady state (aim: 20 µs)", $"{1000 * ms / (Times * machines.Length):0.0} µs", "", "");
    }
}
