using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Tests;

public sealed class JobTests(App app) : IClassFixture<App>
{
    [Fact]
    public async Task Jobs_that_come_in_at_once_get_numbers_of_their_own()
    {
        JsonElement[] jobs = await Task.WhenAll(Enumerable.Range(0, 20).Select(_ => app.NewJobAsync()));
        int[] numbers = [.. jobs.Select(job => int.Parse(job.Text("tag").Split('-')[1])).Order()];
        Assert.Equal(Enumerable.Range(numbers[0], 20), numbers);
    }

    [Fact]
    public async Task A_field_is_saved_logged_and_undone()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(id, "owner", "Tern Lane bookbinder");
        JsonElement sheet = await App.ReadAsync(await app.SaveAsync(id, "owner", "Heron Lane bookbinder", "Tern Lane bookbinder"));
        Assert.Equal("Heron Lane bookbinder", sheet.GetProperty("fields").Text("owner"));

        long last = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        JsonElement undone = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{id}/undo/{last}", null));
        Assert.Equal("Tern Lane bookbinder", undone.GetProperty("fields").Text("owner"));
        await using RemedosContext context = await app.ContextAsync();
        List<JobEvent> events = await context.JobEvents.Where(e => e.JobId == Guid.Parse(id)).OrderBy(e => e.Id).ToListAsync();
        Assert.Equal(
            [
                ("created", null, null),
                ("field", "null", "\"Tern Lane bookbinder\""),
                ("field", "\"Tern Lane bookbinder\"", "\"Heron Lane bookbinder\""),
                ("field", "\"Heron Lane bookbinder\"", "\"Tern Lane bookbinder\""),
            ],
            events.Select(e => (e.Kind, e.Before, e.After))
        );
    }

    /// <summary>The last changes are looked at by pages: undo goes on through all of them, to the first.</summary>
    [Fact]
    public async Task Undo_goes_back_through_more_changes_than_are_looked_at_together()
    {
        string id = (await app.NewJobAsync()).Text("id");
        const int Changes = (2 * JobHistory.StandPage) + 3;
        JsonElement sheet = default;
        for (int i = 1; i <= Changes; i++)
        {
            sheet = await App.ReadAsync(await app.SaveAsync(id, "ratedPowerW", i, i == 1 ? null : i - 1));
        }

        for (int i = Changes - 1; i >= 1; i--)
        {
            long last = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
            sheet = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{id}/undo/{last}", null));
            Assert.Equal(i, sheet.GetProperty("fields").GetProperty("ratedPowerW").GetDouble());
        }

        long first = sheet.GetProperty("lastChange").GetProperty("eventId").GetInt64();
        sheet = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{id}/undo/{first}", null));
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("lastChange").ValueKind);
    }

    [Fact]
    public async Task An_undo_that_something_newer_stands_on_is_refused()
    {
        string id = (await app.NewJobAsync()).Text("id");
        long first = (await App.ReadAsync(await app.SaveAsync(id, "ratedPowerW", 100)))
            .GetProperty("lastChange")
            .GetProperty("eventId")
            .GetInt64();
        await app.SaveAsync(id, "ratedPowerW", 120, 100);
        HttpResponseMessage refused = await app.Client.PostAsync($"/api/jobs/{id}/undo/{first}", null);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Equal(120, (await app.GetAsync($"/api/jobs/{id}")).GetProperty("fields").GetProperty("ratedPowerW").GetDouble());
    }

    [Fact]
    public async Task Two_tabs_on_one_field_see_both_values_and_overwrite_nothing()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(id, "noticed", "loud");
        HttpResponseMessage other = await app.SaveAsync(id, "noticed", "slow");
        JsonElement problem = await App.ReadAsync(other);
        Assert.Equal(HttpStatusCode.Conflict, other.StatusCode);
        Assert.Equal(("loud", "slow"), (problem.Text("theirs"), problem.Text("mine")));
        Assert.Equal("loud", (await app.GetAsync($"/api/jobs/{id}")).GetProperty("fields").Text("noticed"));
        Assert.Equal(HttpStatusCode.OK, (await app.SaveAsync(id, "noticed", "slow", "loud")).StatusCode);
    }

    [Fact]
    public async Task Changes_to_different_fields_at_once_are_all_kept()
    {
        string id = (await app.NewJobAsync()).Text("id");
        (string Field, object Value)[] changes =
        [
            ("owner", "a"),
            ("contact", "b"),
            ("machine", "c"),
            ("noticed", "d"),
            ("roomC", 21.5),
            ("temperatureLimitC", 95),
            ("ratedPowerW", 125),
            ("repairFound", "e"),
        ];
        HttpResponseMessage[] answers = await Task.WhenAll(changes.Select(change => app.SaveAsync(id, change.Field, change.Value)));
        Assert.All(answers, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        JsonElement fields = (await app.GetAsync($"/api/jobs/{id}")).GetProperty("fields");
        Assert.All(changes, change => Assert.Equal(change.Value.ToString(), fields.GetProperty(change.Field).ToString()));
    }

    [Theory]
    [InlineData("temperatureLimitC", 400, "between 40 °C and 130 °C")]
    [InlineData("roomC", "warm", "Expected a number.")]
    [InlineData("coolerKind", "ice", "down-draught")]
    [InlineData("waitingFor", "godot", "owner, part")]
    [InlineData("recheckOn", "tomorrow", "Expected a date.")]
    [InlineData("mount.1.1.mountedAt", "yesterday", "Expected a date and time.")]
    public async Task A_value_that_cannot_be_gets_a_sentence_and_changes_nothing(string field, object value, string words)
    {
        string id = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage refused = await app.SaveAsync(id, field, value);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains(words, (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{id}");
        JsonElement values = field.StartsWith("mount.", StringComparison.Ordinal)
            ? sheet.GetProperty("setups")[0].GetProperty("mounts")[0].GetProperty("values")
            : sheet.GetProperty("fields");
        Assert.Equal(JsonValueKind.Null, values.GetProperty(field.Split('.')[^1]).ValueKind);
    }

    /// <summary>These travel by pages of their own, not with the sheet.</summary>
    [Theory]
    [InlineData("airPlan", "a gale", "Expected a plan of fans and headers.")]
    [InlineData("choice", 5, "Expected an option with its quote.")]
    public async Task A_plan_or_choice_that_is_none_gets_a_sentence(string field, object value, string words)
    {
        string id = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage refused = await app.SaveAsync(id, field, value);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Equal(words, (await App.ReadAsync(refused)).Text("detail"));
        // Nothing was changed: the field still takes what stands on nothing.
        Assert.Equal(HttpStatusCode.OK, (await app.SaveAsync(id, field, null)).StatusCode);
    }

    [Fact]
    public async Task Unknown_fields_and_jobs_are_told()
    {
        string id = (await app.NewJobAsync()).Text("id");
        Assert.Equal(HttpStatusCode.NotFound, (await app.SaveAsync(id, "colour", "teal")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await app.SaveAsync(Guid.NewGuid().ToString(), "owner", "x")).StatusCode);
        Assert.Equal(
            "There is no such job.",
            (await App.ReadAsync(await app.Client.GetAsync($"/api/jobs/{Guid.NewGuid()}"))).Text("detail")
        );
    }

    [Theory]
    [InlineData("quillwright")]
    [InlineData("LETTERPRESS")]
    [InlineData("zx-77")]
    [InlineData("100% fan")]
    [InlineData("press quill")]
    public async Task Search_finds_by_owner_machine_serial_and_symptom(string search)
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(id, "owner", "M. Quillwright");
        await app.SaveAsync(id, "machine", "Letterpress controller");
        await app.SaveAsync(id, "serial", "ZX-77-01");
        await app.SaveAsync(id, "noticed", "100% fan all day");
        JsonElement found = await app.GetAsync($"/api/jobs?search={Uri.EscapeDataString(search)}");
        Assert.Contains(found.EnumerateArray(), tag => tag.Text("id") == id);
        Assert.DoesNotContain((await app.GetAsync("/api/jobs?search=100%25%25%25fan")).EnumerateArray(), tag => tag.Text("id") == id);
    }
}
