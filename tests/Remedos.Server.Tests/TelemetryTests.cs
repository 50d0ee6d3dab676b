using System.Net;

namespace Remedos.Server.Tests;

/// <summary>What a server tells of itself, and to whom.</summary>
public sealed class TelemetryTests(App app) : IClassFixture<App>
{
    private async Task<HttpResponseMessage> FromAsync(string address, string path)
    {
        using HttpClient client = app.Bare();
        using HttpRequestMessage request = new(HttpMethod.Get, path);
        request.Headers.Add(App.FromHeader, address);
        return await client.SendAsync(request);
    }

    [Fact]
    public async Task Figures_are_read_on_this_machine_and_nowhere_else()
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        string figures = "";
        // The queue is looked at every few seconds, and an import is counted once it is kept.
        for (int look = 0; look < 50 && !figures.Contains("remedos_imports", StringComparison.Ordinal); look++)
        {
            await Task.Delay(200);
            figures = await (await FromAsync("127.0.0.1", "/metrics")).Content.ReadAsStringAsync();
        }

        foreach (string figure in new[] { "remedos_queue_waiting", "remedos_queue_age", "remedos_import_duration", "db_client" })
        {
            Assert.Contains(figure, figures, StringComparison.Ordinal);
        }

        // Figures are of the process, and other tests import in it too.
        Assert.Matches("remedos_imports_total\\{[^\n]*outcome=\"done\"[^\n]*\\} [1-9]", figures);
        Assert.DoesNotContain("remedos_", await (await FromAsync("10.0.0.9", "/metrics")).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Alive_is_told_apart_from_ready()
    {
        Assert.Equal(HttpStatusCode.OK, (await FromAsync("10.0.0.9", "/health/ready")).StatusCode);
        await app.AdminAsync($"ALTER DATABASE {app.Database} ALLOW_CONNECTIONS false");
        await app.AdminAsync($"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{app.Database}'");
        try
        {
            Assert.Equal(HttpStatusCode.OK, (await FromAsync("10.0.0.9", "/health/alive")).StatusCode);
            Assert.Equal(HttpStatusCode.ServiceUnavailable, (await FromAsync("10.0.0.9", "/health/ready")).StatusCode);
        }
        finally
        {
            await app.AdminAsync($"ALTER DATABASE {app.Database} ALLOW_CONNECTIONS true");
        }
    }

    [Fact]
    public async Task Every_answer_says_of_which_build_it_is()
    {
        HttpResponseMessage session = await app.Client.GetAsync("/api/session");
        string build = session.Headers.GetValues("Remedos-Build").Single();
        Assert.Contains(build, (await App.ReadAsync(session)).GetProperty("me").Text("version"), StringComparison.Ordinal);
        Assert.Equal(build, (await app.Client.GetAsync("/api/jobs")).Headers.GetValues("Remedos-Build").Single());
        Assert.Equal(build, (await app.Client.GetAsync("/api/nothing")).Headers.GetValues("Remedos-Build").Single());
    }
}
