using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Remedos.Server.Tests;

/// <summary>All options of a machine in one place, and what the owner chose of them.</summary>
public sealed class OptionTests(App app) : IClassFixture<App>
{
    private Task<HttpResponseMessage> KeepAsync(string name, string kind, double fanMm, double full, long priceMinor)
    {
        object fan = new
        {
            sizeMm = fanMm,
            minRpm = 400,
            maxRpm = 1500,
            currentA = 0.2,
            noiseAtMaxDba = 32,
        };
        object cooler = new
        {
            id = "",
            name,
            kind,
            sockets = new[] { "Q4" },
            fans = new[] { fan },
            performance = new[] { new { rpm = 700, resistanceCPerW = 1.4 * full }, new { rpm = 1500, resistanceCPerW = full } },
            priceMinor,
        };
        return app.Client.PostAsJsonAsync(
            "/api/parts",
            new
            {
                kind = "cooler",
                name,
                values = new { cooler },
            }
        );
    }

    private async Task<string> NewAsync()
    {
        await KeepAsync("Tower Option", "tower", 120, 0.22, 4500);
        await KeepAsync("Tower Larger", "dual-tower", 140, 0.14, 8900);
        string job = (await app.NewJobAsync()).Text("id");
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("ratedPowerW", 125),
                ("temperatureLimitC", 95),
                ("coolerKind", "tower"),
                ("cooler", "Tower Option"),
                ("wish", "quiet"),
            }
        )
        {
            Assert.True((await app.SaveAsync(job, field, value)).IsSuccessStatusCode);
        }

        return job;
    }

    internal static object Choice(string option, string? cooler = null, long total = 2880) =>
        new
        {
            option,
            title = $"It is {option}",
            cooler,
            totalMinor = total,
            currency = "EUR",
            lines = new[] { new { what = "Labour, 30 min", netMinor = 2400 } },
        };

    [Fact]
    public async Task A_choice_is_kept_with_its_quote_and_leads_the_job_and_a_change_of_mind_is_kept_too()
    {
        string job = await NewAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}/options");
        Assert.Equal("quiet", sheet.Text("wish"));
        Assert.Contains(sheet.GetProperty("options").GetProperty("open").EnumerateArray(), option => option.Text("id") == "leave");
        Assert.All(sheet.GetProperty("options").GetProperty("closed").EnumerateArray(), option =>
            Assert.True(option.Text("whyNot").Length > 10)
        );
        object first = Choice("cap-power");
        JsonElement job1 = await App.ReadAsync(await app.SaveAsync(job, "choice", first));
        Assert.Equal("cap", job1.GetProperty("fields").Text("decisionRoute"));
        Assert.Equal(
            ["cap-power"],
            (await app.GetAsync($"/api/jobs/{job}/repair")).GetProperty("chosen").EnumerateArray().Select(act => act.GetString()!)
        );
        JsonElement job2 = await App.ReadAsync(await app.SaveAsync(job, "choice", Choice("undervolt", total: 4800), first));
        Assert.Equal("repair", job2.GetProperty("fields").Text("decisionRoute"));
        sheet = await app.GetAsync($"/api/jobs/{job}/options");
        Assert.Equal(
            ("undervolt", 4800),
            (sheet.GetProperty("chosen").Text("option"), sheet.GetProperty("chosen").GetProperty("totalMinor").GetInt64())
        );
        Assert.Equal(
            ["It is undervolt", "It is cap-power"],
            sheet.GetProperty("choices").EnumerateArray().Select(made => made.Text("title"))
        );
        Assert.All(sheet.GetProperty("choices").EnumerateArray(), made => Assert.True(made.Text("by").Length > 0));
        // What somebody else chose in the same moment is shown, not overwritten.
        Assert.Equal(HttpStatusCode.Conflict, (await app.SaveAsync(job, "choice", Choice("leave"), first)).StatusCode);
    }

    [Fact]
    public async Task A_choice_that_cannot_be_is_refused_and_changes_nothing()
    {
        string job = await NewAsync();
        async Task<string> Sentence(object choice)
        {
            HttpResponseMessage answer = await app.SaveAsync(job, "choice", choice);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
            return (await App.ReadAsync(answer)).Text("detail");
        }

        Assert.Contains("“weld” is no option", await Sentence(Choice("weld")), StringComparison.Ordinal);
        Assert.Contains("“Gone Tower” is not among", await Sentence(Choice("another-cooler", "Gone Tower")), StringComparison.Ordinal);
        Assert.Contains("Expected an option", await Sentence(new { option = "clean" }), StringComparison.Ordinal);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        Assert.Equal(JsonValueKind.Null, sheet.GetProperty("fields").GetProperty("decisionRoute").ValueKind);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await app.Client.GetAsync($"/api/jobs/{(await app.NewJobAsync()).Text("id")}/options")).StatusCode
        );
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{Guid.NewGuid()}/options")).StatusCode);
    }

    [Fact]
    public async Task A_retired_cooler_is_no_choice_any_more()
    {
        string job = await NewAsync();
        Assert.True((await app.SaveAsync(job, "choice", Choice("another-cooler", "Tower Larger"))).IsSuccessStatusCode);
        Assert.Equal("Tower Larger", (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields").Text("repairCooler"));
        JsonElement part = (await app.GetAsync("/api/parts")).EnumerateArray().Single(one => one.Text("name") == "Tower Larger");
        await app.Client.PutAsync($"/api/parts/{part.Text("id")}/retired?retired=true", null);
        string other = (await app.NewJobAsync()).Text("id");
        JsonElement refused = await App.ReadAsync(await app.SaveAsync(other, "choice", Choice("another-cooler", "Tower Larger")));
        Assert.Contains("has been retired", refused.Text("detail"), StringComparison.Ordinal);
        await app.Client.PutAsync($"/api/parts/{part.Text("id")}/retired?retired=false", null);
    }
}
