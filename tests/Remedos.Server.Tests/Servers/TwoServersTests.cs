using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Tests.Bays;

namespace Remedos.Server.Tests.Servers;

/// <summary>Two servers on one database: whichever is asked, it is one Remedos.</summary>
public sealed class TwoServersTests(TwoServersTests.Pair pair) : IClassFixture<TwoServersTests.Pair>
{
    /// <summary>Two servers that begin at once, and the Redis between them.</summary>
    public sealed class Pair : App
    {
        private WebApplicationFactory<Program>? _second;

        internal RedisOfTests Redis { get; } = new();

        protected override Dictionary<string, string> Settings => new() { ["Redis"] = Redis.Address };

        /// <summary>By way of the second server, as the same person with the same cookie and token.</summary>
        public HttpClient Other { get; private set; } = null!;

        public IServiceProvider OtherServices => _second!.Services;

        public HttpMessageHandler OtherHandler() => _second!.Server.CreateHandler();

        public override async ValueTask InitializeAsync()
        {
            Redis.Start();
            await AdminAsync($"CREATE DATABASE {Database}");
            _second = Host();
            Task<HttpClient> second = Task.Run(() => _second.CreateClient(new() { HandleCookies = false }));
            await StartAsync();
            Other = await second;
            foreach ((string name, IEnumerable<string> values) in Client.DefaultRequestHeaders)
            {
                Other.DefaultRequestHeaders.Add(name, values);
            }
        }

        public override async ValueTask DisposeAsync()
        {
            await _second!.DisposeAsync();
            await base.DisposeAsync();
            Redis.Dispose();
        }
    }

    [Fact]
    public async Task Servers_that_begin_at_once_make_one_workshop_and_believe_each_other()
    {
        await using RemedosContext context = await pair.ContextAsync();
        Assert.Equal(
            (1, 1),
            (await context.Workshops.CountAsync(one => one.Name == "My workshop"), await context.Installations.CountAsync())
        );
        Assert.Equal(1, await context.DataProtectionKeys.CountAsync());
        // The token and the cookie are the first server's.
        string job = (await App.ReadAsync(await pair.Other.PostAsync("/api/jobs", null))).Text("id");
        HttpResponseMessage saved = await pair.Other.PatchAsJsonAsync(
            $"/api/jobs/{job}/fields/owner",
            new { value = "By the other", @base = (string?)null }
        );
        Assert.Equal(HttpStatusCode.OK, saved.StatusCode);
        Assert.Equal("By the other", (await pair.GetAsync($"/api/jobs/{job}")).GetProperty("fields").Text("owner"));
    }

    /// <summary>Whoever prepares the database may take long; the others wait for it, beyond any patience with a statement.</summary>
    [Fact]
    public async Task A_server_waits_for_the_one_that_prepares_the_database()
    {
        await using RemedosContext holder = await pair.ContextAsync();
        await holder.Database.OpenConnectionAsync();
        await holder.Database.ExecuteSqlAsync($"SELECT pg_advisory_lock({Startup.PreparingLock})");
        Task waiting = Startup.PrepareAsync(new ImpatientServices(pair.OtherServices), false, default);
        await Task.Delay(TimeSpan.FromSeconds(3));
        Assert.False(waiting.IsCompleted);
        await holder.Database.ExecuteSqlAsync($"SELECT pg_advisory_unlock({Startup.PreparingLock})");
        await waiting.WaitAsync(TimeSpan.FromSeconds(30));
    }

    /// <summary>Contexts whose statements may take a second and no longer.</summary>
    private sealed class ImpatientServices(IServiceProvider services) : IServiceProvider, IDbContextFactory<RemedosContext>
    {
        public object? GetService(Type serviceType) =>
            serviceType == typeof(IDbContextFactory<RemedosContext>) ? this : services.GetService(serviceType);

        public RemedosContext CreateDbContext()
        {
            RemedosContext context = services.GetRequiredService<IDbContextFactory<RemedosContext>>().CreateDbContext();
            context.Database.SetCommandTimeout(1);
            return context;
        }
    }

    [Fact]
    public async Task What_one_server_is_told_the_other_answers_at_once()
    {
        HttpResponseMessage kept = await pair.Client.PostAsJsonAsync(
            "/api/parts",
            new
            {
                kind = "fan",
                name = "Tern 120",
                values = new
                {
                    fan = new
                    {
                        sizeMm = 120,
                        minRpm = 400,
                        maxRpm = 1600,
                    },
                },
            }
        );
        Assert.True(kept.IsSuccessStatusCode, await kept.Content.ReadAsStringAsync());
        Assert.Contains("Tern 120", await pair.Other.GetStringAsync("/api/parts"), StringComparison.Ordinal);
        string job = (await pair.NewJobAsync()).Text("id");
        for (int i = 0; i < 12; i++)
        {
            HttpClient server = i % 2 == 0 ? pair.Client : pair.Other,
                other = i % 2 == 0 ? pair.Other : pair.Client;
            HttpResponseMessage saved = await server.PatchAsJsonAsync(
                $"/api/jobs/{job}/fields/noticed",
                new { value = $"{i}", @base = i == 0 ? null : $"{i - 1}" }
            );
            Assert.Equal(HttpStatusCode.OK, saved.StatusCode);
            JsonElement seen = await other.GetFromJsonAsync<JsonElement>($"/api/jobs/{job}");
            Assert.Equal($"{i}", seen.GetProperty("fields").Text("noticed"));
            Assert.Contains($"\"noticed\":\"{i}\"", await server.GetStringAsync($"/api/jobs/{job}"), StringComparison.Ordinal);
        }
    }

