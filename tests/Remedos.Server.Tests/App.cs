using System.Collections.Concurrent;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.People;
using Remedos.Data.Queue;
using Remedos.Data.Runs;

namespace Remedos.Server.Tests;

/// <summary>The real server on a real PostgreSQL database of its own, made for a test class and dropped with it.</summary>
public class App : IAsyncLifetime
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>The database server, without a database.</summary>
    protected string Server { get; } =
        Environment.GetEnvironmentVariable("REMEDOS_TEST_POSTGRES")
        ?? throw new InvalidOperationException(
            "REMEDOS_TEST_POSTGRES is not set: run these tests by ./test server, which starts a PostgreSQL for them."
        );

    private readonly DirectoryInfo _files = Directory.CreateTempSubdirectory("remedos-files-");
    private WebApplicationFactory<Program>? _host;

    /// <summary>Settings of this app beside the usual ones.</summary>
    protected virtual Dictionary<string, string> Settings => [];

    /// <summary>Services of this app beside the usual ones.</summary>
    protected virtual void Configure(IServiceCollection services) { }

    /// <summary>The address that a request says it comes from, which the test server has none of.</summary>
    public const string FromHeader = "X-Test-From";

    /// <summary>What a browser would show.</summary>
    protected virtual string Address => "http://127.0.0.1";

    /// <summary>Where requests come from that do not say.</summary>
    protected virtual string From => "127.0.0.1";

    /// <summary>Where the first lead’s link is left.</summary>
    public string LeadLink => Path.Combine(Path.GetTempPath(), $"{Database}.link");

    /// <summary>Where originals and pictures lie.</summary>
    public string Files => _files.FullName;

    public string Database { get; } = "test_" + Guid.NewGuid().ToString("N")[..12];

    public HttpClient Client { get; private set; } = null!;

    public IServiceProvider Services => _host!.Services;

    /// <summary>For clients that bring their own.</summary>
    public HttpMessageHandler Handler() => _host!.Server.CreateHandler();

    public virtual async ValueTask InitializeAsync()
    {
        await AdminAsync($"CREATE DATABASE {Database}");
        await StartAsync();
    }

    /// <summary>Starts the server, or starts it again on the same database and files.</summary>
    public async Task StartAsync()
    {
        if (_host is not null)
        {
            await _host.DisposeAsync();
        }

        _host = Host();
        Client = await ClientAsync(null);
    }

    /// <summary>A server on this database and these files.</summary>
    protected WebApplicationFactory<Program> Host() =>
        new WebApplicationFactory<Program>().WithWebHostBuilder(host =>
        {
            host.UseSetting("ConnectionStrings:Remedos", $"{Server};Database={Database};Maximum Pool Size=20");
            host.UseSetting("FileStore", _files.FullName);
            host.UseSetting("LeadLinkFile", LeadLink);
            host.UseSetting("SignInTries", "100000");
            foreach (string source in new[] { "Default", "Override:Microsoft.AspNetCore", "Override:Microsoft.EntityFrameworkCore" })
            {
                host.UseSetting($"Serilog:MinimumLevel:{source}", "Fatal");
            }

            host.ConfigureServices(services =>
            {
                services.AddSingleton<IStartupFilter>(new ComesFrom(From));
                Configure(services);
            });
            foreach ((string key, string value) in Settings)
            {
                host.UseSetting(key, value);
            }
        });

    /// <summary>What everybody's password is in these tests; one that the product takes.</summary>
    public const string Password = "slow tide under nine lanterns";

    private readonly ConcurrentDictionary<Guid, string> _cookies = new();

    /// <summary>The cookie of somebody who has signed in by name and password; of the first lead where none is named.</summary>
    public async Task<string> CookieAsync(Guid? person)
    {
        await using RemedosContext context = await ContextAsync();
        Person who = person is { } id
            ? await context.People.SingleAsync(one => one.Id == id)
            : await context.People.OrderBy(one => one.Id).FirstAsync();
        if (_cookies.TryGetValue(who.Id, out string? kept))
        {
            return kept;
        }

        if (who.AccountId is null)
        {
            (who.AccountId, who.Role) = (
                await AccountAsync($"{who.Name.ToLowerInvariant()}-{who.Id:N}"[..20]),
                person is null ? Role.Lead : who.Role
            );
            await context.SaveChangesAsync();
        }

        using HttpClient client = Bare();
        await StepInAsync(client);
        Account account = await context.Users.SingleAsync(one => one.Id == who.AccountId);
        // The demo's people have no passwords.
        using HttpResponseMessage answer = account.PasswordHash is null
            ? await client.PostAsJsonAsync("/api/sign-in/touch", new { person = who.Id })
            : await client.PostAsJsonAsync("/api/sign-in", new { name = account.UserName, password = Password });
        answer.EnsureSuccessStatusCode();
        return _cookies[who.Id] = answer.Headers.GetValues("Set-Cookie").Single(IsSignIn).Split(';')[0];
    }

    /// <summary>Makes an account.</summary>
    public async Task<Guid> AccountAsync(string login)
    {
        await using AsyncServiceScope scope = Services.CreateAsyncScope();
        Account account = new() { Id = Guid.CreateVersion7(), UserName = login };
        IdentityResult made = await scope.ServiceProvider.GetRequiredService<UserManager<Account>>().CreateAsync(account, Password);
        Assert.True(made.Succeeded, string.Join(' ', made.Errors.Select(one => one.Description)));
        return account.Id;
    }

    /// <summary>A client that nobody has signed in on; it keeps its own cookies.</summary>
    public HttpClient Bare()
    {
        HttpClient client = _host!.CreateClient(
            new WebApplicationFactoryClientOptions { BaseAddress = new Uri(Address), AllowAutoRedirect = false }
        );
        client.Timeout = TimeSpan.FromMinutes(2);
        return client;
    }

    /// <summary>Whether a cookie is that of the sign-in.</summary>
    private static bool IsSignIn(string cookie) =>
        cookie.StartsWith("remedos=", StringComparison.Ordinal) || cookie.StartsWith("__Host-remedos=", StringComparison.Ordinal);

    /// <summary>Asks for the session and takes its token up, as a page does when it is opened.</summary>
    public static async Task<JsonElement> StepInAsync(HttpClient client)
    {
        JsonElement session = await client.GetFromJsonAsync<JsonElement>("/api/session");
        client.DefaultRequestHeaders.Remove("X-Remedos-Token");
        client.DefaultRequestHeaders.Add("X-Remedos-Token", session.GetProperty("token").GetString());
        return session;
    }

    /// <summary>A client of its own; of a person, or of the first lead.</summary>
    public async Task<HttpClient> ClientAsync(Guid? person)
    {
        HttpClient client = _host!.CreateClient(
            new WebApplicationFactoryClientOptions
            {
                BaseAddress = new Uri(Address),
                AllowAutoRedirect = false,
                HandleCookies = false,
            }
        );
        client.Timeout = TimeSpan.FromMinutes(2);
        string cookie = await CookieAsync(person);
        using HttpRequestMessage ask = new(HttpMethod.Get, "/api/session");
        ask.Headers.Add("Cookie", cookie);
        using HttpResponseMessage answer = await client.SendAsync(ask);
        string antiforgery = answer.Headers.GetValues("Set-Cookie").Single().Split(';')[0];
        client.DefaultRequestHeaders.Add("Cookie", $"{cookie}; {antiforgery}");
        client.DefaultRequestHeaders.Add("X-Remedos-Token", (await ReadAsync(answer)).Text("token"));
        return client;
    }

    /// <summary>Somebody else who works in a workshop, signed in.</summary>
    public async Task<HttpClient> PersonAsync(Guid workshop, Role role)
    {
        await using RemedosContext context = await ContextAsync();
        Person person = new()
        {
            Id = Guid.CreateVersion7(),
            WorkshopId = workshop,
            Name = $"A {role}",
            Role = role,
            AccountId = await AccountAsync($"{role}-{Guid.NewGuid():N}"[..18].ToLowerInvariant()),
        };
        context.People.Add(person);
        await context.SaveChangesAsync();
        return await ClientAsync(person.Id);
    }

    /// <summary>Opens another workshop in the same database, and answers with a client of it.</summary>
    public async Task<HttpClient> OtherWorkshopAsync()
    {
        await using RemedosContext context = await ContextAsync();
        Workshop workshop = new()
        {
            Id = Guid.CreateVersion7(),
            Name = "Quay End Repairs",
            TagPrefix = "QE",
            Currency = "EUR",
            TimeZone = "UTC",
            NextJobNumber = 1,
        };
        Person person = new()
        {
            Id = Guid.CreateVersion7(),
            WorkshopId = workshop.Id,
            Name = "Bram",
            Role = Role.Lead,
        };
        context.AddRange(workshop, person);
        await context.SaveChangesAsync();
        return await ClientAsync(person.Id);
    }

    public virtual async ValueTask DisposeAsync()
    {
        await _host!.DisposeAsync();
        NpgsqlConnection.ClearAllPools();
        await AdminAsync($"DROP DATABASE {Database} WITH (FORCE)");
        _files.Delete(recursive: true);
        File.Delete(LeadLink);
        GC.SuppressFinalize(this);
    }

    public async Task AdminAsync(string sql)
    {
        await using NpgsqlConnection connection = new($"{Server};Database=postgres;Pooling=false");
        await connection.OpenAsync();
        await using NpgsqlCommand command = new(sql, connection);
        await command.ExecuteNonQueryAsync();
    }

    public Task<RemedosContext> ContextAsync() => Services.GetRequiredService<IDbContextFactory<RemedosContext>>().CreateDbContextAsync();

    public async Task<JsonElement> GetAsync(string path) => await Client.GetFromJsonAsync<JsonElement>(path);

    public async Task<JsonElement> NewJobAsync() => await ReadAsync(await Client.PostAsync("/api/jobs", null));

    public Task<HttpResponseMessage> SaveAsync(string job, string field, object? value, object? @base = null) =>
        Client.PatchAsJsonAsync($"/api/jobs/{job}/fields/{field}", new { value, @base });

    /// <summary>
    /// Drops a log on the machine as it came in (“before”), or on what is on it after a change (“after”), which is made where
    /// there is
    /// none.
    /// </summary>
    public async Task<HttpResponseMessage> AddLogAsync(
        string job,
        string side,
        string fileName,
        byte[] content,
        string? conditions = null
    ) =>
        await Client.PostAsync(
            $"/api/jobs/{job}/logs?mount={await MountAsync(job, side)}&fileName={Uri.EscapeDataString(fileName)}"
                + $"{(conditions is null ? "" : $"&conditions={Uri.EscapeDataString(conditions)}")}",
            new ByteArrayContent(content)
        );

    /// <summary>Makes the next setup.</summary>
    public async Task<JsonElement> AddSetupAsync(string job, string kind, object? values = null) =>
        await ReadAsync(await Client.PostAsJsonAsync($"/api/jobs/{job}/setups", new { kind, values }));

    /// <summary>The mount of a side: the first setup's, or the last one's.</summary>
    public async Task<string> MountAsync(string job, string side)
    {
        JsonElement sheet = await GetAsync($"/api/jobs/{job}");
        if (side == "after" && sheet.Count("setups") < 2)
        {
            sheet = await AddSetupAsync(job, "repair");
        }

        JsonElement setups = sheet.GetProperty("setups"),
            setup = setups[side == "after" ? setups.GetArrayLength() - 1 : 0],
            mounts = setup.GetProperty("mounts");
        return mounts[mounts.GetArrayLength() - 1].Text("id");
    }

    /// <summary>Asks for the sheet until something holds; fails after a minute.</summary>
    public async Task<JsonElement> SheetWhenAsync(string job, Func<JsonElement, bool> holds)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromMinutes(1));
        while (true)
        {
            JsonElement sheet = await GetAsync($"/api/jobs/{job}");
            if (holds(sheet))
            {
                return sheet;
            }

            await Task.Delay(50, limit.Token);
        }
    }

    /// <summary>Puts a log that was read once in the hands of a server that died over it: taken so often, its lease run out.</summary>
    public async Task<Import> LeaveUnfinishedAsync(string job, string side, int attempts)
    {
        await using RemedosContext context = await ContextAsync();
        Import done = await context.Imports.AsNoTracking().SingleAsync(i => i.JobId == Guid.Parse(job));
        await Client.DeleteAsync($"/api/runs/{done.RunId}");
        Import left = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = done.WorkshopId,
            JobId = done.JobId,
            PersonId = done.PersonId,
            LogFileId = done.LogFileId,
            Sha256 = done.Sha256,
            MountId = Guid.Parse(await MountAsync(job, side)),
            Conditions = done.Conditions,
            State = Import.Reading,
            CreatedAt = DateTimeOffset.UtcNow,
        };
        context.Imports.Add(left);
        context.WorkItems.Add(
            new WorkItem
            {
                Id = Guid.NewGuid(),
                WorkshopId = left.WorkshopId,
                Kind = WorkItem.ImportLog,
                SubjectId = left.Id,
                CreatedAt = left.CreatedAt,
                NotBefore = left.CreatedAt,
                Attempts = attempts,
                LeaseOwner = Guid.NewGuid(),
                LeaseUntil = DateTimeOffset.UtcNow.AddSeconds(-1),
            }
        );
        await context.SaveChangesAsync();
        return left;
    }

    /// <summary>Sets a bay's run as it would be at another moment, on top of whatever readings come in between.</summary>
    public async Task SetBayAsync(string id, Func<BayRun, BayRun> change)
    {
        while (true)
        {
            await using RemedosContext context = await ContextAsync();
            Bay bay = await context.Bays.SingleAsync(b => b.Id == Guid.Parse(id));
            bay.Run = change(bay.Run!);
            try
            {
                await context.SaveChangesAsync();
                return;
            }
            catch (DbUpdateConcurrencyException)
            {
                // A batch was quicker.
            }
        }
    }

    public static async Task<JsonElement> ReadAsync(HttpResponseMessage answer) => await answer.Content.ReadFromJsonAsync<JsonElement>();

    public static byte[] Example(string name) => File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "Data", name));
}

/// <summary>Short ways through answers.</summary>
internal static class Answers
{
    public static string Text(this JsonElement element, string name) => element.GetProperty(name).GetString()!;

    public static int Count(this JsonElement element, string name) => element.GetProperty(name).GetArrayLength();
}

/// <summary>Gives each request an address to come from.</summary>
internal sealed class ComesFrom(string usual) : IStartupFilter
{
    public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
        app =>
        {
            app.Use(
                (context, rest) =>
                {
                    string from = context.Request.Headers[App.FromHeader].ToString();
                    context.Connection.RemoteIpAddress = System.Net.IPAddress.Parse(from.Length > 0 ? from : usual);
                    return rest(context);
                }
            );
            next(app);
        };
}
