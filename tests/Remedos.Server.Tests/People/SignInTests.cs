using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;

namespace Remedos.Server.Tests.People;

/// <summary>How people get in and out, on the real server.</summary>
public sealed class SignInTests(App app) : IClassFixture<App>
{
    private static readonly string[] NoBrowser = [];

    /// <summary>A person with an account, and the name to sign in by.</summary>
    private async Task<(Guid Id, string Login, Guid Account)> SomebodyAsync(string name, Role role, string? pin = null)
    {
        JsonElement added = await App.ReadAsync(
            await app.Client.PostAsJsonAsync("/api/people", new { name, role = role.ToString().ToLowerInvariant() })
        );
        Guid id = added.GetProperty("id").GetGuid();
        string login = $"{name.ToLowerInvariant()}-{Guid.NewGuid():N}"[..16];
        Guid account = await app.AccountAsync(login);
        await using RemedosContext context = await app.ContextAsync();
        (await context.People.SingleAsync(one => one.Id == id)).AccountId = account;
        await context.SaveChangesAsync();
        if (pin is not null)
        {
            Assert.True((await app.Client.PutAsJsonAsync($"/api/people/{id}/pin", new { pin })).IsSuccessStatusCode);
        }

        return (id, login, account);
    }

    private async Task<HttpClient> SignedInAsync(string login)
    {
        HttpClient client = app.Bare();
        await App.StepInAsync(client);
        HttpResponseMessage answer = await client.PostAsJsonAsync("/api/sign-in", new { name = login, password = App.Password });
        Assert.True(answer.StatusCode == HttpStatusCode.NoContent, await answer.Content.ReadAsStringAsync());
        await App.StepInAsync(client);
        return client;
    }

    private static async Task<JsonElement> MeAsync(HttpClient client) => (await App.StepInAsync(client)).GetProperty("me");

    [Fact]
    public async Task A_name_and_a_password_sign_in_and_the_cookie_is_for_nobody_else()
    {
        (_, string login, _) = await SomebodyAsync("Wren", Role.Technician);
        using HttpClient client = app.Bare();
        JsonElement outside = await App.StepInAsync(client);
        Assert.Equal(JsonValueKind.Null, outside.GetProperty("me").ValueKind);
        Assert.Equal(NoBrowser, outside.GetProperty("touch").EnumerateArray().Select(one => one.Text("name")));

        foreach ((string name, string password) in new[] { (login, "wrong tide under nine lanterns"), ("nobody", App.Password) })
        {
            HttpResponseMessage wrong = await client.PostAsJsonAsync("/api/sign-in", new { name, password });
            // Whether the name is known is not told.
            Assert.Equal(HttpStatusCode.Unauthorized, wrong.StatusCode);
            Assert.StartsWith(
                "That name and password do not match.",
                (await App.ReadAsync(wrong)).Text("detail"),
                StringComparison.Ordinal
            );
        }

        HttpResponseMessage inside = await client.PostAsJsonAsync(
            "/api/sign-in",
            new { name = login.ToUpperInvariant(), password = App.Password }
        );
        string cookie = inside.Headers.GetValues("Set-Cookie").Single();
        Assert.Contains("httponly", cookie, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("samesite=strict", cookie, StringComparison.OrdinalIgnoreCase);
        // The page's token was of nobody, and is stale now.
        Assert.Equal("stale-page", (await App.ReadAsync(await client.PostAsync("/api/jobs", null))).Text("type"));
        JsonElement me = await MeAsync(client);
        Assert.Equal(("Wren", "technician", true), (me.Text("name"), me.Text("rights"), me.GetProperty("isSelf").GetBoolean()));
        Assert.Equal(HttpStatusCode.OK, (await client.PostAsync("/api/jobs", null)).StatusCode);
        // A second sign-in on top of it would be somebody else’s in this one’s tabs.
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await client.PostAsJsonAsync("/api/sign-in", new { name = login, password = App.Password })).StatusCode
        );

