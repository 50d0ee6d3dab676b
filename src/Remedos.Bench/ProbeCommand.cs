using System.CommandLine;
using Remedos.Bench.Probing;
using Remedos.Bench.Sending;

namespace Remedos.Bench;

internal static class ProbeCommand
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    public static Command Make()
    {
        Option<string?> join = new("--join") { Description = "The link on the bay's card: server, bay and token in one." };
        Option<string?> server = new("--server") { Description = "Where Remedos is, such as http://127.0.0.1:5080." };
        Option<int?> bay = new("--bay") { Description = "The bay's number." };
        Option<string?> token = new("--token") { Description = "The bay's token, as its card shows it." };
        Option<double> hz = new("--hz") { Description = "Readings a second, 1 to 10.", DefaultValueFactory = _ => 1 };
        Option<string> sysfs = new("--sysfs")
        {
            Description = "A folder that holds sys and proc, instead of this machine's own.",
            DefaultValueFactory = _ => "/",
        };
        Option<string?> spool = new("--spool") { Description = "Where readings wait until the server has them." };
        Option<double?> limit = new("--limit")
        {
            Description = "Where to take the load away, °C; otherwise what the kernel and the job say.",
        };
        Command command = new("probe", "Reads this machine and sends what it reads to a bay; makes the load that the bench asks for.")
        {
            join,
            server,
            bay,
            token,
            hz,
            sysfs,
            spool,
            limit,
        };
        command.SetAction(
            async (parsed, cancellation) =>
            {
                (string? address, int? number, string? secret) = (parsed.GetValue(server), parsed.GetValue(bay), parsed.GetValue(token));
                string? wrong = parsed.GetValue(join) is { } link ? NotJoined(link, out address, out number, out secret) : null;
                double rate = parsed.GetValue(hz);
                string root = parsed.GetValue(sysfs)!;
                Uri? uri = null;
                wrong ??= NoAddress(address, out uri)
                    ?? (number is not >= 1 ? "--bay is the number on the bay's card, from 1." : null)
                    ?? (string.IsNullOrWhiteSpace(secret) ? "--token is the token on the bay's card." : null)
                    ?? (rate is not (>= 1 and <= 10) ? $"--hz is between 1 and 10, not {rate}." : null)
                    ?? (parsed.GetValue(limit) is not (null or (>= 40 and <= 130)) ? "--limit is between 40 and 130 °C." : null)
                    ?? (!Directory.Exists(Path.Combine(root, "sys")) ? $"--sysfs: there is no folder “sys” in {root}." : null);
                if (wrong is not null)
                {
                    await Console.Error.WriteLineAsync($"remedos probe: {wrong}");
                    return 2;
                }

                using HttpClient http = new() { BaseAddress = uri, Timeout = Patience };
                string folder = parsed.GetValue(spool) ?? Spool.FolderFor(uri!, number!.Value);
                ProbeOptions options = new(rate, root, folder, parsed.GetValue(limit));
                try
                {
                    if (
                        await new Probe(new BayLink(http, number!.Value, secret!), options, TimeProvider.System, Console.Out).RunAsync(
                            cancellation
                        ) is
                        { } refusal
                    )
                    {
                        await Console.Error.WriteLineAsync($"remedos probe: {refusal}");
                        return 2;
                    }
                }
                catch (Exception failure) when (failure is IOException or UnauthorizedAccessException)
                {
                    await Console.Error.WriteLineAsync($"remedos probe: {folder} cannot hold readings: {failure.Message}");
                    return 2;
                }

                return 0;
            }
        );
        return command;
    }

    /// <summary>Why this is no address; null when it is one.</summary>
    public static string? NoAddress(string? text, out Uri? address) =>
        Uri.TryCreate(text, UriKind.Absolute, out address) && address.Scheme is "http" or "https" ? null
        : text is null ? "say where to send: --join LINK, or --server, --bay and --token."
        : $"--server is an address such as http://127.0.0.1:5080, not “{text}”.";

    private static string? NotJoined(string link, out string? server, out int? bay, out string? token)
    {
        (server, bay, token) = (null, null, null);
        if (
            !Uri.TryCreate(link, UriKind.Absolute, out Uri? uri)
            || uri.Segments is not [_, "bays/", var number]
            || !int.TryParse(number, out int found)
            || uri.Fragment.Length < 2
        )
        {
            return "--join is the link on the bay's card, such as http://127.0.0.1:5080/bays/3#….";
        }

        (server, bay, token) = (uri.GetLeftPart(UriPartial.Authority), found, uri.Fragment[1..]);
        return null;
    }
}
