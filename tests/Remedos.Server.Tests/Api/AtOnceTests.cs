using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Tests.Api;

/// <summary>
/// Several people at once on everything that can be changed: nobody's work is lost, nothing is done twice, and nobody is told that
/// something went wrong.
/// </summary>
public sealed class AtOnceTests(App app) : IClassFixture<App>
{
    private static readonly string[] Fields =
    [
        "owner",
        "contact",
        "machine",
        "serial",
        "noticed",
        "processor",
        "board",
        "memory",
        "graphics",
        "case",
        "cooler",
        "fans",
        "doneBefore",
        "repairFound",
        "repairDone",
        "repairParts",
        "setup.1.paste",
        "setup.1.pasteMethod",
        "repairCooler",
        "setting",
    ];

    private async Task<string> NewAsync() => (await app.NewJobAsync()).Text("id");

    private Task<HttpResponseMessage> TurnAsync(string job, long change) => app.Client.PostAsync($"/api/jobs/{job}/undo/{change}", null);

    private async Task<long> LastAsync(string job) =>
        (await app.GetAsync($"/api/jobs/{job}")).GetProperty("lastChange").GetProperty("eventId").GetInt64();

    private static async Task<HttpStatusCode[]> AllAsync(params IEnumerable<Task<HttpResponseMessage>> requests) =>
        [.. (await Task.WhenAll(requests)).Select(answer => answer.StatusCode)];

    [Fact]
    public async Task Twenty_people_save_twenty_fields_of_one_job()
    {
        string job = await NewAsync();
        for (int round = 0; round < 5; round++)
        {
            string Value(string field) =>
                field == "setting"
                    ? round % 2 == 0
                        ? "office"
                        : "home"
                    : $"{field} {round}";
            JsonElement Of(JsonElement sheet, string field) =>
                field.StartsWith("setup.", StringComparison.Ordinal)
                    ? sheet.GetProperty("setups")[0].GetProperty("values").GetProperty(field.Split('.')[^1])
                    : sheet.GetProperty("fields").GetProperty(field);
            JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
            Assert.All(await AllAsync(Fields.Select(field => app.SaveAsync(job, field, Value(field), Of(sheet, field)))), status =>
                Assert.Equal(HttpStatusCode.OK, status)
            );
            JsonElement now = await app.GetAsync($"/api/jobs/{job}");
            Assert.All(Fields, field => Assert.Equal(Value(field), Of(now, field).GetString()));
        }
    }

    [Fact]
    public async Task Undo_and_take_over_stand_beside_whoever_types()
    {
        string earlier = await NewAsync();
        await app.SaveAsync(earlier, "serial", "SER-1");
        await app.SaveAsync(earlier, "board", "Quoin B5");
        for (int round = 0; round < 8; round++)
        {
            string job = await NewAsync();
            await app.SaveAsync(job, "noticed", "loud");
            long change = await LastAsync(job);
            HttpStatusCode[] answers = await AllAsync(
                TurnAsync(job, change),
                app.SaveAsync(job, "owner", "A"),
                app.SaveAsync(job, "contact", "B"),
                app.Client.PostAsync($"/api/jobs/{job}/take-over/{earlier}", null),
                app.SaveAsync(job, "machine", "C")
            );
            Assert.All(answers, status => Assert.Equal(HttpStatusCode.OK, status));
            JsonElement fields = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields");
            Assert.Equal(
                ("A", "B", "C", "SER-1", "Quoin B5"),
                (fields.Text("owner"), fields.Text("contact"), fields.Text("machine"), fields.Text("serial"), fields.Text("board"))
            );
            Assert.Equal(JsonValueKind.Null, fields.GetProperty("noticed").ValueKind);
        }
    }