        using HttpClient replay = app.Bare();
        replay.DefaultRequestHeaders.Add("Cookie", cookie.Split(';')[0]);
        Assert.Equal(HttpStatusCode.OK, (await replay.GetAsync("/api/jobs")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await client.PostAsync("/api/sign-out", null)).StatusCode);
        // What was signed out is out, also for whoever kept a copy.
        Assert.Equal(HttpStatusCode.Unauthorized, (await replay.GetAsync("/api/jobs")).StatusCode);
        await using RemedosContext context = await app.ContextAsync();
        Assert.All(await context.SignIns.Select(one => one.TokenSha256).ToListAsync(), hash => Assert.Matches("^[0-9a-f]{64}$", hash));
    }

    [Theory]
    [InlineData("")]
    [InlineData(" ")]
    [InlineData("null")]
    [InlineData("5")]
    [InlineData("{}")]
    [InlineData("{\"id\":5,\"rawId\":[],\"response\":null}")]
    [InlineData("{\"id\":\"AA\",\"rawId\":\"AA\",\"type\":\"public-key\",\"clientExtensionResults\":{},\"response\":{}}")]
    public async Task What_is_no_passkey_is_refused_with_and_without_a_challenge(string credential)
    {
        using HttpClient client = app.Bare();
        await App.StepInAsync(client);
        foreach (bool challenged in new[] { false, true })
        {
            if (challenged)
            {
                Assert.True((await client.PostAsync("/api/sign-in/passkey/challenge", null)).IsSuccessStatusCode);
            }

            HttpResponseMessage answer = await client.PostAsJsonAsync("/api/sign-in/passkey", new { credential });
            Assert.Equal(HttpStatusCode.Unauthorized, answer.StatusCode);
            HttpResponseMessage added = await app.Client.PostAsJsonAsync("/api/account/passkeys", new { credential, name = "Bench" });
            Assert.True((int)added.StatusCode is 403 or 422, added.StatusCode.ToString());
        }
    }

    [Fact]
    public async Task Ten_wrong_passwords_close_the_account_for_a_while_and_are_told_to_the_lead()
    {
        (_, string login, Guid account) = await SomebodyAsync("Tern", Role.Technician);
        await using RemedosContext context = await app.ContextAsync();
        // Nine of them came from elsewhere.
        await context.Users.Where(one => one.Id == account).ExecuteUpdateAsync(set => set.SetProperty(one => one.AccessFailedCount, 9));
        using HttpClient client = app.Bare();
        await App.StepInAsync(client);
        await client.PostAsJsonAsync("/api/sign-in", new { name = login, password = "no" });
        HttpResponseMessage right = await client.PostAsJsonAsync("/api/sign-in", new { name = login, password = App.Password });
        Assert.Equal(HttpStatusCode.Unauthorized, right.StatusCode);
        JsonElement log = await app.GetAsync("/api/audit?of=access");
        Assert.Equal(
            2,
            log.GetProperty("entries")
                .EnumerateArray()
                .Count(one => one.Text("what") == "was refused at the sign-in" && one.Text("person") == "Tern")
        );
        await context
            .Users.Where(one => one.Id == account)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.LockoutEnd, DateTimeOffset.UtcNow.AddSeconds(-1)));
        using HttpClient later = await SignedInAsync(login);
    }

    [Fact]
    public async Task A_sign_in_ends_when_it_is_not_used_or_a_week_old_or_its_clock_was_wrong()
    {
        (_, string login, Guid account) = await SomebodyAsync("Skua", Role.Technician);
        await using RemedosContext context = await app.ContextAsync();
        DateTimeOffset now = DateTimeOffset.UtcNow;
        foreach (
            (DateTimeOffset at, DateTimeOffset seen, HttpStatusCode status) in new[]
            {
                (now.AddHours(-20), now.AddHours(-11), HttpStatusCode.OK),
                (now.AddHours(-20), now.AddHours(-13), HttpStatusCode.Unauthorized),
                (now.AddDays(-8), now.AddMinutes(-1), HttpStatusCode.Unauthorized),
                (now.AddDays(2), now.AddDays(2), HttpStatusCode.Unauthorized),
            }
        )
        {
            using HttpClient client = await SignedInAsync(login);
            await context.Database.ExecuteSqlAsync(
                $"UPDATE sign_ins SET at = {at}, seen_at = {seen} WHERE account_id = {account} AND ended_at IS NULL"
            );
            Assert.Equal(status, (await client.GetAsync("/api/jobs")).StatusCode);
            await context
                .SignIns.Where(one => one.AccountId == account)
                .ExecuteUpdateAsync(set => set.SetProperty(one => one.EndedAt, now));
        }
    }

    [Fact]
    public async Task A_colleague_takes_over_by_pin_and_the_log_names_who_did_what()
    {
        (_, string lead, _) = await SomebodyAsync("Petrel", Role.Lead, "7193");
        (Guid colleague, _, _) = await SomebodyAsync("Knot", Role.Technician, "8264");
        using HttpClient device = await SignedInAsync(lead);
        Assert.Equal(HttpStatusCode.OK, (await device.GetAsync("/api/people")).StatusCode);
        HttpResponseMessage wrong = await device.PostAsJsonAsync("/api/session/person", new { person = colleague, pin = "8265" });
        Assert.Equal("That is not Knot’s PIN.", (await App.ReadAsync(wrong)).Text("detail"));
        await device.PostAsJsonAsync("/api/session/person", new { person = colleague, pin = "8264" });
        JsonElement me = await MeAsync(device);
        Assert.Equal(("Knot", false), (me.Text("name"), me.GetProperty("isSelf").GetBoolean()));
        string job = (await App.ReadAsync(await device.PostAsync("/api/jobs", null))).Text("id");
        JsonElement created = (await app.GetAsync($"/api/jobs/{job}/history")).GetProperty("entries")[0];
        Assert.Equal("Knot", created.Text("person"));

        // Back by PIN the lead works as a technician, until the account is proved.
        Guid self = (await app.GetAsync("/api/people"))
            .EnumerateArray()
            .Single(one => one.Text("name") == "Petrel")
            .GetProperty("id")
            .GetGuid();
        await device.PostAsJsonAsync("/api/session/person", new { person = self, pin = "7193" });
        Assert.Equal(("Petrel", "technician"), ((await MeAsync(device)).Text("name"), (await MeAsync(device)).Text("rights")));
        HttpResponseMessage refused = await device.GetAsync("/api/people");
        Assert.Equal((HttpStatusCode.Forbidden, "prove-again"), (refused.StatusCode, (await App.ReadAsync(refused)).Text("type")));
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await device.PostAsJsonAsync("/api/session/proof", new { password = "no" })).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await device.PostAsJsonAsync("/api/session/proof", new { password = App.Password })).StatusCode
        );
        Assert.Equal(HttpStatusCode.OK, (await device.GetAsync("/api/people")).StatusCode);
    }

    [Fact]
    public async Task Five_wrong_pins_close_it_also_when_they_come_at_once()
    {
        (Guid colleague, _, _) = await SomebodyAsync("Dunlin", Role.Technician, "3517");
        HttpResponseMessage[] tries = await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(i => app.Client.PostAsJsonAsync("/api/session/person", new { person = colleague, pin = $"90{i:00}" }))
        );
        string[] said = await Task.WhenAll(tries.Select(async one => (await App.ReadAsync(one)).Text("detail")));
        Assert.Equal(5, said.Count(one => one == "That is not Dunlin’s PIN."));
        HttpResponseMessage right = await app.Client.PostAsJsonAsync("/api/session/person", new { person = colleague, pin = "3517" });
        Assert.StartsWith("5 wrong PINs for Dunlin", (await App.ReadAsync(right)).Text("detail"), StringComparison.Ordinal);
        foreach (string weak in new[] { "1234", "9876", "5555", "12", "123456789", "12a4" })
        {
            Assert.Equal(
                HttpStatusCode.UnprocessableEntity,
                (await app.Client.PutAsJsonAsync($"/api/people/{colleague}/pin", new { pin = weak })).StatusCode
            );
        }
    }

    /// <summary>A code app's codes are RFC 6238's; each is taken once, and so is each recovery code.</summary>
    [Fact]
    public async Task A_code_is_asked_for_beside_the_password_and_taken_once()
    {
        (_, string login, Guid account) = await SomebodyAsync("Avocet", Role.Technician);
        using HttpClient client = await SignedInAsync(login);
        string key = (await App.ReadAsync(await client.PostAsync("/api/account/code-app", null))).Text("key");
        string code = Totp(key, DateTimeOffset.UtcNow);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await client.PutAsJsonAsync("/api/account/code-app", new { code = $"{(int.Parse(code, null) + 1) % 1_000_000:000000}" })
            ).StatusCode
        );
        JsonElement codes = await App.ReadAsync(await client.PutAsJsonAsync("/api/account/code-app", new { code }));
        Assert.Equal(10, codes.Count("codes"));
        // Of the key and the codes a backup holds nothing that opens.
        await using RemedosContext context = await app.ContextAsync();
        string kept = string.Join(
            '\n',
            await context.UserTokens.Where(one => one.UserId == account).Select(one => one.Value).ToListAsync()
        );
        Assert.DoesNotContain(key, kept, StringComparison.Ordinal);
        Assert.DoesNotContain(codes.GetProperty("codes")[0].GetString()!, kept, StringComparison.Ordinal);

        async Task<string> TryAsync(string? given)
        {
            using HttpClient other = app.Bare();
            await App.StepInAsync(other);
            HttpResponseMessage answer = await other.PostAsJsonAsync(
                "/api/sign-in",
                new
                {
                    name = login,
                    password = App.Password,
                    code = given,
                }
            );
            return answer.IsSuccessStatusCode ? "in" : (await App.ReadAsync(answer)).Text("type");
        }

        Assert.Equal("needs-code", await TryAsync(null));
        // It showed that the app was set up, and opens nothing any more.
        Assert.Equal("needs-code", await TryAsync(code));
        string next = Totp(key, DateTimeOffset.UtcNow.AddSeconds(30));
        Assert.Equal("in", await TryAsync($"{next[..3]} {next[3..]}"));
        Assert.Equal("needs-code", await TryAsync(next));
        string recovery = codes.GetProperty("codes")[3].GetString()!;
        Assert.Equal("in", await TryAsync(recovery.ToLowerInvariant()));
        Assert.Equal("needs-code", await TryAsync(recovery));
        Assert.Equal(9, (await App.ReadAsync(await client.GetAsync("/api/account"))).GetProperty("recoveryCodes").GetInt32());
    }

    /// <summary>Somebody who works in one workshop takes up the link of another with the account that is there.</summary>
    [Fact]
    public async Task An_account_that_is_signed_in_takes_up_the_link_of_a_second_workshop()
    {
        using HttpClient lead = await app.OtherWorkshopAsync();
        JsonElement added = await App.ReadAsync(
            await lead.PostAsJsonAsync("/api/people", new { name = "Two Places", role = "technician" })
        );
        async Task<string> LinkAsync(string id) =>
            (await App.ReadAsync(await lead.PostAsync($"/api/people/{id}/invitation", null))).Text("address").Split('#')[1];
        string token = await LinkAsync(added.Text("id"));
        JsonElement before = (await app.GetAsync("/api/session")).GetProperty("me");
        Task<HttpResponseMessage> JoinAsync(string link) => app.Client.PostAsJsonAsync("/api/join/account", new { token = link });
        Assert.Equal(HttpStatusCode.NotFound, (await JoinAsync("nothing")).StatusCode);
        JsonElement joined = await App.ReadAsync(await JoinAsync(token));
        JsonElement works = (await app.GetAsync("/api/session")).GetProperty("me").GetProperty("workshops");
        Assert.Contains(works.EnumerateArray(), one => one.Text("id") == joined.Text("workshop"));
        Assert.Equal(before.Text("workshopId"), (await app.GetAsync("/api/session")).GetProperty("me").Text("workshopId"));
        // The link is used, and the same account is no second person there.
        Assert.Equal(HttpStatusCode.NotFound, (await JoinAsync(token)).StatusCode);
        JsonElement again = await App.ReadAsync(await lead.PostAsJsonAsync("/api/people", new { name = "Once More", role = "reader" }));
        HttpResponseMessage twice = await JoinAsync(await LinkAsync(again.Text("id")));
        Assert.Equal(HttpStatusCode.Conflict, twice.StatusCode);
        Assert.Contains("already", (await App.ReadAsync(twice)).Text("detail"), StringComparison.Ordinal);
        using HttpClient nobody = app.Bare();
        await App.StepInAsync(nobody);
        Assert.Equal(HttpStatusCode.Unauthorized, (await nobody.PostAsJsonAsync("/api/join/account", new { token })).StatusCode);
    }

    [Fact]
    public async Task A_link_lets_one_person_in_once_and_renews_a_lost_password()
    {
        JsonElement added = await App.ReadAsync(
            await app.Client.PostAsJsonAsync("/api/people", new { name = "Godwit", role = "technician" })
        );
        string id = added.Text("id");
        async Task<string> LinkAsync() =>
            (await App.ReadAsync(await app.Client.PostAsync($"/api/people/{id}/invitation", null))).Text("address").Split('#')[1];
        string older = await LinkAsync(),
            token = await LinkAsync();
        string login = $"godwit-{Guid.NewGuid():N}"[..14];
        async Task<(HttpStatusCode Status, HttpClient Client, string Body)> JoinAsync(string link, string password)
        {
            HttpClient client = app.Bare();
            await App.StepInAsync(client);
            HttpResponseMessage answer = await client.PostAsJsonAsync(
                "/api/join",
                new
                {
                    token = link,
                    login,
                    password,
                }
            );
            return (answer.StatusCode, client, await answer.Content.ReadAsStringAsync());
        }

        Assert.Equal(HttpStatusCode.NotFound, (await JoinAsync(older, App.Password)).Status);
        foreach (string weak in new[] { "short", "passwordpassword", "godwitgodwitgodwit", "aaaaaaaaaaaaaaaa", "1234567890123456" })
        {
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await JoinAsync(token, weak)).Status);
        }

        (HttpStatusCode status, HttpClient first, string body) = await JoinAsync(token, App.Password);
        Assert.True(status == HttpStatusCode.NoContent, body);
        Assert.Equal("Godwit", (await MeAsync(first)).Text("name"));
        Assert.Equal(HttpStatusCode.NotFound, (await JoinAsync(token, App.Password)).Status);

        // A new password ends what was signed in with the old one.
        (status, HttpClient second, body) = await JoinAsync(await LinkAsync(), "seven moths beside the weir");
        Assert.True(status == HttpStatusCode.NoContent, body);
        Assert.Equal(HttpStatusCode.Unauthorized, (await first.GetAsync("/api/jobs")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await second.GetAsync("/api/jobs")).StatusCode);
        await using RemedosContext context = await app.ContextAsync();
        string late = await LinkAsync();
        await context.Invitations.ExecuteUpdateAsync(set => set.SetProperty(one => one.ExpiresAt, DateTimeOffset.UtcNow.AddSeconds(-1)));
        Assert.Equal(HttpStatusCode.NotFound, (await JoinAsync(late, App.Password)).Status);
    }

    [Fact]
    public async Task Who_leaves_is_out_at_once_and_a_workshop_keeps_a_lead()
    {
        (Guid id, string login, _) = await SomebodyAsync("Ruff", Role.Technician);
        using HttpClient client = await SignedInAsync(login);
        await app.Client.PatchAsJsonAsync($"/api/people/{id}", new { left = true });
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/jobs")).StatusCode);
        await app.Client.PatchAsJsonAsync($"/api/people/{id}", new { left = false, role = "reader" });
        using HttpClient again = await SignedInAsync(login);
        HttpResponseMessage change = await again.PostAsync("/api/jobs", null);
        Assert.Equal((HttpStatusCode.Forbidden, "not-allowed"), (change.StatusCode, (await App.ReadAsync(change)).Text("type")));

        JsonElement[] leads = [.. (await app.GetAsync("/api/people")).EnumerateArray().Where(one => one.Text("role") == "lead")];
        HttpStatusCode last = HttpStatusCode.OK;
        await using RemedosContext context = await app.ContextAsync();
        Guid me = (await app.GetAsync("/api/session")).GetProperty("me").GetProperty("id").GetGuid();
        foreach (JsonElement lead in leads.OrderBy(one => one.GetProperty("id").GetGuid() == me))
        {
            last = (await app.Client.PatchAsJsonAsync($"/api/people/{lead.Text("id")}", new { role = "technician" })).StatusCode;
        }

        Assert.Equal(HttpStatusCode.UnprocessableEntity, last);
    }

    [Fact]
    public async Task Devices_are_listed_and_ended_and_changes_of_the_way_in_want_a_fresh_proof()
    {
        (_, string login, Guid account) = await SomebodyAsync("Smew", Role.Technician);
        using HttpClient here = await SignedInAsync(login);
        using HttpClient there = await SignedInAsync(login);
        JsonElement list = await App.ReadAsync(await here.GetAsync("/api/account"));
        Assert.Equal(2, list.Count("signIns"));
        string other = list.GetProperty("signIns").EnumerateArray().Single(one => !one.GetProperty("here").GetBoolean()).Text("id");
        // Not with another account's hands.
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.DeleteAsync($"/api/account/sign-ins/{other}")).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await here.DeleteAsync($"/api/account/sign-ins/{other}")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await there.GetAsync("/api/jobs")).StatusCode);

        await using RemedosContext context = await app.ContextAsync();
        await context
            .SignIns.Where(one => one.AccountId == account)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.ProvedAt, DateTimeOffset.UtcNow.AddMinutes(-11)));
        HttpResponseMessage stale = await here.PutAsJsonAsync("/api/account/password", new { password = "seven moths beside the weir" });
        Assert.Equal((HttpStatusCode.Forbidden, "prove-again"), (stale.StatusCode, (await App.ReadAsync(stale)).Text("type")));
        await here.PostAsJsonAsync("/api/session/proof", new { password = App.Password });
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await here.PutAsJsonAsync("/api/account/password", new { password = "seven moths beside the weir" })).StatusCode
        );
        using HttpClient old = app.Bare();
        await App.StepInAsync(old);
        Assert.Equal(
            HttpStatusCode.Unauthorized,
            (await old.PostAsJsonAsync("/api/sign-in", new { name = login, password = App.Password })).StatusCode
        );
    }

    /// <summary>One account in two workshops is a person in each, with the role that it has there.</summary>
    [Fact]
    public async Task An_account_works_in_several_workshops_one_at_a_time()
    {
        (_, string login, Guid account) = await SomebodyAsync("Whimbrel", Role.Lead);
        using HttpClient elsewhere = await app.OtherWorkshopAsync();
        Guid other = (await App.ReadAsync(await elsewhere.GetAsync("/api/session"))).GetProperty("me").GetProperty("workshopId").GetGuid();
        string theirs = (await App.ReadAsync(await elsewhere.PostAsync("/api/jobs", null))).Text("id");
        await using RemedosContext context = await app.ContextAsync();
        context.People.Add(
            new Person
            {
                Id = Guid.CreateVersion7(),
                WorkshopId = other,
                Name = "Whimbrel",
                Role = Role.Reader,
                AccountId = account,
            }
        );
        await context.SaveChangesAsync();
        // No lead of the other workshop gets into this one by renewing the way in that leads here too.
        string there = (await App.ReadAsync(await elsewhere.GetAsync("/api/people")))
            .EnumerateArray()
            .Single(one => one.Text("name") == "Whimbrel")
            .Text("id");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await elsewhere.PostAsync($"/api/people/{there}/invitation", null)).StatusCode);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await elsewhere.DeleteAsync($"/api/people/{there}/code-app")).StatusCode);
        using HttpClient client = await SignedInAsync(login);
        JsonElement me = await MeAsync(client);
        Assert.Equal(2, me.Count("workshops"));
        Assert.NotEqual(other, me.GetProperty("workshopId").GetGuid());
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"/api/jobs/{theirs}")).StatusCode);
        await client.PostAsJsonAsync("/api/session/workshop", new { workshop = other });
        Assert.Equal("reader", (await MeAsync(client)).Text("rights"));
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync($"/api/jobs/{theirs}")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await app.Client.PostAsJsonAsync("/api/session/workshop", new { workshop = other })).StatusCode
        );
    }

    /// <summary>RFC 6238 with SHA-1, 30 s and six figures, written down from the standard.</summary>
    private static string Totp(string key, DateTimeOffset at)
    {
        const string letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        List<byte> secret = [];
        (int buffer, int bits) = (0, 0);
        foreach (char letter in key)
        {
            buffer = (buffer << 5) | letters.IndexOf(letter, StringComparison.Ordinal);
            bits += 5;
            if (bits >= 8)
            {
                bits -= 8;
                secret.Add((byte)(buffer >> bits));
                buffer &= (1 << bits) - 1;
            }
        }

        byte[] counter = BitConverter.GetBytes(at.ToUnixTimeSeconds() / 30);
        Array.Reverse(counter);
#pragma warning disable CA5350 // What code apps use.
        byte[] hash = HMACSHA1.HashData(secret.ToArray(), counter);
#pragma warning restore CA5350
        int offset = hash[^1] & 15;
        int value = ((hash[offset] & 127) << 24) | (hash[offset + 1] << 16) | (hash[offset + 2] << 8) | hash[offset + 3];
        return $"{value % 1_000_000:000000}";
    }
}
