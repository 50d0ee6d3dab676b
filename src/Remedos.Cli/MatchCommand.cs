using System.CommandLine;
using System.Text.Json;
using Remedos.Core.Machines;
using Remedos.Core.Matching;

namespace Remedos.Cli;

/// <summary>`remedos match BUILD.json --coolers COOLERS.json`: which cooler fits, suffices, and is worth it.</summary>
internal static class MatchCommand
{
    private const int Shown = 8;

    public static Command Build()
    {
        Argument<FileInfo> file = new("build") { Description = "The machine that a cooler is sought for, as JSON (docs/formats.md)." };
        Option<FileInfo> coolersFile = new("--coolers") { Description = "The coolers to choose from, a JSON list.", Required = true };
        Option<string?> school = new("--school")
        {
            Description = $"How to weigh: {string.Join(", ", School.All.Select(one => one.Id))}. Goes before the build’s own wish.",
        };
        Option<bool> json = new("--json") { Description = "Answer in the contract’s JSON (docs/formats.md)." };
        Command command = new("match", "Tells which coolers fit a machine, what they would do in it, and which to take, if any.")
        {
            file,
            coolersFile,
            school,
            json,
        };
        command.SetAction(parsed =>
        {
            FileInfo from = parsed.GetValue(file)!,
                of = parsed.GetValue(coolersFile)!;
            Build build = Input.Json(
                from,
                CliJson.Contract.Build,
                "a build, such as { \"processor\": { \"name\": \"…\", \"sustainedPowerW\": 125, \"temperatureLimitC\": 95 } }"
            );
            build = parsed.GetValue(school) is { } wanted
                ? build with
                {
                    Wants = (build.Wants ?? new Wants()) with { School = wanted },
                }
                : build;
            if (build.Problem() is { } problem)
            {
                throw new InputException($"{from}: {problem}");
            }

            CoolerPart[] coolers = Input.Json(
                of,
                CliJson.Contract.CoolerPartArray,
                "a list of coolers, such as [ { \"id\": \"tower\", \"name\": \"…\", \"kind\": \"tower\" } ]"
            );
            for (int i = 0; i < coolers.Length; i++)
            {
                if (coolers[i]?.Problem() is { } wrong)
                {
                    throw new InputException($"{of}: cooler {i + 1}: {wrong}");
                }

                if (coolers[i] is null || coolers.Take(i).Any(other => other.Id == coolers[i].Id))
                {
                    throw new InputException(
                        $"{of}: cooler {i + 1}: "
                            + (coolers[i] is null ? "nothing stands there." : $"“{coolers[i].Id}” stands there twice.")
                    );
                }
            }

            MatchAnswer answer = Matcher.Match(build, coolers);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(answer, CliJson.Contract.MatchAnswer) : Text(answer));
            return answer.Candidates.Any(one => one.Fits != false) ? ExitStatus.Done : ExitStatus.NoAnswer;
        });
        return command;
    }

    private static string Text(MatchAnswer answer)
    {
        List<string> lines = [answer.Advice, ""];
        lines.AddRange(
            answer
                .Candidates.Where(one => one.Rank is not null)
                .Take(Shown)
                .Select(one =>
                    $"{one.Rank, 3}  {one.Name, -28} {one.TemperatureC.Value, 4:0} °C {one.NoiseDba, 4:0} dB(A) "
                    + $"{(one.PriceMinor is { } price ? $"{price / 100m, 8:0.00}" : "       –")}  {one.Why}"
                )
        );
        Candidate[] others = [.. answer.Candidates.Where(one => one.Fits == false)];
        if (others.Length > 0)
        {
            lines.Add("");
            lines.AddRange(others.Take(Shown).Select(one => $"  –  {one.Name, -28} {one.Why}"));
            lines.AddRange(others.Length > Shown ? [$"     and {others.Length - Shown} more that do not fit"] : []);
        }

        lines.AddRange(answer.Changes.Select(change => $"  → {change}"));
        lines.AddRange(answer.Warnings.Select(warning => $"  ! {warning}"));
        return string.Join('\n', lines);
    }
}
