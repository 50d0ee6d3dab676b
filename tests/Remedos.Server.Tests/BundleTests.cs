using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Tests;

/// <summary>Jobs and workshops as files: what leaves one installation is the same in another, and what is spoilt changes nothing.</summary>
public sealed class BundleTests(BundleTests.Rich demo, App other) : IClassFixture<BundleTests.Rich>, IClassFixture<App>
{
    private const string Job = "job.json",
        Manifest = "remedos.json";

    /// <summary>The demo, with one of everything that a job can hold.</summary>
    public sealed class Rich : HostingTests.Demo, IAsyncLifetime
    {
        public const string Tag = "SL-0413";

        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            string job = (await GetAsync($"/api/jobs?search={Tag}"))[0].Text("id");
            await AddLogAsync(job, "before", "a=b: odd?.csv", Example("one-column.csv"));
            await AddLogAsync(job, "before", "02-paste-before.csv", Example("02-paste-before.csv"));
            int runs = (await GetAsync($"/api/jobs/{job}")).Count("runs");
            JsonElement sheet = await SheetWhenAsync(job, s =>
                s.Count("runs") > runs && s.GetProperty("imports").EnumerateArray().Any(i => i.Text("state") == "failed")
            );
            JsonElement run = sheet.GetProperty("runs").EnumerateArray().Single(r => r.Text("fileName") == "02-paste-before.csv");
            await DoneAsync(
                Client.PutAsJsonAsync(
                    $"/api/runs/{run.Text("id")}/columns/3/role",
                    new { role = "other", version = run.GetProperty("version").GetUInt32() }
                )
            );
            await DoneAsync(Client.PostAsync($"/api/jobs/{job}/photos?kind=proof&fileName=a.png", new ByteArrayContent(IntakeTests.Png)));
            await DoneAsync(Client.PostAsync($"/api/jobs/{job}/links?days=7", null));
            await DoneAsync(SaveAsync(job, "choice", OptionTests.Choice("cap-power")));
            JsonElement saved = await App.ReadAsync(await SaveAsync(job, "wish", "quiet"));
            await DoneAsync(
                Client.PostAsync($"/api/jobs/{job}/undo/{saved.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null)
            );
        }

        private static async Task DoneAsync(Task<HttpResponseMessage> asked)
        {
            using HttpResponseMessage answer = await asked;
            Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        }
    }

    /// <summary>A workshop in a database of its own, with nothing in it.</summary>
    private static async Task<App> EmptyAsync()
    {
        App app = new();
        await app.InitializeAsync();
        return app;
    }

