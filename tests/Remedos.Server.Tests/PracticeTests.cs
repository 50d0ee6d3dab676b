using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Practice;
using Remedos.Data;
using Remedos.Data.People;

namespace Remedos.Server.Tests;

/// <summary>
/// Practice on the real door, the machine driven by the server as anybody's is: what is asked, run, done and scored, and that nothing of
/// it reaches the workshop.
/// </summary>
public sealed class PracticeTests(App app) : IClassFixture<App>
{
    private const string Prefix = "/practice-bench";

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    private static async Task<JsonElement> BeginAsync(HttpClient client, object what) =>
        await App.ReadAsync(await client.PostAsJsonAsync("/api/practice", what));

    private static async Task<JsonElement> GetAsync(HttpClient client, string path) => await App.ReadAsync(await client.GetAsync(path));

    private static Task<HttpResponseMessage> ActAsync(HttpClient client, string act, object what) =>
        client.PostAsJsonAsync($"{Prefix}/api/practice/now/{act}", what);

    private async Task<HttpClient> SomebodyAsync(Role role = Role.Technician) =>
        await app.PersonAsync((await app.GetAsync("/api/session")).GetProperty("me").GetProperty("workshopId").GetGuid(), role);

    /// <summary>The bay of a practice, once its machine is heard.</summary>
    private static async Task<JsonElement> BayAsync(HttpClient client, Func<JsonElement, bool> holds)
    {
        using CancellationTokenSource patience = new(Patience);
        while (true)
        {
            JsonElement bay = (await GetAsync(client, $"{Prefix}/api/bays"))[0];
            if (holds(bay))
            {
                return bay;
            }

            await Task.Delay(100, patience.Token);
        }
    }

    /// <summary>Runs it as its owner uses it, at the greatest speed, for a minute under load.</summary>
    private static async Task RunAsync(HttpClient client, string job, int runs)
    {
        await App.ReadAsync(await client.PutAsJsonAsync($"{Prefix}/api/practice/now/speed", new { speed = 120 }));
        JsonElement bay = await BayAsync(client, one => one.GetProperty("online").GetBoolean());
        await App.ReadAsync(
            await client.PutAsJsonAsync(
                $"{Prefix}/api/bays/{bay.Text("id")}/run",
                new
                {
                    jobId = job,
                    variant = "usual",
                    loadSeconds = 300,
                }
            )
        );
        using CancellationTokenSource patience = new(Patience);
        while ((await GetAsync(client, $"{Prefix}/api/jobs/{job}")).GetProperty("runs").GetArrayLength() < runs)
        {
            await Task.Delay(200, patience.Token);
        }

        await BayAsync(client, one => one.GetProperty("run").GetProperty("over").GetBoolean());
    }

