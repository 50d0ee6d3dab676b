using System.Diagnostics;

namespace Remedos.Benchmarks;

/// <summary>Rows of the table and the way a figure is taken: the median of several after a warm-up.</summary>
internal static class Table
{
    private const int Rounds = 7;

    private static readonly TimeSpan WarmUp = TimeSpan.FromSeconds(2);

    public static void Row(string what, string ours, string bare, string ratio) =>
        Console.WriteLine($"{what, -58} {ours, 12} {bare, 12} {ratio, 8}");

    public static void Row(string what, double oursMs, double bareMs) =>
        Row(what, $"{oursMs:0} ms", $"{bareMs:0} ms", $"{oursMs / bareMs:0.0} ×");

    /// <summary>Medians of two works that take turns, so that a slow moment of the machine hits both, ms.</summary>
    public static async Task<(double Ours, double Bare)> MediansAsync(Func<Task> ours, Func<Task> bare)
    {
        List<double> first = [],
            second = [];
        // Short works are compiled anew while they warm up; they want more than one round of it.
        long warm = Stopwatch.GetTimestamp();
        do
        {
            await ours();
            await bare();
        } while (Stopwatch.GetElapsedTime(warm) < WarmUp);
        for (int round = 0; round < Rounds; round++)
        {
            first.Add(await TimeAsync(ours));
            second.Add(await TimeAsync(bare));
        }

        return (Median(first), Median(second));
    }

    /// <summary>The same for works that need no waiting.</summary>
    public static (double Ours, double Bare) Medians<T, U>(Func<T> ours, Func<U> bare) =>
        MediansAsync(() => Done(ours), () => Done(bare)).GetAwaiter().GetResult();

    private static Task Done<T>(Func<T> work)
    {
        work();
        return Task.CompletedTask;
    }

    private static async Task<double> TimeAsync(Func<Task> work)
    {
        GC.Collect();
        long start = Stopwatch.GetTimestamp();
        await work();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }

    private static double Median(List<double> values)
    {
        values.Sort();
        return values[values.Count / 2];
    }
}