    /// <summary>A page of one server follows a bay whose readings go now to one, now to the other.</summary>
    [Fact]
    public async Task A_page_hears_all_of_a_bay_that_tells_either_server_and_goes_on_without_redis()
    {
        Sender sender = await Sender.ConnectAsync(pair);
        await sender.SendAsync(1, 1);
        await using Page page = await Page.OpenAsync(pair, sender.Id);
        for (int i = 2; i <= 40; i++)
        {
            await sender.PostAsync(Sender.Lines(i, i), i % 2 == 0 ? pair.Client : pair.Other);
        }

        await UntilAsync(() => Task.FromResult(page.Heard(Enumerable.Range(2, 39))));

        // Redis is gone: the page looks for itself, and misses nothing.
        pair.Redis.Kill();
        for (int i = 41; i <= 60; i++)
        {
            HttpResponseMessage taken = await sender.PostAsync(Sender.Lines(i, i), pair.Client);
            Assert.Equal(HttpStatusCode.OK, taken.StatusCode);
        }

        await UntilAsync(() => Task.FromResult(page.Heard(Enumerable.Range(2, 59))));
        await UntilAsync(async () => (await pair.GetAsync("/health")).GetProperty("status").GetString() == "degraded");
        Assert.Contains("Redis does not answer", (await pair.GetAsync("/health")).Text("sentence"), StringComparison.Ordinal);

        // It is back, and so are news at once.
        pair.Redis.Start();
        await UntilAsync(async () => (await pair.GetAsync("/health")).GetProperty("status").GetString() == "healthy");
        for (int i = 61; i <= 80; i++)
        {
            await sender.PostAsync(Sender.Lines(i, i), pair.Client);
        }

        await page.HasAsync([.. Enumerable.Range(2, 79)]);
    }

    /// <summary>A guided run whose batches alternate between two servers is the run that one server makes of them.</summary>
    [Fact]
    public async Task A_run_that_is_told_to_both_servers_goes_as_with_one()
    {
        List<string>[] stages =
        [
            [],
            [],
        ];
        List<long> bytes = [];
        for (int round = 0; round < 2; round++)
        {
            Sender sender = await Sender.ConnectAsync(pair);
            await sender.PostAsync("{\"hello\":{\"obeys\":[\"load\"]}}");
            await sender.SendAsync(1, 1);
            string job = (await pair.NewJobAsync()).Text("id");
            Assert.Equal(HttpStatusCode.OK, (await sender.StartAsync(job, "before", "usual", loadSeconds: 300)).StatusCode);
            double load = 0;
            string stage = "";
            for (long next = 2; stage is not ("done" or "stopped") && next < 5000; next += 15)
            {
                HttpClient server = round == 1 && next / 15 % 2 == 1 ? pair.Other : pair.Client;
                JsonElement answer = await App.ReadAsync(
                    await sender.PostAsync(Sender.Lines(next, next + 14, chipC: load > 0 ? 75 : 40, watts: load > 0 ? 120 : 20), server)
                );
                (stage, load) = (answer.Text("stage"), answer.GetProperty("order").GetProperty("load").GetDouble());
                stages[round].Add(stage);
            }

            Assert.Equal("done", stage);
            JsonElement sheet = await pair.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
            bytes.Add(sheet.GetProperty("runs")[0].GetProperty("fileBytes").GetInt64());
        }

        Assert.Equal(stages[0], stages[1]);
        Assert.Equal(bytes[0], bytes[1]);
    }

