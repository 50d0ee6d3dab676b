using Remedos.Benchmarks;

// Each benchmark prints rows of one table: what, ours, the bare figure of the same work, their ratio. ./bench calls this.
if (args.Length == 0)
{
    Console.Error.WriteLine("Run this by ./bench, which hands over a PostgreSQL connection.");
    return 2;
}

string log = Path.Combine(Path.GetTempPath(), $"remedos-bench-{Environment.ProcessId}.csv");
try
{
    WideLog.Write(log, rows: 100_000, columns: 40);
    Table.Row("100,000 rows × 40 columns", $"{new FileInfo(log).Length / 1e6:0} MB", "", "");
    ReadingBench.Run(log);
    await StoringBench.RunAsync(log, args[0]);
}
finally
{
    File.Delete(log);
}

return 0;
