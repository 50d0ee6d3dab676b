using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Configuration;
using Remedos.Data;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests.People;

/// <summary>The first lead, the demo’s door, and where the server may be reached.</summary>
public sealed class FirstDayTests(FirstDayTests.Few app) : IClassFixture<FirstDayTests.Few>
{
    /// <summary>With the usual limit of tries.</summary>
    public sealed class Few : App
    {
        protected override Dictionary<string, string> Settings => new() { ["SignInTries"] = "12" };
    }

    [Fact]
    public async Task The_first_start_leaves_a_link_for_the_lead_and_later_ones_none_unless_asked()
    {
        string first = (await File.ReadAllTextAsync(app.LeadLink)).Trim();
        Assert.Matches("^http://127\\.0\\.0\\.1:5080/join#[A-Za-z0-9_-]{43}$", first);
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(app.LeadLink));
        // By now somebody can sign in, as each test class does at its start.
        File.Delete(app.LeadLink);
        await app.StartAsync();
        Assert.False(File.Exists(app.LeadLink));

        // The link of before still leads the same person in, to a new password.
        using HttpClient client = app.Bare();
        await App.StepInAsync(client);
        JsonElement look = await App.ReadAsync(await client.PostAsJsonAsync("/api/join/look", new { token = first.Split('#')[1] }));
        Assert.Equal(("Technician", "lead", 15), (look.Text("name"), look.Text("role"), look.GetProperty("shortestPassword").GetInt32()));
        Assert.Equal(
            "Only the demo signs people in by a touch.",
            (await App.ReadAsync(await client.PostAsJsonAsync("/api/sign-in/touch", new { person = Guid.NewGuid() }))).Text("detail")
        );
    }

    [Fact]
    public async Task Whoever_tries_many_names_from_one_address_is_slowed_down()
    {
        using HttpClient client = app.Bare();
        await App.StepInAsync(client);
        HttpStatusCode[] said = await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(async i => (await client.PostAsJsonAsync("/api/sign-in", new { name = $"guess{i}", password = "no" })).StatusCode)
        );
        Assert.Contains(HttpStatusCode.TooManyRequests, said);
        // It is the sign-in that is slowed down, and nothing else.
        Assert.Equal(HttpStatusCode.OK, (await app.Client.GetAsync("/api/jobs")).StatusCode);
        await using RemedosContext context = await app.ContextAsync();
        Assert.False(await context.AccessEvents.AnyAsync(one => one.Kind == "sign-in-refused"));
    }

    [Theory]
    [InlineData("Address=192.0.2.7", "reached by TLS alone")]
    [InlineData("Address=192.0.2.7;Proxy=192.0.2.8", "set PublicAddress")]
    [InlineData("Address=192.0.2.7;Proxy=192.0.2.8;PublicAddress=https://repairs.example;Demo=true", "stays on this machine")]
    [InlineData("Address=here", "an address in figures")]
    [InlineData("Certificate=/nowhere/cert.pem", "there is no such file")]
    [InlineData("CertificateKey=/dev/null", "go together")]
    public void Beyond_this_machine_it_is_reached_by_tls_alone(string settings, string sentence)
    {
        StartupException refused = Assert.Throws<StartupException>(() => ServingAt.Of(Of(settings)));
        Assert.Contains(sentence, refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void On_this_machine_or_behind_a_named_proxy_it_starts()
    {
        Assert.False(ServingAt.Of(Of("")).Secure);
        Assert.True(ServingAt.Of(Of("Address=192.0.2.7;Proxy=192.0.2.8;PublicAddress=https://repairs.example")).Secure);
    }

    private static IConfiguration Of(string settings) =>
        new ConfigurationBuilder()
            .AddInMemoryCollection(
                settings
                    .Split(';', StringSplitOptions.RemoveEmptyEntries)
                    .Select(one => KeyValuePair.Create(one.Split('=')[0], (string?)one.Split('=')[1]))
            )
            .Build();
}

/// <summary>Behind a proxy that speaks TLS for the server.</summary>
public sealed class ProxyTests(ProxyTests.Behind app) : IClassFixture<ProxyTests.Behind>
{
    /// <summary>The test server’s own requests come from nowhere; the proxy is named as what they come from.</summary>
    public sealed class Behind : App
    {
        protected override Dictionary<string, string> Settings =>
            new()
            {
                ["Proxy"] = "192.0.2.8",
                ["PublicAddress"] = "https://repairs.example",
                ["SignInTries"] = "100000",
            };

        protected override string From => "192.0.2.8";

        protected override string Address => "https://127.0.0.1";
    }

    [Fact]
    public async Task The_proxys_word_counts_and_nobody_elses()
    {
        using HttpClient bare = app.Bare();
        async Task<(HttpStatusCode Status, string Cookies, bool HttpsFromNowOn)> AskAsync(string from, string? proto, string forwardedFor)
        {
            using HttpRequestMessage ask = new(HttpMethod.Get, "http://repairs.example/api/session");
            ask.Headers.Add(App.FromHeader, from);
            ask.Headers.Add("X-Forwarded-For", forwardedFor);
            if (proto is not null)
            {
                ask.Headers.Add("X-Forwarded-Proto", proto);
            }

            using HttpResponseMessage answer = await bare.SendAsync(ask);
            return (
                answer.StatusCode,
                answer.Headers.TryGetValues("Set-Cookie", out IEnumerable<string>? cookies) ? string.Join('\n', cookies) : "",
                answer.Headers.Contains("Strict-Transport-Security")
            );
        }

        (HttpStatusCode status, string set, bool fromNowOn) = await AskAsync("192.0.2.8", "https", "198.51.100.4");
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Contains("__Host-remedos-antiforgery", set, StringComparison.Ordinal);
        Assert.Contains("secure", set, StringComparison.OrdinalIgnoreCase);
        Assert.True(fromNowOn, "Browsers are told to come by https alone.");
        // The proxy itself says that it was plain, or somebody who is not the proxy says that it was not.
        Assert.Equal(HttpStatusCode.Forbidden, (await AskAsync("192.0.2.8", "http", "198.51.100.4")).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await AskAsync("203.0.113.9", "https", "127.0.0.1")).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await AskAsync("203.0.113.9", null, "192.0.2.8")).Status);
    }

    /// <summary>What watches over the server stands beside it; through the proxy nobody reads its figures.</summary>
    [Fact]
    public async Task Figures_are_for_this_machine_also_behind_a_proxy()
    {
        using HttpClient bare = app.Bare();
        async Task<bool> ShownAsync(string from, string? forwardedFor)
        {
            using HttpRequestMessage ask = new(HttpMethod.Get, "http://127.0.0.1/metrics");
            ask.Headers.Add(App.FromHeader, from);
            if (forwardedFor is not null)
            {
                ask.Headers.Add("X-Forwarded-For", forwardedFor);
                ask.Headers.Add("X-Forwarded-Proto", "https");
            }

            using HttpResponseMessage answer = await bare.SendAsync(ask);
            return (await answer.Content.ReadAsStringAsync()).Contains("remedos_queue_waiting", StringComparison.Ordinal);
        }

        Assert.True(await ShownAsync("127.0.0.1", null));
        Assert.False(await ShownAsync("192.0.2.8", "198.51.100.4"));
        Assert.False(await ShownAsync("198.51.100.4", "127.0.0.1"));
    }
}