    [Fact]
    public async Task One_change_is_taken_back_once()
    {
        string job = await NewAsync();
        await app.SaveAsync(job, "owner", "A");
        long change = await LastAsync(job);
        HttpStatusCode[] answers = await AllAsync(Enumerable.Range(0, 6).Select(_ => TurnAsync(job, change)));
        // Whoever comes later either is told, or has looked after the first and puts it back; the row tells which.
        Assert.All(answers, status => Assert.Contains(status, new[] { HttpStatusCode.OK, HttpStatusCode.Conflict }));
        await using RemedosContext context = await app.ContextAsync();
        int turns = await context.JobEvents.CountAsync(e => e.Undoes == change);
        Assert.Equal(answers.Count(status => status == HttpStatusCode.OK), turns);
        Assert.Equal(
            turns % 2 == 1,
            (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields").GetProperty("owner").ValueKind == JsonValueKind.Null
        );
    }

    [Fact]
    public async Task The_same_log_is_one_run_and_the_same_picture_one_picture()
    {
        string job = await NewAsync();
        byte[] log = App.Example("02-paste-before.csv");
        HttpStatusCode[] logs = await AllAsync(
            Enumerable.Range(0, 5).Select(i => app.AddLogAsync(job, i % 2 == 0 ? "before" : "after", "a.csv", log))
        );
        Assert.Equal(
            (1, 4),
            (logs.Count(status => status == HttpStatusCode.Accepted), logs.Count(status => status == HttpStatusCode.Conflict))
        );
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        // One after the other it is refused as well, and so while it is on its way.
        Assert.Equal(HttpStatusCode.Conflict, (await app.AddLogAsync(job, "after", "b.csv", log)).StatusCode);

        Task<HttpResponseMessage> Photo() =>
            app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=p.png", new ByteArrayContent(IntakeTests.Png));
        HttpStatusCode[] photos = await AllAsync(Enumerable.Range(0, 5).Select(_ => Photo()));
        Assert.Equal(
            (1, 4),
            (photos.Count(status => status == HttpStatusCode.OK), photos.Count(status => status == HttpStatusCode.Conflict))
        );
        Assert.Equal(1, (await app.GetAsync($"/api/jobs/{job}")).Count("photos"));
        Assert.Equal(HttpStatusCode.Conflict, (await Photo()).StatusCode);
    }

    /// <summary>A run that was taken off does not come back beside the same log added again.</summary>
    [Fact]
    public async Task A_log_that_was_added_again_keeps_the_one_that_was_taken_off_away()
    {
        string job = await NewAsync();
        byte[] log = App.Example("03-paste-after.csv");
        await app.AddLogAsync(job, "before", "a.csv", log);
        string run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0].Text("id");
        HttpStatusCode[] removed = await AllAsync(Enumerable.Range(0, 6).Select(_ => app.Client.DeleteAsync($"/api/runs/{run}")));
        Assert.Equal(
            (1, 5),
            (removed.Count(status => status == HttpStatusCode.OK), removed.Count(status => status == HttpStatusCode.NotFound))
        );
        long change = await LastAsync(job);
        await app.AddLogAsync(job, "before", "b.csv", log);
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        Assert.Equal(HttpStatusCode.Conflict, (await TurnAsync(job, change)).StatusCode);
        Assert.Equal(1, (await app.GetAsync($"/api/jobs/{job}")).Count("runs"));
    }

    [Fact]
    public async Task Two_columns_of_one_header_are_both_remembered()
    {
        for (int round = 0; round < 6; round++)
        {
            (string one, string other) = (await NewAsync(), await NewAsync());
            byte[] log = Encoding.UTF8.GetBytes(
                $"Time [s],CPU temperature [°C],CPU power [W],Aux {round} one,Aux {round} two\n"
                    + string.Concat(Enumerable.Range(0, 200).Select(i => $"{i},{40 + (i % 3)},{20 + (i % 2)},30,31\n"))
            );
            await app.AddLogAsync(one, "before", "a.csv", log);
            await app.AddLogAsync(other, "before", "a.csv", log);
            JsonElement[] runs =
            [
                (await app.SheetWhenAsync(one, s => s.Count("runs") == 1)).GetProperty("runs")[0],
                (await app.SheetWhenAsync(other, s => s.Count("runs") == 1)).GetProperty("runs")[0],
            ];
            Task<HttpResponseMessage> SayAsync(JsonElement run, int column, string role) =>
                app.Client.PutAsJsonAsync(
                    $"/api/runs/{run.Text("id")}/columns/{column}/role",
                    new { role, version = run.GetProperty("version").GetUInt32() }
                );
            Assert.All(await AllAsync(SayAsync(runs[0], 3, "ambient-temperature"), SayAsync(runs[1], 4, "coolant-temperature")), status =>
                Assert.Equal(HttpStatusCode.OK, status)
            );
            // Both runs are of the same log: each is read anew under what was said of either.
            foreach (string job in new[] { one, other })
            {
                await app.SheetWhenAsync(job, s => Role(s, 3) == "ambient-temperature" && Role(s, 4) == "coolant-temperature");
            }
        }

        static string Role(JsonElement sheet, int column) =>
            sheet.GetProperty("runs")[0].GetProperty("analysis").GetProperty("channels")[column].Text("role");
    }

