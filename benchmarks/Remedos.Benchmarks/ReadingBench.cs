using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Sylvan.Data.Csv;

namespace Remedos.Benchmarks;

/// <summary>Reading a log into channels against the CSV library's bare pass, which only finds the fields.</summary>
internal static class ReadingBench
{
    public static void Run(string path)
    {
        (double ours, double bare) = Table.MediansAsync(() => Work(() => Read(path)), () => Work(() => Tokens(path))).GetAwaiter().GetResult();
        Table.Row("read into channels, against the bare tokens", ours, bare);
        Log log = Read(path);
        (double analysed, _) = Table.MediansAsync(() => Work(() => RunAnalyzer.Analyze(log, new RunConditions(TemperatureLimitC: 95))), () => Task.CompletedTask).GetAwaiter().GetResult();
        Table.Row("analysed (phases, figures, fit)", $"{analysed:0} ms", "", "");
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

    private static Task Work<T>(Func<T> work)
    {
        work();
        return Task.CompletedTask;
    }
}
