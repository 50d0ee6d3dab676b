using System.CommandLine;
using System.Text.Json;
using Remedos.Core;
using Remedos.Core.Comparison;

namespace Remedos.Cli;

/// <summary>`remedos compare --before LOG… --after LOG…`: did the repair help?</summary>
internal static class CompareCommand
{
    public static Command Build()
    {
        Option<FileInfo[]> before = new("--before")
        {
            Description = "Logs before the repair.",
            Required = true,
            AllowMultipleArgumentsPerToken = true,
        };
        Option<FileInfo[]> after = new("--after")
        {
            Description = "Logs after the repair.",
            Required = true,
            AllowMultipleArgumentsPerToken = true,
        };
        Option<bool> json = new("--json") { Description = "Answer in the contract's JSON (docs/formats.md)." };
        Command command = new("compare", "Compares runs before and after a repair, with the verdict's uncertainty.")
        {
            before,
            after,
            json,
        };
        command.SetAction(parsed =>
        {
            ConditionedRun[] left = LoggedRuns.Of(parsed.GetValue(before)!),
                right = LoggedRuns.Of(parsed.GetValue(after)!);
            ComparisonResult result = Comparer.Compare(left, right);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(result, CliJson.Contract.ComparisonResult) : Text(result));
            return result.Comparable ? ExitStatus.Done : ExitStatus.NoAnswer;
        });
        return command;
    }

    private static string Text(ComparisonResult result)
    {
        List<string> lines = [VerdictWords.Of(result).ToString(), ""];
        if (result.Change is { } change)
        {
            lines.Add(
                $"  resistance            {result.Before.ResistanceCPerW:0.000} → {result.After.ResistanceCPerW:0.000} °C/W "
                    + $"({change.ResistanceCPerW:+0.000;−0.000;0.000} ± {change.HalfWidthCPerW:0.000}), its own heat, at one fan speed"
            );
            lines.Add(
                $"  at {change.ReferencePowerW, -4:0} W             {change.AtReferencePowerC:+0.0;−0.0;0.0} ± {change.HalfWidthC:0.0} "
                    + $"°C"
                    + (
                        change.FanPartC is { } fan
                            ? $"; the fan’s part {fan:+0.0;−0.0;0.0}, as it runs {change.AsItRunsC:+0.0;−0.0;0.0}"
                            : ""
                    )
            );
            lines.Add($"  found 4 times in 5    {result.SmallestDetectableC:0.0} °C");
            lines.AddRange(
                result.Wanted is { } wanted
                    ?
                    [
                        $"  to settle it          "
                            + (
                                wanted.Runs > 0
                                    ? $"{wanted.Runs} more runs a side on the mounts there are"
                                    : $"{wanted.Mounts} more mounts a side"
                            ),
                    ]
                    : Array.Empty<string>()
            );
            lines.AddRange(
                (result.ByBand ?? []).Select(band =>
                    $"  {Kebab.Of(band.Band), -20}  {band.ResistanceCPerW:+0.000;−0.000;0.000} ± {band.HalfWidthCPerW:0.000} °C/W"
                )
            );
        }

        lines.AddRange(result.Obstacles.Select(o => $"  {Kebab.Of(o.Severity), -10} {o.Message} {o.Remedy}".TrimEnd()));
        if (result.Graphics is { } card)
        {
            lines.AddRange(["", $"  graphics card: {VerdictWords.Of(card)}"]);
        }

        return string.Join('\n', lines);
    }
}