/// <summary>With the key beside the database, as ./start gives it.</summary>
public sealed class KeyFileTests(KeyFileTests.Locked app) : IClassFixture<KeyFileTests.Locked>
{
    public sealed class Locked : App
    {
        public string Key { get; } = Path.Combine(Path.GetTempPath(), $"remedos-{Guid.NewGuid():N}.pfx");

        protected override Dictionary<string, string> Settings => new() { ["KeyFile"] = Key, ["SignInTries"] = "100000" };
    }

    [Fact]
    public async Task A_database_alone_opens_nothing_and_a_restart_keeps_who_is_signed_in()
    {
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(app.Key));
        await using RemedosContext context = await app.ContextAsync();
        string key = (await context.DataProtectionKeys.SingleAsync()).Xml!;
        Assert.Contains("encryptedSecret", key, StringComparison.Ordinal);
        Assert.DoesNotContain("<masterKey", key, StringComparison.Ordinal);
        string cookie = await app.CookieAsync(null);
        await app.StartAsync();
        async Task<HttpStatusCode> AskAsync()
        {
            using HttpClient client = app.Bare();
            client.DefaultRequestHeaders.Add("Cookie", cookie);
            return (await client.GetAsync("/api/jobs")).StatusCode;
        }

        Assert.Equal(HttpStatusCode.OK, await AskAsync());
        // The same database beside another key, as a dump elsewhere would be.
        File.Delete(app.Key);
        await app.StartAsync();
        Assert.Equal(HttpStatusCode.Unauthorized, await AskAsync());
        File.Delete(app.Key);
    }
}
