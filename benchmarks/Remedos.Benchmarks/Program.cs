using Remedos.Benchmarks;

// Each benchmark prints rows of one table: what, ours, the bare figure of the same work, their ratio. ./bench calls this with a
// PostgreSQL connection, and once more with "memory FILE" in a process of its own.
if (args is ["memory", string file])
{
    MemoryBench.Run(file);
    return 0;
}

if (args is ["core"])
{
    // What needs no database and no large log.
    SimulationBench.Run();
    DiagnosisBench.Run();
    SteadyStateBench.Run();
    MatchingBench.Run();
    ComparisonBench.Run();
    AirBench.Run();
    RepairBench.Run();
    PlanningBench.Run();
    PracticeBench.Run();
    return 0;
}

if (args.Length != 1)
{
    Console.Error.WriteLine("Run this by ./bench, which hands over a PostgreSQL connection.");
    return 2;
}

string wide = Path.Combine(Path.GetTempPath(), $"remedos-bench-{Environment.ProcessId}.csv"),
    large = wide + ".large.csv";
try
{
    WideLog.Write(wide, rows: 100_000, columns: 40);
    Table.Row("100,000 rows × 40 columns", $"{new FileInfo(wide).Length / 1e6:0} MB", "", "");
    ReadingBench.Run(wide);
    await StoringBench.RunAsync(wide, args[0]);
    WideLog.Write(large, rows: 140_000, columns: 121);
    Table.Row("140,000 rows × 121 columns", $"{new FileInfo(large).Length / 1e6:0} MB", "", "");
    ReadingBench.Run(large);
    ReadingBench.RunPeer(large);
    MemoryBench.RunApart(large);
    FitBench.Run();
    SimulationBench.Run();
    DiagnosisBench.Run();
    SteadyStateBench.Run();
    MatchingBench.Run();
    ComparisonBench.Run();
    AirBench.Run();
    RepairBench.Run();
    PlanningBench.Run();
    PracticeBench.Run();
}
finally
{
    File.Delete(wide);
    File.Delete(large);
}

return 0;
