using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Remedos.Server.Tests;

/// <summary>The air of a machine: as it is, as it could be, and what of it is kept.</summary>
public sealed class AirTests(App app) : IClassFixture<App>
{
    private async Task<string> MachineAsync()
    {
        async Task KeepAsync(string kind, string name, object values)
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
            Assert.True(
                answer.IsSuccessStatusCode || answer.StatusCode == HttpStatusCode.Conflict,
                await answer.Content.ReadAsStringAsync()
            );
        }

        object fan = new
        {
            sizeMm = 120,
            minRpm = 500,
            maxRpm = 1800,
            currentA = 0.25,
            noiseAtMaxDba = 37,
        };
        await KeepAsync(
            "processor",
            "Corbel Air",
            new
            {
                processor = new
                {
                    name = "Corbel Air",
                    socket = "Q4",
                    sustainedPowerW = 150,
                    temperatureLimitC = 95,
                    insideResistanceCPerW = 0.08,
                },
            }
        );
        await KeepAsync(
            "board",
            "Quoin Air",
            new
            {
                board = new
                {
                    socket = "Q4",
                    memoryFromSocketMm = 50,
                    firstSlotFromSocketMm = 60,
                    headers = new object[]
                    {
                        new
                        {
                            name = "CPU",
                            maxCurrentA = 1.0,
                            steeredBy = "cpu",
                        },
                        new
                        {
                            name = "PUMP",
                            maxCurrentA = 2.0,
                            steeredBy = "full",
                        },
                        new
                        {
                            name = "CASE",
                            maxCurrentA = 1.0,
                            steeredBy = "board",
                        },
                    },
                },
            }
        );
        await KeepAsync(
            "case",
            "Gable Air",
            new
            {
                @case = new
                {
                    maxCoolerHeightMm = 160,
                    maxCardLengthMm = 360,
                    radiators = new[]
                    {
                        new
                        {
                            place = "front",
                            sizesMm = new[] { 240 },
                            maxThicknessMm = 60,
                        },
                        new
                        {
                            place = "top",
                            sizesMm = new[] { 240 },
                            maxThicknessMm = 60,
                        },
                    },
                    fans = new[]
                    {
                        new
                        {
                            place = "front",
                            direction = "in",
                            sizeMm = 120,
                            rpm = 900,
                        },
                        new
                        {
                            place = "rear",
                            direction = "out",
                            sizeMm = 120,
                            rpm = 900,
                        },
                    },
                    fanPlaces = new[]
                    {
                        new
                        {
                            place = "front",
                            sizesMm = new[] { 120 },
                            count = 2,
                        },
                        new
                        {
                            place = "top",
                            sizesMm = new[] { 120 },
                            count = 2,
                        },
                        new
                        {
                            place = "rear",
                            sizesMm = new[] { 120 },
                            count = 1,
                        },
                    },
                },
            }
        );
        await KeepAsync(
            "graphics",
            "Pantile Air",
            new
            {
                graphics = new
                {
                    name = "Pantile Air",
                    powerW = 200,
                    lengthMm = 280,
                },
            }
        );
        await KeepAsync(
            "cooler",
            "Rill Air",
            new
            {
                cooler = new
                {
                    id = "",
                    name = "",
                    kind = "liquid",
                    sockets = new[] { "Q4" },
                    radiatorSizeMm = 240,
                    radiatorThicknessMm = 52,
                    fans = new[] { fan, fan },
                    pumpCurrentA = 0.4,
                    performance = new[] { new { rpm = 900, resistanceCPerW = 0.2 }, new { rpm = 1800, resistanceCPerW = 0.15 } },
                    priceMinor = 9000,
                },
            }
        );
        string job = (await app.NewJobAsync()).Text("id");
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("processor", "Corbel Air"),
                ("board", "Quoin Air"),
                ("case", "Gable Air"),
                ("graphics", "Pantile Air"),
                ("cooler", "Rill Air"),
                ("roomC", 22),
                ("fansSteeredBy", "coolant"),
            }
        )
        {
            Assert.True((await app.SaveAsync(job, field, value)).IsSuccessStatusCode, field);
        }

        return job;
    }

    private static JsonObject Asked(JsonElement sheet, JsonNode plan) =>
        new()
        {
            ["build"] = Node(sheet.GetProperty("build")),
            ["cooler"] = Node(sheet.GetProperty("cooler")),
            ["plan"] = plan.DeepClone(),
        };

    private static JsonNode? Node(JsonElement element) => JsonNode.Parse(element.GetRawText());

    private async Task<JsonElement> PostAsync(string path, JsonNode body) =>
        await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/air/{path}", body));

    /// <summary>What was noted of its radiator counts for the cooler that came with it, on every page.</summary>
    [Fact]
    public async Task Where_its_radiator_hangs_can_be_noted()
    {
        string job = await MachineAsync();
        async Task<(string?, bool?)> HangsAsync()
        {
            JsonNode cooler = Node((await app.GetAsync($"/api/jobs/{job}/air")).GetProperty("start"))!["cooler"]!;
            return ((string?)cooler["place"], (bool?)cooler["inward"]);
        }

        Assert.Equal(("front", true), await HangsAsync());
        Assert.True((await app.SaveAsync(job, "radiatorAt", "front-out")).IsSuccessStatusCode);
        Assert.Equal(("front", false), await HangsAsync());
        Assert.True((await app.SaveAsync(job, "radiatorAt", "top-out", "front-out")).IsSuccessStatusCode);
        Assert.Equal(("top", false), await HangsAsync());
        JsonElement coolers = await app.GetAsync($"/api/jobs/{job}/coolers");
        JsonElement own = coolers
            .GetProperty("match")
            .GetProperty("candidates")
            .EnumerateArray()
            .Single(one => one.Text("name") == "Rill Air");
        Assert.Equal("top", own.Text("place"));
    }

    /// <summary>
    /// Fans that are fixed turn as the log says, whichever comes first, the log or the note; sheet, Air and coolers take that speed.
    /// </summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task The_log_says_where_its_fans_are_fixed(bool noteFirst)
    {
        string job = await MachineAsync();
        async Task NoteAsync() => Assert.True((await app.SaveAsync(job, "fansSteeredBy", "fixed", "coolant")).IsSuccessStatusCode);
        async Task LogAsync()
        {
            await app.AddLogAsync(job, "before", "01-tower-healthy.csv", App.Example("01-tower-healthy.csv"));
            await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        }

        await (noteFirst ? NoteAsync() : LogAsync());
        Assert.Equal(JsonValueKind.Null, (await FieldAsync()).ValueKind);
        await (noteFirst ? LogAsync() : NoteAsync());
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        double logged = sheet.GetProperty("runs")[0].GetProperty("analysis").GetProperty("beside").GetProperty("caseFanRpm").GetDouble();
        Assert.InRange(logged, 300, 2000);
        Assert.Equal(Math.Round(logged), (await FieldAsync()).GetDouble());
        // Another speed that is typed goes to Air and to the coolers, and stays until another log says otherwise.
        Assert.True((await app.SaveAsync(job, "fansFixedRpm", 450, Math.Round(logged))).IsSuccessStatusCode);
        JsonNode start = Node((await app.GetAsync($"/api/jobs/{job}/air")).GetProperty("start"))!;
        string header = (string)start["fans"]![0]!["header"]!;
        JsonNode steering = start["headers"]!.AsArray().Single(one => (string?)one!["name"] == header)!["steering"]!;
        Assert.Equal(50, (double)steering["points"]![0]!["percent"]!, 1e-6);
        async Task<double> HeardAsync(string? whatIf = null) =>
            (await app.GetAsync($"/api/jobs/{job}/coolers{whatIf}"))
                .GetProperty("match")
                .GetProperty("candidates")
                .EnumerateArray()
                .Single(one => one.Text("name") == "Rill Air")
                .GetProperty("noiseDba")
                .GetDouble();
        double noted = await HeardAsync();
        Assert.Equal(await HeardAsync("?caseFanRpm=450"), noted, 0.1);
        Assert.True(await HeardAsync("?caseFanRpm=2000") > noted + 1);

        async Task<JsonElement> FieldAsync() => (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields").GetProperty("fansFixedRpm");
    }

    [Fact]
    public async Task A_machine_as_it_is_can_be_looked_at_changed_compared_and_kept()
    {
        string job = await MachineAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}/air");
        JsonNode start = Node(sheet.GetProperty("start"))!;
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("kept").ValueKind);
        Assert.Equal(
            ("front", "PUMP", "CPU"),
            ((string?)start["cooler"]!["place"], (string?)start["cooler"]!["pumpHeader"], (string?)start["cooler"]!["fanHeader"])
        );
        Assert.Equal("coolant", (string?)start["headers"]![0]!["steering"]!["source"]);

        JsonElement now = await PostAsync("look", Asked(sheet, start));
        Assert.Empty(now.GetProperty("findings").EnumerateArray());
        JsonNode top = start.DeepClone();
        (top["cooler"]!["place"], top["cooler"]!["inward"]) = ("top", false);
        JsonElement moved = await PostAsync("look", Asked(sheet, top));
        double Of(JsonElement look, string chip) => look.GetProperty("air").GetProperty(chip).GetDouble();
        Assert.True(Of(moved, "processorC") > Of(now, "processorC") && Of(moved, "cardC") < Of(now, "cardC"));

        JsonElement questions = await PostAsync("comparisons", Asked(sheet, start));
        Assert.Equal(["radiator", "follow", "panel"], questions.EnumerateArray().Select(question => question.Text("id")));

        JsonObject steering = Asked(sheet, start);
        (steering["header"], steering["source"], steering["limitC"], steering["noiseDba"]) = ("CPU", "cpu", 75, 45);
        JsonElement advice = await PostAsync("steering", steering);
        Assert.StartsWith("Enter these points for CPU", advice.Text("sentence"), StringComparison.Ordinal);

        Assert.True((await app.SaveAsync(job, "airPlan", top)).IsSuccessStatusCode);
        JsonElement kept = (await app.GetAsync($"/api/jobs/{job}/air")).GetProperty("kept");
        Assert.Equal("top", kept.GetProperty("cooler").Text("place"));
        // Somebody else's plan is not overwritten, and a change can be taken back.
        Assert.Equal(HttpStatusCode.Conflict, (await app.SaveAsync(job, "airPlan", start, start)).StatusCode);
        JsonElement job2 = await app.GetAsync($"/api/jobs/{job}");
        Assert.Equal("the plan of the air", job2.GetProperty("lastChange").Text("words"));
        HttpResponseMessage undone = await app.Client.PostAsync(
            $"/api/jobs/{job}/undo/{job2.GetProperty("lastChange").GetProperty("eventId").GetInt64()}",
            null
        );
        Assert.True(undone.IsSuccessStatusCode, await undone.Content.ReadAsStringAsync());
        Assert.Equal(JsonValueKind.Null, (await app.GetAsync($"/api/jobs/{job}/air")).GetProperty("kept").ValueKind);
    }

    [Fact]
    public async Task What_cannot_be_gets_a_sentence()
    {
        string job = await MachineAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}/air");
        JsonNode plan = Node(sheet.GetProperty("start"))!;
        plan["fans"]![0]!["sizeMm"] = 900;
        Assert.Equal("fans[0].sizeMm: 900 is outside 30 to 250 mm.", (await PostAsync("look", Asked(sheet, plan))).Text("detail"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.SaveAsync(job, "airPlan", plan)).StatusCode);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.SaveAsync(job, "airPlan", "a gale")).StatusCode);
        JsonObject nowhere = Asked(sheet, Node(sheet.GetProperty("start"))!);
        (nowhere["header"], nowhere["source"], nowhere["limitC"]) = ("NOWHERE", "cpu", 75);
        Assert.Equal("header: there is no header “NOWHERE”.", (await PostAsync("steering", nowhere)).Text("detail"));
        string bare = (await app.NewJobAsync()).Text("id");
        Assert.StartsWith(
            "The air is computed for a processor",
            (await App.ReadAsync(await app.Client.GetAsync($"/api/jobs/{bare}/air"))).Text("detail"),
            StringComparison.Ordinal
        );
        JsonElement parts = await app.GetAsync("/api/air?processor=Corbel%20Air&case=Gable%20Air&cooler=Rill%20Air");
        Assert.Equal(3, parts.GetProperty("places").GetArrayLength());
    }
}
