using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Core.Bays;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Planning;
using Remedos.Server.Planning;

namespace Remedos.Server.Tests;

/// <summary>
/// The plan of the day on the real door: what it is made from, what changes it, and what it says where it cannot be made.
/// </summary>
public sealed class PlanningTests(PlanningTests.OnAWednesday app) : IClassFixture<PlanningTests.OnAWednesday>
{
    /// <summary>A server whose clock began to run on a Wednesday at nine.</summary>
    public sealed class OnAWednesday : App
    {
        protected override void Configure(IServiceCollection services) => services.AddSingleton<TimeProvider>(new Moved());

        private sealed class Moved : TimeProvider
        {
            private readonly TimeSpan _by = new DateTimeOffset(2031, 4, 2, 9, 0, 0, TimeSpan.Zero) - DateTimeOffset.UtcNow;

            public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + _by;
        }
    }

    private static readonly object Weekdays = new
    {
        days = Enumerable
            .Range(1, 5)
            .Select(day => new
            {
                day,
                from = "09:00:00",
                to = "17:30:00",
            }),
    };

    private async Task<JsonElement> PlanAsync() => await app.GetAsync("/api/plan");

    private Task<HttpResponseMessage> DayAsync(string day, object change) => app.Client.PatchAsJsonAsync($"/api/plan/days/{day}", change);

    private static JsonElement MachineOf(JsonElement plan, string job) =>
        plan.GetProperty("machines").EnumerateArray().Single(one => one.Text("job") == job);

    private static JsonElement[] BlocksOf(JsonElement plan, string job) =>
        [.. plan.GetProperty("blocks").EnumerateArray().Where(one => one.Text("job") == job)];

    private async Task<string> NewAsync(params (string Field, object? Value)[] fields)
    {
        await app.Client.PatchAsJsonAsync("/api/settings/open", new { value = Weekdays, @base = (object?)null });
        string job = (await app.NewJobAsync()).Text("id");
        foreach ((string field, object? value) in fields)
        {
            HttpResponseMessage answer = await app.SaveAsync(job, field, value);
            Assert.True(answer.IsSuccessStatusCode, $"{field}: {await answer.Content.ReadAsStringAsync()}");
        }

        return job;
    }

    [Fact]
    public async Task Without_hours_it_says_what_is_missing()
    {
        string job = await NewAsync();
        JsonElement open = (await app.GetAsync("/api/settings")).GetProperty("open");
        (await app.Client.PatchAsJsonAsync("/api/settings/open", new { value = (object?)null, @base = open })).EnsureSuccessStatusCode();
        JsonElement plan = await PlanAsync();
        Assert.StartsWith("Say first when the workshop is open", plan.Text("problem"));
        Assert.Equal(JsonValueKind.Null, MachineOf(plan, job).GetProperty("readyAt").ValueKind);
    }

    [Fact]
    public async Task A_machine_that_came_in_is_touched_now_and_ready_the_same_day()
    {
        string job = await NewAsync(("planRank", -1000));
        JsonElement plan = await PlanAsync();
        JsonElement[] blocks = BlocksOf(plan, job);
        Assert.Equal(["intake", "look", "run", "check", "decide", "repair", "run"], blocks.Select(block => block.Text("kind")));
        Assert.Equal(plan.Text("at"), blocks[0].Text("from"));
        JsonElement machine = MachineOf(plan, job);
        Assert.StartsWith("2031-04-02T", machine.Text("readyAt"));
        Assert.True(machine.GetProperty("early").GetDateTimeOffset() < machine.GetProperty("late").GetDateTimeOffset());
        Assert.Equal("If its owner says yes when asked.", machine.Text("given"));
        Assert.Equal("Complete the intake", machine.Text("next"));
    }

    [Fact]
    public async Task A_promise_that_cannot_be_held_says_so_and_why()
    {
        string job = await NewAsync(("promisedAt", "2031-04-02T09:30:00Z"));
        JsonElement machine = MachineOf(await PlanAsync(), job);
        Assert.True(machine.GetProperty("isLate").GetBoolean());
        Assert.Equal("Its own work takes longer, even with nothing else in the workshop.", machine.Text("why"));
    }

