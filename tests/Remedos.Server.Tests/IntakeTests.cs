using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests;

/// <summary>
/// All that an intake takes in: parts, pictures, warranty, earlier visits, tubes, and what the workshop's records make of it.
/// </summary>
public sealed class IntakeTests(App app) : IClassFixture<App>
{
    /// <summary>The smallest picture there is: one pixel.</summary>
    internal static readonly byte[] Png = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
    );

    private async Task<string> NewAsync(params (string Field, object? Value)[] fields)
    {
        string job = (await app.NewJobAsync()).Text("id");
        foreach ((string field, object? value) in fields)
        {
            HttpResponseMessage answer = await app.SaveAsync(job, field, value);
            Assert.True(answer.IsSuccessStatusCode, $"{field}: {await answer.Content.ReadAsStringAsync()}");
        }

        return job;
    }

    private Task<HttpResponseMessage> AddPhotoAsync(string job, byte[] content, string kind = "photo", string name = "plate.png") =>
        app.Client.PostAsync($"/api/jobs/{job}/photos?kind={kind}&fileName={Uri.EscapeDataString(name)}", new ByteArrayContent(content));

    [Fact]
    public async Task Every_field_of_the_intake_is_kept()
    {
        (string Field, object Value)[] fields =
        [
            ("processor", "Corbel C65"),
            ("board", "Quoin B5"),
            ("memory", "two sticks, unknown"),
            ("memoryHeightMm", 44),
            ("graphics", "Pantile 75"),
            ("case", "Gable Mid"),
            ("cooler", "Mullion 120"),
            ("fans", "one in front"),
            ("fansSteeredBy", "cpu-gpu"),
            ("purchasedOn", "2025-01-31"),
            ("warrantyMonths", 24),
            ("warrantyEndedBy", "cooler"),
            ("warrantyRoute", "here"),
            ("doneBefore", "Blown out"),
            ("lastDone", "cleaned"),
            ("tubeOneC", 41.5),
            ("tubeOtherC", 39),
        ];
        string job = await NewAsync([.. fields.Select(field => (field.Field, (object?)field.Value))]);
        await app.SaveAsync(job, "repairCauses", new[] { "paste-aged", "dust-blocked-fins" }, Array.Empty<string>());
        await app.StartAsync();
        JsonElement kept = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields");
        Assert.All(fields, field =>
            Assert.Equal(
                Convert.ToString(field.Value, System.Globalization.CultureInfo.InvariantCulture),
                kept.GetProperty(field.Field).ToString()
            )
        );
        Assert.Equal(
            ["dust-blocked-fins", "paste-aged"],
            kept.GetProperty("repairCauses").EnumerateArray().Select(cause => cause.GetString())
        );
    }

    [Theory]
    [InlineData("memoryHeightMm", 400.0, "10 to 100 mm")]
    [InlineData("fansSteeredBy", "the moon", "Expected one of cpu")]
    [InlineData("radiatorAt", "the floor", "Expected one of front-in")]
    [InlineData("warrantyMonths", 0.0, "1 to 240 months")]
    [InlineData("warrantyEndedBy", "rain", "Expected one of case, cooler, nothing")]
    [InlineData("lastDone", "prayed", "Expected one of nothing, cleaned")]
    [InlineData("tubeOneC", 400.0, "−20 °C to 110 °C")]
    [InlineData("purchasedOn", "2099-01-01", "not still to come")]
    [InlineData("builtOn", "2099-01-01", "not still to come")]
    [InlineData("repairCauses", "dust-blocked-fins", "Expected a list")]
    public async Task What_cannot_be_gets_a_sentence(string field, object value, string words)
    {
        HttpResponseMessage answer = await app.SaveAsync(await NewAsync(), field, value);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains(words, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_unknown_cause_is_refused()
    {
        HttpResponseMessage answer = await app.SaveAsync(await NewAsync(), "repairCauses", new[] { "gremlins" }, Array.Empty<string>());
        Assert.Contains("no cause “gremlins”", (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Pictures_are_kept_shown_taken_off_and_brought_back()
    {
        string job = await NewAsync();
        JsonElement sheet = await App.ReadAsync(await AddPhotoAsync(job, Png));
        string photo = sheet.GetProperty("photos")[0].Text("id");
        using HttpResponseMessage shown = await app.Client.GetAsync($"/api/jobs/{job}/photos/{photo}");
        Assert.Equal(
            ("image/jpeg", "nosniff"),
            (shown.Content.Headers.ContentType!.MediaType, shown.Headers.GetValues("X-Content-Type-Options").Single())
        );
        Assert.Equal(HttpStatusCode.Conflict, (await AddPhotoAsync(job, Png, name: "again.png")).StatusCode);

        JsonElement without = await App.ReadAsync(await app.Client.DeleteAsync($"/api/jobs/{job}/photos/{photo}"));
        Assert.Equal((0, "a picture was taken off"), (without.Count("photos"), without.GetProperty("lastChange").Text("words")));
        JsonElement back = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{job}/undo/{without.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
        );
        Assert.Equal(photo, back.GetProperty("photos")[0].Text("id"));
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{await NewAsync()}/photos/{photo}")).StatusCode);
    }

    [Theory]
    [InlineData("Time,Temp\n0,40\n", "photo", "is no picture")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", "photo", "is no picture")]
    [InlineData("", "photo", "is no picture")]
    [InlineData("x", "portrait", "either of the machine or of the proof")]
    public async Task What_is_no_picture_is_told(string content, string kind, string words)
    {
        HttpResponseMessage answer = await AddPhotoAsync(
            await NewAsync(),
            System.Text.Encoding.UTF8.GetBytes(content),
            kind,
            "receipt.png"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains(words, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>Days left, the proof, and the claim that comes before the work.</summary>
    [Fact]
    public async Task A_warranty_that_runs_is_offered_before_the_work()
    {
        string bought = DateTime.UtcNow.AddMonths(-30).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        string job = await NewAsync(
            ("owner", "Lamp museum"),
            ("machine", "Tower"),
            ("noticed", "Hot"),
            ("temperatureLimitC", 95),
            ("coolerKind", "tower"),
            ("purchasedOn", bought),
            ("warrantyMonths", 48),
            ("evidence.paste-print", "dried"),
            ("evidence.onset", "gradual")
        );
        await app.AddLogAsync(job, "before", "paste.csv", App.Example("02-paste-before.csv"));
        JsonElement asked = await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        Assert.Equal(
            ("Offer the warranty first", "warranty"),
            (asked.GetProperty("now").Text("title"), asked.GetProperty("now").Text("action"))
        );
        Assert.InRange(asked.GetProperty("warranty").GetProperty("daysLeft").GetInt32(), 540, 560);
        Assert.Contains("No proof of purchase is kept here yet", asked.GetProperty("warranty").Text("sentence"), StringComparison.Ordinal);
        Assert.Equal("Almost certainly:", asked.GetProperty("headline").Text("lead"));

        JsonElement proven = await App.ReadAsync(await AddPhotoAsync(job, Png, "proof"));
        Assert.Contains("The proof of purchase is kept here", proven.GetProperty("warranty").Text("sentence"), StringComparison.Ordinal);
        string photo = proven.GetProperty("photos")[0].Text("id");
        JsonElement onlyPhoto = await App.ReadAsync(
            await app.Client.PutAsJsonAsync($"/api/jobs/{job}/photos/{photo}/kind", new { kind = "photo" })
        );
        Assert.Contains("No proof", onlyPhoto.GetProperty("warranty").Text("sentence"), StringComparison.Ordinal);
        JsonElement undone = await App.ReadAsync(
            await app.Client.PostAsync(
                $"/api/jobs/{job}/undo/{onlyPhoto.GetProperty("lastChange").GetProperty("eventId").GetInt64()}",
                null
            )
        );
        Assert.Equal("proof", undone.GetProperty("photos")[0].Text("kind"));

        JsonElement here = await App.ReadAsync(await app.SaveAsync(job, "warrantyRoute", "here"));
        Assert.Equal("Decide: reseat the cooler with fresh paste?", here.GetProperty("now").Text("title"));
    }

    [Fact]
    public async Task A_machine_that_returns_brings_its_history_and_what_is_known()
    {
        string first = await NewAsync(
            ("owner", "Kite school"),
            ("serial", "KS-77 "),
            ("machine", "Video desk"),
            ("processor", "Corbel C125"),
            ("temperatureLimitC", 100),
            ("coolerKind", "liquid"),
            ("repairFound", "Pump stood"),
            ("repairDone", "Tower fitted")
        );
        await app.SaveAsync(first, "repairCauses", new[] { "pump-failed" }, Array.Empty<string>());
        await app.AddSetupAsync(first, "other-cooler", new { coolerKind = "tower" });
        string other = await NewAsync(("owner", "kite school"), ("machine", "Ticket printer"));
        string again = await NewAsync(("serial", "ks-77"), ("machine", "Video desk, back again"));
        JsonElement[] earlier = [.. (await app.GetAsync($"/api/jobs/{again}")).GetProperty("earlier").EnumerateArray()];
        Assert.Equal(
            (first, true, "Pump stood"),
            (Assert.Single(earlier).Text("id"), earlier[0].GetProperty("sameMachine").GetBoolean(), earlier[0].Text("found"))
        );
        Assert.Equal("Pump stopped or barely turning", earlier[0].GetProperty("causes")[0].GetString());

        JsonElement taken = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{again}/take-over/{first}", null));
        JsonElement fields = taken.GetProperty("fields");
        Assert.Equal(
            ("Kite school", "Video desk, back again", "Corbel C125", "tower"),
            (fields.Text("owner"), fields.Text("machine"), fields.Text("processor"), fields.Text("coolerKind"))
        );
        Assert.Equal(JsonValueKind.Null, fields.GetProperty("repairFound").ValueKind);
        // Now that the owner is known, the owner's other machine stands there as well, behind this one.
        Assert.Equal([first, other], taken.GetProperty("earlier").EnumerateArray().Select(one => one.Text("id")));
        Assert.Empty((await app.GetAsync($"/api/jobs/{first}")).GetProperty("earlier").EnumerateArray());
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await app.Client.PostAsync($"/api/jobs/{again}/take-over/{Guid.NewGuid()}", null)).StatusCode
        );
    }

    /// <summary>A machine without a serial number is known by the tag that it left with; a tag is no serial number to its maker.</summary>
    [Fact]
    public async Task A_machine_that_comes_back_is_known_by_its_old_tag()
    {
        string first = await NewAsync(("machine", "Chart table"), ("repairFound", "Fins felted"));
        string tag = (await app.GetAsync($"/api/jobs/{first}")).Text("tag");
        string again = await NewAsync(("serial", $" {tag.ToLowerInvariant()} "), ("machine", "Chart table, back"));
        JsonElement earlier = Assert.Single((await app.GetAsync($"/api/jobs/{again}")).GetProperty("earlier").EnumerateArray());
        Assert.Equal((first, true), (earlier.Text("id"), earlier.GetProperty("sameMachine").GetBoolean()));
        string none = await NewAsync(("serial", "WS-0"), ("machine", "Another"));
        Assert.Equal(0, (await app.GetAsync($"/api/jobs/{none}")).Count("earlier"));
    }

    /// <summary>A name with the signs of a search pattern matches itself and nothing else.</summary>
    [Fact]
    public async Task Names_are_taken_literally()
    {
        await NewAsync(("owner", "anybody at all"), ("serial", "100"));
        string job = await NewAsync(("owner", "%"), ("serial", "1_0"));
        Assert.Equal(0, (await app.GetAsync($"/api/jobs/{job}")).Count("earlier"));
    }

    [Fact]
    public async Task Tube_readings_tell_the_flow_and_a_hand_overrules_them()
    {
        string job = await NewAsync(("coolerKind", "liquid"), ("ratedPowerW", 150), ("tubeOneC", 58), ("tubeOtherC", 38));
        JsonElement diagnosis = await app.GetAsync($"/api/jobs/{job}/diagnosis");
        JsonElement Tubes(JsonElement from) =>
            from.GetProperty("observations").EnumerateArray().Single(one => one.Text("id") == "tube-difference");
        Assert.StartsWith("20.0 °C between the tubes at 150 W: about 0.11 L/min", diagnosis.Text("tubes"), StringComparison.Ordinal);
        Assert.Equal(("one-hot", true), (Tubes(diagnosis).Text("state"), Tubes(diagnosis).GetProperty("offRuns").GetBoolean()));
        Assert.Contains(diagnosis.GetProperty("causes")[0].Text("id"), new[] { "pump-failed", "loop-restricted" });
        await app.SaveAsync(job, "evidence.tube-difference", "even");
        Assert.Equal(("even", false), (Tubes(await app.GetAsync($"/api/jobs/{job}/diagnosis")).Text("state"), false));
    }

    /// <summary>Thermometers that a run carries tell the same by themselves.</summary>
    [Fact]
    public async Task Tubes_in_a_run_are_read_off_it()
    {
        string job = await NewAsync(("coolerKind", "liquid"), ("temperatureLimitC", 92));
        StringBuilder log = new("time,cpu-temperature,cpu-power,ambient-temperature,tube-out-temperature,tube-return-temperature\n");
        for (int second = 0; second < 1500; second++)
        {
            bool load = second is >= 300 and < 1200;
            double rise =
                load ? 50 * (1 - Math.Exp(-(second - 300) / 90.0))
                : second < 300 ? 0
                : 50 * Math.Exp(-(second - 1200) / 90.0);
            log.Append(
                CultureInfo.InvariantCulture,
                $"{second},{32 + rise:0.0},{(load ? 150 : 15)},22.0,{26 + (rise * 0.6):0.0},{25 + (rise * 0.2):0.0}\n"
            );
        }

        await app.AddLogAsync(job, "before", "tubes.csv", Encoding.UTF8.GetBytes(log.ToString()));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        JsonElement diagnosis = await app.GetAsync($"/api/jobs/{job}/diagnosis");
        JsonElement tubes = diagnosis.GetProperty("observations").EnumerateArray().Single(one => one.Text("id") == "tube-difference");
        Assert.Equal(("one-hot", true), (tubes.Text("state"), tubes.GetProperty("offRuns").GetBoolean()));
        Assert.Contains("hardly any flow", diagnosis.Text("tubes"), StringComparison.Ordinal);
    }

    /// <summary>What was found out in a series of coolers is where the odds of the next one begin, and it is said.</summary>
    [Fact]
    public async Task Records_of_a_series_become_its_prior()
    {
        string job = await NewAsync(("coolerKind", "liquid"), ("cooler", "Rill Test 9"));
        double Pump(JsonElement diagnosis) =>
            diagnosis
                .GetProperty("causes")
                .EnumerateArray()
                .Single(cause => cause.Text("id") == "pump-failed")
                .GetProperty("probability")
                .GetDouble();
        double before = Pump(await app.GetAsync($"/api/jobs/{job}/diagnosis"));
        for (int i = 0; i < 5; i++)
        {
            await app.SaveAsync(
                await NewAsync(("cooler", i % 2 == 0 ? "rill test 9" : "Rill Test 9 ")),
                "repairCauses",
                new[] { i < 4 ? "pump-failed" : "paste-aged" },
                Array.Empty<string>()
            );
        }

        JsonElement after = await app.GetAsync($"/api/jobs/{job}/diagnosis");
        Assert.True(Pump(after) > 3 * before);
        Assert.Contains("diagnosed 5 machines", after.GetProperty("notes")[0].GetString(), StringComparison.Ordinal);
        // The machine's own finding is no evidence for itself.
        await app.SaveAsync(job, "repairCauses", new[] { "pump-failed" }, Array.Empty<string>());
        Assert.Equal(Pump(after), Pump(await app.GetAsync($"/api/jobs/{job}/diagnosis")), 12);
    }

    /// <summary>A trial moves the ladder and does not stand in the way of the verdict.</summary>
    [Fact]
    public async Task A_trial_is_evidence_and_the_verdict_goes_on_between_the_usual_runs()
    {
        string job = await NewAsync(("coolerKind", "tower"), ("temperatureLimitC", 95));
        await app.AddLogAsync(job, "before", "usual.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        byte[] trial = [.. App.Example("02-paste-before.csv"), (byte)'\n'];
        await app.AddLogAsync(job, "before", "panel-off.csv", trial);
        JsonElement two = await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 2);
        JsonElement run = two.GetProperty("runs")[1];
        HttpResponseMessage set = await app.Client.PutAsJsonAsync(
            $"/api/runs/{run.Text("id")}/conditions",
            new
            {
                conditions = new
                {
                    workload = "all-core",
                    panel = "side-off",
                    fanPolicy = "auto",
                    ambientC = 22,
                    temperatureLimitC = 95,
                    coolerKind = "tower",
                },
                version = run.GetProperty("version").GetUInt32(),
            }
        );
        Assert.Equal(HttpStatusCode.OK, set.StatusCode);
        JsonElement seen = (await app.GetAsync($"/api/jobs/{job}/diagnosis"))
            .GetProperty("observations")
            .EnumerateArray()
            .Single(one => one.Text("id") == "panel-off-drop");
        Assert.Equal(("none", true), (seen.Text("state"), seen.GetProperty("offRuns").GetBoolean()));

        await app.AddLogAsync(job, "after", "after.csv", App.Example("03-paste-after.csv"));
        JsonElement proven = await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 3);
        Assert.True(proven.GetProperty("verdict").GetProperty("result").GetProperty("comparable").GetBoolean());
    }

    [Fact]
    public async Task Parts_are_kept_once_and_only_what_can_be()
    {
        Task<HttpResponseMessage> Keep(string kind, string name, object? values = null) =>
            app.Client.PostAsJsonAsync(
                "/api/parts",
                new
                {
                    kind,
                    name,
                    values,
                }
            );
        Assert.Equal(
            HttpStatusCode.OK,
            (
                await Keep(
                    "processor",
                    " Lintel L9 ",
                    new
                    {
                        processor = new
                        {
                            name = "Lintel L9",
                            temperatureLimitC = 90,
                            sustainedPowerW = 35,
                        },
                    }
                )
            ).StatusCode
        );
        JsonElement part = (await app.GetAsync("/api/parts")).EnumerateArray().Single(one => one.Text("name") == "Lintel L9");
        Assert.Equal(
            (90, 35),
            (
                part.GetProperty("values").GetProperty("processor").GetProperty("temperatureLimitC").GetDouble(),
                part.GetProperty("values").GetProperty("processor").GetProperty("sustainedPowerW").GetDouble()
            )
        );
        foreach (
            (HttpResponseMessage answer, HttpStatusCode status, string words) in new[]
            {
                (await Keep("processor", "Lintel L9"), HttpStatusCode.Conflict, "among the parts already"),
                (await Keep("toaster", "T"), HttpStatusCode.UnprocessableEntity, "no kind of part"),
                (await Keep("case", " "), HttpStatusCode.UnprocessableEntity, "1 to 200 letters"),
                (
                    await Keep(
                        "processor",
                        "Hot",
                        new
                        {
                            processor = new
                            {
                                name = "Hot",
                                temperatureLimitC = 300,
                                sustainedPowerW = 65,
                            },
                        }
                    ),
                    HttpStatusCode.UnprocessableEntity,
                    "processor.temperatureLimitC: 300 is outside 40 to 130"
                ),
                (
                    await Keep(
                        "case",
                        "Box",
                        new
                        {
                            cooler = new
                            {
                                id = "",
                                name = "Box",
                                kind = "tower",
                            },
                        }
                    ),
                    HttpStatusCode.UnprocessableEntity,
                    "What a cooler is like was told of a case."
                ),
            }
        )
        {
            Assert.Equal(status, answer.StatusCode);
            Assert.Contains(words, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task The_tag_carries_a_code_that_opens_the_job()
    {
        string job = await NewAsync();
        using HttpResponseMessage code = await app.Client.GetAsync($"/api/jobs/{job}/code.svg");
        Assert.Equal(new MediaTypeHeaderValue("image/svg+xml"), code.Content.Headers.ContentType);
        Assert.Equal(QrPicture.Of($"{app.Client.BaseAddress}jobs/{job}").ResponseContent, await code.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{Guid.NewGuid()}/code.svg")).StatusCode);
    }
}
