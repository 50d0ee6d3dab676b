using System.Text.Json;
using Remedos.Core.Comparison;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests;

/// <summary>The example logs under Data/, read and analysed once each.</summary>
internal static class Example
{
    private static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web);

    public static string Folder(string name) => Path.Combine(AppContext.BaseDirectory, "Data", name);

    public static string Find(string folder, string name) => Directory.GetFiles(Folder(folder), name + ".?sv").Single();

    public static LogReading Read(string path)
    {
        using FileStream stream = File.OpenRead(path);
        return LogReader.Read(stream);
    }

    public static LogReading ReadText(string text) => LogReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(text)));

    public static ConditionedRun Run(string name)
    {
        string path = Find("runs", name);
        RunConditions conditions = JsonSerializer.Deserialize<RunConditions>(
            File.ReadAllText(Path.Combine(Folder("runs"), name + ".conditions.json")),
            Web
        )!;
        return new ConditionedRun(RunAnalyzer.Analyze(Read(path).Log!, conditions), conditions);
    }

    public static JsonElement Truth(string folder, string file = "truth.json") =>
        JsonSerializer.Deserialize<JsonElement>(File.ReadAllText(Path.Combine(Folder(folder), file)));

    public static double Number(this JsonElement element, string name) => element.GetProperty(name).GetDouble();
}
