using System.Net;
using System.Text.Json;
using Microsoft.Extensions.Configuration;
using Npgsql;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests;

/// <summary>The safety of the page, and what holds before the first request.</summary>
public sealed class HostingTests(HostingTests.Demo app) : IClassFixture<HostingTests.Demo>
{
    public class Demo : App
    {
        protected override Dictionary<string, string> Settings => new() { ["Demo"] = "true" };
    }

    /// <summary>Statements are kept prepared and planned for pages, unless the connection string says otherwise.</summary>
    [Theory]
    [InlineData("Host=a", 50, "-c jit=off -c random_page_cost=1.1")]
    [InlineData("Host=a;Max Auto Prepare=0", 0, "-c jit=off -c random_page_cost=1.1")]
    [InlineData("Host=a;Options=-c jit=on", 50, "-c jit=on")]
    public void A_connection_says_what_nobody_said_for_it(string given, int prepared, string options)
    {
        IConfiguration configuration = new ConfigurationBuilder()
            .AddInMemoryCollection(new Dictionary<string, string?> { ["ConnectionStrings:Remedos"] = given })
            .Build();
        NpgsqlConnectionStringBuilder connection = new(Databases.Connection(configuration, "Remedos"));
        Assert.Equal((prepared, options), (connection.MaxAutoPrepare, connection.Options));
        Assert.Null(Databases.Connection(configuration, "Replica"));
    }

    [Fact]
    public async Task The_demo_workshop_has_machines_at_many_stages_and_is_loaded_once()
    {
        JsonElement[] tags = [.. (await app.GetAsync("/api/jobs")).EnumerateArray()];
        Assert.True(tags.Length >= 5);
        Assert.True(tags.Select(tag => tag.Text("waitsFor")).Distinct().Count() >= 5);
        Assert.Equal("Fixed:", tags.Single(tag => tag.Text("tag") == "SL-0412").GetProperty("headline").Text("lead"));
        await app.StartAsync();
        Assert.Equal(tags.Length, (await app.GetAsync("/api/jobs")).GetArrayLength());
    }

    /// <summary>
    /// The years before teach: eight loops of one series came in, one of them fitted here, and seven had worn out, which the records show
    /// with the machines behind it, and which proposes when the next one is looked at.
    /// </summary>
    [Fact]
    public async Task A_series_that_wore_out_here_is_remembered()
    {
        JsonElement records = await app.GetAsync("/api/records");
        JsonElement rill = records.GetProperty("series").EnumerateArray().Single(series => series.Text("name") == "Rill 240");
        Assert.StartsWith("7 of 8 had failed; one in four by 29 months", rill.Text("sentence"), StringComparison.Ordinal);
        Assert.Equal((8, 7), (rill.GetProperty("machines").GetInt32(), rill.GetProperty("failures").GetInt32()));
        JsonElement behind = await app.GetAsync("/api/records/behind?series=rill%20240%20");
        Assert.Equal(
            (8, 7),
            (behind.Count("machines"), behind.GetProperty("machines").EnumerateArray().Count(one => one.GetProperty("failed").GetBoolean()))
        );
        JsonElement first = behind.GetProperty("curve")[0];
        Assert.True(first.GetProperty("low").GetDouble() < first.GetProperty("share").GetDouble());
        // Measured on this bench: after a repair, by parts that are known.
        Assert.All(records.GetProperty("league").EnumerateArray(), cooler =>
            Assert.InRange(cooler.GetProperty("factor").GetDouble(), 0.5, 2)
        );
        Assert.NotEqual(0, records.Count("league"));
        string[] table = (await app.Client.GetStringAsync("/api/records/series.csv")).TrimEnd().Split("\r\n");
        Assert.Equal(("series,job,age,worn out", ",,months,yes or no"), (table[0], table[1]));
        Assert.Equal(8, table.Count(line => line.StartsWith("Rill 240,SL-", StringComparison.Ordinal)));

        // The one on the bench now is not counted for itself.
        string id = (await app.GetAsync("/api/jobs?search=SL-0420"))[0].Text("id");
        Assert.Contains((await app.GetAsync($"/api/jobs/{id}/recheck")).EnumerateArray(), one =>
            one.Text("why").Contains("that came in had failed, one in four by", StringComparison.Ordinal)
        );
    }

