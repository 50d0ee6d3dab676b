using System.CommandLine;
using Remedos.Bench;

Option<string> server = new("--server") { Description = "Where Remedos is.", DefaultValueFactory = _ => "http://127.0.0.1:5080" };
Option<double> speed = new("--speed") { Description = "How many times faster than real a run goes, 1 to 200.", DefaultValueFactory = _ => 20 };
RootCommand root = new("The simulated rig: puts invented machines into the bays of a Remedos and obeys its guided runs.") { server, speed };
root.SetAction(async (parsed, cancellation) =>
{
    double times = parsed.GetValue(speed);
    if (times is not (>= 1 and <= 200))
    {
        Console.Error.WriteLine($"--speed is between 1 and 200, not {times}.");
        return 2;
    }

    if (!Uri.TryCreate(parsed.GetValue(server), UriKind.Absolute, out Uri? address) || address.Scheme is not ("http" or "https"))
    {
        Console.Error.WriteLine($"--server is an address such as http://127.0.0.1:5080, not “{parsed.GetValue(server)}”.");
        return 2;
    }

    try
    {
        await Rig.RunAsync(address, times, cancellation);
    }
    catch (OperationCanceledException) when (cancellation.IsCancellationRequested)
    {
        // Told to stop.
    }

    return 0;
});
return await root.Parse(args).InvokeAsync();
