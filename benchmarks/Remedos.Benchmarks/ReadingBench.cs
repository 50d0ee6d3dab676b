using DuckDB.NET.Data;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Sylvan.Data.Csv;

namespace Remedos.Benchmarks;

/// <summary>Reading a log into channels, and analysing it, against the CSV library's bare pass, which only touches the fields.</summary>
internal static class ReadingBench
{
    private static readonly RunConditions Conditions = new(FanPolicy: "fixed", TemperatureLimitC: 95, CoolerKind: "tower");

    public static void Run(string path)
    {
        (double ours, double bare) = Table.Medians(() => Read(path), () => Tokens(path));
        Table.Row("  read into channels, against the bare tokens", ours, bare);
        (ours, bare) = Table.Medians(() => RunAnalyzer.Analyze(Read(path), Conditions), () => Tokens(path));
        Table.Row("  read and analysed, against the bare tokens", ours, bare);
    }

    /// <summary>Against a database engine that parses the same file on all processors.</summary>
    public static void RunPeer(string path)
    {
        (double ours, double peer) = Table.Medians(() => Read(path), () => DuckDb(path));
        Table.Row("  read into channels, against a database's read of the file", ours, peer);
    }

    public static Log Read(string path)
    {
        using FileStream stream = File.OpenRead(path);
        return LogReader.Read(stream).Log!;
    }

    private static long Tokens(string path)
    {
        using CsvDataReader csv = CsvDataReader.Create(path);
        long letters = 0;
        while (csv.Read())
        {
            for (int i = 0; i < csv.FieldCount; i++)
            {
                letters += csv.GetFieldSpan(i).Length;
            }
        }

        return letters;
    }

    private static int DuckDb(string path)
    {
        using DuckDBConnection connection = new("DataSource=:memory:");
        connection.Open();
        using DuckDBCommand command = connection.CreateCommand();
        command.CommandText = $"CREATE TABLE log AS SELECT * FROM read_csv('{path}')";
        return command.ExecuteNonQuery();
    }
}
