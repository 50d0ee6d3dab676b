using System.Net.Http.Json;

namespace Remedos.Server.Tests.Servers;

/// <summary>Figures, traces and the log, sent to a collector by its protocol.</summary>
public sealed class CollectorTests(CollectorTests.Told app) : IClassFixture<CollectorTests.Told>
{
    public sealed class Told : App
    {
        internal StandInCollector Collector { get; } = new();

        /// <summary>Sent at once, with what the log says of a start.</summary>
        protected override Dictionary<string, string> Settings =>
            new()
            {
                ["Otlp"] = Collector.Address,
                ["OTEL_METRIC_EXPORT_INTERVAL"] = "300",
                ["OTEL_BSP_SCHEDULE_DELAY"] = "300",
                ["OTEL_BLRP_SCHEDULE_DELAY"] = "300",
                ["Serilog:MinimumLevel:Override:Microsoft.Hosting.Lifetime"] = "Information",
            };

        public override async ValueTask InitializeAsync()
        {
            await Collector.StartAsync();
            await base.InitializeAsync();
        }

        public override async ValueTask DisposeAsync()
        {
            await base.DisposeAsync();
            await Collector.DisposeAsync();
        }
    }

    private async Task<string> UntilAsync(string kind, string word)
    {
        for (int look = 0; look < 100; look++)
        {
            if (app.Collector.Text(kind) is var text && text.Contains(word, StringComparison.Ordinal))
            {
                return text;
            }

            await Task.Delay(200);
        }

        Assert.Fail($"No “{word}” came among the {kind}: {app.Collector.Text(kind)}");
        return "";
    }

    [Fact]
    public async Task A_collector_is_sent_figures_traces_and_the_log_and_no_secret()
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        // A person who errs, and what was typed.
        using HttpClient stranger = app.Bare();
        await App.StepInAsync(stranger);
        using HttpResponseMessage refused = await stranger.PostAsJsonAsync(
            "/api/sign-in",
            new { name = "nobody", password = "a wrong tide under lanterns" }
        );
        Assert.False(refused.IsSuccessStatusCode);

        foreach (string figure in new[] { "remedos.queue.age", "remedos.imports", "http.server.request.duration", "db.client" })
        {
            await UntilAsync(StandInCollector.Metrics, figure);
        }

        await UntilAsync(StandInCollector.Traces, "/api/jobs/{id:guid}");
        string traces = await UntilAsync(StandInCollector.Traces, app.Database),
            log = await UntilAsync(StandInCollector.Logs, "Content root path");
        Assert.All(new[] { traces, log, app.Collector.Text(StandInCollector.Metrics) }, sent =>
        {
            Assert.DoesNotContain("wrong tide", sent, StringComparison.Ordinal);
            Assert.DoesNotContain("Password=", sent, StringComparison.OrdinalIgnoreCase);
        });
        Assert.Equal(0, app.Collector.Refused);
    }
}
