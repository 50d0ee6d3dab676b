using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests.Bays;

/// <summary>What a person does with a bay: hands, holds, repeats, readings by hand; and how the pages hear of it.</summary>
public sealed class BayDeskTests(App app) : IClassFixture<App>
{
    [Fact]
    public async Task A_run_that_needs_a_hand_waits_for_it_and_goes_on()
    {
        (Sender sender, string job) = await ReadyAsync(
            "{\"hello\":{\"machine\":\"a stick\",\"obeys\":[\"load\"],\"missing\":[\"ambient-temperature\"]}}"
        );
        JsonElement started = await App.ReadAsync(await sender.StartAsync(job, "before", "panel-off"));
        Assert.Equal(
            ("hand", "Take the side panel off. Then go on."),
            (started.GetProperty("run").Text("stage"), started.GetProperty("run").Text("says"))
        );
        Assert.Equal("ambient-temperature", started.GetProperty("sender").GetProperty("missing")[0].GetString());
        await sender.SendAsync(2, 300);
        Assert.Equal("hand", (await sender.BayAsync()).GetProperty("run").Text("stage"));
        JsonElement on = await App.ReadAsync(await app.Client.PostAsync($"/api/bays/{sender.Id}/run/go-on", null));
        Assert.Equal("idle", on.GetProperty("run").Text("stage"));
        Assert.Equal(
            1.0,
            (await App.ReadAsync(await sender.PostAsync(Sender.Lines(301, 365)))).GetProperty("order").GetProperty("load").GetDouble()
        );
    }

