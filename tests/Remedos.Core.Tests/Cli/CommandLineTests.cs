using System.Diagnostics;
using System.Text.Json;

namespace Remedos.Core.Tests.Cli;

/// <summary>The command line as other programs see it: JSON, exit status, one line for what is wrong.</summary>
public sealed class CommandLineTests
{
    [Fact]
    public void Analyze_answers_with_the_contracts_fields()
    {
        (int status, string output, _) = Remedos("analyze", Example.Find("runs", "06-undersized-throttling"), "--json");
        JsonElement answer = JsonDocument.Parse(output).RootElement;
        Assert.Equal(0, status);
        foreach (
            string name in new[]
            {
                "samples",
                "intervalSeconds",
                "durationSeconds",
                "channels",
                "phases",
                "ambientC",
                "idle",
                "load",
                "resistance",
                "limits",
                "sustainablePowerW",
                "projectedAtRatedPowerC",
                "recovery",
                "heatPath",
                "warnings",
            }
        )
        {
            Assert.True(answer.TryGetProperty(name, out _), name);
        }

        Assert.Equal("thermal", answer.GetProperty("limits")[0].GetProperty("kind").GetString());
        Assert.Equal("load", answer.GetProperty("phases")[1].GetProperty("kind").GetString());
        Assert.Equal("cpu-temperature", answer.GetProperty("channels")[1].GetProperty("role").GetString());
    }

