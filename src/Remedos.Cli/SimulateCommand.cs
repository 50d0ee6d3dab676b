using System.CommandLine;
using System.Text.Json;
using Remedos.Core.Machines;
using Remedos.Core.Simulation;

namespace Remedos.Cli;

/// <summary>`remedos simulate MACHINE.json --out LOG.csv`: a log and its conditions as the simulated bench would record them.</summary>
internal static class SimulateCommand
{
    public static Command Build()
    {
        Argument<FileInfo> machine = new("machine") { Description = "The machine, its faults and the steps, as JSON (docs/formats.md)." };
        Option<FileInfo> log = new("--out") { Description = "Where the log goes; its conditions go beside it.", Required = true };
        Option<FileInfo?> truth = new("--truth") { Description = "Where to write what a right reading must find." };
        Option<int> seed = new("--seed")
        {
            Description = "Of all noise: equal inputs with an equal seed give equal logs.",
            DefaultValueFactory = _ => 1,
        };
        Command command = new("simulate", "Puts an invented machine with faults through a protocol and writes its log.")
        {
            machine,
            log,
            truth,
            seed,
        };
        command.SetAction(parsed =>
        {
            FileInfo file = parsed.GetValue(machine)!,
                to = parsed.GetValue(log)!;
            SimulationRequest request = Input.Json(
                file,
                CliJson.Contract.SimulationRequest,
                "a machine with steps, such as { \"machine\": \"home-tower\", \"steps\": [ { \"seconds\": 300, \"load\": 1 } ] }"
            );
            BenchMachine spec = request.Resolve(out string? problem) ?? throw new InputException($"{file}: {problem}");
            SimulatedRun run = SimulatedRun.Of(spec, request, parsed.GetValue(seed));
            File.WriteAllText(to.FullName, run.LogCsv());
            File.WriteAllText(
                Path.ChangeExtension(to.FullName, null) + ".conditions.json",
                JsonSerializer.Serialize(run.Conditions, CliJson.Contract.RunConditions)
            );
            if (parsed.GetValue(truth) is { } beside)
            {
                File.WriteAllText(beside.FullName, JsonSerializer.Serialize(run.Truth, CliJson.Contract.SimulationTruth!));
            }

            Console.WriteLine($"{spec.Name}: {run.Readings.Count} readings in {to}.");
            return ExitStatus.Done;
        });
        return command;
    }
}
