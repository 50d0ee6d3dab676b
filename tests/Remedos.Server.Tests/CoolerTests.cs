using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Remedos.Server.Tests;

/// <summary>A cooler for a job's machine, from the workshop's own parts.</summary>
public sealed class CoolerTests(App app) : IClassFixture<App>
{
    private static readonly object Fan = new
    {
        sizeMm = 120,
        minRpm = 400,
        maxRpm = 1600,
        currentA = 0.2,
        noiseAtMaxDba = 34,
    };

    private async Task KeepAsync(string kind, string name, object values)
    {
        HttpResponseMessage answer = await app.Client.PostAsJsonAsync(
            "/api/parts",
            new
            {
                kind,
                name,
                values,
            }
        );
        Assert.True(answer.IsSuccessStatusCode || answer.StatusCode == HttpStatusCode.Conflict, await answer.Content.ReadAsStringAsync());
    }

    /// <summary>A tower that fits the machine.</summary>
    private Task TowerAsync(string name) =>
        KeepAsync(
            "cooler",
            name,
            new
            {
                cooler = new
                {
                    id = "",
                    name = "",
                    kind = "tower",
                    sockets = new[] { "Q4" },
                    heightMm = 155,
                    reachTowardMemoryMm = 55,
                    clearanceUnderFanMm = 40,
                    fanCanRiseMm = 0,
                    fans = new[] { Fan },
                    performance = new[] { new { rpm = 1600, resistanceCPerW = 0.22 } },
                    priceMinor = 4900,
                },
            }
        );

