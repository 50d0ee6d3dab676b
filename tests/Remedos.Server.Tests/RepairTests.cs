using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Tests;

/// <summary>A repair step by step: begun, interrupted, ticked by several hands, and what it leaves on the job.</summary>
public sealed class RepairTests(App app) : IClassFixture<App>
{
    private static readonly DateTimeOffset Now = DateTimeOffset.UtcNow.AddMinutes(-5);

    private async Task<string> NewAsync(params (string Field, object? Value)[] fields)
    {
        string job = (await app.NewJobAsync()).Text("id");
        foreach ((string field, object? value) in fields.Prepend(("coolerKind", "tower")))
        {
            HttpResponseMessage answer = await app.SaveAsync(job, field, value, value is string[] ? Array.Empty<string>() : null);
            Assert.True(answer.IsSuccessStatusCode, $"{field}: {await answer.Content.ReadAsStringAsync()}");
        }

        return job;
    }

    private Task<HttpResponseMessage> PostAsync(string job, params string[] acts) =>
        app.Client.PostAsJsonAsync($"/api/jobs/{job}/plans", new { acts = acts.Length == 0 ? null : acts });

    private async Task<JsonElement> BeginAsync(string job, params string[] acts)
    {
        HttpResponseMessage answer = await PostAsync(job, acts);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current");
    }

    private static JsonElement[] StepsOf(JsonElement plan) => [.. plan.GetProperty("plan").GetProperty("steps").EnumerateArray()];

    private Task<HttpResponseMessage> TickAsync(string job, string step, object? more = null, int plan = 1, HttpClient? by = null) =>
        (by ?? app.Client).PatchAsJsonAsync(
            $"/api/jobs/{job}/fields/plan.{plan}.{step}",
            new { value = more ?? new { state = "done", at = Now }, @base = (object?)null }
        );

    private static object Passing(JsonElement step, string photo, string[] listed) =>
        step.Text("hold") switch
        {
            "reading" => new
            {
                state = "done",
                at = Now,
                reading = Math.Max(step.GetProperty("least").GetDouble(), 40),
                seconds = 60,
            },
            "photo" => new
            {
                state = "done",
                at = Now,
                photo,
                seconds = 30,
            },
            "print" => new
            {
                state = "done",
                at = Now,
                text = "dried",
                seconds = 20,
            },
            "list" => new
            {
                state = "done",
                at = Now,
                lines = listed,
                seconds = 90,
            },
            "ticks" => new
            {
                state = "done",
                at = Now,
                lines = listed,
                seconds = 90,
            },
            "run" => new
            {
                state = "skipped",
                at = Now,
                text = "no bay is free",
            },
            _ => new
            {
                state = "done",
                at = Now,
                seconds = 60,
            },
        };

    private async Task<string> PhotoAsync(string job) =>
        (
            await App.ReadAsync(
                await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=a.png", new ByteArrayContent(IntakeTests.Png))
            )
        )
            .GetProperty("photos")[0]
            .Text("id");

    private static async Task<string> SentenceAsync(HttpResponseMessage answer)
    {
        string body = await answer.Content.ReadAsStringAsync();
        Assert.False(answer.IsSuccessStatusCode, body);
        return JsonSerializer.Deserialize<JsonElement>(body).Text("detail");
    }