    [Fact]
    public async Task Marks_of_one_run_are_set_by_one_of_four_pages()
    {
        string job = await NewAsync();
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
        JsonElement run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0];
        HttpStatusCode[] statuses = await AllAsync(
            Enumerable
                .Range(1, 4)
                .Select(page =>
                    app.Client.PutAsJsonAsync(
                        $"/api/runs/{run.Text("id")}/marks",
                        new
                        {
                            marks = new[] { new { seconds = 60, text = $"page {page}" } },
                            version = run.GetProperty("version").GetUInt32(),
                        }
                    )
                )
        );
        Assert.Equal(
            (1, 3),
            (statuses.Count(status => status == HttpStatusCode.OK), statuses.Count(status => status == HttpStatusCode.Conflict))
        );
        JsonElement marks = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("runs")[0].GetProperty("marks");
        Assert.Equal($"page {1 + Array.IndexOf(statuses, HttpStatusCode.OK)}", marks.EnumerateArray().Single().Text("text"));
    }

    [Fact]
    public async Task Two_settings_are_both_kept_and_one_setting_is_shown_to_whoever_comes_second()
    {
        JsonElement settings = await app.GetAsync("/api/settings");
        Task<HttpResponseMessage> SetAsync(string field, object value) =>
            app.Client.PatchAsJsonAsync($"/api/settings/{field}", new { value, @base = settings.GetProperty(field) });
        Assert.All(
            await AllAsync(
                SetAsync("labourMinorPerHour", 5100),
                SetAsync("taxPercent", 7),
                SetAsync("name", "Net Loft Repairs"),
                SetAsync("timeZone", "Atlantic/Azores")
            ),
            status => Assert.Equal(HttpStatusCode.OK, status)
        );
        JsonElement now = await app.GetAsync("/api/settings");
        Assert.Equal(
            (5100, 7, "Net Loft Repairs", "Atlantic/Azores"),
            (
                now.GetProperty("labourMinorPerHour").GetInt32(),
                now.GetProperty("taxPercent").GetInt32(),
                now.Text("name"),
                now.Text("timeZone")
            )
        );
        HttpResponseMessage second = await SetAsync("taxPercent", 9);
        Assert.Equal((HttpStatusCode.Conflict, 7), (second.StatusCode, (await App.ReadAsync(second)).GetProperty("theirs").GetInt32()));
    }

    /// <summary>These two places never have the same day.</summary>
    [Fact]
    public async Task Today_is_the_workshops_day()
    {
        string job = await NewAsync();
        await app.SaveAsync(job, "purchasedOn", "2026-01-31");
        await app.SaveAsync(job, "warrantyMonths", 240);
        (DateOnly Today, int Left) east = await AtAsync("Pacific/Kiritimati"),
            west = await AtAsync("Pacific/Pago_Pago");
        Assert.InRange(east.Today.DayNumber - west.Today.DayNumber, 1, 2);
        Assert.Equal(east.Today.DayNumber - west.Today.DayNumber, west.Left - east.Left);

        async Task<(DateOnly, int)> AtAsync(string zone)
        {
            JsonElement settings = await app.GetAsync("/api/settings");
            Assert.True(
                (
                    await app.Client.PatchAsJsonAsync(
                        "/api/settings/timeZone",
                        new { value = zone, @base = settings.GetProperty("timeZone") }
                    )
                ).IsSuccessStatusCode
            );
            DateOnly today = DateOnly.Parse(
                (await app.GetAsync("/api/session")).GetProperty("me").Text("today"),
                CultureInfo.InvariantCulture
            );
            return (today, (await app.GetAsync($"/api/jobs/{job}")).GetProperty("warranty").GetProperty("daysLeft").GetInt32());
        }
    }

    [Fact]
    public async Task A_part_is_retired_from_four_pages_and_changed_by_one_of_two()
    {
        JsonElement part = await App.ReadAsync(
            await app.Client.PostAsJsonAsync(
                "/api/parts/typed",
                new
                {
                    kind = "fan",
                    name = "Gust 120",
                    cells = new Dictionary<string, string> { ["sizeMm"] = "120", ["maxRpm"] = "1500" },
                }
            )
        );
        Task<HttpResponseMessage> ChangeAsync(string rpm) =>
            app.Client.PutAsJsonAsync(
                $"/api/parts/{part.Text("id")}",
                new
                {
                    kind = "fan",
                    name = "Gust 120",
                    cells = new Dictionary<string, string> { ["sizeMm"] = "120", ["maxRpm"] = rpm },
                    version = part.GetProperty("version").GetUInt32(),
                }
            );
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict], (await AllAsync(ChangeAsync("1600"), ChangeAsync("1700"))).Order());
        Assert.All(
            await AllAsync(
                Enumerable.Range(0, 4).Select(_ => app.Client.PutAsync($"/api/parts/{part.Text("id")}/retired?retired=true", null))
            ),
            status => Assert.Equal(HttpStatusCode.OK, status)
        );
        HttpStatusCode[] doubled = await AllAsync(
            new[] { "Lull Twin", "LULL TWIN", "lull twin" }.Select(name =>
                app.Client.PostAsJsonAsync(
                    "/api/parts/typed",
                    new
                    {
                        kind = "case",
                        name,
                        cells = new Dictionary<string, string>(),
                    }
                )
            )
        );
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict, HttpStatusCode.Conflict], doubled.Order());
        HttpResponseMessage file = await app.Client.PostAsync(
            "/api/parts/file?apply=true",
            new StringContent("part,name\ncase,LuLL tWin\n", Encoding.UTF8, "text/plain")
        );
        Assert.Equal(HttpStatusCode.OK, file.StatusCode);
    }

    [Fact]
    public async Task Jobs_and_bays_opened_at_once_have_numbers_of_their_own()
    {
        string[] tags = [.. (await Task.WhenAll(Enumerable.Range(0, 12).Select(_ => app.NewJobAsync()))).Select(job => job.Text("tag"))];
        Assert.Equal(12, tags.Distinct().Count());
    }

    /// <summary>What was done can be gone back through step by step, put back, and read.</summary>
    [Fact]
    public async Task The_history_is_gone_back_through_step_by_step()
    {
        string job = await NewAsync();
        await app.SaveAsync(job, "roomC", 20);
        await app.SaveAsync(job, "roomC", 21, 20);
        await app.SaveAsync(job, "coolerKind", "tower");
        async Task<JsonElement> BackAsync() => await App.ReadAsync(await TurnAsync(job, await LastAsync(job)));
        Assert.Equal(JsonValueKind.Null, (await BackAsync()).GetProperty("fields").GetProperty("coolerKind").ValueKind);
        Assert.Equal(20, (await BackAsync()).GetProperty("fields").GetProperty("roomC").GetDouble());
        JsonElement first = await BackAsync();
        Assert.Equal(
            (JsonValueKind.Null, JsonValueKind.Null),
            (first.GetProperty("fields").GetProperty("roomC").ValueKind, first.GetProperty("lastChange").ValueKind)
        );
        JsonElement[] entries = [.. (await app.GetAsync($"/api/jobs/{job}/history")).GetProperty("entries").EnumerateArray()];
        Assert.Equal(["cooler", "room", "room", "the job was opened"], entries.Select(entry => entry.Text("words")));
        Assert.Equal([true, true, true, false], entries.Select(entry => entry.GetProperty("undone").GetBoolean()));
        Assert.Equal(("nothing", "Tower"), (entries[0].Text("before"), entries[0].Text("after")));
        Assert.Equal(("20 °C", "21 °C"), (entries[1].Text("before"), entries[1].Text("after")));
        // Put back in the order in which they were made; another order is refused, for something else stands there.
        long oldest = entries[2].GetProperty("eventId").GetInt64(),
            middle = entries[1].GetProperty("eventId").GetInt64();
        Assert.Equal(HttpStatusCode.Conflict, (await TurnAsync(job, middle)).StatusCode);
        Assert.Equal(20, (await App.ReadAsync(await TurnAsync(job, oldest))).GetProperty("fields").GetProperty("roomC").GetDouble());
        Assert.Equal(21, (await App.ReadAsync(await TurnAsync(job, middle))).GetProperty("fields").GetProperty("roomC").GetDouble());
    }
}
