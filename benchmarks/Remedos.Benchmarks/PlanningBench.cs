using Remedos.Core.Planning;

namespace Remedos.Benchmarks;

/// <summary>The plan of a day with forty machines in the house, each with everything still ahead.</summary>
internal static class PlanningBench
{
    private const int Machines = 40;

    public static void Run()
    {
        Span[] open = [.. Enumerable.Range(0, 28).Where(day => day % 7 < 6).Select(day => new Span(day * 1440, (day * 1440) + 510))];
        PlanRequest request = new(
            open,
            [.. Enumerable.Range(0, 3).Select(i => new PlanHand($"{i}", open))],
            [.. Enumerable.Range(1, 4).Select(i => new PlanBay(i, []))],
            [
                .. Enumerable
                    .Range(0, Machines)
                    .Select(i => new PlanJob(
                        $"{i}",
                        [
                            new WorkPiece(WorkKind.Look, "look", 5),
                            WorkPiece.Run("before"),
                            new WorkPiece(WorkKind.Check, "find", 10),
                            new WorkPiece(WorkKind.Repair, "repair", 20 + (i * 37 % 60)),
                            WorkPiece.Run("after"),
                        ],
                        Due: i % 2 == 0 ? 400 + (i * 331 % 4000) : null
                    )),
            ]
        );
        (double ms, _) = Table.Medians(() => DayPlanner.Plan(request).Blocks.Count, () => 0);
        Table.Row("the day of forty machines planned (aim: 50 ms)", $"{ms:0.0} ms", "", "");
    }
}
