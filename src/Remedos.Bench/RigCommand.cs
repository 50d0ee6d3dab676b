using System.CommandLine;
using Remedos.Bench.Rigs;

namespace Remedos.Bench;

internal static class RigCommand
{
    public static Command Make()
    {
        Option<string> server = new("--server") { Description = "Where Remedos is.", DefaultValueFactory = _ => "http://127.0.0.1:5080" };
        Option<double> speed = new("--speed")
        {
            Description = "How many times faster than real a run goes, 1 to 200.",
            DefaultValueFactory = _ => 20,
        };
        Option<bool> open = new("--open-bench") { Description = "Begins runs on the demo’s jobs where nobody has run anything yet." };
        Command command = new("rig", "Puts invented machines into the bays of a Remedos and obeys its guided runs.")
        {
            server,
            speed,
            open,
        };
        command.SetAction(
            async (parsed, cancellation) =>
            {
                double times = parsed.GetValue(speed);
                string? wrong = times is not (>= 1 and <= 200) ? $"--speed is between 1 and 200, not {times}." : null;
                if ((wrong ?? ProbeCommand.NoAddress(parsed.GetValue(server), out _)) is { } sentence)
                {
                    await Console.Error.WriteLineAsync($"remedos: {sentence}");
                    return 2;
                }

                try
                {
                    await Rig.RunAsync(new Uri(parsed.GetValue(server)!), times, parsed.GetValue(open), cancellation);
                }
                catch (OperationCanceledException) when (cancellation.IsCancellationRequested)
                {
                    // Told to stop.
                }

                return 0;
            }
        );
        return command;
    }
}
