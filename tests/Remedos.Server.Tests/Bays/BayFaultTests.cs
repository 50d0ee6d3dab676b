using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Queue;

namespace Remedos.Server.Tests.Bays;

/// <summary>
/// A bay when things go wrong: long fast runs, machines that fall silent, names used twice, strangers, and pages that do not read.
/// </summary>
public sealed class BayFaultTests(App app) : IClassFixture<App>
{
    private async Task<(Sender Sender, string Job)> UnderLoadAsync(double? limitC = null, double loadSeconds = 3000)
    {
        Sender sender = await Sender.ConnectAsync(app);
        string job = (await app.NewJobAsync()).Text("id");
        if (limitC is { } limit)
        {
            await app.SaveAsync(job, "temperatureLimitC", limit);
        }

        await sender.PostAsync("{\"hello\":{\"obeys\":[\"load\",\"fans\",\"cap\",\"pump\",\"panel\"]}}");
        await sender.SendAsync(1, 1);
        await sender.StartAsync(job, "before", "usual", loadSeconds);
        await sender.SendAsync(2, 70);
        Assert.Equal("load", (await sender.BayAsync()).GetProperty("run").Text("stage"));
        return (sender, job);
    }

    /// <summary>The button of a machine under full load: it answers at once, however long the run and however fast the readings.</summary>
    [Fact]
    public async Task A_long_fast_run_is_stopped_at_once_and_lands_once()
    {
        (Sender sender, string job) = await UnderLoadAsync(loadSeconds: 80_000);
        for (long from = 71; from < 20_000; from += 2000)
        {
            await sender.SendAsync(from, from + 1999);
        }

        long next = (await sender.BayAsync()).GetProperty("acknowledged").GetInt64() + 1;
        using CancellationTokenSource stop = new();
        Task sending = Task.Run(async () =>
        {
            for (; !stop.IsCancellationRequested; next++)
            {
                await sender.PostAsync(Sender.Lines(next, next));
            }
        });
        System.Diagnostics.Stopwatch watch = System.Diagnostics.Stopwatch.StartNew();
        JsonElement stopped = await App.ReadAsync(await app.Client.DeleteAsync($"/api/bays/{sender.Id}/run"));
        Assert.Equal("stopped", stopped.GetProperty("run").Text("stage"));
        Assert.Equal(
            0,
            (await App.ReadAsync(await sender.PostAsync(Sender.Lines(next, next)))).GetProperty("order").GetProperty("load").GetDouble()
        );
        // Not timed: it is enough that it did not wait for the run to be read back and written.
        Assert.True(watch.Elapsed < TimeSpan.FromSeconds(30), watch.Elapsed.ToString());
        await stop.CancelAsync();
        await sending;
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        await using RemedosContext context = await app.ContextAsync();
        Assert.Equal(
            1,
            await context.LogFiles.CountAsync(file =>
                context.Imports.Any(import => import.JobId == Guid.Parse(job) && import.LogFileId == file.Id)
            )
        );
    }

    /// <summary>
    /// What many bays send in one moment is committed together, and each is taken by itself: a stranger is refused, and one bay's fault is
    /// not its neighbours'.
    /// </summary>
    [Fact]
    public async Task Bays_that_send_together_are_taken_each_by_itself()
    {
        Sender[] bays = new Sender[9];
        for (int i = 0; i < bays.Length; i++)
        {
            bays[i] = await Sender.ConnectAsync(app);
        }

        (Sender broken, Sender stranger, Sender[] others) = (
            bays[0],
            bays[1] with
            {
                Token = await Sender.TokenAsync(app, bays[2].Id),
            },
            bays[3..]
        );
        await using RemedosContext context = await app.ContextAsync();
        string fault = $"""
            CREATE FUNCTION drill() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'a drill'; END $$;
            CREATE TRIGGER drill BEFORE INSERT ON bay_batches FOR EACH ROW WHEN (NEW.bay_id = '{broken.Id}') EXECUTE FUNCTION drill();
            """;
        await context.Database.ExecuteSqlRawAsync(fault);
        Task<HttpStatusCode[]> AllAsync(Sender one) =>
            Task.WhenAll(Enumerable.Range(0, 10).Select(async _ => (await one.PostAsync(Sender.Lines(1, 5))).StatusCode));
        async Task<long> InOrderAsync(Sender one)
        {
            for (int i = 0; i < 20; i++)
            {
                await one.SendAsync(1 + (5 * i), 5 + (5 * i));
            }

            return (await one.BayAsync()).GetProperty("acknowledged").GetInt64();
        }

        Task<HttpStatusCode[]> fails = AllAsync(broken),
            refused = AllAsync(stranger);
        Assert.All(await Task.WhenAll(others.Select(InOrderAsync)), acknowledged => Assert.Equal(100, acknowledged));
        Assert.All(await fails, status => Assert.Equal(HttpStatusCode.InternalServerError, status));
        Assert.All(await refused, status => Assert.Equal(HttpStatusCode.Unauthorized, status));
        foreach (Sender one in others)
        {
            JsonElement stored = await one.StoredAsync();
            Assert.Equal(
                Enumerable.Range(1, 100).Select(i => (double)i),
                stored.GetProperty("seconds").EnumerateArray().Select(s => s.GetDouble())
            );
        }

        await context.Database.ExecuteSqlRawAsync("DROP TRIGGER drill ON bay_batches; DROP FUNCTION drill()");
        Assert.Equal(100, await InOrderAsync(broken));
    }

