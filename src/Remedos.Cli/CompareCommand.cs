using System.CommandLine;
using System.Text.Json;
using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Cli;

/// <summary>`remedos compare --before LOG… --after LOG…`: did the repair help?</summary>
internal static class CompareCommand
{
    public static Command Build()
    {
        Option<FileInfo[]> before = new("--before") { Description = "Logs before the repair.", Required = true, AllowMultipleArgumentsPerToken = true };
        Option<FileInfo[]> after = new("--after") { Description = "Logs after the repair.", Required = true, AllowMultipleArgumentsPerToken = true };
        Option<bool> json = new("--json") { Description = "Answer in the contract's JSON (docs/formats.md)." };
        Command command = new("compare", "Compares runs before and after a repair, with the verdict's uncertainty.") { before, after, json };
        command.SetAction(parsed =>
        {
            ConditionedRun[] left = Runs(parsed.GetValue(before)!), right = Runs(parsed.GetValue(after)!);
            ComparisonResult result = Comparer.Compare(left, right);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(result, CliJson.Contract.ComparisonResult) : Text(result, left[0], right[0]));
            return result.Comparable ? ExitStatus.Done : ExitStatus.NoAnswer;
        });
        return command;
    }

    /// <summary>The runs of logs; repeats in one log count as repeated runs.</summary>
    private static ConditionedRun[] Runs(FileInfo[] logs) =>
        [.. logs.Select(log => Input.Log(log, null)).SelectMany(read => RunAnalyzer.AnalyzeEach(read.Log, read.Conditions).Select(run => new ConditionedRun(run, read.Conditions)))];

    private static string Text(ComparisonResult result, ConditionedRun before, ConditionedRun after)
    {
        List<string> lines = [VerdictWords.Of(result, before.Analysis, after.Analysis).ToString(), ""];
        if (result.Change is { } change)
        {
            lines.Add($"  resistance            {result.Before.ResistanceCPerW:0.000} → {result.After.ResistanceCPerW:0.000} °C/W ({change.ResistanceCPerW:+0.000;−0.000} ± {change.HalfWidthCPerW:0.000})");
            lines.Add($"  at {change.ReferencePowerW,-4:0} W             {change.AtReferencePowerC:+0.0;−0.0} ± {change.HalfWidthC:0.0} °C");
            lines.Add($"  smallest change seen  {result.SmallestDetectableC:0.0} °C");
            lines.AddRange((result.ByBand ?? []).Select(band => $"  {band.Band,-20}  {band.ResistanceCPerW:+0.000;−0.000} ± {band.HalfWidthCPerW:0.000} °C/W"));
        }

        lines.AddRange(result.Obstacles.Select(o => $"  {o.Severity,-10} {o.Message} {o.Remedy}".TrimEnd()));
        return string.Join('\n', lines);
    }
}