    private async Task<string> MachineAsync()
    {
        await KeepAsync(
            "processor",
            "Corbel Test",
            new
            {
                processor = new
                {
                    name = "Corbel Test",
                    socket = "Q4",
                    sustainedPowerW = 110,
                    temperatureLimitC = 95,
                    insideResistanceCPerW = 0.09,
                    priceMinor = 20000,
                },
            }
        );
        await KeepAsync(
            "board",
            "Quoin Test",
            new
            {
                board = new
                {
                    socket = "Q4",
                    memoryFromSocketMm = 50,
                    firstSlotFromSocketMm = 60,
                    headers = new[]
                    {
                        new
                        {
                            name = "CPU",
                            maxCurrentA = 1.0,
                            steeredBy = "cpu",
                        },
                    },
                },
            }
        );
        await KeepAsync(
            "case",
            "Gable Test",
            new
            {
                @case = new
                {
                    maxCoolerHeightMm = 160,
                    maxCardLengthMm = 350,
                    radiators = Array.Empty<object>(),
                    fans = new[]
                    {
                        new
                        {
                            place = "rear",
                            direction = "out",
                            sizeMm = 120,
                            rpm = 1000,
                        },
                    },
                },
            }
        );
        await KeepAsync(
            "cooler",
            "Box Test",
            new
            {
                cooler = new
                {
                    id = "",
                    name = "",
                    kind = "down-draught",
                    sockets = new[] { "Q4" },
                    heightMm = 70,
                    reachTowardMemoryMm = 40,
                    fans = new[] { Fan },
                    performance = new[] { new { rpm = 1600, resistanceCPerW = 0.6 } },
                    priceMinor = 1500,
                },
            }
        );
        await TowerAsync("Tower Test");
        string job = (await app.NewJobAsync()).Text("id");
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("processor", "corbel test"),
                ("board", "Quoin Test"),
                ("case", "Gable Test"),
                ("cooler", "Box Test"),
                ("memoryHeightMm", 38),
                ("roomC", 22),
            }
        )
        {
            Assert.True((await app.SaveAsync(job, field, value)).IsSuccessStatusCode, field);
        }

        return job;
    }

    private Task<JsonElement> MatchAsync(string job, string query = "") => app.GetAsync($"/api/jobs/{job}/coolers{query}");

    private static JsonElement Named(JsonElement answer, string name) =>
        answer.GetProperty("match").GetProperty("candidates").EnumerateArray().Single(one => one.Text("name") == name);

    /// <summary>What the case does not say is measured on the job, decides there, and goes into the part for the next one.</summary>
    [Fact]
    public async Task A_measure_is_answered_on_the_job_and_goes_into_the_part()
    {
        string job = await MachineAsync();
        await KeepAsync("case", "Gable Bare", new { @case = new { maxCardLengthMm = 350 } });
        await app.SaveAsync(job, "case", "Gable Bare", "Gable Test");
        JsonElement asked = Named(await MatchAsync(job), "Tower Test");
        Assert.Equal(JsonValueKind.Null, asked.GetProperty("fits").ValueKind);
        JsonElement measure = asked.GetProperty("reasons")[0].GetProperty("measure");
        Assert.Equal(("coolerRoomMm", 155.0), (measure.Text("field"), measure.GetProperty("atLeastMm").GetDouble()));

        Task<HttpResponseMessage> IntoPart(string field) => app.Client.PostAsync($"/api/jobs/{job}/measures/{field}/part", null);
        Assert.Equal(
            "“Room for a cooler’s height” is not measured on this job yet.",
            (await App.ReadAsync(await IntoPart("coolerRoomMm"))).Text("detail")
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.SaveAsync(job, "coolerRoomMm", 1640)).StatusCode);
        Assert.True((await app.SaveAsync(job, "coolerRoomMm", 164)).IsSuccessStatusCode);
        Assert.True(Named(await MatchAsync(job), "Tower Test").GetProperty("fits").GetBoolean());

        Assert.Equal("Gable Bare", (await App.ReadAsync(await IntoPart("coolerRoomMm"))).Text("part"));
        JsonElement part = (await app.GetAsync("/api/parts")).EnumerateArray().Single(one => one.Text("name") == "Gable Bare");
        Assert.Equal(
            ("164", "350"),
            (part.GetProperty("cells").Text("maxCoolerHeightMm"), part.GetProperty("cells").Text("maxCardLengthMm"))
        );
        // The next machine in such a case is not measured again.
        string next = await MachineAsync();
        await app.SaveAsync(next, "case", "Gable Bare", "Gable Test");
        Assert.True(Named(await MatchAsync(next), "Tower Test").GetProperty("fits").GetBoolean());

        await app.SaveAsync(job, "radiatorTopMm", 60);
        Assert.Contains(
            "has no place for a radiator at the top",
            (await App.ReadAsync(await IntoPart("radiatorTopMm"))).Text("detail"),
            StringComparison.Ordinal
        );
        await app.SaveAsync(job, "memoryFromSocketMm", 50);
        await app.SaveAsync(job, "board", "Nobody’s board", "Quoin Test");
        Assert.Contains(
            "is not among the workshop’s parts",
            (await App.ReadAsync(await IntoPart("memoryFromSocketMm"))).Text("detail"),
            StringComparison.Ordinal
        );
        Assert.Contains("is no measure", (await App.ReadAsync(await IntoPart("owner"))).Text("detail"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_machine_gets_the_cooler_that_fits_and_holds_and_what_if_answers()
    {
        string job = await MachineAsync();
        JsonElement answer = await MatchAsync(job);
        Assert.Equal((0, 4), (answer.GetProperty("unknown").GetArrayLength(), answer.GetProperty("schools").GetArrayLength()));
        Assert.StartsWith("Tower Test: 110 W at", answer.GetProperty("match").Text("advice"), StringComparison.Ordinal);
        Assert.True(
            Named(answer, "Box Test").GetProperty("isCurrent").GetBoolean()
                && Named(answer, "Box Test").GetProperty("throttles").GetBoolean()
        );

        JsonElement high = await MatchAsync(job, "?memoryHeightMm=41");
        Assert.Equal(
            ("memory", 1.0),
            (
                Named(high, "Tower Test").GetProperty("reasons")[0].Text("code"),
                Named(high, "Tower Test").GetProperty("reasons")[0].GetProperty("byMm").GetDouble()
            )
        );
        Assert.Contains(
            "With memory no higher than 40 mm, one more fits (Tower Test).",
            high.GetProperty("match").GetProperty("changes").EnumerateArray().Select(change => change.GetString())
        );
        JsonElement small = await MatchAsync(job, "?sustainedPowerW=40&school=least-spend");
        Assert.StartsWith("Leave it: Box Test holds 40 W", small.GetProperty("match").Text("advice"), StringComparison.Ordinal);
        double Chip(JsonElement one) => Named(one, "Tower Test").GetProperty("temperatureC").GetProperty("value").GetDouble();
        Assert.True(Chip(await MatchAsync(job, "?roomC=32")) > Chip(answer) + 5);
        Assert.True(Chip(await MatchAsync(job, "?caseFanRpm=400")) > Chip(answer));
    }

    [Fact]
    public async Task What_is_not_known_is_said_and_what_cannot_be_refused()
    {
        await MachineAsync();
        string bare = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage nothing = await app.Client.GetAsync($"/api/jobs/{bare}/coolers");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nothing.StatusCode);
        Assert.Contains(
            "its rated power and its temperature limit, at the intake",
            (await App.ReadAsync(nothing)).Text("detail"),
            StringComparison.Ordinal
        );

        await app.SaveAsync(bare, "ratedPowerW", 65);
        await app.SaveAsync(bare, "temperatureLimitC", 95);
        await app.SaveAsync(bare, "case", "a grey box");
        JsonElement answer = await MatchAsync(bare);
        Assert.Contains(
            "The case, “a grey box”, is not among the workshop’s parts with its measures.",
            answer.GetProperty("unknown").EnumerateArray().Select(one => one.GetString())
        );
        Assert.All(answer.GetProperty("match").GetProperty("candidates").EnumerateArray(), one =>
            Assert.Equal(JsonValueKind.Null, one.GetProperty("fits").ValueKind)
        );
        HttpResponseMessage absurd = await app.Client.GetAsync($"/api/jobs/{bare}/coolers?roomC=900");
        Assert.Contains("roomC: 900 is outside", (await App.ReadAsync(absurd)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{Guid.NewGuid()}/coolers")).StatusCode);
    }

    /// <summary>A machine that runs hotter than a sound one is sent to its diagnosis before a cooler is chosen.</summary>
    [Fact]
    public async Task A_machine_that_is_not_sound_is_told()
    {
        string job = await MachineAsync();
        await app.SaveAsync(job, "cooler", "Tower Test", "Box Test");
        Assert.Equal(JsonValueKind.Null, (await MatchAsync(job)).GetProperty("measured").ValueKind);
        await app.AddLogAsync(job, "before", "paste.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        JsonElement ill = await MatchAsync(job);
        Assert.Contains("where a sound Tower Test stands at", ill.Text("measured"), StringComparison.Ordinal);
        Assert.Equal("repair", ill.GetProperty("decision").Text("advised"));

        // Once it is repaired, what stands there now is asked, by its own run.
        await app.AddLogAsync(job, "after", "after.csv", App.Example("03-paste-after.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 2);
        JsonElement mended = await MatchAsync(job);
        Assert.Equal(JsonValueKind.Null, mended.GetProperty("measured").ValueKind);
        Assert.True(ChipC(mended) < ChipC(ill) - 5);
        Assert.DoesNotContain("Repair it first", mended.GetProperty("decision").Text("sentence"), StringComparison.Ordinal);

        static double ChipC(JsonElement answer) => answer.GetProperty("today").GetProperty("chipC").GetDouble();
    }

    [Fact]
    public async Task Any_machine_of_known_parts_is_matched_without_a_job()
    {
        await MachineAsync();
        JsonElement answer = await app.GetAsync(
            "/api/coolers?processor=Corbel%20Test&board=Quoin%20Test&case=Gable%20Test&cooler=Box%20Test&memoryHeightMm=38"
        );
        Assert.StartsWith("Tower Test: 110 W at", answer.GetProperty("match").Text("advice"), StringComparison.Ordinal);
        Assert.Equal(
            ("cooler", JsonValueKind.Null),
            (answer.GetProperty("decision").Text("advised"), answer.GetProperty("today").ValueKind)
        );
        HttpResponseMessage nothing = await app.Client.GetAsync("/api/coolers?board=Quoin%20Test");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nothing.StatusCode);
    }

    /// <summary>The workshop's rate and tax are in the quote, and its own weights order the list.</summary>
    [Fact]
    public async Task The_workshops_own_rates_and_weights_count()
    {
        string job = await MachineAsync();
        await SetAsync("labourMinorPerHour", 6000);
        await SetAsync("taxPercent", 10);
        await SetAsync("weights", Weights(0, 5));
        JsonElement answer = await MatchAsync(job);
        Assert.Equal(("own", 5), (answer.Text("school"), answer.GetProperty("schools").GetArrayLength()));
        JsonElement tower = answer.GetProperty("quotes").GetProperty(Named(answer, "Tower Test").Text("id"));
        double minutes = tower.GetProperty("minutes").GetDouble();
        Assert.InRange(minutes, 35, 60);
        Assert.Equal(Math.Round(1.1 * (4900 + 400 + (6000 * minutes / 60))), tower.GetProperty("totalMinor").GetInt64(), 1.0);
        Assert.Equal("air-first", (await MatchAsync(job, "?school=air-first")).Text("school"));
        HttpResponseMessage absurd = await TryAsync("weights", Weights(99, 1));
        Assert.Equal("weights.price: 99 is outside 0 to 10.", (await App.ReadAsync(absurd)).Text("detail"));
        await SetAsync("labourMinorPerHour", 4800);
        await SetAsync("taxPercent", 0);
        await SetAsync("weights", null);
        Assert.Equal(4, (await MatchAsync(job)).GetProperty("schools").GetArrayLength());

        static object Weights(double price, double heat) =>
            new
            {
                id = "",
                title = "",
                heat,
                noise = 0,
                price,
                failures = 0,
                liquid = 0,
                reason = "",
            };

        // On top of what is there.
        async Task<HttpResponseMessage> TryAsync(string field, object? value)
        {
            JsonElement @base = (await app.GetAsync("/api/settings")).GetProperty(field);
            return await app.Client.PatchAsJsonAsync($"/api/settings/{field}", new { value, @base });
        }

        async Task SetAsync(string field, object? value) =>
            Assert.Equal(System.Net.HttpStatusCode.OK, (await TryAsync(field, value)).StatusCode);
    }

    /// <summary>A retired cooler is offered no more, but stays known where it is on a machine.</summary>
    [Fact]
    public async Task A_retired_cooler_is_not_offered()
    {
        string job = await MachineAsync();
        await KeepAsync(
            "cooler",
            "Old Test",
            new
            {
                cooler = new
                {
                    id = "",
                    name = "",
                    kind = "tower",
                    sockets = new[] { "Q4" },
                    heightMm = 150,
                    reachTowardMemoryMm = 40,
                    fans = new[] { Fan },
                    performance = new[] { new { rpm = 1600, resistanceCPerW = 0.25 } },
                },
            }
        );
        string id = Named(await MatchAsync(job), "Old Test").Text("id");
        await app.Client.PutAsync($"/api/parts/{id}/retired?retired=true", null);
        Assert.DoesNotContain((await MatchAsync(job)).GetProperty("match").GetProperty("candidates").EnumerateArray(), one =>
            one.Text("name") == "Old Test"
        );
        await app.SaveAsync(job, "cooler", "Old Test", "Box Test");
        Assert.True(Named(await MatchAsync(job), "Old Test").GetProperty("isCurrent").GetBoolean());
    }

    /// <summary>What a sound machine did after its repair is what this bench knows of its cooler from then on.</summary>
    [Fact]
    public async Task A_run_after_the_repair_teaches_the_bench()
    {
        string job = await MachineAsync();
        // A cooler of its own: what others have taught the bench is known of theirs.
        await TowerAsync("Heron Test");
        await app.SaveAsync(job, "repairCooler", "Heron Test");
        JsonElement before = Named(await MatchAsync(job), "Heron Test");
        Assert.Equal((false, 0), (before.GetProperty("measured").GetBoolean(), before.Count("notes")));
        // What was chosen is what goes on, unless something else is said.
        JsonElement sheet = await app.AddSetupAsync(job, "other-cooler");
        Assert.Equal("Setup 2 Heron Test", sheet.GetProperty("setups")[1].Text("name"));
        await app.AddLogAsync(job, "after", "after.csv", App.Example("03-paste-after.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        JsonElement after = Named(await MatchAsync(job), "Heron Test");
        Assert.True(after.GetProperty("measured").GetBoolean());
        Assert.StartsWith("Measured on this bench in one machine: ", after.GetProperty("notes")[0].GetString(), StringComparison.Ordinal);
        JsonElement part = (await app.GetAsync("/api/parts")).EnumerateArray().Single(one => one.Text("name") == "Heron Test");
        Assert.Equal(after.GetProperty("notes")[0].GetString(), part.Text("learnt"));
        await app.SaveAsync(job, "setup.2.cooler", "Some other", "Heron Test");
        Assert.False(Named(await MatchAsync(job), "Heron Test").GetProperty("measured").GetBoolean());
    }
}
