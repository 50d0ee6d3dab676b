using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;

namespace Remedos.Server.Tests.Api;

/// <summary>Single requests that once ended the server, or broke a page for everybody.</summary>
public sealed class WedgeTests(App app) : IClassFixture<App>
{
    [Theory]
    [InlineData(13)]
    [InlineData(2000)]
    [InlineData(4000)]
    public async Task A_search_of_many_words_is_refused_with_a_sentence(int words)
    {
        HttpResponseMessage answer = await app.Client.GetAsync($"/api/jobs?search={string.Join('+', Enumerable.Repeat("a", words))}");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Equal("A search takes at most 12 words; this is a longer text.", (await App.ReadAsync(answer)).Text("detail"));
    }

    [Fact]
    public async Task All_words_of_a_search_are_looked_for_wherever_they_stand()
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "owner", "Lantern choir");
        await app.SaveAsync(job, "machine", "100 % silent_tower \\ loud");
        async Task<int> FoundAsync(string search) =>
            (await app.GetAsync($"/api/jobs?search={Uri.EscapeDataString(search)}")).GetArrayLength();
        foreach (
            (string search, int found) in new[]
            {
                ("lantern SILENT_t", 1),
                ("100 %", 1),
                ("\\", 1),
                ("a c d e h i l n o r s t", 1),
                ("lantern bakery", 0),
                ("silentxtower", 0),
            }
        )
        {
            Assert.Equal((search, found), (search, await FoundAsync(search)));
        }
    }

    /// <summary>Nothing of what is refused is stored, and what is stored breaks no list.</summary>
    [Theory]
    [InlineData("""{"kind":"cooler","name":"Poison 1","values":{"cooler":{"id":"","name":"","kind":"tower","sockets":[null]}}}""", 400)]
    [InlineData("""{"kind":"case","name":"Poison 2","values":{"case":{"radiators":[null]}}}""", 400)]
    [InlineData(
        """{"kind":"cooler","name":"Poison 3","values":{"cooler":{"id":"","name":"","kind":"tower","fans":"""
            + """[{"sizeMm":120,"minRpm":300,"maxRpm":1500,"noiseAtMaxDba":1e308}]}}}""",
        400
    )]
    [InlineData(
        """{"kind":"cooler","name":"Poison 4","values":{"cooler":{"id":"","name":"","kind":"tower","fans":"""
            + """[{"sizeMm":120,"minRpm":300,"maxRpm":1500,"currentA":0.2,"noiseAtMaxDba":99999}]}}}""",
        422
    )]
    [InlineData("""{"kind":"memory"}""", 400)]
    [InlineData("""{"kind":"memory","name":null}""", 400)]
    public async Task A_part_that_cannot_be_is_refused_and_not_stored(string json, int status)
    {
        HttpResponseMessage answer = await app.Client.PostAsync("/api/parts", new StringContent(json, Encoding.UTF8, "application/json"));
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.True((await App.ReadAsync(answer)).Text("detail").Length is > 10 and < 300);
        Assert.DoesNotContain("Poison", await app.Client.GetStringAsync("/api/parts"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_noise_beyond_all_bounds_is_refused_in_a_forms_cell_too()
    {
        HttpResponseMessage typed = await app.Client.PostAsJsonAsync(
            "/api/parts/typed",
            new
            {
                kind = "cooler",
                name = "Loud",
                cells = new Dictionary<string, string> { ["kind"] = "tower", ["fans"] = "120:300:1500:0.2:99999" },
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, typed.StatusCode);
    }

    [Theory]
    [InlineData("mount.1.1.mountedAt", "0001-01-01T00:00:00Z")]
    [InlineData("mount.1.1.mountedAt", "9999-01-01T00:00:00Z")]
    [InlineData("handedOverAt", "0001-01-01T00:00:00Z")]
    [InlineData("recheckOn", "0001-01-01")]
    [InlineData("purchasedOn", "9999-01-01")]
    [InlineData("airPlan", null)]
    public async Task Days_and_plans_that_cannot_be_are_refused(string field, string? value)
    {
        string job = (await app.NewJobAsync()).Text("id");
        object? what = value is null ? new { fans = new object?[] { null }, headers = Array.Empty<object>() } : value;
        HttpResponseMessage answer = await app.SaveAsync(job, field, what);
        Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.UnprocessableEntity, HttpStatusCode.BadRequest });
        Assert.NotEmpty((await App.ReadAsync(answer)).Text("detail"));
    }

    [Fact]
    public async Task Formulas_leave_as_text_and_come_back_as_they_were()
    {
        foreach (string name in new[] { "=cmd|'/C calc'!A0", "@SUM(1)", "+1+1", "-2+3", "plain" })
        {
            Assert.Equal(
                HttpStatusCode.OK,
                (
                    await app.Client.PostAsJsonAsync(
                        "/api/parts/typed",
                        new
                        {
                            kind = "board",
                            name,
                            cells = new Dictionary<string, string>(),
                        }
                    )
                ).StatusCode
            );
        }

        string csv = await app.Client.GetStringAsync("/api/parts/file?kind=board");
        Assert.All(csv.Split('\n').Skip(1).Where(line => line.Length > 0), line => Assert.DoesNotMatch("(^|,)\"?[=+@-]", line));
        JsonElement back = await App.ReadAsync(
            await app.Client.PostAsync("/api/parts/file?apply=false", new StringContent(csv, Encoding.UTF8, "text/plain"))
        );
        Assert.Equal(
            (0, 0, 5),
            (back.GetProperty("new").GetInt32(), back.GetProperty("wrong").GetInt32(), back.GetProperty("same").GetInt32())
        );
    }

    [Theory]
    [InlineData("""[{"part":"fan","name":"a","name":"b"}]""")]
    [InlineData("part,name\ncase,\"open")]
    [InlineData("part,name,depthMm\ncase,a\0b,300")]
    public async Task A_file_of_parts_that_cannot_be_read_says_where(string file)
    {
        HttpResponseMessage answer = await app.Client.PostAsync(
            "/api/parts/file?apply=true",
            new StringContent(file, Encoding.UTF8, "text/plain")
        );
        Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.UnprocessableEntity, HttpStatusCode.OK });
    }

    [Fact]
    public async Task Failing_answers_keep_the_page_to_itself_too()
    {
        HttpResponseMessage refused = await app.Client.GetAsync("/api/nothing-here");
        Assert.Equal("nosniff", refused.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.Contains("frame-ancestors 'none'", refused.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
    }
}
