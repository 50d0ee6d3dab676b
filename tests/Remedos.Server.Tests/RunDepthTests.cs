using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;

namespace Remedos.Server.Tests;

/// <summary>
/// Several runs of one log, what technicians mark in a run, logs that need a word before they read, and analyses that have grown old.
/// </summary>
public sealed class RunDepthTests(App app) : IClassFixture<App>
{
    [Fact]
    public async Task Repeats_in_one_log_become_runs_with_their_own_samples()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(id, "roomC", 22);
        await app.AddLogAsync(id, "before", "three.csv", Rows(2400, i => i % 800 > 200 ? 120 : 12), """{"ambientC":22}""");
        JsonElement sheet = await app.SheetWhenAsync(id, s => s.Count("runs") > 0);
        JsonElement[] runs = [.. sheet.GetProperty("runs").EnumerateArray()];
        Assert.Equal(3, runs.Length);
        Assert.Equal([0, 799, 1599], runs.Select(run => run.GetProperty("stretch").GetProperty("startSeconds").GetDouble()));
        JsonElement trace = await app.GetAsync($"/api/runs/{runs[1].Text("id")}/trace");
        Assert.Equal((0.0, 1002), (trace.GetProperty("seconds")[0].GetDouble(), trace.Count("seconds")));
        Assert.All(runs, run =>
            Assert.Equal(
                0.3,
                run.GetProperty("analysis").GetProperty("resistance").GetProperty("valueCPerW").GetDouble() - (8.0 / 120),
                0.01
            )
        );

