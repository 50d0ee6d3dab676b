using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using UglyToad.PdfPig;

namespace Remedos.Server.Tests;

/// <summary>What was measured on what: setups, mounts, rounds, and that everything on a sheet is said of one pair.</summary>
public sealed class SetupTests(App app) : IClassFixture<App>
{
    private async Task<string> NewAsync(double limit = 95)
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "temperatureLimitC", limit);
        return job;
    }

    /// <summary>A log of a steady load: watts, degrees, and nothing else but the room.</summary>
    private static byte[] Log(double watts, double chipC, double roomC = 22, int fan = 1200, double? card = null, int seed = 1)
    {
        Random random = new(seed);
        StringBuilder text = new(
            $"Time [s],CPU package temperature [°C],CPU package power [W],CPU fan [RPM],Room temperature "
                + $"[°C]{(card is null ? "" : ",GPU temperature [°C],GPU power [W]")}\n"
        );
        for (int i = 0; i < 1300; i++)
        {
            bool load = i is > 200 and <= 1100;
            double rise =
                load ? (chipC - 35) * (1 - Math.Exp(-(i - 200) / 60.0))
                : i > 1100 ? (chipC - 35) * Math.Exp(-(i - 1100) / 60.0)
                : 0;
            text.Append(
                $"{i},{35 + rise + (0.4 * random.NextDouble()):0.0},{(load ? watts : 12) + random.NextDouble():0.0},"
                    + $"{fan + random.Next(9)},{roomC:0.0}"
            );
            text.Append(card is { } c ? FormattableString.Invariant($",{(load ? c : 40):0.0},{(load ? 250 : 15):0.0}\n") : "\n");
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }

    private async Task<JsonElement> AddAsync(string job, string mount, byte[] log, string? conditions = null)
    {
        int there = (await app.GetAsync($"/api/jobs/{job}")).Count("runs");
        conditions ??= """{"workload":"all-core","panel":"closed","fanPolicy":"auto"}""";
        HttpResponseMessage taken = await app.Client.PostAsync(
            $"/api/jobs/{job}/logs?mount={mount}&fileName={Guid.NewGuid():N}.csv&conditions={Uri.EscapeDataString(conditions)}",
            new ByteArrayContent(log)
        );
        Assert.Equal(HttpStatusCode.Accepted, taken.StatusCode);
        return await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == there + 1 && sheet.Count("imports") == 0);
    }

    private static string Mount(JsonElement sheet, int setup, int mount = 1) =>
        sheet.GetProperty("setups")[setup - 1].GetProperty("mounts")[mount - 1].Text("id");

    private async Task<JsonElement> ViewAsync(string job, string view)
    {
        HttpRequestMessage request = new(HttpMethod.Get, $"/api/jobs/{job}");
        request.Headers.Add("Remedos-View", view);
        return await App.ReadAsync(await app.Client.SendAsync(request));
    }

    /// <summary>
    /// A cooler that sat badly and the good one after it are two setups: neither the verdict nor any picture averages them.
    /// </summary>
    [Fact]
    public async Task Runs_of_different_setups_are_never_averaged()
    {
        string job = await NewAsync(110);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(job, Mount(sheet, 1), Log(100, 100));
        sheet = await app.AddSetupAsync(job, "other-cooler", new { cooler = "Rill Wrong" });
        await AddAsync(job, Mount(sheet, 2), Log(100, 105, seed: 2));
        await app.SaveAsync(job, "setup.2.failedWhy", "Sat on a stand-off");
        sheet = await app.AddSetupAsync(job, "other-cooler", new { cooler = "Rill Right" });
        sheet = await AddAsync(job, Mount(sheet, 3), Log(100, 83, seed: 3));
        Assert.Equal("Setup 1 as it came · Setup 3 Rill Right", sheet.GetProperty("pair").Text("words"));
        JsonElement result = sheet.GetProperty("verdict").GetProperty("result");
        Assert.Equal("improved", result.Text("verdict"));
        Assert.Equal(-17, result.GetProperty("change").GetProperty("atReferencePowerC").GetDouble(), 0.5);
        Assert.Equal(1, sheet.GetProperty("pair").Count("after"));
        Assert.Contains("17 °C cooler", sheet.GetProperty("headline").Text("claim"), StringComparison.Ordinal);
        // The failed try can be looked at, and everything on the sheet is then of it.
        JsonElement failed = await ViewAsync(job, "reference=1&compared=2");
        Assert.Equal(
            (2, 5.0),
            (
                failed.GetProperty("pair").GetProperty("compared").GetInt32(),
                Math.Round(
                    failed.GetProperty("verdict").GetProperty("result").GetProperty("change").GetProperty("atReferencePowerC").GetDouble()
                )
            )
        );
        Assert.Contains(
            "hotter",
            failed.GetProperty("headline").Text("claim")
                + failed.GetProperty("headline").Text("lead")
                + failed.GetProperty("headline").Text("rest"),
            StringComparison.Ordinal
        );
    }

    /// <summary>Another load has a line of its own and overturns neither headline nor evidence.</summary>
    [Fact]
    public async Task A_second_load_has_a_line_of_its_own()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        sheet = await AddAsync(job, Mount(sheet, 1), Log(110, 92));
        string headline = sheet.GetProperty("headline").ToString();
        const string Game = """{"workload":"game-like","panel":"closed","fanPolicy":"auto"}""";
        sheet = await AddAsync(job, Mount(sheet, 1), Log(55, 60, seed: 5), Game);
        Assert.Equal(headline, sheet.GetProperty("headline").ToString());
        Assert.Equal("all-core", sheet.GetProperty("pair").Text("load"));
        sheet = await app.AddSetupAsync(job, "repair");
        await AddAsync(job, Mount(sheet, 2), Log(110, 75, seed: 6));
        sheet = await AddAsync(job, Mount(sheet, 2), Log(55, 52, seed: 7), Game);
        JsonElement line = Assert.Single(sheet.GetProperty("otherLoads").EnumerateArray());
        Assert.Equal(("game-like", "improved"), (line.Text("load"), line.Text("verdict")));
        Assert.Equal(
            -17,
            sheet.GetProperty("verdict").GetProperty("result").GetProperty("change").GetProperty("atReferencePowerC").GetDouble(),
            0.5
        );
        JsonElement game = await ViewAsync(job, "load=game-like");
        Assert.Equal(
            -8,
            game.GetProperty("verdict").GetProperty("result").GetProperty("change").GetProperty("atReferencePowerC").GetDouble(),
            0.5
        );
    }

    /// <summary>Nothing is invented and nothing is taken over from another run; what is not known is asked for.</summary>
    [Fact]
    public async Task Conditions_that_nobody_stated_are_unknown()
    {
        string job = await NewAsync();
        await app.SaveAsync(job, "roomC", 24.5);
        string mount = Mount(await app.GetAsync($"/api/jobs/{job}"), 1);
        await AddAsync(job, mount, Log(100, 90), """{"workload":"all-core","panel":"side-off","fanPolicy":"fixed","fanPercent":60}""");
        JsonElement sheet = await AddAsync(job, mount, Log(100, 88, seed: 2), "{}");
        JsonElement run = sheet.GetProperty("runs")[1];
        JsonElement conditions = run.GetProperty("conditions");
        foreach (string condition in new[] { "workload", "panel", "fanPolicy", "fanPercent", "ambientC" })
        {
            Assert.Equal(JsonValueKind.Null, conditions.GetProperty(condition).ValueKind);
        }

        Assert.Equal(["workload", "panel", "fanPolicy"], run.GetProperty("unknown").EnumerateArray().Select(one => one.GetString()));
    }

    /// <summary>The card is a subject of its own, with figures, verdict and headline.</summary>
    [Fact]
    public async Task The_graphics_card_has_a_voice()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(job, Mount(sheet, 1), Log(100, 70, card: 86));
        sheet = await app.AddSetupAsync(job, "card", new { cardPaste = "Tallow Grey 5" });
        sheet = await AddAsync(job, Mount(sheet, 2), Log(100, 70, card: 74, seed: 2));
        // What was done was done to the card, so the sheet speaks of it.
        Assert.Equal(("graphics", "handover"), (sheet.GetProperty("pair").Text("subject"), sheet.GetProperty("now").Text("action")));
        JsonElement result = sheet.GetProperty("verdict").GetProperty("result");
        Assert.Equal("improved", result.Text("verdict"));
        Assert.Equal(-12, result.GetProperty("change").GetProperty("atReferencePowerC").GetDouble(), 0.3);
        Assert.Contains("core 74 °C", sheet.GetProperty("runs")[1].Text("cardFinding"), StringComparison.Ordinal);
        Assert.Contains(Measured(sheet), sentence =>
            sentence.StartsWith("After: under steady load the graphics card stood at 74 °C", StringComparison.Ordinal)
        );

        JsonElement chip = await ViewAsync(job, "subject=processor");
        Assert.Equal("no-measurable-change", chip.GetProperty("verdict").GetProperty("result").Text("verdict"));
        Assert.Equal("improved", chip.GetProperty("verdict").GetProperty("result").GetProperty("graphics").Text("verdict"));
        Assert.Contains(Measured(chip), sentence => sentence.Contains("graphics card: 12 °C cooler", StringComparison.Ordinal));

        // A document that is opened by its address is of what the page looks at.
        Assert.Contains("the graphics card stood at 74 °C", await ReportAsync(""), StringComparison.Ordinal);
        Assert.Contains("the processor stood at 70 °C", await ReportAsync("?view=subject%3Dprocessor"), StringComparison.Ordinal);

        static IEnumerable<string> Measured(JsonElement sheet) =>
            sheet.GetProperty("ownerPage").GetProperty("measured").EnumerateArray().Select(sentence => sentence.GetString()!);
        async Task<string> ReportAsync(string query)
        {
            using PdfDocument pdf = PdfDocument.Open(await app.Client.GetByteArrayAsync($"/api/jobs/{job}/report.pdf{query}"));
            return string.Join(' ', pdf.GetPages().SelectMany(page => page.GetWords()).Select(word => word.Text));
        }
    }

    /// <summary>Worse leads to the next round, which keeps what was found; a good verdict leads to hand over.</summary>
    [Fact]
    public async Task A_repair_that_did_not_help_opens_the_next_round()
    {
        string job = await NewAsync(110);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(job, Mount(sheet, 1), Log(100, 85));
        await app.SaveAsync(job, "repairFound", "Paste dry");
        await app.SaveAsync(job, "repairDone", "New paste");
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await app.Client.PostAsJsonAsync($"/api/jobs/{job}/rounds", new { reason = "worse" })).StatusCode
        );
        sheet = await app.AddSetupAsync(job, "repair", new { paste = "Chalk 2" });
        sheet = await AddAsync(job, Mount(sheet, 2), Log(100, 96, seed: 2));
        Assert.Equal(("next-round", "Open round 2"), (sheet.GetProperty("now").Text("action"), sheet.GetProperty("now").Text("button")));
        sheet = await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/jobs/{job}/rounds", new { reason = "worse" }));
        Assert.Equal((2, 1), (sheet.GetProperty("round").GetInt32(), sheet.Count("rounds")));
        JsonElement round = sheet.GetProperty("rounds")[0];
        Assert.Equal(("Paste dry", "New paste", "it got worse"), (round.Text("found"), round.Text("done"), round.Text("why")));
        Assert.StartsWith("Worse:", round.Text("verdict"), StringComparison.Ordinal);
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("fields").GetProperty("repairFound").ValueKind);
        Assert.Equal("repasted", sheet.GetProperty("fields").Text("lastDone"));

        // Taken back, the round is as it was; put back, it is over again.
        long change = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        JsonElement back = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/undo/{change}", null));
        Assert.Equal(
            (1, 0, "Paste dry"),
            (back.GetProperty("round").GetInt32(), back.Count("rounds"), back.GetProperty("fields").Text("repairFound"))
        );
        sheet = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/undo/{change}", null));
        Assert.Equal(2, sheet.GetProperty("round").GetInt32());

        sheet = await app.AddSetupAsync(job, "repair", new { paste = "Tallow Grey 5" });
        Assert.Equal(2, sheet.GetProperty("setups")[2].GetProperty("round").GetInt32());
        sheet = await AddAsync(job, Mount(sheet, 3), Log(100, 66, seed: 3));
        Assert.Equal("handover", sheet.GetProperty("currentStep").GetString());
        Assert.Equal("handover", sheet.GetProperty("now").Text("action"));
    }

    /// <summary>What the paste shows on lifting the new cooler is told at once, verdict or not.</summary>
    [Fact]
    public async Task A_bad_print_on_lifting_opens_the_next_round()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(job, Mount(sheet, 1), Log(100, 85));
        sheet = await app.AddSetupAsync(job, "repair");
        await AddAsync(job, Mount(sheet, 2), Log(100, 84, seed: 2));
        sheet = await App.ReadAsync(await app.SaveAsync(job, "mount.2.1.print", "ring-or-spot"));
        Assert.Equal("next-round", sheet.GetProperty("now").Text("action"));
        Assert.Contains("sat badly", sheet.GetProperty("now").Text("why"), StringComparison.Ordinal);
    }

    /// <summary>Opened already when it came: there is no verdict, and nobody asks for a before run for ever.</summary>
    [Fact]
    public async Task Without_a_baseline_there_is_a_finding_and_no_verdict()
    {
        string job = await NewAsync();
        await app.SaveAsync(job, "owner", "Somebody");
        await app.SaveAsync(job, "machine", "Opened");
        await app.SaveAsync(job, "noticed", "Hot");
        await app.SaveAsync(job, "repairDone", "New paste");
        JsonElement sheet = await app.AddSetupAsync(job, "repair");
        sheet = await AddAsync(job, Mount(sheet, 2), Log(100, 70));
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("verdict").ValueKind);
        Assert.Contains("there is no verdict", sheet.GetProperty("headline").Text("rest"), StringComparison.Ordinal);
        Assert.NotEqual("before-run", sheet.GetProperty("now").Text("action"));
        Assert.Equal("handover", sheet.Text("currentStep"));
    }

    /// <summary>An idle log is no baseline.</summary>
    [Fact]
    public async Task An_idle_log_completes_nothing()
    {
        string job = await NewAsync();
        JsonElement sheet = await AddAsync(job, Mount(await app.GetAsync($"/api/jobs/{job}"), 1), Log(12, 36));
        Assert.False(
            sheet.GetProperty("steps").EnumerateArray().Single(step => step.Text("id") == "before").GetProperty("done").GetBoolean()
        );
    }

    /// <summary>Three setups under like conditions are a series.</summary>
    [Fact]
    public async Task Three_setups_are_ranked()
    {
        string job = await NewAsync(110);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(job, Mount(sheet, 1), Log(100, 95));
        sheet = await app.AddSetupAsync(job, "other-cooler", new { cooler = "Rill 120", priceMinor = 5900 });
        sheet = await AddAsync(job, Mount(sheet, 2), Log(100, 70, seed: 2));
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("series").ValueKind);
        sheet = await app.AddSetupAsync(job, "other-cooler", new { cooler = "Rill 240", priceMinor = 9900 });
        sheet = await AddAsync(job, Mount(sheet, 3), Log(100, 69.5, seed: 3));
        JsonElement[] rows = [.. sheet.GetProperty("series").GetProperty("setups").EnumerateArray()];
        Assert.Equal([3, 2, 1], rows.Select(row => row.GetProperty("rank").GetInt32()));
        Assert.Equal(("b", "a", "a"), (rows[0].Text("group"), rows[1].Text("group"), rows[2].Text("group")));
        Assert.Equal(9900, rows[2].GetProperty("priceMinor").GetInt64());
    }

    /// <summary>
    /// Two people move one run: the second is told; a mount that was put on later than the run, or is not there, gets a sentence; undo
    /// takes it back.
    /// </summary>
    [Fact]
    public async Task A_run_is_moved_between_mounts()
    {
        string job = await NewAsync();
        JsonElement sheet = await AddAsync(job, Mount(await app.GetAsync($"/api/jobs/{job}"), 1), Log(100, 85));
        JsonElement run = sheet.GetProperty("runs")[0];
        sheet = await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/jobs/{job}/setups/1/mounts", new { }));
        sheet = await app.AddSetupAsync(job, "repair");
        string second = Mount(sheet, 1, 2),
            third = Mount(sheet, 2);
        Task<HttpResponseMessage> MoveAsync(string mount) =>
            app.Client.PutAsJsonAsync(
                $"/api/runs/{run.Text("id")}/mount",
                new { mountId = mount, version = run.GetProperty("version").GetUInt32() }
            );
        HttpResponseMessage[] both = await Task.WhenAll(MoveAsync(second), MoveAsync(third));
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict], both.Select(answer => answer.StatusCode).Order());
        sheet = await app.GetAsync($"/api/jobs/{job}");
        Assert.NotEqual(run.Text("mountId"), sheet.GetProperty("runs")[0].Text("mountId"));
        JsonElement undone = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{job}/undo/{sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
        );
        Assert.Equal(run.Text("mountId"), undone.GetProperty("runs")[0].Text("mountId"));

        run = undone.GetProperty("runs")[0];
        await app.SaveAsync(job, "mount.2.1.mountedAt", DateTimeOffset.UtcNow.AddMinutes(5));
        HttpResponseMessage later = await MoveAsync(third);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, later.StatusCode);
        Assert.Contains(
            "before the cooler of Setup 2 after the repair was put on",
            (await App.ReadAsync(later)).Text("detail"),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await MoveAsync(Guid.NewGuid().ToString())).StatusCode);
        HttpResponseMessage dated = await app.SaveAsync(job, "mount.1.1.mountedAt", DateTimeOffset.UtcNow.AddMinutes(5));
        Assert.Contains("cannot have been put on later", (await App.ReadAsync(dated)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>A setup can be taken away again while nothing was measured on it.</summary>
    [Fact]
    public async Task An_empty_setup_is_undone_and_a_used_one_is_not()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.AddSetupAsync(job, "fans", new { steering = "follows the chip" });
        Assert.Equal("Setup 2 follows the chip", sheet.GetProperty("setups")[1].Text("name"));
        long added = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        await AddAsync(job, Mount(sheet, 2), Log(100, 85));
        Assert.Equal(HttpStatusCode.Conflict, (await app.Client.PostAsync($"/api/jobs/{job}/undo/{added}", null)).StatusCode);
        await app.Client.DeleteAsync($"/api/runs/{(await app.GetAsync($"/api/jobs/{job}")).GetProperty("runs")[0].Text("id")}");
        Assert.Equal(1, (await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/undo/{added}", null))).Count("setups"));
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await app.Client.PostAsJsonAsync($"/api/jobs/{job}/setups", new { kind = "magic" })).StatusCode
        );
        Assert.Equal(HttpStatusCode.NotFound, (await app.SaveAsync(job, "setup.7.paste", "x")).StatusCode);
    }

    /// <summary>A log of another processor is told as an obstacle, not compared.</summary>
    [Fact]
    public async Task A_log_of_another_processor_is_not_compared()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        await AddAsync(
            job,
            Mount(sheet, 1),
            Log(100, 85),
            """{"workload":"all-core","panel":"closed","fanPolicy":"auto","ratedPowerW":125}"""
        );
        sheet = await app.AddSetupAsync(job, "repair");
        sheet = await AddAsync(
            job,
            Mount(sheet, 2),
            Log(60, 60, seed: 2),
            """{"workload":"all-core","panel":"closed","fanPolicy":"auto","ratedPowerW":65}"""
        );
        Assert.Equal("not-comparable", sheet.GetProperty("verdict").GetProperty("result").Text("verdict"));
        Assert.Contains("Different processors", sheet.GetProperty("headline").Text("claim"), StringComparison.Ordinal);
    }

    /// <summary>Re-mounts teach the workshop how its bench scatters; the next job's verdict is narrower for it.</summary>
    [Fact]
    public async Task Remounts_teach_the_bench()
    {
        using HttpClient other = await app.OtherWorkshopAsync();
        string job = await NewAsync(110);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        string mount = Mount(sheet, 1);
        for (int k = 0; k < 3; k++)
        {
            await AddAsync(job, mount, Log(100, 85 + (0.1 * k), seed: 10 + k));
            sheet = await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/jobs/{job}/setups/1/mounts", new { }));
            mount = Mount(sheet, 1, k + 2);
        }

        await using RemedosContext context = await app.ContextAsync();
        BenchScatter shown = await context.BenchScatters.SingleAsync(one => one.JobId == Guid.Parse(job));
        Assert.Equal(2, shown.MountDegrees);
        Assert.True(shown.MountSquares < 0.5);
    }
}