    /// <summary>Logs that are taken by both servers at once are each read once, by whichever has time.</summary>
    [Fact]
    public async Task Logs_that_both_servers_take_are_each_read_once()
    {
        string job = (await pair.NewJobAsync()).Text("id"),
            mount = await pair.MountAsync(job, "before"),
            text = System.Text.Encoding.UTF8.GetString(App.Example("02-paste-before.csv"));
        await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(async i =>
                {
                    // Each is a file of its own: one row less.
                    string[] lines = text.Split('\n');
                    using ByteArrayContent log = new(System.Text.Encoding.UTF8.GetBytes(string.Join('\n', lines[..^(i + 1)])));
                    HttpResponseMessage taken = await (i % 2 == 0 ? pair.Client : pair.Other).PostAsync(
                        $"/api/jobs/{job}/logs?mount={mount}&fileName={i}.csv",
                        log
                    );
                    Assert.Equal(HttpStatusCode.Accepted, taken.StatusCode);
                })
        );
        JsonElement sheet = await pair.SheetWhenAsync(job, sheet => sheet.Count("imports") == 0 && sheet.Count("runs") >= 8);
        Assert.Equal(8, sheet.Count("runs"));
        Assert.Equal(
            8,
            sheet.GetProperty("runs").EnumerateArray().Select(run => run.GetProperty("fileBytes").GetInt64()).Distinct().Count()
        );
    }

    /// <summary>A page of one server is closed when its sign-in goes to another workshop by way of the other.</summary>
    [Fact]
    public async Task A_page_does_not_follow_the_workshop_that_its_sign_in_has_left()
    {
        using HttpClient lead = await pair.OtherWorkshopAsync();
        JsonElement added = await App.ReadAsync(await lead.PostAsJsonAsync("/api/people", new { name = "Elsewhere", role = "technician" }));
        string link = (await App.ReadAsync(await lead.PostAsync($"/api/people/{added.Text("id")}/invitation", null))).Text("address");
        Guid home = (await pair.GetAsync("/api/session")).GetProperty("me").GetProperty("workshopId").GetGuid();
        JsonElement joined = await App.ReadAsync(
            await pair.Client.PostAsJsonAsync("/api/join/account", new { token = link.Split('#')[1] })
        );
        Sender sender = await Sender.ConnectAsync(pair);
        await using Page page = await Page.OpenAsync(pair, sender.Id);
        try
        {
            HttpResponseMessage changed = await pair.Client.PostAsJsonAsync(
                "/api/session/workshop",
                new { workshop = joined.Text("workshop") }
            );
            Assert.True(changed.IsSuccessStatusCode, await changed.Content.ReadAsStringAsync());
            await UntilAsync(() => Task.FromResult(!page.IsOpen));
        }
        finally
        {
            await pair.Client.PostAsJsonAsync("/api/session/workshop", new { workshop = home });
        }
    }

    private static async Task UntilAsync(Func<Task<bool>> holds)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromMinutes(1));
        while (!await holds())
        {
            await Task.Delay(100, limit.Token);
        }
    }

    /// <summary>A page of the second server that shows one bay, and keeps what it hears.</summary>
    private sealed class Page : IAsyncDisposable
    {
        private readonly SortedSet<int> _heard = [];
        private readonly HubConnection _live;
        private readonly Func<Task<JsonElement>> _ask;

        private Page(HubConnection live, string bay, Func<Task<JsonElement>> ask)
        {
            (_live, _ask) = (live, ask);
            live.On<JsonElement>("bays", all =>
            {
                lock (_heard)
                {
                    foreach (
                        JsonElement fresh in all.EnumerateArray()
                            .Where(news => news.GetProperty("bay").Text("id") == bay)
                            .Select(news => news.GetProperty("fresh"))
                            .Where(fresh => fresh.ValueKind == JsonValueKind.Object)
                    )
                    {
                        _heard.UnionWith(Enumerable.Range(fresh.GetProperty("fromSequence").GetInt32(), fresh.Count("seconds")));
                    }
                }
            });
        }

        public static async Task<Page> OpenAsync(Pair pair, string bay)
        {
            string cookie = await pair.CookieAsync(null);
            Page page = new(
                new HubConnectionBuilder()
                    .WithUrl("http://127.0.0.1/live", options =>
                    {
                        options.Headers["Cookie"] = cookie;
                        options.HttpMessageHandlerFactory = _ => pair.OtherHandler();
                        options.Transports = HttpTransportType.LongPolling;
                    })
                    .Build(),
                bay,
                () => pair.Other.GetFromJsonAsync<JsonElement>($"/api/bays/{bay}/readings")
            );
            await page._live.StartAsync();
            await page._live.InvokeAsync("Watch", new[] { bay });
            return page;
        }

        /// <summary>
        /// Waits until all these readings have been heard; of a gap it asks, as a page does, and of the last it has to hear.
        /// </summary>
        public async Task HasAsync(IReadOnlyCollection<int> readings)
        {
            await UntilAsync(() =>
            {
                lock (_heard)
                {
                    return Task.FromResult(_heard.Contains(readings.Max()));
                }
            });
            JsonElement all = await _ask();
            lock (_heard)
            {
                _heard.UnionWith(Enumerable.Range(all.GetProperty("fromSequence").GetInt32(), all.Count("seconds")));
                Assert.Superset(readings.ToHashSet(), _heard.ToHashSet());
            }
        }

        public bool IsOpen => _live.State == HubConnectionState.Connected;

        /// <summary>Whether it has heard all these by news alone.</summary>
        public bool Heard(IEnumerable<int> readings)
        {
            lock (_heard)
            {
                return _heard.IsSupersetOf(readings);
            }
        }

        public ValueTask DisposeAsync() => _live.DisposeAsync();
    }
}