    /// <summary>No input at all leads to a stack trace: one line that names the file and what was expected, and exit status 2.</summary>
    [Theory]
    [InlineData(
        "match",
        """{ "processor": { "name": "Corbel C65", "sustainedPowerW": 65, "temperatureLimitC": 95 }, "board": { "headers": [null] } }"""
    )]
    [InlineData("match", """{ "processor": null }""")]
    [InlineData("match", "[]")]
    [InlineData("simulate", """{ "steps": [null] }""")]
    [InlineData("simulate", """{ "steps": null }""")]
    [InlineData("simulate", """{ "steps": [{ "seconds": 1e308, "load": 1 }] }""")]
    [InlineData("diagnose", """{ "machine": null, "evidence": [null] }""")]
    [InlineData("diagnose", "null")]
    [InlineData("analyze", "{")]
    public void Odd_input_is_one_line_and_status_2(string command, string json)
    {
        string path = Path.GetTempFileName();
        try
        {
            File.WriteAllText(path, json);
            string[] more = command switch
            {
                "match" => [path, "--coolers", path],
                "simulate" => [path, "--out", path + ".csv"],
                "analyze" => [Example.Find("runs", "02-paste-before"), "--conditions", path],
                _ => [path],
            };
            (int status, _, string error) = Remedos([command, .. more]);
            Assert.Equal(2, status);
            Assert.Single(error.TrimEnd().Split('\n'));
            Assert.DoesNotContain("   at ", error, StringComparison.Ordinal);
            Assert.DoesNotContain("did not see it coming", error, StringComparison.Ordinal);
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void Compare_answers_with_the_contracts_fields()
    {
        (int status, string output, _) = Remedos(
            "compare",
            "--before",
            Example.Find("runs", "02-paste-before"),
            "--after",
            Example.Find("runs", "03-paste-after"),
            "--json"
        );
        JsonElement answer = JsonDocument.Parse(output).RootElement;
        Assert.Equal(
            (0, "improved", true),
            (status, answer.GetProperty("verdict").GetString(), answer.GetProperty("comparable").GetBoolean())
        );
        Assert.InRange(answer.GetProperty("change").Number("atReferencePowerC"), -19, -15);
        Assert.True(answer.TryGetProperty("smallestDetectableC", out _));
    }

    [Fact]
    public void Match_answers_with_the_contracts_fields_and_tells_what_is_wrong()
    {
        DirectoryInfo folder = Directory.CreateTempSubdirectory("remedos-match-");
        try
        {
            string At(string name, string text)
            {
                string path = Path.Combine(folder.FullName, name);
                File.WriteAllText(path, text);
                return path;
            }

            string build = At(
                "build.json",
                """{ "processor": { "name": "Corbel C65", "socket": "Q4", "sustainedPowerW": 65, "temperatureLimitC": 95,"""
                    + """ "priceMinor": 15000 }, "case": { "maxCoolerHeightMm": 150 }, "roomC": 22, "currentCooler": "box" }"""
            );
            string coolers = At(
                "coolers.json",
                """[ { "id": "box", "name": "Sill box cooler", "kind": "down-draught", "sockets": ["Q4"], "heightMm": 70 },"""
                    + """ { "id": "tall", "name": "Mullion 120", "kind": "tower", "sockets": ["Q4"], "heightMm": 160 } ]"""
            );
            (int status, string output, _) = Remedos("match", build, "--coolers", coolers, "--school", "least-spend", "--json");
            JsonElement answer = JsonDocument.Parse(output).RootElement,
                first = answer.GetProperty("candidates")[0],
                last = answer.GetProperty("candidates")[1];
            Assert.Equal((0, "box", 1), (status, first.GetProperty("id").GetString(), first.GetProperty("rank").GetInt32()));
            foreach (
                string name in new[]
                {
                    "fits",
                    "reasons",
                    "place",
                    "fanRaisedMm",
                    "temperatureC",
                    "hottestRoomTemperatureC",
                    "throttles",
                    "noiseDba",
                    "headroomW",
                    "graphicsChangeC",
                    "priceMinor",
                    "priceShare",
                    "why",
                }
            )
            {
                Assert.True(first.TryGetProperty(name, out _), name);
            }

            Assert.Equal(
                ("too-tall", 10.0),
                (
                    last.GetProperty("reasons")
                        .EnumerateArray()
                        .Select(reason => reason.GetProperty("code").GetString())
                        .First(code => code != "measure-needed"),
                    last.GetProperty("reasons")
                        .EnumerateArray()
                        .First(reason => reason.GetProperty("code").GetString() == "too-tall")
                        .Number("byMm")
                )
            );
            Assert.StartsWith("Leave it: Sill box cooler holds 65 W", answer.GetProperty("advice").GetString(), StringComparison.Ordinal);

            (int refused, _, string error) = Remedos(
                "match",
                build,
                "--coolers",
                At("bad.json", """[ { "id": "a", "name": "A", "kind": "kettle" } ]""")
            );
            Assert.Equal(2, refused);
            Assert.Contains("cooler 1: kind: “kettle” is none of", error, StringComparison.Ordinal);
            Assert.Contains(
                "processor: it is missing",
                Remedos("match", At("empty.json", "{}"), "--coolers", coolers).Errors,
                StringComparison.Ordinal
            );
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Fact]
    public void Simulate_writes_a_log_that_analyze_reads_to_its_truth()
    {
        DirectoryInfo folder = Directory.CreateTempSubdirectory("remedos-simulate-");
        try
        {
            string At(string name) => Path.Combine(folder.FullName, name);
            File.WriteAllText(
                At("machine.json"),
                """{ "machine": "boat-station", "faults": { "loop-restricted": 0.7 },"""
                    + """ "steps": [ { "seconds": 200, "load": 0 }, { "seconds": 900, "load": 1, "fanPercent": 70 },"""
                    + """ { "seconds": 200, "load": 0 } ] }"""
            );
            Assert.Equal(
                0,
                Remedos("simulate", At("machine.json"), "--out", At("log.csv"), "--truth", At("truth.json"), "--seed", "4").Status
            );
            JsonElement truth = JsonDocument.Parse(File.ReadAllText(At("truth.json"))).RootElement,
                answer = JsonDocument.Parse(Remedos("analyze", At("log.csv"), "--json").Output).RootElement;
            Assert.Equal(truth.Number("sustainedTemperatureC"), answer.GetProperty("load").Number("sustainedTemperatureC"), 0.5);
            Assert.Equal(truth.Number("flowLitresPerMinute"), answer.GetProperty("flow").Number("litresPerMinute"), 0.02);
            Assert.Equal(
                (200.0, "fixed"),
                (
                    truth.Number("loadStartSeconds"),
                    JsonDocument.Parse(File.ReadAllText(At("log.conditions.json"))).RootElement.GetProperty("fanPolicy").GetString()
                )
            );

            File.WriteAllText(At("wrong.json"), """{ "machine": "boat-station", "steps": [ { "seconds": 10, "load": 7 } ] }""");
            (int status, string output, string error) = Remedos("simulate", At("wrong.json"), "--out", At("x.csv"));
            Assert.Equal((2, ""), (status, output));
            Assert.Contains("wrong.json: steps[0].load: 7 is not between 0 and 1", error, StringComparison.Ordinal);
            Assert.False(File.Exists(At("x.csv")));
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>
    /// Repeats of one log share a mount, and so do logs that name the same one; a series is ranked, and what is wrong with its file is
    /// told.
    /// </summary>
    [Fact]
    public void Mounts_are_counted_and_a_series_is_ranked()
    {
        DirectoryInfo folder = Directory.CreateTempSubdirectory("remedos-series-");
        try
        {
            string At(string name) => Path.Combine(folder.FullName, name);
            foreach (
                (string name, string of, string mount) in new[]
                {
                    ("a", "02-paste-before", "first"),
                    ("b", "03-paste-after", "second"),
                    ("c", "03-paste-after", "second"),
                }
            )
            {
                File.Copy(Example.Find("runs", of), At($"{name}.csv"));
                string conditions = File.ReadAllText(Path.Combine(Example.Folder("runs"), of + ".conditions.json"));
                File.WriteAllText(
                    At($"{name}.conditions.json"),
                    conditions.Replace("{", $"{{ \"mount\": \"{mount}\",", StringComparison.Ordinal)
                );
            }

            JsonElement compared = JsonDocument
                .Parse(Remedos("compare", "--before", At("a.csv"), "--after", At("b.csv"), At("c.csv"), "--json").Output)
                .RootElement;
            Assert.Equal(
                (1, 2, 1),
                (
                    compared.GetProperty("before").GetProperty("mounts").GetInt32(),
                    compared.GetProperty("after").GetProperty("runs").GetInt32(),
                    compared.GetProperty("after").GetProperty("mounts").GetInt32()
                )
            );
            foreach (string member in new[] { "fanPartC", "asItRunsC", "scorePercent", "scoreHalfWidthPercent" })
            {
                Assert.True(compared.GetProperty("change").TryGetProperty(member, out _), member);
            }

            File.WriteAllText(
                At("series.json"),
                """{ "setups": [ { "name": "old", "runs": [ "a.csv" ] }, { "name": "new", "runs": [ "b.csv" ], "priceMinor": 400 },"""
                    + """ { "name": "again", "runs": [ "c.csv" ] } ] }"""
            );
            JsonElement series = JsonDocument.Parse(Remedos("series", At("series.json"), "--json").Output).RootElement;
            Assert.Equal(3, series.GetProperty("setups")[0].GetProperty("rank").GetInt32());
            Assert.Equal(
                series.GetProperty("setups")[1].GetProperty("group").GetString(),
                series.GetProperty("setups")[2].GetProperty("group").GetString()
            );
            Assert.Equal(3, series.GetProperty("pairs").GetArrayLength());
            Assert.Contains("new", Remedos("series", At("series.json")).Output, StringComparison.Ordinal);

            File.WriteAllText(
                At("twice.json"),
                """{ "setups": [ { "name": "a", "runs": [ "a.csv" ] }, { "name": "a", "runs": [ "b.csv" ] } ] }"""
            );
            Assert.Contains("two are named “a”", Remedos("series", At("twice.json")).Errors, StringComparison.Ordinal);
            File.WriteAllText(At("bare.json"), """{ "setups": [ { "name": "a", "runs": [] } ] }""");
            (int status, _, string error) = Remedos("series", At("bare.json"));
            Assert.Equal(2, status);
            Assert.Contains("“a” has no runs", error, StringComparison.Ordinal);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Fact]
    public void Not_comparable_exits_1_and_says_why()
    {
        (int status, string output, _) = Remedos(
            "compare",
            "--before",
            Example.Find("runs", "02-paste-before"),
            "--after",
            Example.Find("runs", "09-case-starved-gpu"),
            "--json"
        );
        Assert.Equal(1, status);
        Assert.Equal("not-comparable", JsonDocument.Parse(output).RootElement.GetProperty("verdict").GetString());
    }

    [Theory]
    [InlineData("analyze", "no-such-file.csv", "no such file")]
    [InlineData("analyze", "bad/not-numeric.csv", "line 2")]
    [InlineData("analyze", "bad/binary.csv", "not text")]
    [InlineData("analyze", "", "remedos --help")]
    public void Bad_input_is_one_line_and_exit_2(string command, string file, string words)
    {
        string[] arguments = file.Length == 0 ? [command] : [command, Path.Combine(Example.Folder("."), file)];
        (int status, string output, string errors) = Remedos(arguments);
        Assert.Equal((2, ""), (status, output));
        Assert.Contains(words, Assert.Single(errors.TrimEnd().Split('\n')), StringComparison.Ordinal);
    }

    [Fact]
    public void A_wrong_condition_names_its_field()
    {
        string folder = Directory.CreateTempSubdirectory("remedos-").FullName;
        string conditions = Path.Combine(folder, "c.json");
        File.WriteAllText(conditions, """{ "panel": "ajar" }""");
        (int status, _, string errors) = Remedos("analyze", Example.Find("runs", "01-tower-healthy"), "--conditions", conditions);
        Assert.Equal(2, status);
        Assert.Contains("panel: “ajar” is none of closed, side-off, open-bench.", errors, StringComparison.Ordinal);
        File.WriteAllText(conditions, "{ \"ambientC\": \n warm }");
        Assert.Contains(
            "line 2",
            Remedos("analyze", Example.Find("runs", "01-tower-healthy"), "--conditions", conditions).Errors,
            StringComparison.Ordinal
        );
        Directory.Delete(folder, recursive: true);
    }

    private static (int Status, string Output, string Errors) Remedos(params string[] arguments)
    {
        ProcessStartInfo start = new("dotnet", [Path.Combine(AppContext.BaseDirectory, "remedos.dll"), .. arguments])
        {
            UseShellExecute = false,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        using Process process = Process.Start(start)!;
        Task<string> errors = process.StandardError.ReadToEndAsync();
        string output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output, errors.Result);
    }
}