    /// <summary>
    /// A figure opens its machines, and on each machine's sheet just so many runs say that they count in it.
    /// </summary>
    [Fact]
    public async Task Runs_say_in_which_figures_they_count()
    {
        JsonElement records = await app.GetAsync("/api/records");
        int told = 0;
        async Task CountAsync(string figure, string path)
        {
            JsonElement behind = await app.GetAsync(path);
            JsonElement machines = behind.ValueKind == JsonValueKind.Array ? behind : behind.GetProperty("machines");
            foreach (JsonElement machine in machines.EnumerateArray())
            {
                JsonElement counted = await app.GetAsync($"/api/jobs/{machine.Text("job")}/counted");
                Assert.Equal(machine.GetProperty("runs").GetInt32(), counted.EnumerateArray().Count(run => Names(run).Contains(figure)));
                told++;
            }
        }

        foreach (JsonElement cooler in records.GetProperty("league").EnumerateArray())
        {
            await CountAsync(
                $"{cooler.Text("name")} over its catalogue",
                $"/api/records/cooler?name={Uri.EscapeDataString(cooler.Text("name"))}"
            );
        }

        foreach (JsonElement trial in records.GetProperty("trials").EnumerateArray().Where(one => one.Text("kind") != "settling"))
        {
            await CountAsync(
                $"{trial.Text("one")} or {trial.Text("other")}",
                $"/api/records/trial?kind={trial.Text("kind")}&one={Uri.EscapeDataString(trial.Text("one"))}"
                    + $"&other={Uri.EscapeDataString(trial.Text("other"))}"
            );
        }

        Assert.True(told >= 5, $"{told} machines.");

        static IEnumerable<string> Names(JsonElement run) => run.GetProperty("in").EnumerateArray().Select(one => one.GetString()!);
    }

    [Fact]
    public async Task Every_answer_keeps_the_page_to_itself()
    {
        HttpResponseMessage answer = await app.Client.GetAsync("/api/session");
        string policy = string.Join(' ', answer.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
        Assert.Contains("frame-ancestors 'none'", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        Assert.Equal("same-origin", answer.Headers.GetValues("Referrer-Policy").Single());
        Assert.True(answer.Headers.CacheControl!.NoStore);
        Assert.Equal("application/json; charset=utf-8", answer.Content.Headers.ContentType!.ToString());
        Assert.False(answer.Headers.Contains("Access-Control-Allow-Origin"));
        Assert.Equal("nosniff", answer.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.False(answer.Headers.Contains("Server"));
    }

    [Fact]
    public async Task A_change_without_the_token_is_refused_and_changes_nothing()
    {
        int before = (await app.GetAsync("/api/jobs")).GetArrayLength();
        using HttpRequestMessage request = new(HttpMethod.Post, "/api/jobs");
        string? token = app.Client.DefaultRequestHeaders.GetValues("X-Remedos-Token").Single();
        app.Client.DefaultRequestHeaders.Remove("X-Remedos-Token");
        HttpResponseMessage refused = await app.Client.SendAsync(request);
        app.Client.DefaultRequestHeaders.Add("X-Remedos-Token", token);
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("reload it", (await App.ReadAsync(refused)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal(before, (await app.GetAsync("/api/jobs")).GetArrayLength());
    }

    /// <summary>Folders, sources, settings and what only debugs are nobody's to read.</summary>
    [Theory]
    [InlineData("TRACE", "/api/session", HttpStatusCode.NotFound)]
    [InlineData("GET", "/.git/config", HttpStatusCode.NotFound)]
    [InlineData("GET", "/appsettings.json", HttpStatusCode.NotFound)]
    [InlineData("GET", "/assets/", HttpStatusCode.NotFound)]
    [InlineData("GET", "/..%2f..%2fetc/passwd", HttpStatusCode.NotFound)]
    public async Task Nothing_but_the_page_and_its_interface_is_served(string method, string path, HttpStatusCode expected)
    {
        using HttpRequestMessage request = new(new HttpMethod(method), path);
        using HttpResponseMessage answer = await app.Client.SendAsync(request);
        string body = await answer.Content.ReadAsStringAsync();
        Assert.True(
            answer.StatusCode == expected
                || (
                    answer.Content.Headers.ContentType?.MediaType == "text/html"
                    && body.Contains("<div id=\"root\"", StringComparison.Ordinal)
                ),
            $"{(int)answer.StatusCode} {body}"
        );
        Assert.DoesNotContain("ConnectionStrings", body, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Another_hosts_name_is_refused()
    {
        using HttpRequestMessage request = new(HttpMethod.Get, "/api/session");
        request.Headers.Host = "elsewhere.example";
        Assert.Equal(HttpStatusCode.BadRequest, (await app.Client.SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task A_wrong_address_and_a_wrong_body_get_a_sentence()
    {
        HttpResponseMessage nowhere = await app.Client.GetAsync("/api/nowhere");
        Assert.Equal(HttpStatusCode.NotFound, nowhere.StatusCode);
        Assert.NotEmpty((await App.ReadAsync(nowhere)).Text("detail"));
        string id = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage garbled = await app.Client.PatchAsync(
            $"/api/jobs/{id}/fields/owner",
            new StringContent("{ \"value\": ", System.Text.Encoding.UTF8, "application/json")
        );
        string body = await garbled.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.BadRequest, garbled.StatusCode);
        Assert.DoesNotContain("Exception", body, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Health_is_told()
    {
        JsonElement health = await app.GetAsync("/health");
        Assert.Equal(("healthy", 0), (health.Text("status"), health.GetProperty("figures").GetProperty("workSetAside").GetInt32()));
        Assert.Equal("Healthy", await app.Client.GetStringAsync("/health/alive"));
    }
}
