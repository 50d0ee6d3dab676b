using System.CommandLine;

namespace Remedos.Bench;

/// <summary>What stands on the bench: the probe that reads a real machine, and the simulated rig.</summary>
internal static class Program
{
    private const string AloneOnAStick = "remedos-probe";

    private static async Task<int> Main(string[] args)
    {
        string[] words = Path.GetFileName(Environment.ProcessPath) == AloneOnAStick ? ["probe", .. args] : args;
        ParseResult parsed = new RootCommand("What stands on the bench: the probe that reads a real machine, and the simulated rig.")
        {
            ProbeCommand.Make(),
            RigCommand.Make(),
        }.Parse(words);
        if (parsed.Errors.Count > 0)
        {
            await Console.Error.WriteLineAsync($"remedos probe: {parsed.Errors[0].Message} See --help.");
            return 2;
        }

        return await parsed.InvokeAsync();
    }
}
