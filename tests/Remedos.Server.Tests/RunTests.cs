using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Remedos.Data.Samples;

namespace Remedos.Server.Tests;

/// <summary>What can be done with a run once it stands on its job.</summary>
public sealed class RunTests(App app) : IClassFixture<App>
{
    [Fact]
    public async Task New_conditions_read_the_run_anew_and_an_old_page_overwrites_nothing()
    {
        (string job, JsonElement run) = await JobWithRunAsync("08-till-dusty.csv");
        Assert.Equal(JsonValueKind.Null, run.GetProperty("analysis").GetProperty("resistance").ValueKind);
        HttpResponseMessage set = await SetAsync(
            run,
            new
            {
                workload = "all-core",
                panel = "closed",
                fanPolicy = "auto",
                ambientC = 29.3,
                temperatureLimitC = 90,
            }
        );
        JsonElement after = (await App.ReadAsync(set)).GetProperty("runs")[0];
        Assert.Equal(0.8147, after.GetProperty("analysis").GetProperty("resistance").GetProperty("valueCPerW").GetDouble(), 0.003);

        long last = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("lastChange").GetProperty("eventId").GetInt64();
        JsonElement undone = (await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/undo/{last}", null))).GetProperty("runs")[0];
        Assert.Equal(JsonValueKind.Null, undone.GetProperty("analysis").GetProperty("resistance").ValueKind);
        after = (
            await App.ReadAsync(
                await SetAsync(
                    undone,
                    new
                    {
                        workload = "all-core",
                        panel = "closed",
                        fanPolicy = "auto",
                        ambientC = 29.3,
                        temperatureLimitC = 90,
                    }
                )
            )
        ).GetProperty("runs")[0];

        HttpResponseMessage stale = await SetAsync(run, new { panel = "side-off" });
        Assert.Equal(HttpStatusCode.Conflict, stale.StatusCode);
        HttpResponseMessage absurd = await SetAsync(after, new { ambientC = 400 });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, absurd.StatusCode);
        Assert.Contains(
            "400 is outside −40 to 60 °C",
            (await App.ReadAsync(absurd)).Text("detail").Replace('-', '−'),
            StringComparison.Ordinal
        );
    }