    [Fact]
    public async Task A_plan_that_is_worked_through_leaves_setup_print_parts_and_note_on_its_job()
    {
        string job = await NewAsync(("repairCauses", new[] { "paste-aged", "dust-blocked-fins" }), ("cooler", "Mullion 120"));
        JsonElement look = await app.GetAsync($"/api/jobs/{job}/repair");
        Assert.Equal(["clean", "remount"], look.GetProperty("chosen").EnumerateArray().Select(act => act.GetString()!));
        Assert.Equal("For what was found.", look.Text("why"));
        Assert.Equal(JsonValueKind.Null, look.GetProperty("current").ValueKind);
        JsonElement plan = await BeginAsync(job);
        string photo = await PhotoAsync(job);
        string[] ids = [.. StepsOf(plan).Select(step => step.Text("id"))];
        foreach (JsonElement step in StepsOf(plan))
        {
            if (step.Text("stage") == "after")
            {
                break;
            }

            HttpResponseMessage answer = await TickAsync(job, step.Text("id"), Passing(step, photo, ["CPU fan on CPU"]));
            Assert.True(answer.IsSuccessStatusCode, $"{step.Text("id")}: {await answer.Content.ReadAsStringAsync()}");
        }

        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        // The print is of the mount that was lifted; the new setup sits since its screws were tight.
        Assert.Equal("dried", sheet.GetProperty("setups")[0].GetProperty("mounts")[0].GetProperty("values").Text("print"));
        Assert.Equal("Setup 2 repaired, new paste", sheet.GetProperty("setups")[1].Text("name"));
        Assert.Equal(
            Now.ToUnixTimeSeconds(),
            sheet.GetProperty("setups")[1].GetProperty("mounts")[0].GetProperty("mountedAt").GetDateTimeOffset().ToUnixTimeSeconds()
        );
        JsonElement fields = sheet.GetProperty("fields");
        Assert.Contains("reseated with fresh paste", fields.Text("repairDone"), StringComparison.Ordinal);
        Assert.InRange(fields.GetProperty("repairMinutes").GetInt32(), 20, 60);
        Assert.NotEqual("repair", sheet.Text("currentStep"));
        JsonElement done = (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current");
        Assert.Equal(2, done.GetProperty("madeSetup").GetInt32());
        Assert.Equal(ids.Length - 1, done.GetProperty("marks").EnumerateObject().Count());
        Assert.False(done.GetProperty("progress").GetProperty("underHands").GetBoolean());
        // Everybody who ticked is known.
        Assert.Equal(ids.Length - 1, done.GetProperty("by").EnumerateObject().Count(one => one.Value.GetString()!.Length > 0));
    }

    [Fact]
    public async Task The_sheet_leads_back_to_the_step_that_is_next()
    {
        string job = await NewAsync();
        JsonElement plan = await BeginAsync(job, "clean");
        JsonElement first = StepsOf(plan)[0];
        JsonElement sheet = await App.ReadAsync(await TickAsync(job, first.Text("id")));
        JsonElement second = StepsOf(plan)[1];
        Assert.Equal(
            ("repair", "plan", second.Text("title")),
            (sheet.Text("currentStep"), sheet.GetProperty("now").Text("action"), sheet.GetProperty("now").Text("title"))
        );
        Assert.Equal(2, sheet.GetProperty("plan").GetProperty("at").GetInt32());
        Assert.Contains(
            "Step 2 of",
            sheet.GetProperty("steps").EnumerateArray().Single(step => step.Text("id") == "repair").Text("conclusion"),
            StringComparison.Ordinal
        );
        // A tick is undone like any other change.
        sheet = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{job}/undo/{sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
        );
        Assert.Equal(1, sheet.GetProperty("plan").GetProperty("at").GetInt32());
    }

    [Fact]
    public async Task A_hold_point_that_is_not_passed_is_refused_in_a_sentence_and_changes_nothing()
    {
        string job = await NewAsync();
        await BeginAsync(job, "remount");
        Assert.Contains("needs a reading", await SentenceAsync(await TickAsync(job, "chip-rise")), StringComparison.Ordinal);
        Assert.Contains(
            "is outside",
            await SentenceAsync(
                await TickAsync(
                    job,
                    "chip-rise",
                    new
                    {
                        state = "done",
                        at = Now,
                        reading = 170,
                    }
                )
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no such run is on the sheet yet",
            await SentenceAsync(await TickAsync(job, "closed-run")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not on the job any more",
            await SentenceAsync(
                await TickAsync(
                    job,
                    "photo-print",
                    new
                    {
                        state = "done",
                        at = Now,
                        photo = Guid.NewGuid(),
                    }
                )
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "say which",
            await SentenceAsync(await TickAsync(job, "photo-print", new { state = "skipped", at = Now })),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "in the future",
            await SentenceAsync(await TickAsync(job, "unplug", new { state = "done", at = DateTimeOffset.UtcNow.AddDays(3) })),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Expected what was done",
            await SentenceAsync(await TickAsync(job, "unplug", new { state = "perhaps", at = Now })),
            StringComparison.Ordinal
        );
        await TickAsync(
            job,
            "pull-plugs",
            new
            {
                state = "done",
                at = Now,
                lines = new[] { "CPU fan", "pump" },
            }
        );
        Assert.Contains(
            "“pump” was pulled",
            await SentenceAsync(
                await TickAsync(
                    job,
                    "plugs-back",
                    new
                    {
                        state = "done",
                        at = Now,
                        lines = new[] { "CPU fan" },
                    }
                )
            ),
            StringComparison.Ordinal
        );
        // A step that is none, and one that is not in this plan.
        Assert.Equal(HttpStatusCode.NotFound, (await TickAsync(job, "weld")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await TickAsync(job, "cut")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await TickAsync(job, "unplug", plan: 2)).StatusCode);
        JsonElement plan = (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current");
        Assert.Equal(["pull-plugs"], plan.GetProperty("marks").EnumerateObject().Select(mark => mark.Name));
    }

    [Fact]
    public async Task A_run_that_is_on_the_sheet_passes_its_hold_point()
    {
        string job = await NewAsync();
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"), """{"panel":"closed","fanPolicy":"auto"}""");
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        JsonElement plan = await BeginAsync(job, "remount");
        Assert.DoesNotContain("closed-run", StepsOf(plan).Select(step => step.Text("id")));
        Assert.Contains("no such run", await SentenceAsync(await TickAsync(job, "fixed-run")), StringComparison.Ordinal);
        await app.AddLogAsync(
            job,
            "before",
            "b.csv",
            App.Example("03-paste-after.csv"),
            """{"panel":"closed","fanPolicy":"fixed","fanPercent":60}"""
        );
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 2);
        Assert.True((await TickAsync(job, "fixed-run")).IsSuccessStatusCode);
    }

    [Fact]
    public async Task What_cannot_be_planned_is_said_and_one_plan_at_a_time_is_under_way()
    {
        string job = await NewAsync(("decisionRoute", "leave"));
        Assert.Contains("chose to leave it", (await app.GetAsync($"/api/jobs/{job}/repair")).Text("problem"), StringComparison.Ordinal);
        Assert.Contains("is nothing that can be done", await SentenceAsync(await PostAsync(job, "weld")), StringComparison.Ordinal);
        Assert.Contains("not chosen yet", await SentenceAsync(await PostAsync(job, "upgrade")), StringComparison.Ordinal);
        await app.SaveAsync(job, "repairCooler", "Gone Tower 9");
        Assert.Contains("“Gone Tower 9” is not among", await SentenceAsync(await PostAsync(job, "upgrade")), StringComparison.Ordinal);
        await BeginAsync(job, "clean");
        Assert.Contains("is under way", await SentenceAsync(await PostAsync(job, "remount")), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.DeleteAsync($"/api/jobs/{job}/plans/7")).StatusCode);
        JsonElement aside = await App.ReadAsync(await app.Client.DeleteAsync($"/api/jobs/{job}/plans/1"));
        Assert.Equal(JsonValueKind.Null, aside.GetProperty("plan").ValueKind);
        Assert.Equal(2, (await BeginAsync(job, "remount")).GetProperty("number").GetInt32());
        // Laid aside, not lost.
        await using RemedosContext context = await app.ContextAsync();
        Assert.Equal(2, await context.Plans.CountAsync(plan => plan.JobId == Guid.Parse(job)));
    }

    [Fact]
    public async Task A_plan_stays_as_it_was_composed_whatever_changes_on_the_way()
    {
        string job = await NewAsync();
        string before = (await BeginAsync(job, "remount")).GetProperty("plan").ToString();
        await app.SaveAsync(job, "coolerKind", "liquid", "tower");
        await TickAsync(job, "tighten-across");
        Assert.Equal(before, (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current").GetProperty("plan").ToString());
        // Ticked once more after it was taken back, it makes no second setup.
        await app.SaveAsync(job, "plan.1.tighten-across", null, new { state = "done", at = Now });
        await TickAsync(job, "tighten-across");
        Assert.Equal(2, (await app.GetAsync($"/api/jobs/{job}")).Count("setups"));
    }

    [Fact]
    public async Task Two_technicians_on_one_plan_lose_nothing_and_tick_nothing_twice()
    {
        string job = await NewAsync();
        string[] steps =
        [
            .. StepsOf(await BeginAsync(job, "clean")).Where(step => step.Text("hold") is "none" or "look").Select(step => step.Text("id")),
        ];
        using HttpClient second = await app.ClientAsync(null);
        HttpResponseMessage[] answers = await Task.WhenAll(
            steps.SelectMany(step =>
                new[] { TickAsync(job, step), TickAsync(job, step, new { state = "done", at = Now.AddSeconds(9) }, by: second) }
            )
        );
        // Of two hands on one step the first counts, and the other is shown it.
        Assert.Equal(steps.Length, answers.Count(answer => answer.IsSuccessStatusCode));
        Assert.Equal(steps.Length, answers.Count(answer => answer.StatusCode == HttpStatusCode.Conflict));
        JsonElement plan = (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current");
        Assert.Equal(steps.Order(), plan.GetProperty("marks").EnumerateObject().Select(mark => mark.Name).Order());
    }
}
