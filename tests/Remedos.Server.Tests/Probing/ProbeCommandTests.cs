using Remedos.Bench;

namespace Remedos.Server.Tests.Probing;

/// <summary>The probe's command line: what it refuses, in one line that says what was expected.</summary>
public sealed class ProbeCommandTests : IDisposable
{
    private readonly MadeUpMachine _machine = MadeUpMachine.Desktop();

    public void Dispose() => _machine.Dispose();

    private static async Task<(int Status, string Errors)> RunAsync(params string[] arguments)
    {
        TextWriter before = Console.Error;
        using StringWriter errors = new();
        Console.SetError(errors);
        try
        {
            return (await ProbeCommand.Make().Parse(arguments).InvokeAsync(), errors.ToString().Trim());
        }
        finally
        {
            Console.SetError(before);
        }
    }

    [Theory]
    [InlineData("", "say where to send: --join LINK, or --server, --bay and --token.")]
    [InlineData("--server nowhere --bay 1 --token t", "--server is an address such as http://127.0.0.1:5080, not “nowhere”.")]
    [InlineData("--server http://127.0.0.1:1 --token t", "--bay is the number on the bay's card, from 1.")]
    [InlineData("--server http://127.0.0.1:1 --bay 0 --token t", "--bay is the number on the bay's card, from 1.")]
    [InlineData("--server http://127.0.0.1:1 --bay 1", "--token is the token on the bay's card.")]
    [InlineData("--server http://127.0.0.1:1 --bay 1 --token t --hz 50", "--hz is between 1 and 10, not 50.")]
    [InlineData("--server http://127.0.0.1:1 --bay 1 --token t --limit 400", "--limit is between 40 and 130 °C.")]
    [InlineData("--server http://127.0.0.1:1 --bay 1 --token t --sysfs /nowhere", "--sysfs: there is no folder “sys” in /nowhere.")]
    [InlineData("--join http://127.0.0.1:5080/jobs/3", "--join is the link on the bay's card, such as http://127.0.0.1:5080/bays/3#….")]
    [InlineData("--join http://127.0.0.1:5080/bays/3", "--join is the link on the bay's card, such as http://127.0.0.1:5080/bays/3#….")]
    public async Task What_cannot_be_is_told_in_one_line(string arguments, string sentence)
    {
        (int status, string errors) = await RunAsync([.. arguments.Split(' ', StringSplitOptions.RemoveEmptyEntries)]);
        Assert.Equal((2, $"remedos probe: {sentence}"), (status, errors));
    }

    [Fact]
    public async Task A_folder_that_cannot_hold_readings_is_told()
    {
        string file = Path.GetTempFileName();
        try
        {
            (int status, string errors) = await RunAsync(
                "--join",
                "http://127.0.0.1:1/bays/2#secret",
                "--sysfs",
                _machine.Root,
                "--spool",
                Path.Combine(file, "inside")
            );
            Assert.Equal(2, status);
            Assert.StartsWith($"remedos probe: {Path.Combine(file, "inside")} cannot hold readings:", errors, StringComparison.Ordinal);
            Assert.DoesNotContain("   at ", errors, StringComparison.Ordinal);
        }
        finally
        {
            File.Delete(file);
        }
    }
}