    [Fact]
    public async Task A_workshop_is_the_same_to_the_last_byte_in_an_empty_database()
    {
        string me = (await demo.GetAsync("/api/session")).GetProperty("me").Text("id"),
            tomorrow = (await demo.GetAsync("/api/plan")).GetProperty("days")[1].Text("day");
        foreach (object change in new object[] { new { hours = new { closed = true } }, new { person = new { id = me, here = false } } })
        {
            (await demo.Client.PatchAsJsonAsync($"/api/plan/days/{tomorrow}", change)).EnsureSuccessStatusCode();
        }

        byte[] archive = await demo.Client.GetByteArrayAsync("/api/archive");
        await using App empty = await EmptyAsync();
        // A day of its own gives way.
        (
            await empty.Client.PatchAsJsonAsync($"/api/plan/days/{tomorrow}", new { hours = new { closed = false } })
        ).EnsureSuccessStatusCode();
        HttpResponseMessage read = await empty.Client.PostAsync("/api/archive?fileName=a.zip", new ByteArrayContent(archive));
        JsonElement answer = await App.ReadAsync(read);
        Assert.True(read.IsSuccessStatusCode, answer.ToString());
        JsonElement[] tags = [.. (await demo.GetAsync("/api/jobs")).EnumerateArray()];
        Assert.Equal(tags.Length, answer.GetProperty("jobs").GetInt32());
        Assert.Equal("SL", (await empty.GetAsync("/api/session")).GetProperty("me").Text("tagPrefix"));

        Dictionary<string, byte[]> first = Unpacked(archive),
            second = Unpacked(await empty.Client.GetByteArrayAsync("/api/archive"));
        Assert.Equal(first.Keys.Order(StringComparer.Ordinal), second.Keys.Order(StringComparer.Ordinal));
        Assert.All(first.Where(entry => !entry.Key.EndsWith(Manifest, StringComparison.Ordinal) && entry.Key != "workshop.json"), entry =>
            Assert.True(entry.Value.AsSpan().SequenceEqual(second[entry.Key]), entry.Key)
        );
        // Here somebody was before and changed a day, and the reading itself is a change.
        JsonNode workshop = Json(first["workshop.json"]),
            again = Json(second["workshop.json"]);
        Assert.Equal(workshop["parts"]!.ToJsonString(), again["parts"]!.ToJsonString());
        JsonNode day = workshop["days"]!.AsArray().Single(one => one!["day"]!.GetValue<string>() == tomorrow)!,
            same = again["days"]!.AsArray().Single(one => one!["day"]!.GetValue<string>() == tomorrow)!;
        Assert.True(day["closed"]!.GetValue<bool>() && same["closed"]!.GetValue<bool>());
        Assert.Single(day["away"]!.AsArray());
        Assert.Single(same["away"]!.AsArray());
        Assert.Equal(workshop["workshop"]!["nextBillNumber"]!.ToJsonString(), again["workshop"]!["nextBillNumber"]!.ToJsonString());
        Assert.Equal(workshop["events"]!.AsArray().Count + 2, again["events"]!.AsArray().Count);

        // What is drawn comes from the originals, which are read again in the background.
        await DoneAsync(empty);
        foreach (JsonElement tag in tags)
        {
            string id = tag.Text("id");
            JsonElement here = await empty.GetAsync($"/api/jobs/{id}"),
                there = await demo.GetAsync($"/api/jobs/{id}");
            foreach (string part in new[] { "headline", "steps", "verdict", "runs", "pair", "imports" })
            {
                Assert.Equal(Unversioned(there.GetProperty(part)), Unversioned(here.GetProperty(part)));
            }
        }

        string run = (await demo.GetAsync($"/api/jobs/{tags.Single(tag => tag.Text("tag") == "SL-0412").Text("id")}"))
            .GetProperty("runs")[0]
            .Text("id");
        Assert.Equal(
            await demo.Client.GetStringAsync($"/api/runs/{run}/trace"),
            await empty.Client.GetStringAsync($"/api/runs/{run}/trace")
        );
        HttpResponseMessage full = await empty.Client.PostAsync("/api/archive", new ByteArrayContent(archive));
        Assert.Equal(HttpStatusCode.Conflict, full.StatusCode);
        Assert.Contains("an empty workshop only", (await App.ReadAsync(full)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>A second workshop of the same database: people get ids of their own, and neither workshop sees the other.</summary>
    [Fact]
    public async Task An_archive_is_read_beside_the_workshop_that_it_came_from()
    {
        byte[] archive = await demo.Client.GetByteArrayAsync("/api/archive");
        string before = await demo.Client.GetStringAsync("/api/jobs");
        using HttpClient beside = await demo.OtherWorkshopAsync();
        HttpResponseMessage read = await beside.PostAsync("/api/archive", new ByteArrayContent(archive));
        Assert.True(read.IsSuccessStatusCode, await read.Content.ReadAsStringAsync());
        Dictionary<string, byte[]> first = Unpacked(archive),
            second = Unpacked(await beside.GetByteArrayAsync("/api/archive"));
        foreach (string name in first.Keys.Where(name => name.EndsWith("/" + Job, StringComparison.Ordinal)))
        {
            JsonNode there = Json(first[name]),
                here = Json(second[name]);
            Assert.Equal(there["runs"]!.ToJsonString(), here["runs"]!.ToJsonString());
            Assert.Equal(there["events"]!.AsArray().Count, here["events"]!.AsArray().Count);
            Assert.NotEqual(there["people"]![0]!["id"]!.GetValue<string>(), here["people"]![0]!["id"]!.GetValue<string>());
        }

        Assert.Equal(before, await demo.Client.GetStringAsync("/api/jobs"));
    }

    [Fact]
    public async Task A_job_travels_with_its_originals_its_history_and_its_papers()
    {
        await using App elsewhere = await EmptyAsync();
        byte[] bundle = await BundleAsync("SL-0412"),
            rich = await BundleAsync(Rich.Tag);
        JsonElement sheet = await ReadInAsync(elsewhere, bundle);
        string id = sheet.Text("id");
        byte[] back = await elsewhere.Client.GetByteArrayAsync($"/api/jobs/{id}/bundle");
        Dictionary<string, byte[]> first = Unpacked(bundle),
            second = Unpacked(back);
        JsonNode there = Json(first[Job]),
            here = Json(second[Job]);
        JsonArray changes = here["events"]!.AsArray();
        Assert.Equal("read-in", changes[^1]!["kind"]!.GetValue<string>());
        string reader = changes[^1]!["person"]!.GetValue<string>();
        changes.RemoveAt(changes.Count - 1);
        here["people"]!.AsArray().RemoveAll(person => person!["id"]!.GetValue<string>() == reader);
        Assert.Equal(Plain(there), Plain(here));
        Assert.All(first.Where(entry => entry.Key is not (Job or Manifest)), entry => Assert.Equal(entry.Value, second[entry.Key]));
        Assert.All(first.Keys, name => Assert.Contains(name, second.Keys));

        // Of everything something: pictures and failed logs come along, what was said of columns is said here, a link stays where it was.
        string richId = (await ReadInAsync(elsewhere, rich)).Text("id");
        JsonNode all = Json(Unpacked(rich)[Job]),
            kept = Json(Unpacked(await elsewhere.Client.GetByteArrayAsync($"/api/jobs/{richId}/bundle"))[Job]);
        foreach (string part in new[] { "photos", "imports", "columns", "logs", "runs" })
        {
            Assert.NotEmpty(all[part]!.AsArray());
            Assert.Equal(all[part]!.ToJsonString(), kept[part]!.ToJsonString());
        }

        Assert.Empty(all["links"]!.AsArray());
        Assert.Equal("cap-power", kept["job"]!["choice"]!["option"]!.GetValue<string>());
        string photo = kept["photos"]![0]!["id"]!.GetValue<string>();
        Assert.True((await elsewhere.Client.GetAsync($"/api/jobs/{richId}/photos/{photo}")).IsSuccessStatusCode);

        // Whoever did something there does not work here, and their numbers are not ours.
        Assert.Equal("Technician", (await elsewhere.GetAsync("/api/session")).GetProperty("me").Text("name"));
        JsonElement papers = (await elsewhere.GetAsync($"/api/jobs/{id}/papers")).GetProperty("papers");
        Assert.NotEqual(0, papers.GetArrayLength());
        Assert.All(papers.EnumerateArray(), paper => Assert.Contains(" of ", paper.Text("name"), StringComparison.Ordinal));
        Assert.Contains(
            "SL-0412 of",
            (await elsewhere.GetAsync($"/api/jobs/{id}/history")).GetProperty("entries")[0].Text("after"),
            StringComparison.Ordinal
        );

        // Taken back and put back, here as there.
        JsonElement last = sheet.GetProperty("lastChange");
        HttpResponseMessage undone = await elsewhere.Client.PostAsync(
            $"/api/jobs/{id}/undo/{last.GetProperty("eventId").GetInt64()}",
            null
        );
        Assert.True(undone.IsSuccessStatusCode);

        HttpResponseMessage twice = await elsewhere.Client.PostAsync("/api/jobs/bundle?fileName=b.zip", new ByteArrayContent(bundle));
        JsonElement told = await App.ReadAsync(twice);
        Assert.Equal((HttpStatusCode.Conflict, id), (twice.StatusCode, told.Text("job")));
        Assert.Contains($"here already, as {sheet.Text("tag")}", told.Text("detail"), StringComparison.Ordinal);
        JsonElement copy = await ReadInAsync(elsewhere, bundle, "&again=true");
        Assert.NotEqual(id, copy.Text("id"));
        Assert.Equal(sheet.Count("runs"), copy.Count("runs"));
        Assert.Equal(Unversioned(sheet.GetProperty("headline")), Unversioned(copy.GetProperty("headline")));
    }

    public static TheoryData<string, string> Spoilt =>
        new()
        {
            { "empty", "is empty" },
            { "no-zip", "no ZIP" },
            { "cut", "no ZIP" },
            { "newer", "newer Remedos" },
            { "workshop", "under Workshop" },
            { "outside", "leads outside" },
            { "backslash", "leads outside" },
            { "twice", "twice" },
            { "log-changed", "is damaged: logs/" },
            { "record-changed", "is damaged: job.json" },
            { "log-gone", "is not whole: logs/" },
            { "no-manifest", "no remedos.json" },
            { "bomb", "unpacks to more" },
            { "said-large", "unpacks to more" },
            { "file-not-told", "neither in it nor told as missing" },
            { "room", "roomC: A room has" },
            { "conditions", "fanPercent" },
            { "gap", "has a gap" },
            { "unknown-member", "at job.moon" },
            { "no-text", "at job.createdAt" },
            { "mount-elsewhere", "points at a mount" },
            { "nobody", "not among its people" },
            { "no-setup", "a setup at least" },
            { "same-setup", "are the same" },
            { "nul", "out of bounds" },
            { "kind", "out of bounds" },
        };

    [Theory]
    [MemberData(nameof(Spoilt))]
    public async Task A_spoilt_bundle_is_refused_with_a_sentence_and_changes_nothing(string how, string sentence)
    {
        byte[] spoilt = Spoil(await BundleAsync(Rich.Tag), how);
        string[] before = await RowsAsync();
        HttpResponseMessage answer = await other.Client.PostAsync(
            "/api/jobs/bundle?fileName=c.zip&again=true",
            new ByteArrayContent(spoilt)
        );
        JsonElement told = await App.ReadAsync(answer);
        Assert.True(answer.StatusCode == HttpStatusCode.UnprocessableEntity, told.ToString());
        Assert.StartsWith("“c.zip” ", told.Text("detail"), StringComparison.Ordinal);
        Assert.Contains(sentence, told.Text("detail"), StringComparison.Ordinal);
        Assert.Equal(before, await RowsAsync());
    }

    [Fact]
    public async Task Bytes_that_were_changed_anywhere_never_end_the_server()
    {
        byte[] bundle = await BundleAsync(Rich.Tag);
        Random random = new(20_261_128);
        for (int i = 0; i < 150; i++)
        {
            byte[] changed = [.. bundle];
            for (int flips = random.Next(1, 4); flips > 0; flips--)
            {
                // The directory at the end decides what is read at all: half of the changes go there.
                int at =
                    random.Next(2) == 0 ? random.Next(changed.Length) : changed.Length - 1 - random.Next(Math.Min(2000, changed.Length));
                changed[at] = (byte)random.Next(256);
            }

            HttpResponseMessage answer = await other.Client.PostAsync("/api/jobs/bundle?again=true", new ByteArrayContent(changed));
            string body = await answer.Content.ReadAsStringAsync();
            Assert.True(answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.UnprocessableEntity, $"{i}: {body}");
        }
    }

    [Fact]
    public async Task A_spoilt_archive_leaves_the_workshop_empty()
    {
        byte[] archive = await demo.Client.GetByteArrayAsync("/api/archive");
        Dictionary<string, byte[]> entries = Unpacked(archive);
        string last = entries.Keys.Where(name => name.EndsWith("/" + Job, StringComparison.Ordinal)).Max(StringComparer.Ordinal)!;
        entries[last][^40] ^= 1;
        await using App empty = await EmptyAsync();
        HttpResponseMessage answer = await empty.Client.PostAsync("/api/archive", new ByteArrayContent(Packed(entries)));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains($"is damaged: {last}", (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
        Assert.Equal("[]", await empty.Client.GetStringAsync("/api/jobs"));
        Assert.Equal("[]", await empty.Client.GetStringAsync("/api/parts"));
        Assert.Equal("My workshop", (await empty.GetAsync("/api/session")).GetProperty("me").Text("workshop"));
    }

    [Theory]
    [InlineData("manifest")]
    [InlineData("job")]
    [InlineData("workshop")]
    public async Task The_schema_in_the_documents_is_the_one_that_is_read_by(string name)
    {
        string address = $"/api/schemas/{name}.schema.json";
        Assert.True(
            await demo.Client.GetStringAsync(address)
                == await File.ReadAllTextAsync(Path.Combine(AppContext.BaseDirectory, "Schemas", $"{name}.schema.json")),
            $"docs/schemas/{name}.schema.json is not what the program reads by: take it from {address}, and count Manifest.Current up "
                + "where an older reader would misread what is written now."
        );
    }

    private async Task<byte[]> BundleAsync(string tag)
    {
        JsonElement[] tags = [.. (await demo.GetAsync("/api/jobs")).EnumerateArray()];
        return await demo.Client.GetByteArrayAsync($"/api/jobs/{tags.Single(one => one.Text("tag") == tag).Text("id")}/bundle");
    }

    private static async Task<JsonElement> ReadInAsync(App app, byte[] bundle, string more = "")
    {
        HttpResponseMessage answer = await app.Client.PostAsync($"/api/jobs/bundle?fileName=a.zip{more}", new ByteArrayContent(bundle));
        JsonElement sheet = await App.ReadAsync(answer);
        Assert.True(answer.IsSuccessStatusCode, sheet.ToString());
        return sheet;
    }

    private static byte[] Spoil(byte[] bundle, string how)
    {
        Dictionary<string, byte[]> entries = Unpacked(bundle);
        string log = entries.Keys.First(name => name.StartsWith("logs/", StringComparison.Ordinal));
        switch (how)
        {
            case "empty":
                return [];
            case "no-zip":
                return Encoding.UTF8.GetBytes("time,cpu\n0,40\n");
            case "cut":
                return bundle[..(bundle.Length / 2)];
            case "newer":
                return WithManifest(entries, manifest => manifest["version"] = 99);
            case "workshop":
                return WithManifest(entries, manifest => manifest["format"] = "remedos-workshop");
            case "outside":
                entries["../../etc/cron.d/x"] = [1];
                break;
            case "backslash":
                entries["..\\x"] = [1];
                break;
            case "twice":
                entries["JOB.json"] = [1];
                break;
            case "log-changed":
                entries[log][10] ^= 1;
                break;
            case "record-changed":
                entries[Job] = [.. entries[Job], (byte)' '];
                return WithManifest(entries, manifest => manifest["record"]!["bytes"] = 0);
            case "log-gone":
                entries.Remove(log);
                break;
            case "no-manifest":
                entries.Remove(Manifest);
                break;
            case "bomb":
                entries[log] = new byte[50_000_000];
                break;
            case "said-large":
                return WithManifest(entries, manifest => manifest["files"]![0]!["bytes"] = 1L << 50);
            case "file-not-told":
                return WithManifest(entries, manifest => manifest["files"]!.AsArray().RemoveAt(0));
            default:
                return WithRecord(entries, record => SpoilRecord(record, how));
        }

        return Packed(entries);
    }

    private static void SpoilRecord(JsonNode record, string how)
    {
        JsonNode job = record["job"]!;
        switch (how)
        {
            case "room":
                job["roomC"] = 900;
                break;
            case "conditions":
                record["runs"]![0]!["conditions"]!["fanPercent"] = 900;
                break;
            case "gap":
                job["setups"]!.AsArray().Add(null);
                break;
            case "unknown-member":
                job["moon"] = 1;
                break;
            case "no-text":
                job["createdAt"] = "yesterday";
                break;
            case "mount-elsewhere":
                record["runs"]![0]!["mountId"] = Guid.NewGuid();
                break;
            case "nobody":
                record["people"]!.AsArray().Clear();
                break;
            case "no-setup":
                job["setups"]!.AsArray().Clear();
                break;
            case "same-setup":
                JsonNode same = job["setups"]![0]!.DeepClone();
                same["id"] = Guid.NewGuid();
                foreach (JsonNode? mount in same["mounts"]!.AsArray())
                {
                    mount!["id"] = Guid.NewGuid();
                }

                job["setups"]!.AsArray().Add(same);
                break;
            case "nul":
                record["logs"]![0]!["name"] = "a\0b";
                break;
            case "kind":
                job["setups"]![0]!["kind"] = "magic";
                break;
        }
    }

    private static byte[] WithRecord(Dictionary<string, byte[]> entries, Action<JsonNode> change)
    {
        JsonNode record = Json(entries[Job]);
        change(record);
        entries[Job] = Encoding.UTF8.GetBytes(record.ToJsonString());
        return WithManifest(entries, manifest => manifest["record"]!["sha256"] = Convert.ToHexStringLower(SHA256.HashData(entries[Job])));
    }

    private static byte[] WithManifest(Dictionary<string, byte[]> entries, Action<JsonNode> change)
    {
        JsonNode manifest = Json(entries[Manifest]);
        change(manifest);
        entries[Manifest] = Encoding.UTF8.GetBytes(manifest.ToJsonString());
        return Packed(entries);
    }

    private static JsonNode Json(byte[] text) => JsonNode.Parse(text)!;

    /// <summary>What is another one's by right: the number here, when it changed last, and whose it was.</summary>
    private static string Plain(JsonNode record)
    {
        record["tag"] = null;
        record["job"]!["number"] = null;
        record["job"]!["changedAt"] = null;
        foreach (JsonNode? one in record["people"]!.AsArray().Concat(record["papers"]!.AsArray()))
        {
            one!["from"] = null;
        }

        return record.ToJsonString();
    }

    /// <summary>Without the row's version, which counts the writes of its own database.</summary>
    private static string Unversioned(JsonElement element)
    {
        JsonNode? node = JsonNode.Parse(element.GetRawText());
        foreach (JsonObject one in (node is JsonArray array ? array : new JsonArray(node?.DeepClone())).OfType<JsonObject>())
        {
            one.Remove("version");
        }

        return node?.ToJsonString() ?? "null";
    }

    private static Dictionary<string, byte[]> Unpacked(byte[] zip)
    {
        using ZipArchive archive = new(new MemoryStream(zip));
        return archive.Entries.ToDictionary(
            entry => entry.FullName,
            entry =>
            {
                using Stream content = entry.Open();
                using MemoryStream bytes = new();
                content.CopyTo(bytes);
                return bytes.ToArray();
            },
            StringComparer.Ordinal
        );
    }

    private static byte[] Packed(Dictionary<string, byte[]> entries)
    {
        using MemoryStream zip = new();
        using (ZipArchive archive = new(zip, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach ((string name, byte[] content) in entries)
            {
                using Stream entry = archive.CreateEntry(name, CompressionLevel.Fastest).Open();
                entry.Write(content);
            }
        }

        return zip.ToArray();
    }

    /// <summary>How many rows every table has.</summary>
    private async Task<string[]> RowsAsync()
    {
        await using RemedosContext context = await other.ContextAsync();
        return
        [
            $"{await context.Jobs.CountAsync()} jobs",
            $"{await context.Runs.CountAsync()} runs",
            $"{await context.People.CountAsync()} people",
            $"{await context.JobEvents.CountAsync()} changes",
            $"{await context.LogFiles.CountAsync()} logs",
            $"{(await context.Workshops.SingleAsync()).NextJobNumber} comes next",
        ];
    }

    private static async Task DoneAsync(App app)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromMinutes(2));
        await using RemedosContext context = await app.ContextAsync();
        while (await context.WorkItems.AnyAsync(limit.Token))
        {
            await Task.Delay(100, limit.Token);
        }
    }
}
