using Remedos.Core.Practice;

namespace Remedos.Benchmarks;

/// <summary>A practice case: drawn, worked the best way, and told of afterwards; and what a second of its machine costs.</summary>
internal static class PracticeBench
{
    private const int Seconds = 1000;

    public static void Run()
    {
        PracticeLevel level = PracticeLevel.All[3];
        int seed = 0;
        (double drawn, _) = Table.Medians(() => PracticeCase.Draw(level, seed++).Seed, () => 0);
        PracticeCase practice = PracticeCase.Draw(level, 5);
        PracticeStand best = PracticeStand.Fresh;
        (double worked, _) = Table.Medians(() => (best = BestWay.Of(practice)).Acts.Count, () => 0);
        (double told, _) = Table.Medians(() => Debrief.Of(practice, best, null).Rows.Count, () => 0);
        Core.Bays.SimulatedBay bay = new(practice.Row, new Dictionary<string, double>(), 1);
        (double lived, _) = Table.Medians(
            () =>
            {
                for (int second = 0; second < Seconds; second++)
                {
                    bay.Second();
                }

                return Seconds;
            },
            () => 0
        );
        Table.Row("a practice case drawn, two faults", $"{drawn:0.0} ms", "", "");
        Table.Row("the same worked the best way", $"{worked:0} ms", "", "");
        Table.Row("where its information lay", $"{told:0} ms", "", "");
        Table.Row("a second of its machine, with its sensors", $"{1000 * lived / Seconds:0} µs", "", "");
    }
}
