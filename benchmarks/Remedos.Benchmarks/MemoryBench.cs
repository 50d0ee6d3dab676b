using System.Diagnostics;
using Remedos.Core.Runs;

namespace Remedos.Benchmarks;

/// <summary>Peak memory of reading and analysing a large log, in a process that does nothing else.</summary>
internal static class MemoryBench
{
    public static void RunApart(string path)
    {
        using Process process = Process.Start(
            new ProcessStartInfo(Environment.ProcessPath!, [typeof(MemoryBench).Assembly.Location, "memory", path])
            {
                UseShellExecute = false,
                RedirectStandardOutput = true,
            }
        )!;
        string megabytes = process.StandardOutput.ReadToEnd().Trim();
        process.WaitForExit();
        Table.Row("  peak memory of reading and analysing it", $"{megabytes} MB", $"{new FileInfo(path).Length / 1e6:0} MB", "");
    }

    public static void Run(string path)
    {
        RunAnalyzer.Analyze(ReadingBench.Read(path), new RunConditions(TemperatureLimitC: 95));
        using Process self = Process.GetCurrentProcess();
        Console.WriteLine($"{self.PeakWorkingSet64 / 1e6:0}");
    }
}