    [Fact]
    public async Task A_held_run_stays_and_a_run_is_done_as_often_as_it_was_asked_for()
    {
        (Sender sender, string job) = await ReadyAsync();
        await sender.StartAsync(job, "after", "usual", loadSeconds: 60, times: 2);
        await app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/run/hold", new { held = true });
        await sender.SendAsync(2, 200);
        Assert.Equal(
            ("idle", "Held here until it is let go."),
            (Stage(await sender.BayAsync()), (await sender.BayAsync()).GetProperty("run").Text("says"))
        );
        await app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/run/hold", new { held = false });
        long next = await LeadAsync(sender, 201, stage => stage == "done" || (stage == "idle"), most: 1200, from: "load");
        JsonElement second = await sender.BayAsync();
        Assert.Equal(("idle", 0), (Stage(second), second.GetProperty("run").GetProperty("following").GetInt32()));
        next = await LeadAsync(sender, next, stage => stage == "done", most: next + 1200, from: "load");
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 2);
        Assert.Equal("idle", Stage(await App.ReadAsync(await app.Client.PostAsync($"/api/bays/{sender.Id}/run/again", null))));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.Client.PostAsync($"/api/bays/{sender.Id}/run/again", null)).StatusCode);
        Assert.True(next > 400);
    }

    /// <summary>
    /// Fans at several speeds in one go: each lands with its own, on the mount that was asked for; speeds that cannot be are refused.
    /// </summary>
    [Fact]
    public async Task Fans_are_fixed_at_several_speeds_in_one_go()
    {
        (Sender sender, string job) = await ReadyAsync();
        async Task<HttpResponseMessage> StartAsync(object run) => await app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/run", run);
        foreach (
            (object run, string words) in new (object, string)[]
            {
                (
                    new
                    {
                        jobId = job,
                        variant = "usual",
                        fanPercents = new[] { 40 },
                    },
                    "go with a run whose fans are fixed"
                ),
                (
                    new
                    {
                        jobId = job,
                        variant = "fixed-fans",
                        fanPercents = new[] { 40, 140 },
                    },
                    "between 0 and 100 %"
                ),
                (
                    new
                    {
                        jobId = job,
                        variant = "fixed-fans",
                        fanPercents = new[] { 40 },
                        fanRpm = 900,
                    },
                    "not in both"
                ),
                (
                    new
                    {
                        jobId = job,
                        variant = "fixed-fans",
                        mountId = Guid.NewGuid(),
                    },
                    "no such setup"
                ),
            }
        )
        {
            Assert.Contains(words, (await App.ReadAsync(await StartAsync(run))).Text("detail"), StringComparison.Ordinal);
        }

        JsonElement started = await App.ReadAsync(
            await StartAsync(
                new
                {
                    jobId = job,
                    variant = "fixed-fans",
                    loadSeconds = 60,
                    fanPercents = new[] { 40, 70 },
                }
            )
        );
        Assert.Equal(1, started.GetProperty("run").GetProperty("following").GetInt32());
        Assert.Equal(
            40,
            (await App.ReadAsync(await sender.PostAsync(Sender.Lines(2, 9)))).GetProperty("order").GetProperty("fanPercent").GetDouble()
        );
        long next = await LeadAsync(sender, 10, stage => stage is "done" or "idle", most: 1500, from: "load");
        // The second begins by itself; its log is not the same as the first's.
        Assert.Equal(
            70,
            (await App.ReadAsync(await sender.PostAsync(Sender.Lines(next, next + 6))))
                .GetProperty("order")
                .GetProperty("fanPercent")
                .GetDouble()
        );
        await LeadAsync(sender, next + 7, stage => stage == "done", most: next + 1500, from: "load");
        JsonElement sheet = await app.SheetWhenAsync(job, one => one.Count("runs") == 2);
        Assert.Equal(
            [40.0, 70.0],
            sheet.GetProperty("runs").EnumerateArray().Select(run => run.GetProperty("conditions").GetProperty("fanPercent").GetDouble())
        );
        Assert.All(sheet.GetProperty("runs").EnumerateArray(), run =>
            Assert.Equal(
                ("idle", 0.0),
                (run.GetProperty("conditions").Text("cardLoad"), run.GetProperty("conditions").GetProperty("powerCapW").GetDouble())
            )
        );
    }

    /// <summary>With the cooler lifted between them, each run has a mount of its own; the bench waits for the hand.</summary>
    [Fact]
    public async Task Repeats_with_a_remount_are_mounts()
    {
        (Sender sender, string job) = await ReadyAsync();
        await app.Client.PutAsJsonAsync(
            $"/api/bays/{sender.Id}/run",
            new
            {
                jobId = job,
                variant = "usual",
                loadSeconds = 60,
                times = 2,
                remount = true,
            }
        );
        long next = await LeadAsync(sender, 2, stage => stage == "hand", most: 1500, from: "load");
        Assert.Contains("lift the cooler", (await sender.BayAsync()).GetProperty("run").Text("says"), StringComparison.Ordinal);
        await sender.SendAsync(next, next + 36);
        next += 37;
        await app.Client.PostAsync($"/api/bays/{sender.Id}/run/go-on", null);
        await LeadAsync(sender, next, stage => stage == "done", most: next + 1500, from: "load");
        JsonElement sheet = await app.SheetWhenAsync(job, one => one.Count("runs") == 2);
        Assert.Equal(2, sheet.GetProperty("setups")[0].Count("mounts"));
        Assert.Equal([1, 2], sheet.GetProperty("runs").EnumerateArray().Select(run => run.GetProperty("mount").GetInt32()));
    }

    [Fact]
    public async Task What_is_read_by_hand_lands_in_the_run()
    {
        (Sender sender, string job) = await ReadyAsync();
        Assert.Contains("No run goes on", await RefusedAsync(sender, new { soundDba = 38.5 }), StringComparison.Ordinal);
        await sender.StartAsync(job, "before", "usual");
        await sender.SendAsync(2, 40);
        Assert.Contains("Read both tubes", await RefusedAsync(sender, new { tubeOutC = 44.0 }), StringComparison.Ordinal);
        Assert.Contains("10 and 120 dB(A)", await RefusedAsync(sender, new { soundDba = 900 }), StringComparison.Ordinal);
        Assert.Contains("−20 °C and 60 °C", await RefusedAsync(sender, new { roomC = 200 }), StringComparison.Ordinal);
        await app.Client.PostAsJsonAsync(
            $"/api/bays/{sender.Id}/run/by-hand",
            new
            {
                roomC = 19.5,
                tubeOutC = 44.0,
                tubeReturnC = 36.0,
                soundDba = 38.5,
            }
        );
        await sender.SendAsync(41, 120);
        await app.Client.DeleteAsync($"/api/bays/{sender.Id}/run");
        JsonElement run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0];
        Assert.Equal(19.5, run.GetProperty("conditions").GetProperty("ambientC").GetDouble());
        string[] roles =
        [
            .. run.GetProperty("analysis")
                .GetProperty("channels")
                .EnumerateArray()
                .Where(channel => channel.GetProperty("samples").GetInt32() == 1)
                .Select(channel => channel.Text("role")),
        ];
        Assert.Equal(["tube-out-temperature", "tube-return-temperature", "sound-level"], roles);
    }

    [Fact]
    public async Task Only_a_simulated_machine_has_hands_of_its_own()
    {
        (Sender sender, _) = await ReadyAsync();
        Assert.Contains(
            "use real hands",
            (await App.ReadAsync(await HandsAsync(new { panelOff = true }))).Text("detail"),
            StringComparison.Ordinal
        );
        await sender.PostAsync("{\"hello\":{\"obeys\":[\"load\"],\"simulated\":true}}");
        Assert.Contains(
            "no cooler “teapot”",
            (await App.ReadAsync(await HandsAsync(new { cooler = "teapot" }))).Text("detail"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no instrument “ear”",
            (await App.ReadAsync(await HandsAsync(new { instruments = new[] { "ear" } }))).Text("detail"),
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.OK,
            (
                await HandsAsync(
                    new
                    {
                        cooler = "lifted",
                        roomC = 30,
                        instruments = new[] { "sound-meter" },
                    }
                )
            ).StatusCode
        );
        JsonElement told = (await App.ReadAsync(await sender.PostAsync("{\"note\":\"The paste is dry.\"}"))).GetProperty("hands");
        Assert.Equal(("lifted", 30.0), (told.Text("cooler"), told.GetProperty("roomC").GetDouble()));
        Assert.Equal("The paste is dry.", (await sender.BayAsync()).Text("note"));

        Task<HttpResponseMessage> HandsAsync(object hands) => app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/hands", hands);
    }

    [Fact]
    public async Task A_value_that_cannot_be_is_told_and_the_rest_is_taken()
    {
        (Sender sender, _) = await ReadyAsync();
        JsonElement answer = await App.ReadAsync(await sender.PostAsync("{\"seq\":2,\"t\":2,\"cpu-temperature\":4000,\"cpu-power\":33}"));
        Assert.Equal(2, answer.GetProperty("acknowledged").GetInt64());
        Assert.Equal(
            "Reading 2: cpu-temperature of 4000 cannot be (-40 to 150 can) and was left out.",
            answer.GetProperty("leftOut")[0].GetString()
        );
        JsonElement channels = (await sender.StoredAsync()).GetProperty("channels");
        Assert.Equal(JsonValueKind.Null, channels.GetProperty("cpu-temperature")[1].ValueKind);
        Assert.Equal(33, channels.GetProperty("cpu-power")[1].GetDouble());
    }

    /// <summary>A second sender that was given the wrong bay does not end the run of the first.</summary>
    [Fact]
    public async Task A_run_is_not_ended_by_another_sender()
    {
        (Sender sender, string job) = await ReadyAsync();
        await sender.StartAsync(job, "before", "usual");
        HttpResponseMessage refused = await (sender with { Stream = "stranger" }).PostAsync(Sender.Lines(1, 1));
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains("Is this the right bay?", (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal(30, await sender.SendAsync(2, 30));
        Assert.Equal("idle", Stage(await sender.BayAsync()));
    }

    /// <summary>The picture of a bay shows an hour; what is older goes, but for what a run needs.</summary>
    [Fact]
    public async Task Old_readings_are_let_go_and_those_of_a_run_are_kept()
    {
        (Sender sender, string job) = await ReadyAsync();
        Sender second = sender with { Stream = "second" };
        async Task SendAsync(long from, long to)
        {
            for (; from < to; from += 1000)
            {
                Assert.Equal(from + 999, await second.SendAsync(from, from + 999));
            }
        }

        // By recording and first reading.
        async Task<string> KeptAsync()
        {
            await using RemedosContext context = await app.ContextAsync();
            return string.Join(
                ' ',
                (await context.BayBatches.Where(batch => batch.BayId == Guid.Parse(sender.Id)).ToListAsync())
                    .OrderBy(batch => (batch.Recording, batch.FirstSequence))
                    .Select(batch => $"{batch.Recording}:{batch.FirstSequence}")
            );
        }

        Assert.Equal("1:1", await KeptAsync());
        await SendAsync(1, 5000);
        Assert.Equal("2:1001 2:2001 2:3001 2:4001", await KeptAsync());
        await second.StartAsync(job, "before", "usual");
        await app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/run/hold", new { held = true });
        await SendAsync(5001, 11_000);
        Assert.Equal("idle", Stage(await second.BayAsync()));
        Assert.Equal("2:5001 2:6001 2:7001 2:8001 2:9001 2:10001", await KeptAsync());
    }

    /// <summary>A sender that floods is told to wait, loses nothing by it, and nobody else waits.</summary>
    [Fact]
    public async Task A_flood_is_held_back_and_harms_nobody()
    {
        (Sender flood, _) = await ReadyAsync();
        (Sender other, _) = await ReadyAsync();
        HttpResponseMessage[] answers = await Task.WhenAll(Enumerable.Range(0, 400).Select(_ => flood.PostAsync("")));
        HttpResponseMessage refused = answers.First(answer => answer.StatusCode == HttpStatusCode.TooManyRequests);
        Assert.Contains("more than 50 batches a second", (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal("1", refused.Headers.GetValues("Retry-After").Single());
        Assert.Equal(2, await other.SendAsync(2, 2));
    }

    [Fact]
    public async Task The_code_on_the_card_is_a_picture_of_its_own()
    {
        (Sender sender, _) = await ReadyAsync();
        HttpResponseMessage code = await app.Client.GetAsync($"/api/bays/{sender.Id}/code.svg");
        Assert.Equal("image/svg+xml", code.Content.Headers.ContentType!.MediaType);
        int number = (await app.GetAsync("/api/bays"))
            .EnumerateArray()
            .Single(bay => bay.Text("id") == sender.Id)
            .GetProperty("number")
            .GetInt32();
        Assert.Equal(QrPicture.Of($"{app.Client.BaseAddress}bench/{number}").ResponseContent, await code.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_page_hears_of_readings_as_they_come_and_other_pages_may_not()
    {
        (Sender sender, _) = await ReadyAsync();
        TaskCompletionSource<JsonElement> heard = new();
        await using HubConnection live = Connection(null, await app.CookieAsync(null));
        live.On<JsonElement>("bays", all =>
        {
            foreach (
                JsonElement news in all.EnumerateArray()
                    .Where(news =>
                        news.GetProperty("bay").Text("id") == sender.Id && news.GetProperty("fresh").ValueKind == JsonValueKind.Object
                    )
            )
            {
                JsonElement piece = news.GetProperty("fresh");
                if (
                    piece.GetProperty("fromSequence").GetInt32() + piece.GetProperty("channels").GetProperty("cpu-power").GetArrayLength()
                    > 4
                )
                {
                    heard.TrySetResult(news);
                }
            }
        });
        await live.StartAsync();
        await live.InvokeAsync("Watch", new[] { sender.Id });
        await sender.SendAsync(2, 4);
        JsonElement fresh = (await heard.Task.WaitAsync(TimeSpan.FromSeconds(20))).GetProperty("fresh");
        (int from, int count) = (
            fresh.GetProperty("fromSequence").GetInt32(),
            fresh.GetProperty("channels").GetProperty("cpu-power").GetArrayLength()
        );
        // News of the moment before the page listened may come along.
        Assert.Equal((true, 4), (from is 1 or 2, from + count - 1));

        await using HubConnection foreign = Connection("http://elsewhere.invalid", await app.CookieAsync(null));
        HttpRequestException refused = await Assert.ThrowsAnyAsync<HttpRequestException>(() => foreign.StartAsync());
        Assert.Equal(HttpStatusCode.Forbidden, refused.StatusCode);
    }

    private HubConnection Connection(string? origin, string cookie) =>
        new HubConnectionBuilder()
            .WithUrl("http://127.0.0.1/live", options =>
            {
                options.Headers["Cookie"] = cookie;
                options.HttpMessageHandlerFactory = _ => app.Handler();
                options.Transports = Microsoft.AspNetCore.Http.Connections.HttpTransportType.LongPolling;
                if (origin is not null)
                {
                    options.Headers["Origin"] = origin;
                }
            })
            .Build();

    private async Task<(Sender Sender, string Job)> ReadyAsync(string? hello = null)
    {
        Sender sender = await Sender.ConnectAsync(app);
        await sender.PostAsync(hello ?? "{\"hello\":{\"obeys\":[\"load\",\"fans\",\"cap\",\"pump\",\"panel\"]}}");
        await sender.SendAsync(1, 1);
        return (sender, (await app.NewJobAsync()).Text("id"));
    }

    /// <summary>Sends what a machine would that obeys, until the stage is the one that is waited for.</summary>
    private static async Task<long> LeadAsync(Sender sender, long next, Func<string, bool> reached, long most, string from)
    {
        bool begun = false;
        for (double load = 0; next < most; next += 20)
        {
            JsonElement answer = await App.ReadAsync(
                await sender.PostAsync(Sender.Lines(next, next + 19, chipC: load > 0 ? 75 : 40, watts: load > 0 ? 120 : 20))
            );
            load = answer.GetProperty("order").GetProperty("load").GetDouble();
            begun |= answer.Text("stage") == from;
            if (begun && reached(answer.Text("stage")))
            {
                return next + 20;
            }
        }

        throw new InvalidOperationException("The run did not get there.");
    }

    private async Task<string> RefusedAsync(Sender sender, object read)
    {
        HttpResponseMessage answer = await app.Client.PostAsJsonAsync($"/api/bays/{sender.Id}/run/by-hand", read);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        return (await App.ReadAsync(answer)).Text("detail");
    }

    private static string Stage(JsonElement bay) => bay.GetProperty("run").Text("stage");
}
