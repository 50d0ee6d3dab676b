using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Remedos.Core.Machines;
using Remedos.Core.Simulation;

namespace Remedos.Server.Tests.Bays;

/// <summary>The bay protocol under all that a network does to it, and guided runs that land on their job.</summary>
public sealed class BayTests(App app) : IClassFixture<App>
{
    [Fact]
    public async Task Readings_are_taken_once_and_in_order_whatever_arrives()
    {
        Sender sender = await ConnectAsync();
        Assert.Equal(3, await sender.SendAsync(1, 3));
        Assert.Equal(3, await sender.SendAsync(1, 3)); // the answer was lost, so it is sent again
        Assert.Equal(5, await sender.SendAsync(2, 5)); // half of it is new
        Assert.Equal(5, await sender.SendAsync(8, 9)); // a gap: nothing is taken, and the answer says from where
        Assert.Equal(9, await sender.SendAsync(6, 9));
        Assert.Equal(
            [1, 2, 3, 4, 5, 6, 7, 8, 9],
            (await sender.StoredAsync()).GetProperty("seconds").EnumerateArray().Select(second => second.GetDouble())
        );
    }

    /// <summary>Batches from several threads at once, shuffled and doubled, sent until all is acknowledged.</summary>
    [Fact]
    public async Task Nothing_is_lost_or_doubled_when_senders_race()
    {
        Sender sender = await ConnectAsync();
        await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(async worker =>
                {
                    Random random = new(worker);
                    while (await sender.SendAsync(1, 0) < 60)
                    {
                        long from = 1 + random.Next(60);
                        await sender.SendAsync(from, Math.Min(60, from + random.Next(12)));
                    }
                })
        );
        Assert.Equal(
            Enumerable.Range(1, 60).Select(i => (double)i),
            (await sender.StoredAsync()).GetProperty("seconds").EnumerateArray().Select(second => second.GetDouble())
        );
    }

    [Fact]
    public async Task A_server_that_restarts_goes_on_where_it_was()
    {
        Sender sender = await ConnectAsync();
        await sender.SendAsync(1, 40);
        await app.StartAsync();
        Assert.Equal(40, await sender.SendAsync(30, 40));
        Assert.Equal(45, await sender.SendAsync(41, 45));
    }

    [Fact]
    public async Task Bays_that_are_added_at_once_have_each_a_number_of_their_own()
    {
        Sender[] senders = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => ConnectAsync()));
        Assert.Equal(8, senders.Select(sender => sender.Number).Distinct().Count());
    }

    [Fact]
    public async Task A_new_recording_begins_at_one_again()
    {
        Sender sender = await ConnectAsync();
        await sender.SendAsync(1, 10);
        Assert.Equal(0, await (sender with { Stream = "second" }).SendAsync(5, 6));
        Assert.Equal(2, await (sender with { Stream = "second" }).SendAsync(1, 2));
    }

    [Theory]
    [InlineData("no json", "Line 1: no JSON at letter")]
    [InlineData("[1,2]", "Line 1: expected an object")]
    [InlineData("{\"t\":1,\"cpu-temperature\":40}", "Line 1: “seq” is missing.")]
    [InlineData("{\"seq\":1,\"cpu-temperature\":40}", "Line 1: “t” is missing.")]
    [InlineData("{\"seq\":1,\"t\":0,\"teapot\":40}", "Line 1: “teapot” is no role")]
    [InlineData("{\"seq\":1,\"t\":0}\n{\"seq\":2,\"t\":1,\"cpu-power\":\"many\"}", "Line 2: “cpu-power” is no number.")]
    [InlineData("{\"seq\":1.5,\"t\":0}", "Line 1: “seq” is 1.5, and must not be.")]
    public async Task What_is_no_reading_gets_its_line_and_takes_nothing(string body, string words)
    {
        Sender sender = await ConnectAsync();
        HttpResponseMessage refused = await sender.PostAsync(body);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains(words, (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal(0, await sender.SendAsync(1, 0));
    }

    [Fact]
    public async Task A_wrong_token_is_told_where_the_right_one_stands()
    {
        Sender sender = await ConnectAsync();
        HttpResponseMessage refused = await (sender with { Token = "guess" }).PostAsync("");
        Assert.Equal(HttpStatusCode.Unauthorized, refused.StatusCode);
        Assert.Contains("A new one is made on the bay’s card", (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>A simulated machine that obeys the answers goes through a whole run; it lands on its job, analysed, by itself.</summary>
    [Fact]
    public async Task A_guided_run_leads_the_machine_and_lands_on_its_job()
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "temperatureLimitC", 95);
        await app.SaveAsync(job, "ratedPowerW", 65);
        Sender sender = await ConnectAsync();
        await sender.PostAsync("{\"hello\":{\"obeys\":[\"load\",\"fans\"]}}");
        await sender.SendAsync(1, 3);
        JsonElement started = await App.ReadAsync(await sender.StartAsync(job, "before", "fixed-fans"));
        Assert.Equal(
            ("idle", false),
            (started.GetProperty("run").Text("stage"), started.GetProperty("run").GetProperty("over").GetBoolean())
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await sender.StartAsync(job, "before", "usual")).StatusCode);

        MachineOnBench bench = new(MachineLibrary.Machines.Single(machine => machine.Id == "home-tower"), [], 22, seed: 1);
        List<string> stages = [];
        string stage = "idle";
        for (long next = 4; stage != "done" && next < 5000; next += 10)
        {
            if (next == 404)
            {
                // In the middle of the load another server takes over, which has seen nothing of the run.
                await app.StartAsync();
            }

            StringBuilder lines = new();
            for (long sequence = next; sequence < next + 10; sequence++)
            {
                for (int tick = 0; tick < 10; tick++)
                {
                    bench.Tick();
                }

                BenchReading reading = bench.Read();
                lines.Append(
                    CultureInfo.InvariantCulture,
                    $"{{\"seq\":{sequence},\"t\":{3 + reading.Seconds:0.0},\"cpu-temperature\":{reading.ChipC},\"cpu-power\":"
                        + $"{reading.PowerW:0.00},\"cpu-fan-speed\":{reading.FanRpm:0},\"ambient-temperature\":{reading.RoomC:0.0}}}\n"
                );
            }

            JsonElement answer = await App.ReadAsync(await sender.PostAsync(lines.ToString()));
            JsonElement order = answer.GetProperty("order");
            bench.Settings = new BenchSettings(
                order.GetProperty("load").GetDouble(),
                FanPercent: order.GetProperty("fanPercent").ValueKind == JsonValueKind.Number
                    ? order.GetProperty("fanPercent").GetDouble()
                    : null
            );
            if (answer.Text("stage") != stage)
            {
                stages.Add(stage = answer.Text("stage"));
            }
        }

        Assert.Equal(["load", "cool-down", "done"], stages);
        JsonElement run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0];
        Assert.Matches(@"^bay-\d+-fixed-fans-\d{8}-\d{6}\.csv$", run.Text("fileName"));
        Assert.Equal(
            ("fixed", 60.0),
            (run.GetProperty("conditions").Text("fanPolicy"), run.GetProperty("conditions").GetProperty("fanPercent").GetDouble())
        );
        Assert.True(run.GetProperty("analysis").GetProperty("load").GetProperty("settled").GetBoolean());
        Assert.Equal(3, run.GetProperty("analysis").GetProperty("heatPath").GetArrayLength());
    }

    [Fact]
    public async Task A_run_that_is_stopped_lands_with_what_there_is()
    {
        string job = (await app.NewJobAsync()).Text("id");
        Sender sender = await ConnectAsync();
        await sender.SendAsync(1, 1);
        await sender.StartAsync(job, "after", "usual");
        await sender.SendAsync(2, 200);
        JsonElement stopped = await App.ReadAsync(await app.Client.DeleteAsync($"/api/bays/{sender.Id}/run"));
        Assert.Equal(("stopped", "Stopped by hand."), (stopped.GetProperty("run").Text("stage"), stopped.GetProperty("run").Text("says")));
        JsonElement run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0];
        Assert.Equal((2, 199), (run.GetProperty("setup").GetInt32(), run.GetProperty("analysis").GetProperty("samples").GetInt32()));
        Assert.Equal(
            0,
            (await App.ReadAsync(await sender.PostAsync(Sender.Lines(201, 201)))).GetProperty("order").GetProperty("load").GetDouble()
        );
    }

    [Fact]
    public async Task What_cannot_be_started_gets_a_sentence()
    {
        string job = (await app.NewJobAsync()).Text("id");
        JsonElement empty = await App.ReadAsync(await app.Client.PostAsync("/api/bays", null));
        Sender sender = new(
            app,
            empty.Text("id"),
            empty.GetProperty("number").GetInt32(),
            await Sender.TokenAsync(app, empty.Text("id")),
            "first"
        );
        Assert.Contains(
            "no such job",
            (
                await App.ReadAsync(
                    await app.Client.PutAsJsonAsync($"/api/bays/{sender.Id}/run", new { jobId = Guid.NewGuid(), variant = "usual" })
                )
            ).Text("detail"),
            StringComparison.Ordinal
        );
        foreach (
            (string of, string side, string variant, string words) in new[]
            {
                (job, "before", "usual", "Nothing is connected"),
                (job, "before", "upside-down", "no way to run"),
            }
        )
        {
            Assert.Contains(
                words,
                (await App.ReadAsync(await sender.StartAsync(of, side, variant))).Text("detail"),
                StringComparison.Ordinal
            );
        }
    }

    private Task<Sender> ConnectAsync() => Sender.ConnectAsync(app);
}
