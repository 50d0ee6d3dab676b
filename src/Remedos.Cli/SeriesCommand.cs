using System.CommandLine;
using System.Text.Json;
using Remedos.Core;
using Remedos.Core.Comparison;

namespace Remedos.Cli;

/// <summary>What `remedos series` reads.</summary>
internal sealed record SeriesFile(IReadOnlyList<SeriesFileSetup> Setups);

/// <summary>One setup of it; logs are found beside the file.</summary>
internal sealed record SeriesFileSetup(string Name, IReadOnlyList<string> Runs, long? PriceMinor = null);

/// <summary>`remedos series SERIES.json`: which of three setups and more is cooler, and which cannot be told apart?</summary>
internal static class SeriesCommand
{
    private const int MostSetups = 40;

    public static Command Build()
    {
        Argument<FileInfo> file = new("series")
        {
            Description = "Setups with their logs, as JSON (docs/formats.md); the first is the reference.",
        };
        Option<bool> json = new("--json") { Description = "Answer in the contract's JSON (docs/formats.md)." };
        Command command = new("series", "Ranks setups under like conditions, with intervals and Holm's correction.") { file, json };
        command.SetAction(parsed =>
        {
            FileInfo path = parsed.GetValue(file)!;
            SeriesFile read = Input.Json(
                path,
                CliJson.Contract.SeriesFile,
                "setups as JSON, such as { \"setups\": [ { \"name\": \"as it came\", \"runs\": [ \"a.csv\" ] } ] }"
            );
            if (Problem(read) is { } problem)
            {
                throw new InputException($"{path}: {problem}");
            }

            SeriesResult result = SeriesComparer.Compare([
                .. read.Setups.Select(setup => new SeriesSetup(
                    setup.Name,
                    LoggedRuns.Of(setup.Runs.Select(log => new FileInfo(Path.Combine(path.DirectoryName ?? ".", log)))),
                    setup.PriceMinor
                )),
            ]);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(result, CliJson.Contract.SeriesResult) : Text(result));
            return result.Setups.Any(setup => setup.Rank is not null) ? ExitStatus.Done : ExitStatus.NoAnswer;
        });
        return command;
    }

    private static string? Problem(SeriesFile file) =>
        file.Setups.Count is < 1 or > MostSetups ? $"setups: expected 1 to {MostSetups} of them, not {file.Setups.Count}."
        : file.Setups.FirstOrDefault(setup => string.IsNullOrWhiteSpace(setup.Name)) is not null ? "setups: each needs a name."
        : file.Setups.GroupBy(setup => setup.Name, StringComparer.Ordinal).FirstOrDefault(same => same.Count() > 1) is { } twice
            ? $"setups: two are named “{twice.Key}”."
        : file.Setups.FirstOrDefault(setup => setup.Runs.Count == 0) is { } bare ? $"setups: “{bare.Name}” has no runs."
        : null;

    private static string Text(SeriesResult result)
    {
        List<string> lines =
        [
            result.ReferencePowerW is { } watts
                ? $"At {watts:0} W in a room of {result.RoomC:0.0} °C{(result.ReferenceRpm is { } rpm ? $", fans at {rpm:0} rpm" : "")}:"
                : "Nothing here can be compared.",
            "",
        ];
        lines.AddRange(
            result
                .Setups.OrderBy(setup => setup.Rank ?? int.MaxValue)
                .Select(setup =>
                    setup.Rank is { } rank
                        ? $"  {rank, 2}  {setup.Name, -28} {setup.AtReferencePowerC, 6:0.0} ± {setup.HalfWidthC:0.0} °C  "
                            + $"{setup.Group, -4} {(setup.SoundDba is { } sound ? $"{sound:0.0} dB(A)" : "")}".TrimEnd()
                        : $"   –  {setup.Name, -28} cannot be compared"
                )
        );
        lines.AddRange(["", "  Setups with a letter in common cannot be told apart."]);
        if (result.Next is { } next)
        {
            lines.Add(
                $"  {next.A} and {next.B} would be told apart by "
                    + $"{(next.Runs > 0 ? $"{next.Runs} more runs" : $"{next.Mounts} more mounts")} each."
            );
        }

        lines.AddRange(result.Obstacles.Select(o => $"  {Kebab.Of(o.Severity), -10} {o.Setup}: {o.Message} {o.Remedy}".TrimEnd()));
        return string.Join('\n', lines);
    }
}
