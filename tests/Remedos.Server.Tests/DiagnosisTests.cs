using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Remedos.Server.Tests;

/// <summary>Diagnosis of a job: from what hands observed and what its runs show.</summary>
public sealed class DiagnosisTests(App app) : IClassFixture<App>
{
    private Task<JsonElement> DiagnosisAsync(string job) => app.GetAsync($"/api/jobs/{job}/diagnosis");

    private static JsonElement Observation(JsonElement diagnosis, string id) =>
        diagnosis.GetProperty("observations").EnumerateArray().Single(one => one.Text("id") == id);

    [Fact]
    public async Task Nothing_observed_is_said_so_and_asks_first_what_takes_a_minute()
    {
        string job = (await app.NewJobAsync()).Text("id");
        JsonElement diagnosis = await DiagnosisAsync(job);
        Assert.Equal(("Nothing observed yet.", false), (diagnosis.Text("conclusion"), diagnosis.GetProperty("sure").GetBoolean()));
        Assert.Equal(1, diagnosis.GetProperty("checks")[0].GetProperty("minutes").GetDouble());
        Assert.Equal((19, 45), (diagnosis.Count("causes"), diagnosis.Count("observations")));
    }

    /// <summary>A before run tells by itself; a hand's observation makes it sure; taken back, it is as before.</summary>
    [Fact]
    public async Task Runs_and_hands_tell_together_and_can_be_overruled_and_taken_back()
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "coolerKind", "tower");
        await app.SaveAsync(job, "temperatureLimitC", 95);
        await app.AddLogAsync(job, "before", "paste.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        JsonElement offRun = await DiagnosisAsync(job);
        Assert.Equal(
            ("chip", true),
            (Observation(offRun, "swollen-band").Text("state"), Observation(offRun, "swollen-band").GetProperty("offRuns").GetBoolean())
        );
        Assert.Equal("paste-aged", offRun.GetProperty("causes")[0].Text("id"));
        double before = offRun.GetProperty("causes")[0].GetProperty("probability").GetDouble();

        await app.SaveAsync(job, "evidence.onset", "gradual");
        JsonElement sheet = await App.ReadAsync(await app.SaveAsync(job, "evidence.paste-print", "dried"));
        JsonElement sure = await DiagnosisAsync(job);
        Assert.True(sure.GetProperty("sure").GetBoolean() && sure.GetProperty("causes")[0].GetProperty("probability").GetDouble() > before);
        Assert.Contains(sure.GetProperty("causes")[0].GetProperty("for").EnumerateArray(), reason =>
            reason.Text("observed") == "Paste print: dried."
        );
        Assert.Equal("Reseat the cooler with fresh paste", sure.GetProperty("causes")[0].Text("repair"));

        // A hand overrules a run, doubt weakens it, undo takes it back.
        await app.SaveAsync(job, "evidence.swollen-band", "none?");
        JsonElement overruled = Observation(await DiagnosisAsync(job), "swollen-band");
        Assert.Equal(
            ("none", true, false),
            (overruled.Text("state"), overruled.GetProperty("doubtful").GetBoolean(), overruled.GetProperty("offRuns").GetBoolean())
        );
        JsonElement last = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("lastChange");
        Assert.Equal(JsonValueKind.True, last.GetProperty("mine").ValueKind);
        await app.Client.PostAsync($"/api/jobs/{job}/undo/{last.GetProperty("eventId").GetInt64()}", null);
        Assert.True(Observation(await DiagnosisAsync(job), "swollen-band").GetProperty("offRuns").GetBoolean());
        Assert.Equal("paste-aged", (await DiagnosisAsync(job)).GetProperty("causes")[0].Text("id"));
        Assert.Equal(JsonValueKind.Object, sheet.ValueKind);
    }

    /// <summary>While only the kind of its cooler is known a run names no fault, and the sheet says what to note; noted, it does.</summary>
    [Fact]
    public async Task Without_its_parts_a_machine_is_accused_of_nothing()
    {
        string job = (await app.NewJobAsync()).Text("id");
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("owner", "Tide station"),
                ("machine", "Tower"),
                ("noticed", "Slow"),
                ("coolerKind", "tower"),
                ("temperatureLimitC", 95),
                ("evidence.onset", "gradual"),
            }
        )
        {
            await app.SaveAsync(job, field, value);
        }

        await app.AddLogAsync(job, "before", "paste.csv", App.Example("02-paste-before.csv"));
        JsonElement sheet = await app.SheetWhenAsync(job, one => one.Count("runs") == 1);
        Assert.Equal(
            ("parts", "Note which cooler is on it and which processor it has"),
            (sheet.GetProperty("now").Text("action"), sheet.GetProperty("now").Text("title"))
        );
        JsonElement diagnosis = await DiagnosisAsync(job);
        Assert.Equal("Too early to name a cause: it is held against any of its kind.", diagnosis.Text("conclusion"));
        Assert.DoesNotContain("paste", sheet.GetProperty("headline").GetRawText(), StringComparison.OrdinalIgnoreCase);
        Assert.Contains(diagnosis.GetProperty("notes").EnumerateArray(), note =>
            note.GetString()!.Contains("Note which cooler is on it and which processor it has", StringComparison.Ordinal)
        );

        HttpResponseMessage kept = await app.Client.PostAsJsonAsync(
            "/api/parts",
            new
            {
                kind = "cooler",
                name = "Known Tower",
                values = new
                {
                    cooler = new
                    {
                        id = "",
                        name = "",
                        kind = "tower",
                        fans = new[] { new { sizeMm = 120, maxRpm = 1600 } },
                        performance = new[] { new { rpm = 1600, resistanceCPerW = 0.22 } },
                    },
                },
            }
        );
        Assert.True(kept.IsSuccessStatusCode, await kept.Content.ReadAsStringAsync());
        await app.SaveAsync(job, "ratedPowerW", 125);
        JsonElement noted = await App.ReadAsync(await app.SaveAsync(job, "cooler", "Known Tower"));
        Assert.NotEqual("parts", noted.GetProperty("now").Text("action"));
        JsonElement known = await DiagnosisAsync(job);
        Assert.DoesNotContain("any of its kind", known.Text("conclusion"), StringComparison.Ordinal);
        Assert.DoesNotContain(known.GetProperty("notes").EnumerateArray(), note =>
            note.GetString()!.StartsWith("Held against", StringComparison.Ordinal)
        );

        // A name of which nothing is known is asked for no second time; where its figures belong is said.
        JsonElement named = await App.ReadAsync(await app.SaveAsync(job, "cooler", "Nobody’s Tower", "Known Tower"));
        Assert.NotEqual("parts", named.GetProperty("now").Text("action"));
        Assert.Contains((await DiagnosisAsync(job)).GetProperty("notes").EnumerateArray(), note =>
            note.GetString()!.Contains("Of “Nobody’s Tower” no figures are known", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("evidence.dust", "deep", HttpStatusCode.UnprocessableEntity, "“Dust” is one of none, light, heavy, not “deep”.")]
    [InlineData("evidence.teapot", "yes", HttpStatusCode.NotFound, "no field “evidence.teapot”")]
    [InlineData("setting", "moon", HttpStatusCode.UnprocessableEntity, "Expected one of office")]
    [InlineData("origin", "found", HttpStatusCode.UnprocessableEntity, "Expected one of complete, self-built.")]
    [InlineData("builtOn", "yesterday", HttpStatusCode.UnprocessableEntity, "Expected a date.")]
    [InlineData("builtOn", "1066-10-14", HttpStatusCode.UnprocessableEntity, "after 1980")]
    public async Task What_cannot_be_gets_a_sentence(string field, string value, HttpStatusCode status, string words)
    {
        string job = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage answer = await app.SaveAsync(job, field, value);
        Assert.Equal(status, answer.StatusCode);
        Assert.Contains(words, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>Two people answer at once: each answer stays, and the same one changed twice is shown, not overwritten.</summary>
    [Fact]
    public async Task Answers_of_two_people_at_once_all_stay()
    {
        string job = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage[] answers = await Task.WhenAll(
            app.SaveAsync(job, "evidence.dust", "heavy"),
            app.SaveAsync(job, "evidence.onset", "gradual"),
            app.SaveAsync(job, "evidence.shutdowns", "no"),
            app.SaveAsync(job, "builtOn", "2022-05-01"),
            app.SaveAsync(job, "setting", "flour-dust")
        );
        Assert.All(answers, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        JsonElement diagnosis = await DiagnosisAsync(job);
        Assert.Equal(
            ("heavy", "gradual", "no"),
            (
                Observation(diagnosis, "dust").Text("state"),
                Observation(diagnosis, "onset").Text("state"),
                Observation(diagnosis, "shutdowns").Text("state")
            )
        );
        Assert.Equal("dust-blocked-fins", diagnosis.GetProperty("causes")[0].Text("id"));
        Assert.Equal(HttpStatusCode.Conflict, (await app.SaveAsync(job, "evidence.dust", "none", @base: null)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{Guid.NewGuid()}/diagnosis")).StatusCode);
    }
}
