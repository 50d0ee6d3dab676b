using Remedos.Core.Machines;
using Remedos.Core.Repair;

namespace Remedos.Benchmarks;

/// <summary>The steps of a repair that lifts a loop, puts a tower on and services the card: about the longest there is.</summary>
internal static class RepairBench
{
    private const int Plans = 100;

    public static void Run()
    {
        RepairFacts facts = RepairFacts.OfMachine(new BoardPart("W3"), null, null, "liquid") with
        {
            Acts = ["replace-loop", "clean", "card", "re-steer"],
            CoolerOn = NewCooler.OfKind("dual-tower"),
            HasCard = true,
            Obstacles = CaseObstacle.All,
        };
        (double ms, _) = Table.Medians(
            () =>
            {
                int steps = 0;
                for (int i = 0; i < Plans; i++)
                {
                    steps += RepairPlanner.Of(facts).Steps.Count;
                }

                return steps;
            },
            () => 0
        );
        Table.Row("a repair's steps composed (aim: 5 ms)", $"{ms / Plans:0.000} ms", "", "");
    }
}
