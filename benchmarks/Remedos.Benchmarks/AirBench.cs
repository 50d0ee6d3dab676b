using System.Diagnostics;
using Remedos.Core.Airflow;
using Remedos.Core.Machines;

namespace Remedos.Benchmarks;

/// <summary>A whole machine with its fans in agreement; and all ready-made comparisons of one plan.</summary>
internal static class AirBench
{
    public static void Run()
    {
        double sum = 0;
        Fan fan = new(120, 1800, 500, 0.25, 37);
        CoolerPart loop = new(
            "c",
            "Rill 240",
            "liquid",
            ["Q4"],
            RadiatorSizeMm: 240,
            RadiatorThicknessMm: 52,
            Fans: [fan, fan],
            PumpCurrentA: 0.4,
            Performance: [new(900, 0.21), new(1800, 0.16)]
        );
        Build build = new(
            new ProcessorPart("Corbel C180", "Q4", 180, 95, InsideResistanceCPerW: 0.08),
            new BoardPart("Q4", 48, 62, [new Header("CPU", 1, "cpu"), new Header("PUMP", 2, "full"), new Header("CASE", 1, "board")]),
            null,
            new CasePart(
                164,
                360,
                [new RadiatorPlace("front", [240], 60), new RadiatorPlace("top", [240], 60), new RadiatorPlace("rear", [120], 60)],
                [new FanNote("front", "in", 120, 900), new FanNote("rear", "out", 120, 900)]
            ),
            new GraphicsPart(220, 305),
            22
        );
        AirPlan plan = AirPlanner.Start(build with { FansFollow = "cpu" }, loop);
        AirSolver solver = new(build, loop, plan);
        Table.Row(
            "a machine's fans and temperatures brought into agreement",
            $"{MicrosecondsEach(200, _ => sum += solver.Solve().CaseAirC):0} µs",
            "",
            ""
        );
        Table.Row(
            "all ready-made comparisons of its air",
            $"{MicrosecondsEach(20, _ => sum += AirComparison.Of(build, loop, plan).Count) / 1000:0.0} ms",
            "",
            ""
        );
        GC.KeepAlive(sum);
    }

    /// <summary>The median of seven rounds, each after one to warm up, µs.</summary>
    private static double MicrosecondsEach(int times, Action<int> work)
    {
        List<double> rounds = [];
        for (int round = 0; round < 8; round++)
        {
            long start = Stopwatch.GetTimestamp();
            for (int i = 0; i < times; i++)
            {
                work(i);
            }

            rounds.Add(Stopwatch.GetElapsedTime(start).TotalMicroseconds / times);
        }

        return rounds.Skip(1).Order().ElementAt(3);
    }
}