        // Taking the last one off is one change, and its undo brings back that one.
        JsonElement without = await App.ReadAsync(await app.Client.DeleteAsync($"/api/runs/{runs[2].Text("id")}"));
        Assert.Equal(2, without.Count("runs"));
    }

    [Fact]
    public async Task A_load_marked_by_hand_is_used_and_undone()
    {
        (string id, JsonElement run) = await WithRunAsync("02-paste-before.csv");
        Dictionary<string, JsonElement> conditions = run.GetProperty("conditions")
            .EnumerateObject()
            .ToDictionary(p => p.Name, p => p.Value);
        async Task<HttpResponseMessage> SetAsync(double start, double end) =>
            await app.Client.PutAsJsonAsync(
                $"/api/runs/{run.Text("id")}/conditions",
                new
                {
                    conditions = new Dictionary<string, object?>(conditions.Select(p => KeyValuePair.Create(p.Key, (object?)p.Value)))
                    {
                        ["load"] = new { startSeconds = start, endSeconds = end },
                    },
                    version = run.GetProperty("version").GetUInt32(),
                }
            );
        JsonElement marked = await App.ReadAsync(await SetAsync(400, 1000));
        JsonElement load = marked.GetProperty("runs")[0].GetProperty("analysis").GetProperty("phases")[1];
        Assert.Equal((400, 1000), (load.GetProperty("startSeconds").GetDouble(), load.GetProperty("endSeconds").GetDouble()));
        Assert.Equal("where the load begins and ends", marked.GetProperty("lastChange").Text("words"));
        JsonElement back = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{id}/undo/{marked.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
        );
        Assert.Equal(
            run.GetProperty("analysis").GetProperty("phases").ToString(),
            back.GetProperty("runs")[0].GetProperty("analysis").GetProperty("phases").ToString()
        );

        run = back.GetProperty("runs")[0];
        foreach (
            (double start, double end, string words) in new[]
            {
                (400.0, 420.0, "too short"),
                (-5, 600, "within the run"),
                (400, 99_999, "within the run"),
            }
        )
        {
            HttpResponseMessage refused = await SetAsync(start, end);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.Contains(words, (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task Marks_are_kept_in_order_refused_with_a_sentence_and_undone()
    {
        (string id, JsonElement run) = await WithRunAsync("03-paste-after.csv");
        Task<HttpResponseMessage> SetAsync(uint version, params (double Seconds, string Text)[] marks) =>
            app.Client.PutAsJsonAsync(
                $"/api/runs/{run.Text("id")}/marks",
                new { marks = marks.Select(m => new { seconds = m.Seconds, text = m.Text }), version }
            );
        uint version = run.GetProperty("version").GetUInt32();
        JsonElement sheet = await App.ReadAsync(await SetAsync(version, (900, " fan to full "), (300, "panel off")));
        Assert.Equal(
            ["panel off", "fan to full"],
            sheet.GetProperty("runs")[0].GetProperty("marks").EnumerateArray().Select(mark => mark.Text("text"))
        );
        Assert.Equal(HttpStatusCode.Conflict, (await SetAsync(version)).StatusCode);

        JsonElement back = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{id}/undo/{sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
        );
        Assert.Equal(0, back.GetProperty("runs")[0].Count("marks"));
        version = back.GetProperty("runs")[0].GetProperty("version").GetUInt32();
        foreach (
            (double at, string text, string words) in new[]
            {
                (90_000.0, "late", "stands outside the run"),
                (10, " ", "says nothing"),
                (10, new string('x', 81), "longer than 80"),
            }
        )
        {
            HttpResponseMessage refused = await SetAsync(version, (at, text));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.Contains(words, (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_trace_has_the_columns_asked_for_the_cores_and_the_fit()
    {
        (string _, JsonElement run) = await WithRunAsync("01-tower-healthy.csv");
        JsonElement trace = await app.GetAsync($"/api/runs/{run.Text("id")}/trace?columns=7&columns=2&cores=true");
        Assert.Equal(["cpu-power", "case-fan-speed"], trace.GetProperty("channels").EnumerateArray().Select(c => c.Text("role")));
        JsonElement cores = trace.GetProperty("cores");
        Assert.Equal((30, 34), (cores.GetProperty("lows")[0].GetDouble(), cores.GetProperty("highs")[0].GetDouble()));

        JsonElement fit = await app.GetAsync($"/api/runs/{run.Text("id")}/fit");
        double worst = fit.GetProperty("residualC").EnumerateArray().Max(r => Math.Abs(r.GetDouble()));
        Assert.Equal(fit.Count("seconds"), fit.Count("fittedC"));
        Assert.InRange(worst, 0.1, 5);

        (string _, JsonElement without) = await WithRunAsync(
            "dialects/semicolon-decimal-comma.csv",
            Encoding.UTF8.GetBytes(
                "Time [s],CPU temperature [°C]\n" + string.Concat(Enumerable.Range(0, 900).Select(i => $"{i},{(i > 300 ? 70 : 35)}\n"))
            )
        );
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/runs/{without.Text("id")}/fit")).StatusCode);
    }

    [Fact]
    public async Task A_log_without_known_columns_reads_once_they_are_named()
    {
        string rows = Encoding.UTF8.GetString(Rows(900, i => i > 300 ? 120 : 12));
        byte[] strange = Encoding.UTF8.GetBytes("Kanal A,Kanal B,Kanal C\n" + rows[(rows.IndexOf('\n') + 1)..]);
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", "strange.csv", strange);
        JsonElement import = await FailedAsync(id, "No column holds a processor temperature");
        Assert.True(import.GetProperty("columnsHelp").GetBoolean());
        JsonElement columns = await app.GetAsync($"/api/imports/{import.Text("id")}/columns");
        Assert.Equal(["Kanal A", "Kanal B", "Kanal C"], columns.EnumerateArray().Select(c => c.Text("source")));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await SayAsync(import, 1, "teapot")).StatusCode);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await SayAsync(import, 9, "time")).StatusCode);

        Assert.Equal(HttpStatusCode.NoContent, (await SayAsync(import, 1, "cpu-temperature")).StatusCode);
        import = await FailedAsync(id, "No column holds the time");
        Assert.Equal(HttpStatusCode.NoContent, (await SayAsync(import, 0, "time")).StatusCode);
        JsonElement sheet = await app.SheetWhenAsync(id, s => s.Count("runs") == 1);
        Assert.Equal(
            (0, 899),
            (sheet.Count("imports"), sheet.GetProperty("runs")[0].GetProperty("analysis").GetProperty("durationSeconds").GetInt32())
        );

        // The next log with this header reads at once; the same file on another job is told.
        string other = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(other, "before", "again.csv", strange);
        JsonElement second = await app.SheetWhenAsync(other, s => s.Count("runs") == 1);
        Assert.Equal(
            [sheet.Text("tag")],
            second.GetProperty("runs")[0].GetProperty("alsoOn").EnumerateArray().Select(tag => tag.GetString()!)
        );

        Task<HttpResponseMessage> SayAsync(JsonElement of, int column, string role) =>
            app.Client.PutAsJsonAsync($"/api/imports/{of.Text("id")}/columns/{column}/role", new { role });
        async Task<JsonElement> FailedAsync(string job, string words) =>
            (
                await app.SheetWhenAsync(job, s =>
                    s.GetProperty("imports")
                        .EnumerateArray()
                        .Any(i => i.Text("state") == "failed" && i.Text("problem").Contains(words, StringComparison.Ordinal))
                )
            ).GetProperty("imports")[0];
    }

    [Fact]
    public async Task An_analysis_of_an_older_reading_is_made_anew_in_the_background()
    {
        (string id, JsonElement run) = await WithRunAsync("02-paste-before.csv");
        Guid key = Guid.Parse(run.Text("id"));
        await using (RemedosContext context = await app.ContextAsync())
        {
            RunAnalysis old = (await context.Runs.AsNoTracking().SingleAsync(r => r.Id == key)).Analysis with { Resistance = null };
            string json = JsonSerializer.Serialize(old, RemedosContext.Json);
            await context.Database.ExecuteSqlAsync($"UPDATE runs SET analysis = {json}::jsonb, analysis_version = 0 WHERE id = {key}");
        }

        // A newer version finds them when it starts.
        await app.StartAsync();
        JsonElement sheet = await app.SheetWhenAsync(id, s =>
            s.GetProperty("runs")[0].GetProperty("analysis").GetProperty("resistance").ValueKind == JsonValueKind.Object
        );
        Assert.Equal(run.GetProperty("analysis").ToString(), sheet.GetProperty("runs")[0].GetProperty("analysis").ToString());
    }

    private async Task<(string Job, JsonElement Run)> WithRunAsync(string file, byte[]? content = null)
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", Path.GetFileName(file), content ?? App.Example(file));
        return (id, (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0]);
    }

    private static byte[] Rows(int count, Func<int, int> watts) =>
        Encoding.UTF8.GetBytes(
            "Time [s],CPU temperature [°C],CPU power [W]\n"
                + string.Concat(
                    Enumerable
                        .Range(0, count)
                        .Select(i =>
                            $"{i},{(30 + (0.3 * watts(i))).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture)},{watts(i)}\n"
                        )
                )
        );
}