    [Fact]
    public async Task A_case_is_worked_from_the_counter_to_the_debrief_and_nothing_of_it_reaches_the_workshop()
    {
        using HttpClient trainee = await SomebodyAsync();
        string jobs = await trainee.GetStringAsync("/api/jobs"),
            bays = await trainee.GetStringAsync("/api/bays"),
            records = await trainee.GetStringAsync("/api/records"),
            plan = (await GetAsync(trainee, "/api/plan")).GetProperty("machines").ToString();
        int seed = Enumerable.Range(0, 500).First(one => PracticeCase.Draw(PracticeLevel.All[0], one).Faults.ContainsKey("paste-aged"));
        JsonElement begun = await BeginAsync(trainee, new { level = 1, seed });
        string job = begun.Text("jobId");
        Assert.True((await GetAsync(trainee, $"{Prefix}/api/session")).GetProperty("me").GetProperty("practises").GetBoolean());
        Assert.False((await GetAsync(trainee, "/api/session")).GetProperty("me").GetProperty("practises").GetBoolean());

        // What stands under the prefix is as guarded as what it stands for.
        using (HttpResponseMessage answer = await trainee.GetAsync($"{Prefix}/api/jobs"))
        {
            Assert.True(answer.Headers.CacheControl!.NoStore);
        }

        // What the owner tells stands on the sheet, and costs a minute; a run costs the hands that it takes.
        JsonElement asked = await App.ReadAsync(await ActAsync(trainee, "ask", new { evidence = "onset" }));
        Assert.Equal(1, asked.GetProperty("minutes").GetDouble());
        JsonElement sheet = await GetAsync(trainee, $"{Prefix}/api/jobs/{job}");
        Assert.Equal("gradual", sheet.GetProperty("observed").Text("onset"));
        await RunAsync(trainee, job, 1);
        Assert.Equal(6, (await GetAsync(trainee, $"{Prefix}/api/practice/now")).GetProperty("minutes").GetDouble());
        JsonElement diagnosis = await GetAsync(trainee, $"{Prefix}/api/jobs/{job}/diagnosis");
        Assert.NotEqual(0, diagnosis.GetProperty("causes").GetArrayLength());

        // Mended, said so on the sheet, run again, and given back.
        await App.ReadAsync(await ActAsync(trainee, "repair", new { repair = "remount" }));
        await App.ReadAsync(await trainee.PostAsJsonAsync($"{Prefix}/api/jobs/{job}/setups", new { kind = "repair" }));
        await RunAsync(trainee, job, 2);
        using (HttpResponseMessage early = await trainee.GetAsync($"/api/practice/{begun.Text("id")}"))
        {
            Assert.Equal(HttpStatusCode.Conflict, early.StatusCode);
        }

        Assert.True((await App.ReadAsync(await ActAsync(trainee, "end", new { told = "mended" }))).GetProperty("ended").GetBoolean());
        JsonElement debrief = await GetAsync(trainee, $"/api/practice/{begun.Text("id")}");
        JsonElement[] lines = [.. debrief.GetProperty("score").GetProperty("lines").EnumerateArray()];
        Assert.All(lines.Where(line => line.Text("id") is "repair" or "baseline" or "fair" or "verdict"), line =>
            Assert.Equal(line.GetProperty("of").GetDouble(), line.GetProperty("points").GetDouble())
        );
        Assert.NotEmpty(debrief.GetProperty("debrief").GetProperty("causes").EnumerateArray());
        Assert.Contains("EUR", lines.Single(line => line.Text("id") == "parts").Text("yours"), StringComparison.Ordinal);

        // The workshop is as it was: by its lists, and by asking for the job by its number.
        Assert.Equal(jobs, await trainee.GetStringAsync("/api/jobs"));
        Assert.Equal(bays, await trainee.GetStringAsync("/api/bays"));
        Assert.Equal(records, await trainee.GetStringAsync("/api/records"));
        Assert.Equal(plan, (await GetAsync(trainee, "/api/plan")).GetProperty("machines").ToString());
        using HttpResponseMessage foreign = await trainee.GetAsync($"/api/jobs/{job}");
        Assert.Equal(HttpStatusCode.NotFound, foreign.StatusCode);
        // Nor does practice learn from practice: the same case has the same odds for whoever works it next.
        await using RemedosContext context = await app.ContextAsync();
        Guid practice = (await context.Jobs.SingleAsync(one => one.Id == Guid.Parse(job))).WorkshopId;
        Assert.False(await context.LeagueShares.AnyAsync(one => one.WorkshopId == practice));
        Assert.False(await context.SeriesShares.AnyAsync(one => one.WorkshopId == practice));
        Assert.False(await context.RepairShares.AnyAsync(one => one.WorkshopId == practice));
    }