    /// <summary>A machine that switches itself off sends nothing: it is noticed, told, and its run lands, with the evidence.</summary>
    [Fact]
    public async Task A_machine_that_falls_silent_under_load_is_stopped_landed_and_told()
    {
        (Sender sender, string job) = await UnderLoadAsync();
        await sender.SendAsync(71, 200);
        await sender.PostAsync("{\"seq\":201,\"t\":201,\"cpu-temperature\":97,\"cpu-power\":120}");
        JsonElement sheet = await app.SheetWhenAsync(job, s => s.Count("runs") == 1);
        JsonElement run = (await sender.BayAsync()).GetProperty("run");
        Assert.Equal(("stopped", "Stopped: it fell silent under load at 97 °C."), (run.Text("stage"), run.Text("says")));
        JsonElement landed = sheet.GetProperty("runs")[0];
        Assert.True(landed.GetProperty("conditions").GetProperty("fellSilent").GetBoolean());
        Assert.Equal("Stopped: it fell silent under load at 97 °C.", landed.GetProperty("marks")[0].Text("text"));
        JsonElement shutdowns = (await app.GetAsync($"/api/jobs/{job}/diagnosis"))
            .GetProperty("observations")
            .EnumerateArray()
            .Single(one => one.Text("id") == "shutdowns");
        Assert.Equal(("yes", true), (shutdowns.Text("state"), shutdowns.GetProperty("offRuns").GetBoolean()));
    }

    [Fact]
    public async Task A_name_of_a_recording_can_be_used_again()
    {
        Sender sender = await Sender.ConnectAsync(app);
        foreach (string stream in new[] { "a", "b", "a", "b" })
        {
            Sender named = sender with { Stream = stream };
            Assert.Equal(3, await named.SendAsync(1, 3));
            Assert.Equal(3, (await named.StoredAsync()).GetProperty("seconds").GetArrayLength());
        }
    }

    /// <summary>A run that passes its limit is ended though its log cannot be kept: the order never waits for the log.</summary>
    [Fact]
    public async Task A_full_file_store_keeps_no_machine_under_load()
    {
        (Sender sender, string job) = await UnderLoadAsync(limitC: 80);
        string incoming = Path.Combine(app.Files, "incoming");
        Directory.Move(incoming, incoming + ".away");
        try
        {
            await File.WriteAllTextAsync(incoming, "in the way");
            string hot = string.Concat(
                Enumerable.Range(71, 20).Select(i => $"{{\"seq\":{i},\"t\":{i},\"cpu-temperature\":96,\"cpu-power\":120}}\n")
            );
            JsonElement answer = await App.ReadAsync(await sender.PostAsync(hot));
            Assert.Equal(("stopped", 0), (answer.Text("stage"), answer.GetProperty("order").GetProperty("load").GetDouble()));
            HttpResponseMessage refused = await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
            Assert.Equal(507, (int)refused.StatusCode);
            await using RemedosContext context = await app.ContextAsync();
            Guid bay = Guid.Parse(sender.Id);
            await UntilAsync(() =>
                context.WorkItems.AsNoTracking().AnyAsync(item => item.Kind == WorkItem.LandRun && item.LastError != null)
            );
            Assert.True(await context.BayBatches.AnyAsync(batch => batch.BayId == bay));
        }
        finally
        {
            File.Delete(incoming);
            Directory.Move(incoming + ".away", incoming);
        }

        // Room was made, and it is tried again.
        await using (RemedosContext context = await app.ContextAsync())
        {
            await context
                .WorkItems.Where(item => item.Kind == WorkItem.LandRun)
                .ExecuteUpdateAsync(set => set.SetProperty(item => item.NotBefore, DateTimeOffset.UtcNow.AddSeconds(-1)));
        }

        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
    }

    [Fact]
    public async Task A_token_is_shown_once_and_a_new_one_ends_the_old()
    {
        Sender sender = await Sender.ConnectAsync(app);
        Assert.DoesNotContain(sender.Token, await app.Client.GetStringAsync("/api/bays"), StringComparison.Ordinal);
        Assert.Equal(1, await sender.SendAsync(1, 1));
        string again = await Sender.TokenAsync(app, sender.Id);
        Assert.Equal(HttpStatusCode.Unauthorized, (await sender.PostAsync(Sender.Lines(2, 2))).StatusCode);
        Assert.Equal(2, await (sender with { Token = again }).SendAsync(2, 2));
        await using RemedosContext context = await app.ContextAsync();
        Assert.False(await context.Bays.AnyAsync(bay => bay.TokenSha256 == again));
    }