    [Fact]
    public async Task What_waits_outside_is_not_planned_and_a_part_with_a_day_is_from_then_on()
    {
        string owner = await NewAsync(("waitingFor", "owner")),
            part = await NewAsync(("waitingFor", "part")),
            friday = await NewAsync(("waitingFor", "part"), ("partExpectedOn", "2031-04-04")),
            overdue = await NewAsync(("waitingFor", "part"), ("partExpectedOn", "2031-04-01"));
        JsonElement plan = await PlanAsync();
        Assert.Contains("owner’s answer", MachineOf(plan, owner).Text("why"));
        Assert.Contains("nobody has noted on which day", MachineOf(plan, part).Text("why"));
        Assert.Equal("Its part was expected on 1 April: ask where it is.", MachineOf(plan, overdue).Text("why"));
        Assert.Empty(BlocksOf(plan, owner));
        Assert.Equal("2031-04-04T12:00:00+00:00", BlocksOf(plan, friday)[0].Text("from"));
    }

    [Fact]
    public async Task Hands_and_bays_and_hours_of_a_day_move_the_work()
    {
        string job = await NewAsync(("planRank", -2000));
        string me = (await app.GetAsync("/api/session")).GetProperty("me").Text("id");
        JsonElement bay = await App.ReadAsync(await app.Client.PostAsync("/api/bays", null));
        int number = bay.GetProperty("number").GetInt32();
        JsonElement plan = await App.ReadAsync(await DayAsync("2031-04-02", new { bay = new { number, used = false } }));
        Assert.StartsWith("2031-04-03T", BlocksOf(plan, job).First(block => block.Text("kind") == "run").Text("from"));
        await DayAsync("2031-04-02", new { bay = new { number, used = true } });
        plan = await App.ReadAsync(await DayAsync("2031-04-02", new { person = new { id = me, here = false } }));
        Assert.StartsWith("2031-04-03T09:00", BlocksOf(plan, job)[0].Text("from"));
        Assert.False(plan.GetProperty("hands")[0].GetProperty("here").GetBoolean());
        await DayAsync("2031-04-02", new { person = new { id = me, here = true } });
        await DayAsync("2031-04-03", new { hours = new { closed = true } });
        plan = await App.ReadAsync(
            await DayAsync(
                "2031-04-02",
                new
                {
                    hours = new
                    {
                        closed = false,
                        from = "09:00:00",
                        to = "09:07:00",
                    },
                }
            )
        );
        // What does not fit in seven minutes begins on Friday.
        Assert.All(BlocksOf(plan, job).Skip(1), block => Assert.StartsWith("2031-04-04T", block.Text("from")));
        await DayAsync("2031-04-03", new { hours = new { closed = false } });
        await DayAsync("2031-04-02", new { hours = new { closed = false } });
        Assert.True((await PlanAsync()).GetProperty("days")[0].GetProperty("usual").GetBoolean());
        await using RemedosContext context = await app.ContextAsync();
        Assert.True(await context.WorkshopEvents.CountAsync(e => e.Kind == "work-day") >= 6);
    }

    [Theory]
    [InlineData("2031-04-01", """{"bay":{"number":1,"used":true}}""", "Days from today to")]
    [InlineData("2031-04-02", """{"bay":{"number":99,"used":true}}""", "There is no bay 99.")]
    [InlineData("2031-04-02", """{"person":{"id":"01a223fe-c193-7588-9dd6-7462c021939f","here":true}}""", "Nobody of that id")]
    [InlineData("2031-04-02", """{"hours":{"closed":false,"from":"17:00:00","to":"09:00:00"}}""", "not after 17:00")]
    [InlineData("2031-04-02", """{"hours":{"closed":true,"from":"09:00:00","to":"10:00:00"}}""", "A day is closed, or")]
    [InlineData("2031-04-02", """{}""", "One thing of a day")]
    public async Task A_day_that_cannot_be_is_refused_with_a_sentence(string day, string change, string sentence)
    {
        await NewAsync();
        HttpResponseMessage answer = await DayAsync(day, JsonSerializer.Deserialize<JsonElement>(change));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains(sentence, await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_machine_goes_to_whom_it_was_given_and_undo_takes_it_back()
    {
        string job = await NewAsync();
        Guid mate;
        await using (RemedosContext context = await app.ContextAsync())
        {
            Person person = new()
            {
                Id = Guid.CreateVersion7(),
                WorkshopId = await context.Workshops.OrderBy(one => one.Id).Select(one => one.Id).FirstAsync(),
                Name = "Oona",
            };
            context.People.Add(person);
            await context.SaveChangesAsync();
            mate = person.Id;
        }

        JsonElement sheet = await App.ReadAsync(await app.SaveAsync(job, "handledBy", mate.ToString()));
        Assert.All(BlocksOf(await PlanAsync(), job), block => Assert.Equal(mate.ToString(), block.Text("hand")));
        long last = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        await app.Client.PostAsync($"/api/jobs/{job}/undo/{last}", null);
        Assert.Equal(JsonValueKind.Null, MachineOf(await PlanAsync(), job).GetProperty("handledBy").ValueKind);
        // Nobody of that id: anyone free.
        await app.SaveAsync(job, "handledBy", Guid.NewGuid().ToString());
        Assert.Equal(JsonValueKind.Null, MachineOf(await PlanAsync(), job).GetProperty("handledBy").ValueKind);
        Assert.NotEmpty(BlocksOf(await PlanAsync(), job));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.SaveAsync(job, "handledBy", "Oona")).StatusCode);
    }