    [Fact]
    public async Task Whoever_has_not_begun_reaches_nothing_through_the_practice_door()
    {
        using HttpClient nobody = await SomebodyAsync();
        string before = await nobody.GetStringAsync("/api/jobs");
        foreach (
            HttpResponseMessage answer in new[]
            {
                await nobody.GetAsync($"{Prefix}/api/jobs"),
                await nobody.PostAsync($"{Prefix}/api/jobs", null),
                await nobody.GetAsync($"{Prefix}/api/practice/now"),
            }
        )
        {
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
            Assert.Contains("not begun to practise", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            answer.Dispose();
        }

        Assert.Equal(before, await nobody.GetStringAsync("/api/jobs"));
        // Who signs in and out is the workshop's affair, and stands in its log.
        await BeginAsync(nobody, new { level = 1 });
        await RefusedAsync(nobody.PostAsync($"{Prefix}/api/sign-out", null), "done at work");
        await RefusedAsync(nobody.PostAsJsonAsync($"{Prefix}/api/practice", new { level = 1 }), "done at work");
        await nobody.GetStringAsync("/api/jobs");
        // Without the page's token nothing is changed there either.
        nobody.DefaultRequestHeaders.Remove("X-Remedos-Token");
        using HttpResponseMessage refused = await nobody.PostAsync($"{Prefix}/api/jobs", null);
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
    }

    [Fact]
    public async Task Alone_the_sheet_keeps_its_opinion_until_the_case_is_ended()
    {
        using HttpClient trainee = await SomebodyAsync();
        JsonElement begun = await BeginAsync(
            trainee,
            new
            {
                level = 2,
                seed = 5,
                alone = true,
            }
        );
        string job = begun.Text("jobId");
        await App.ReadAsync(await ActAsync(trainee, "ask", new { evidence = "dust" }));
        JsonElement silent = await GetAsync(trainee, $"{Prefix}/api/jobs/{job}/diagnosis");
        Assert.Contains("alone", silent.Text("conclusion"), StringComparison.Ordinal);
        Assert.Equal((0, 0), (silent.Count("causes"), silent.Count("checks")));
        Assert.NotEqual(0, silent.Count("observations"));

        JsonElement sheet = await GetAsync(trainee, $"{Prefix}/api/jobs/{job}");
        Assert.DoesNotContain("%", sheet.GetProperty("headline").ToString(), StringComparison.Ordinal);
        await App.ReadAsync(await ActAsync(trainee, "end", new { told = "not-yet" }));
        Assert.NotEqual(0, (await GetAsync(trainee, $"{Prefix}/api/jobs/{job}/diagnosis")).GetProperty("causes").GetArrayLength());
    }

    [Fact]
    public async Task What_hands_do_in_the_bay_costs_minutes_and_a_repair_waits_for_the_run()
    {
        using HttpClient trainee = await SomebodyAsync();
        JsonElement begun = await BeginAsync(trainee, new { level = 1, seed = 3 });
        JsonElement bay = await BayAsync(trainee, one => one.GetProperty("online").GetBoolean());
        string hands = $"{Prefix}/api/bays/{bay.Text("id")}/hands",
            run = $"{Prefix}/api/bays/{bay.Text("id")}/run";
        string[] held = ["room-thermometer", "sound-meter"];
        await App.ReadAsync(await trainee.PutAsJsonAsync(hands, new { panelOff = true, instruments = held }));
        await App.ReadAsync(await trainee.PutAsJsonAsync(hands, new { cooler = "lifted", instruments = held }));
        JsonElement now = await GetAsync(trainee, $"{Prefix}/api/practice/now");
        // The panel off and on again, and ten minutes for the cooler.
        Assert.Equal(12, now.GetProperty("minutes").GetDouble());
        Assert.Equal("lifted", now.Text("cooler"));
        await RefusedAsync(ActAsync(trainee, "repair", new { repair = "clean" }), "put it on first");
        await App.ReadAsync(await ActAsync(trainee, "ask", new { evidence = "paste-print" }));
        await App.ReadAsync(await trainee.PutAsJsonAsync(hands, new { instruments = held }));
        await App.ReadAsync(await trainee.PutAsJsonAsync(run, new { jobId = begun.Text("jobId"), variant = "usual" }));
        await RefusedAsync(ActAsync(trainee, "repair", new { repair = "clean" }), "run goes on");
        await RefusedAsync(ActAsync(trainee, "end", new { told = "mended" }), "run goes on");
        await RefusedAsync(ActAsync(trainee, "end", new { told = "perhaps" }), "one of sound");
        await RefusedAsync(ActAsync(trainee, "ask", new { evidence = "resistance-ratio" }), "measured");
        await RefusedAsync(trainee.PutAsJsonAsync($"{Prefix}/api/practice/now/speed", new { speed = 500 }), "1 to 120");

        // Another case puts this one away, whatever went on in the bay.
        JsonElement other = await BeginAsync(trainee, new { level = 4, seed = 8 });
        Assert.NotEqual(begun.Text("jobId"), other.Text("jobId"));
        Assert.Equal(0, other.GetProperty("minutes").GetDouble());
        await BayAsync(trainee, one => one.GetProperty("online").GetBoolean() && one.GetProperty("run").ValueKind == JsonValueKind.Null);
    }

    private static async Task RefusedAsync(Task<HttpResponseMessage> asked, string expected)
    {
        using HttpResponseMessage answer = await asked;
        Assert.InRange((int)answer.StatusCode, 400, 499);
        Assert.Contains(expected, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_case_is_given_away_as_a_file_and_results_are_ones_own_and_the_leads()
    {
        using HttpClient trainee = await SomebodyAsync(),
            // Whoever looks on in the workshop may practise.
            reader = await SomebodyAsync(Role.Reader);
        JsonElement begun = await BeginAsync(trainee, new { level = 3, seed = 11 });
        string id = begun.Text("id"),
            file = await trainee.GetStringAsync($"/api/practice/{id}/case");
        await BeginAsync(reader, new { file });
        JsonElement its = (await GetAsync(reader, "/api/practice")).GetProperty("tries");
        Assert.Equal((3, 11), (its[0].GetProperty("level").GetInt32(), its[0].GetProperty("seed").GetInt32()));
        // The same machine on both counters.
        Assert.Equal(await NoticedAsync(trainee), await NoticedAsync(reader));
        Assert.All(its.EnumerateArray(), one => Assert.True(one.GetProperty("mine").GetBoolean()));
        foreach (string address in new[] { $"/api/practice/{id}", $"/api/practice/{id}/case" })
        {
            using HttpResponseMessage others = await reader.GetAsync(address);
            Assert.Equal(HttpStatusCode.NotFound, others.StatusCode);
        }

        JsonElement all = (await app.GetAsync("/api/practice")).GetProperty("tries");
        Assert.Contains(all.EnumerateArray(), one => one.Text("id") == id && !one.GetProperty("mine").GetBoolean());
        await RefusedAsync(reader.PostAsJsonAsync("/api/practice", new { file = "{}" }), "no practice case");
        await RefusedAsync(reader.PostAsJsonAsync("/api/practice", new { level = 7 }), "no level 7");
        using HttpClient elsewhere = await app.OtherWorkshopAsync();
        Assert.Equal(0, (await GetAsync(elsewhere, "/api/practice")).GetProperty("tries").GetArrayLength());

        static async Task<string> NoticedAsync(HttpClient client)
        {
            string job = (await GetAsync(client, $"{Prefix}/api/practice/now")).Text("jobId");
            return (await GetAsync(client, $"{Prefix}/api/jobs/{job}")).GetProperty("fields").Text("noticed");
        }
    }

    /// <summary>A machine that another server drives is left to it, and taken over when it is not heard of any more.</summary>
    [Fact]
    public async Task A_machine_is_driven_by_one_server_alone()
    {
        using HttpClient trainee = await SomebodyAsync();
        Guid id = Guid.Parse((await BeginAsync(trainee, new { level = 1, seed = 2 })).Text("id"));
        await BayAsync(trainee, one => one.GetProperty("online").GetBoolean());
        await using RemedosContext context = await app.ContextAsync();
        Guid other = Guid.NewGuid();
        await context
            .PracticeTries.Where(one => one.Id == id)
            .ExecuteUpdateAsync(set =>
                set.SetProperty(one => one.DrivenBy, other).SetProperty(one => one.DrivenUntil, DateTimeOffset.UtcNow.AddSeconds(12))
            );
        // Silent within the seconds of its own hold, and for as long as the other may.
        await BayAsync(trainee, one => !one.GetProperty("online").GetBoolean());
        await BayAsync(trainee, one => one.GetProperty("online").GetBoolean());
        Assert.NotEqual(other, (await context.PracticeTries.AsNoTracking().SingleAsync(one => one.Id == id)).DrivenBy);
    }
}