    /// <summary>Strangers at full speed use up nobody's share, and what they send is not read.</summary>
    [Fact]
    public async Task Strangers_do_not_keep_the_right_sender_out()
    {
        Sender sender = await Sender.ConnectAsync(app);
        Sender stranger = sender with { Token = "guess" };
        Task<HttpResponseMessage>[] flood = [.. Enumerable.Range(0, 300).Select(_ => stranger.PostAsync(Sender.Lines(1, 50)))];
        for (int i = 1; i <= 10; i++)
        {
            Assert.Equal(HttpStatusCode.OK, (await sender.PostAsync(Sender.Lines(i, i))).StatusCode);
        }

        Assert.All(await Task.WhenAll(flood), answer =>
            Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.Unauthorized, HttpStatusCode.TooManyRequests })
        );
        // A token in the header switches off no other check.
        using HttpRequestMessage add = new(HttpMethod.Post, "/api/bays");
        add.Headers.Authorization = new AuthenticationHeaderValue("Bearer", "x");
        add.Headers.Add("Cookie", await app.CookieAsync(null));
        using HttpClient page = new(app.Handler()) { BaseAddress = new Uri("http://127.0.0.1") };
        Assert.Equal(HttpStatusCode.BadRequest, (await page.SendAsync(add)).StatusCode);
    }

    [Theory]
    [InlineData("{\"note\":\"a\\u0000b\"}")]
    [InlineData("{\"note\":\"half \\ud83d\"}")]
    [InlineData("{\"hello\":{\"machine\":\"\\u0000\",\"obeys\":[\"load\",\"load\"],\"missing\":[]}}")]
    public async Task Odd_words_of_a_sender_are_no_fault_of_the_server(string line)
    {
        Sender sender = await Sender.ConnectAsync(app);
        HttpResponseMessage answer = await sender.PostAsync(line);
        Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.OK, HttpStatusCode.UnprocessableEntity });
        Assert.Equal(1, await sender.SendAsync(1, 1));
    }

    [Fact]
    public async Task A_hello_stays_small()
    {
        Sender sender = await Sender.ConnectAsync(app);
        string many = string.Join(',', Enumerable.Repeat("\"cpu-power\"", 100_000));
        HttpResponseMessage answer = await sender.PostAsync($"{{\"hello\":{{\"obeys\":[],\"missing\":[{many}]}}}}");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains("60 are the most", (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>A page that does not read its connection silences no other, and each is sent what it shows.</summary>
    [Fact]
    public async Task A_slow_page_silences_nobody_and_each_hears_of_what_it_shows()
    {
        (Sender shown, Sender other) = (await Sender.ConnectAsync(app), await Sender.ConnectAsync(app));
        await shown.SendAsync(1, 1);
        await other.SendAsync(1, 1);
        // Opened, and never polled again.
        using HttpResponseMessage negotiated = await app.Client.PostAsync("/live/negotiate?negotiateVersion=1", null);
        string connection = (await App.ReadAsync(negotiated)).Text("connectionToken");
        using StringContent handshake = new("{\"protocol\":\"json\",\"version\":1}\u001e", Encoding.UTF8);
        Task<HttpResponseMessage> first = app.Client.GetAsync($"/live?id={connection}");
        await app.Client.PostAsync($"/live?id={connection}", handshake);
        await first;

        int heard = 0,
            foreign = 0;
        string cookie = await app.CookieAsync(null);
        await using HubConnection page = new HubConnectionBuilder()
            .WithUrl("http://127.0.0.1/live", options =>
            {
                options.Headers["Cookie"] = cookie;
                options.HttpMessageHandlerFactory = _ => app.Handler();
                options.Transports = HttpTransportType.LongPolling;
            })
            .Build();
        page.On<JsonElement>("bays", all =>
        {
            foreach (JsonElement news in all.EnumerateArray().Where(news => news.GetProperty("fresh").ValueKind == JsonValueKind.Object))
            {
                if (news.GetProperty("bay").Text("id") == shown.Id)
                {
                    Interlocked.Add(ref heard, news.GetProperty("fresh").GetProperty("seconds").GetArrayLength());
                }
                else
                {
                    Interlocked.Increment(ref foreign);
                }
            }

            Assert.DoesNotContain(shown.Token, all.ToString(), StringComparison.Ordinal);
        });
        await page.StartAsync();
        await page.InvokeAsync("Watch", new[] { shown.Id });
        for (int i = 2; i <= 120; i++)
        {
            await shown.PostAsync(Sender.Lines(i, i));
            await other.PostAsync(Sender.Lines(i, i));
        }

        await UntilAsync(() => Task.FromResult(Volatile.Read(ref heard) >= 119));
        Assert.Equal(0, foreign);
    }

    private static async Task UntilAsync(Func<Task<bool>> holds)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromSeconds(30));
        while (!await holds())
        {
            await Task.Delay(50, limit.Token);
        }
    }
}