    [Fact]
    public async Task The_same_plan_is_not_sent_twice_and_another_workshop_has_its_own()
    {
        await NewAsync();
        HttpResponseMessage first = await app.Client.GetAsync("/api/plan");
        using HttpRequestMessage again = new(HttpMethod.Get, "/api/plan");
        again.Headers.IfNoneMatch.Add(first.Headers.ETag!);
        HttpResponseMessage second = await app.Client.SendAsync(again);
        // A minute may have passed between the two.
        Assert.True(second.StatusCode == HttpStatusCode.NotModified || !Equals(second.Headers.ETag, first.Headers.ETag));
        using HttpClient other = await app.OtherWorkshopAsync();
        JsonElement theirs = await other.GetFromJsonAsync<JsonElement>("/api/plan");
        Assert.Empty(theirs.GetProperty("machines").EnumerateArray());
    }

    /// <summary>An hour that is left out in spring and one that comes twice in autumn: days are as long as they are.</summary>
    [Fact]
    public void Days_are_told_on_the_workshops_own_clock()
    {
        Workshop workshop = new()
        {
            Id = Guid.NewGuid(),
            Name = "Quay End",
            TagPrefix = "QE",
            Currency = "EUR",
            TimeZone = "Europe/Lisbon",
        };
        OpeningHours hours = new([.. Enumerable.Range(1, 7).Select(day => new OpenDay(day, new TimeOnly(0, 30), new TimeOnly(4, 30)))]);
        DateTimeOffset evening = new(2026, 3, 28, 20, 0, 0, TimeSpan.Zero);
        WorkDay off = new() { Day = new DateOnly(2026, 3, 30), Closed = true };
        PlanCalendar calendar = new(workshop, hours, [off], evening);
        // Sunday the 29th: clocks leap from one to two.
        Assert.Equal(new Span(270, 450), calendar.Open[0]);
        Assert.Equal(1440, calendar.Open[1].From - calendar.Open[0].From - 1380);
        Assert.Equal((new TimeOnly(0, 30), 4), (calendar.All[1].Opens!.Value, calendar.All[1].Closes!.Value.Hour));
        Assert.Null(calendar.All[2].From);
        Assert.Equal(27, calendar.All.Count(day => day.From is not null));
    }

