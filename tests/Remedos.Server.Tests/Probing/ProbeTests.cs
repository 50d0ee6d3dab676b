using System.Globalization;
using System.Net;
using System.Text.Json;
using Remedos.Bench.Probing;
using Remedos.Bench.Sending;
using Remedos.Core.Bays;
using Remedos.Server.Tests.Bays;

namespace Remedos.Server.Tests.Probing;

/// <summary>A whole probe on a made-up machine against the real server, over a network that fails.</summary>
public sealed class ProbeTests(App app) : IClassFixture<App>, IDisposable
{
    private readonly MadeUpMachine _machine = MadeUpMachine.Desktop();
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("remedos-probe-");

    public void Dispose()
    {
        _machine.Dispose();
        _folder.Delete(recursive: true);
    }

    /// <summary>Loses what is asked, what is answered, or neither, in turn.</summary>
    private sealed class BadNetwork(HttpMessageHandler inner) : DelegatingHandler(inner)
    {
        private int _requests;

        protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
        {
            int turn = Interlocked.Increment(ref _requests) % 4;
            if (turn == 1)
            {
                throw new HttpRequestException("lost on its way");
            }

            HttpResponseMessage answer = await base.SendAsync(request, cancellationToken);
            return turn == 2 ? throw new HttpRequestException("the answer was lost")
                : turn == 3 ? new HttpResponseMessage(HttpStatusCode.BadGateway)
                : answer;
        }
    }

    private Probe Probe(Sender sender, TextWriter says, string? token = null) =>
        new(
            new BayLink(
                new HttpClient(new BadNetwork(app.Handler())) { BaseAddress = new Uri("http://127.0.0.1") },
                sender.Number,
                token ?? sender.Token
            ),
            new ProbeOptions(10, _machine.Root, _folder.FullName, null),
            TimeProvider.System,
            says
        );

    [Fact]
    public async Task Every_reading_arrives_once_over_a_network_that_loses_most()
    {
        Sender sender = await Sender.ConnectAsync(app);
        using StringWriter says = new(CultureInfo.InvariantCulture);
        await RunForAsync(Probe(sender, says), async () =>
            await WhenAsync(sender, bay => bay.GetProperty("acknowledged").GetInt64() >= 40)
        );
        long before = (await sender.BayAsync()).GetProperty("acknowledged").GetInt64();
        // Started again it goes on in the same recording.
        await RunForAsync(Probe(sender, says), async () =>
            await WhenAsync(sender, bay => bay.GetProperty("acknowledged").GetInt64() >= before + 20)
        );
        JsonElement stored = await sender.StoredAsync();
        double[] seconds = [.. stored.GetProperty("seconds").EnumerateArray().Select(second => second.GetDouble())];
        Assert.Equal(seconds.Distinct().Order(), seconds);
        Assert.Equal((await sender.BayAsync()).GetProperty("acknowledged").GetInt64(), seconds.Length);
        Assert.Equal(1, stored.GetProperty("fromSequence").GetInt64());
        JsonElement told = (await sender.BayAsync()).GetProperty("sender");
        Assert.Equal(
            ("ambient-temperature", "load"),
            (told.GetProperty("missing")[0].GetString(), told.GetProperty("obeys")[0].GetString())
        );
        Assert.Contains(
            "This machine does not show: ambient-temperature. The probe goes on without.",
            says.ToString(),
            StringComparison.Ordinal
        );
        Assert.Contains("The server does not answer. Readings are kept meanwhile.", says.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Readings_keep_the_beat_and_never_share_a_moment()
    {
        Assert.Equal(3.9, Remedos.Bench.Probing.Probe.NextBeat(3.8, 3.82, 0.1), 9);
        Assert.Equal(4.015, Remedos.Bench.Probing.Probe.NextBeat(3.8, 3.915, 0.1), 9);
    }

    /// <summary>It works when the bench asks, counts what it does, and lets go by itself when the chip is too hot.</summary>
    [Fact]
    public async Task It_makes_the_load_that_is_asked_for_and_lets_go_of_it_by_itself()
    {
        Sender sender = await Sender.ConnectAsync(app);
        using StringWriter says = new(CultureInfo.InvariantCulture);
        using CancellationTokenSource end = new();
        Task<string?> probe = Probe(sender, says).RunAsync(end.Token);
        await WhenAsync(sender, bay => bay.GetProperty("online").GetBoolean());
        string job = (await app.NewJobAsync()).Text("id");
        // Readings of the minute before are not waited for here: the state is set as a minute of idling would leave it.
        await sender.StartAsync(job, "before", "usual");
        await app.SetBayAsync(sender.Id, run => run with { State = new GuidedState(GuidedStage.Load, 0) });
        JsonElement working = await WhenAsync(
            sender,
            async () => (await sender.StoredAsync()).GetProperty("channels"),
            channels => channels.TryGetProperty("score", out _)
        );
        Assert.True(
            working
                .GetProperty("score")
                .EnumerateArray()
                .Where(score => score.ValueKind == JsonValueKind.Number)
                .Max(score => score.GetDouble()) > 1
        );
        _machine.Temperature(0, 1, "Package id 0", 112_000, critical: 100_000);
        await WhenAsync(sender, bay =>
            bay.GetProperty("run").Text("stage") == "stopped" || bay.GetProperty("note").ValueKind == JsonValueKind.String
        );
        await end.CancelAsync();
        Assert.Null(await probe);
    }

    [Fact]
    public async Task A_wrong_token_ends_it_with_the_servers_sentence()
    {
        Sender sender = await Sender.ConnectAsync(app);
        string? refusal = await Probe(sender, TextWriter.Null, token: "guess").RunAsync(CancellationToken.None);
        Assert.Contains("does not know this token", refusal, StringComparison.Ordinal);
    }

    /// <summary>All kinds of work do some, on as many threads as they are given.</summary>
    [Fact]
    public async Task Every_kind_of_load_works_and_rests_when_told()
    {
        using OwnLoad load = new(2, TimeProvider.System);
        foreach (LoadKind kind in LoadKind.All)
        {
            load.Set(1, kind.Id);
            await Task.Delay(150);
            load.Set(0, kind.Id);
            Assert.True(load.TakeWork() > 0, kind.Id);
        }

        await Task.Delay(50);
        load.TakeWork();
        await Task.Delay(100);
        Assert.Equal(0, load.TakeWork());
    }

    private static async Task RunForAsync(Probe probe, Func<Task> until)
    {
        using CancellationTokenSource end = new();
        Task<string?> running = probe.RunAsync(end.Token);
        await until();
        await end.CancelAsync();
        Assert.Null(await running);
    }

    private static Task<JsonElement> WhenAsync(Sender sender, Func<JsonElement, bool> holds) => WhenAsync(sender, sender.BayAsync, holds);

    private static async Task<JsonElement> WhenAsync(Sender sender, Func<Task<JsonElement>> ask, Func<JsonElement, bool> holds)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromMinutes(2));
        while (true)
        {
            JsonElement found = await ask();
            if (holds(found))
            {
                return found;
            }

            await Task.Delay(100, limit.Token);
        }
    }
}