    /// <summary>Whoever types while a run is read anew gets in nobody's way.</summary>
    [Fact]
    public async Task Conditions_and_fields_saved_at_once_are_all_kept()
    {
        (string id, JsonElement run) = await JobWithRunAsync("02-paste-before.csv");
        for (int round = 0; round < 5; round++)
        {
            string panel = round % 2 == 0 ? "side-off" : "closed";
            Task<HttpResponseMessage> conditions = SetAsync(run, new { panel });
            Task<HttpResponseMessage>[] fields =
            [
                .. new[] { "owner", "contact", "machine", "noticed", "repairFound" }.Select(async field =>
                {
                    JsonElement now = (await app.GetAsync($"/api/jobs/{id}")).GetProperty("fields").GetProperty(field);
                    return await app.SaveAsync(id, field, $"{field} {round}", now.GetString());
                }),
            ];
            Assert.All(await Task.WhenAll([conditions, .. fields]), answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
            run = (await app.GetAsync($"/api/jobs/{id}")).GetProperty("runs")[0];
            Assert.Equal(panel, run.GetProperty("conditions").Text("panel"));
        }
    }

    [Fact]
    public async Task Before_and_after_give_the_verdict_and_a_run_taken_off_takes_it_back()
    {
        (string id, JsonElement before) = await JobWithRunAsync("02-paste-before.csv");
        await app.AddLogAsync(id, "after", "after.csv", App.Example("03-paste-after.csv"));
        JsonElement sheet = await app.SheetWhenAsync(id, s => s.Count("runs") == 2);
        JsonElement result = sheet.GetProperty("verdict").GetProperty("result");
        Assert.Equal("improved", result.Text("verdict"));
        Assert.Equal(-17.18, result.GetProperty("change").GetProperty("atReferencePowerC").GetDouble(), 1.0);
        Assert.Equal("It runs cooler.", sheet.GetProperty("ownerPage").Text("headline"));

        JsonElement without = await App.ReadAsync(await app.Client.DeleteAsync($"/api/runs/{before.Text("id")}"));
        Assert.Equal((1, JsonValueKind.Null), (without.Count("runs"), without.GetProperty("verdict").ValueKind));
        long last = without.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        JsonElement back = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{id}/undo/{last}", null));
        Assert.Equal("improved", back.GetProperty("verdict").GetProperty("result").Text("verdict"));
    }

    [Fact]
    public async Task What_is_said_of_a_column_holds_for_the_next_log_and_can_be_undone()
    {
        string Rows(double fan) =>
            "Time [s],CPU temperature [°C],Drawn [W],Note\n"
            + string.Concat(
                Enumerable
                    .Range(0, 900)
                    .Select(i => $"{i},{(i is > 200 and < 700 ? 70 : 35) + (i % 2)},{(i is > 200 and < 700 ? 120 : 20) + fan},x\n")
            );
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", "first.csv", Encoding.UTF8.GetBytes(Rows(0)));
        JsonElement run = (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0];
        JsonElement[] columns = [.. (await app.GetAsync($"/api/runs/{run.Text("id")}/columns")).EnumerateArray()];
        Assert.Equal(["time", "cpu-temperature", "other", "other"], columns.Select(c => c.Text("role")));
        Assert.Equal("20", columns[2].GetProperty("first")[0].GetString());

        JsonElement sheet = await App.ReadAsync(await SayAsync(run, 2, "cpu-power"));
        Assert.Equal(
            120,
            sheet.GetProperty("runs")[0].GetProperty("analysis").GetProperty("load").GetProperty("sustainedPowerW").GetDouble(),
            0.5
        );
        await app.AddLogAsync(id, "after", "second.csv", Encoding.UTF8.GetBytes(Rows(5)));
        JsonElement second = (await app.SheetWhenAsync(id, s => s.Count("runs") == 2)).GetProperty("runs")[1];
        Assert.Equal(125, second.GetProperty("analysis").GetProperty("load").GetProperty("sustainedPowerW").GetDouble(), 0.5);

        JsonElement said = await App.ReadAsync(await SayAsync(second, 2, "gpu-power"));
        long last = said.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        JsonElement back = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{id}/undo/{last}", null));
        Assert.Equal("cpu-power", back.GetProperty("runs")[1].GetProperty("analysis").GetProperty("channels")[2].Text("role"));

        JsonElement now = back.GetProperty("runs")[1];
        foreach (
            (int column, string role, string words) in new[]
            {
                (1, "other", "No processor temperature would be left"),
                (0, "cpu-power", "stays the time’s"),
                (2, "teapot", "is no role"),
            }
        )
        {
            HttpResponseMessage refused = await SayAsync(now, column, role);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.Contains(words, (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        }

        Task<HttpResponseMessage> SayAsync(JsonElement of, int column, string role) =>
            app.Client.PutAsJsonAsync(
                $"/api/runs/{of.Text("id")}/columns/{column}/role",
                new { role, version = of.GetProperty("version").GetUInt32() }
            );
    }

    [Fact]
    public async Task A_run_exports_as_a_tidy_log_with_its_conditions()
    {
        (string _, JsonElement run) = await JobWithRunAsync("02-paste-before.csv");
        HttpResponseMessage tidy = await app.Client.GetAsync($"/api/runs/{run.Text("id")}/tidy");
        Assert.Equal(
            "02-paste-before.tidy.csv",
            tidy.Content.Headers.ContentDisposition!.FileNameStar ?? tidy.Content.Headers.ContentDisposition.FileName
        );
        string[] lines = (await tidy.Content.ReadAsStringAsync()).Split('\n');
        Assert.Equal("time,cpu-temperature,cpu-power,cpu-clock,cpu-load,cpu-fan-speed,ambient-temperature", lines[0]);
        Assert.Equal("s,°C,W,MHz,%,rpm,°C", lines[1]);
        Assert.Equal(1620 + 3, lines.Length);
        // Nobody said how it was made: the file says so too.
        Assert.Equal(JsonValueKind.Null, (await app.GetAsync($"/api/runs/{run.Text("id")}/conditions")).GetProperty("workload").ValueKind);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/runs/{Guid.NewGuid()}/tidy")).StatusCode);
    }

    [Fact]
    public async Task A_trace_shows_every_sample_of_a_short_run_and_the_envelope_of_a_long_one()
    {
        (string _, JsonElement run) = await JobWithRunAsync("02-paste-before.csv");
        JsonElement trace = await app.GetAsync($"/api/runs/{run.Text("id")}/trace");
        Assert.Equal((0, 1620), (trace.GetProperty("level").GetInt32(), trace.Count("seconds")));
        Assert.Equal(JsonValueKind.Null, trace.GetProperty("cores").ValueKind);

        string id = (await app.NewJobAsync()).Text("id");
        StringBuilder text = new("Time [s],CPU temperature [°C],CPU power [W]\n");
        for (int i = 0; i < 60_000; i++)
        {
            text.Append(i).Append(',').Append(i is 30_001 ? 60 : 40).Append(i % 2 == 0 ? ".0" : ".5").Append(",100\n");
        }

        await app.AddLogAsync(id, "before", "long.csv", Encoding.UTF8.GetBytes(text.ToString()));
        string longRun = (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0].Text("id");
        JsonElement far = await app.GetAsync($"/api/runs/{longRun}/trace?points=1000");
        JsonElement chip = far.GetProperty("channels")[0];
        Assert.True(far.GetProperty("level").GetInt32() > 0);
        Assert.Equal(60.5, chip.GetProperty("highs").EnumerateArray().Max(v => v.GetDouble()));
        Assert.Equal(40.0, chip.GetProperty("lows").EnumerateArray().Min(v => v.GetDouble()));

        JsonElement near = await app.GetAsync($"/api/runs/{longRun}/trace?points=1000&from=29990&to=30010");
        Assert.Equal(0, near.GetProperty("level").GetInt32());
        Assert.InRange(near.Count("seconds"), 21, 24);
        Assert.Contains(near.GetProperty("channels")[0].GetProperty("values").EnumerateArray(), v => v.GetDouble() == 60.5);
    }

    [Fact]
    public void A_pyramid_keeps_extremes_and_skips_what_is_missing()
    {
        float[] values = [.. Enumerable.Range(0, 40).Select(i => i == 5 ? float.NaN : i)];
        PyramidLevel level = Pyramid.Next(new PyramidLevel(values, values, values));
        Assert.Equal([0f, 16f, 32f], level.Lows);
        Assert.Equal([15f, 31f, 39f], level.Highs);
        Assert.Equal((120f - 5) / 15, level.Means[0], 4);
        Assert.Equal([0.0, 16.0, 32.0], Pyramid.Times([.. Enumerable.Range(0, 40).Select(i => (double)i)]));
    }

    private async Task<(string Job, JsonElement Run)> JobWithRunAsync(string example)
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", example, App.Example(example));
        return (id, (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0]);
    }

    private Task<HttpResponseMessage> SetAsync(JsonElement run, object conditions) =>
        app.Client.PutAsJsonAsync(
            $"/api/runs/{run.Text("id")}/conditions",
            new { conditions, version = run.GetProperty("version").GetUInt32() }
        );
}