    /// <summary>A machine whose owner has not answered stands in two bays all the same.</summary>
    [Fact]
    public void What_stands_in_a_bay_keeps_it_and_its_end_promises_nothing_of_who_waits_for_an_answer()
    {
        Guid held = Guid.CreateVersion7(),
            other = Guid.CreateVersion7(),
            hand = Guid.CreateVersion7();
        DateTimeOffset now = new(2031, 4, 2, 9, 0, 0, TimeSpan.Zero);
        Workshop workshop = new()
        {
            Id = Guid.CreateVersion7(),
            Name = "Quay End",
            TagPrefix = "QE",
            Currency = "EUR",
            TimeZone = "UTC",
            Open = new OpeningHours([.. Enumerable.Range(1, 7).Select(day => new OpenDay(day, new TimeOnly(9, 0), new TimeOnly(17, 0)))]),
        };
        Bay In(int number) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Number = number,
                TokenSha256 = "",
                Run = new BayRun(held, default, "usual", 600, null, null, null, hand, 1, 1, GuidedState.Start, "Idle", 60),
            };
        PlanOfDay.Stand stand = new(
            workshop,
            now,
            [new Person { Id = hand, Name = "Oona" }],
            [In(1), In(2)],
            [],
            [
                new OpenJob(new Job { Id = held, Number = 1 }, new WorkLeft([], WorkHold.Owner, false), "Ask"),
                new OpenJob(new Job { Id = other, Number = 2 }, new WorkLeft([WorkPiece.Run("before")], null, false), "Record"),
            ],
            new Dictionary<Guid, Guid>(),
            new Dictionary<WorkKind, Spread>
            {
                [WorkKind.Repair] = Spread.Prior(WorkKind.Repair),
                // Runs took twice as long here, very often.
                [WorkKind.Run] = Spread.Learnt(WorkKind.Run, 1000, 1000 * Math.Log(2), 1000 * Math.Log(2) * Math.Log(2)),
            }
        );
        DayPlanAnswer plan = PlanOfDay.Of(stand);
        MachineOfPlan waits = plan.Machines.Single(one => one.Job == held);
        Assert.Equal((null, false), (waits.ReadyAt, waits.IsReady));
        Assert.Contains("owner’s answer", waits.Why);
        // A minute of idling, ten of load, five of cooling down in both: the next run waits for them.
        Assert.Equal(now.AddMinutes(16), plan.Blocks.Single(block => block.Job == other).From);
        Assert.EndsWith("1000 runs were led by a bay: 1.99 times.", plan.Stands);
    }

    [Fact]
    public async Task Nobody_is_at_two_machines_and_the_later_one_counts()
    {
        List<string> jobs = [];
        for (int i = 0; i < 2; i++)
        {
            string job = await NewAsync(("coolerKind", "tower"));
            await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/jobs/{job}/plans", new { acts = new[] { "clean" } }));
            JsonElement steps = (await app.GetAsync($"/api/jobs/{job}/repair"))
                .GetProperty("current")
                .GetProperty("plan")
                .GetProperty("steps");
            HttpResponseMessage tick = await app.SaveAsync(
                job,
                $"plan.1.{steps[0].Text("id")}",
                new
                {
                    state = "skipped",
                    at = "2031-04-02T09:00:00Z",
                    text = "not here",
                }
            );
            Assert.True(tick.IsSuccessStatusCode, await tick.Content.ReadAsStringAsync());
            jobs.Add(job);
        }

        JsonElement plan = await PlanAsync();
        Assert.Equal([false, true], jobs.Select(job => BlocksOf(plan, job)[0].GetProperty("goes").GetBoolean()));
    }

    [Fact]
    public async Task Minutes_that_steps_took_are_kept_and_move_the_plan()
    {
        string job = await NewAsync(("coolerKind", "tower"));
        await App.ReadAsync(await app.Client.PostAsJsonAsync($"/api/jobs/{job}/plans", new { acts = new[] { "clean" } }));
        JsonElement repair = (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("current");
        double planned = 0;
        foreach (JsonElement step in repair.GetProperty("plan").GetProperty("steps").EnumerateArray())
        {
            string hold = step.Text("hold");
            object mark = hold is "none" or "look"
                ? new
                {
                    state = "done",
                    at = "2031-04-02T09:00:00Z",
                    seconds = step.GetProperty("minutes").GetDouble() * 90,
                }
                : new
                {
                    state = "skipped",
                    at = "2031-04-02T09:00:00Z",
                    text = "not here",
                };
            planned += hold is "none" or "look" ? step.GetProperty("minutes").GetDouble() : 0;
            HttpResponseMessage answer = await app.SaveAsync(job, $"plan.1.{step.Text("id")}", mark);
            Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        }

        await using (RemedosContext context = await app.ContextAsync())
        {
            var share = await context.RepairShares.SingleAsync(one => one.JobId == Guid.Parse(job));
            Assert.Equal(("clean", null), (share.Act, share.Solved));
            Assert.Equal(planned, share.PlannedMinutes!.Value, 6);
            Assert.Equal(1.5, share.TakenMinutes!.Value / share.PlannedMinutes.Value, 6);
        }

        JsonElement plan = await PlanAsync();
        // ln 1.5 seen once against four that took as long as planned.
        Assert.Contains($"they take {Math.Pow(1.5, 0.2):0.00} times", plan.Text("stands"));
        await app.SaveAsync(job, "repairDone", "Blown out");
        await app.SaveAsync(job, "handedOverAt", "2031-04-02T09:00:00Z");
        await using RemedosContext after = await app.ContextAsync();
        Assert.True((await after.RepairShares.SingleAsync(one => one.JobId == Guid.Parse(job))).Solved);
        Assert.Equal(1, await after.RepairTotals.Where(one => one.Act == "clean").Select(one => one.Solved).SingleAsync());
    }
}
