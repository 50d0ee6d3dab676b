using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Data;
using Remedos.Server.Owners;

namespace Remedos.Server.Tests.People;

/// <summary>What an owner may ask for: everything, and to be forgotten.</summary>
public sealed class OwnerTests(App app) : IClassFixture<App>
{
    private static int _pictures;

    private const string Name = "Zebedee Quillfeather",
        Contact = "zq@post.example";

    /// <summary>A job with the owner's name wherever it can stand, and where it came from.</summary>
    private async Task<string> JobAsync(string name = Name)
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "owner", $"Mistyped {name}");
        await app.SaveAsync(job, "owner", name, $"Mistyped {name}");
        await app.SaveAsync(job, "contact", Contact);
        await app.SaveAsync(job, "machine", "Desk machine");
        // A picture of its own: one that is on another job too is kept for that.
        using NetVips.Image drawn = NetVips.Image.Black(20 + Interlocked.Increment(ref _pictures), 20);
        using ByteArrayContent picture = new(drawn.PngsaveBuffer());
        await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=proof&fileName=receipt.png", picture);
        await app.Client.PostAsJsonAsync(
            $"/api/jobs/{job}/papers",
            new
            {
                kind = "quote",
                lines = new[]
                {
                    new
                    {
                        what = "Fan",
                        quantity = 1,
                        unitMinor = 900,
                    },
                },
            }
        );
        await app.Client.PostAsJsonAsync(
            $"/api/jobs/{job}/papers",
            new
            {
                kind = "bill",
                lines = new[]
                {
                    new
                    {
                        what = "Fan",
                        quantity = 1,
                        unitMinor = 900,
                    },
                },
            }
        );
        await app.Client.PostAsync($"/api/jobs/{job}/links?days=7", null);
        return job;
    }

    /// <summary>Every text of every table, as a dump would hold it.</summary>
    private async Task<string> DumpAsync()
    {
        await using RemedosContext context = await app.ContextAsync();
        StringBuilder all = new();
        foreach (
            string table in await context
                .Database.SqlQuery<string>($"SELECT tablename AS \"Value\" FROM pg_tables WHERE schemaname = 'public'")
                .ToListAsync()
        )
        {
#pragma warning disable EF1002 // Names of our own tables.
            List<string> rows = await context.Database.SqlQueryRaw<string>($"SELECT t::text AS \"Value\" FROM \"{table}\" t").ToListAsync();
#pragma warning restore EF1002
            rows.ForEach(row => all.Append(table).Append(' ').AppendLine(row));
        }

        return all.ToString();
    }

    [Fact]
    public async Task All_that_is_kept_is_given_and_erased_it_stands_nowhere_but_on_a_bill()
    {
        string job = await JobAsync();
        JsonElement found = (await app.GetAsync("/api/owners?q=quillf")).EnumerateArray().Single();
        Assert.Equal((Name, Contact), (found.Text("owner"), found.Text("contact")));
        using (ZipArchive zip = new(await app.Client.GetStreamAsync($"/api/owners/file?jobs={job}")))
        {
            ZipArchiveEntry record = zip.Entries.Single(entry => entry.FullName.EndsWith("/job.json", StringComparison.Ordinal));
            using StreamReader text = new(record.Open());
            Assert.Contains(Name, await text.ReadToEndAsync(), StringComparison.Ordinal);
            Assert.Contains(zip.Entries, entry => entry.FullName.Contains("receipt", StringComparison.Ordinal));
        }

        string proof = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("photos")[0].Text("id");
        int files = Directory.GetFiles(app.Files, "*", SearchOption.AllDirectories).Length;
        JsonElement erased = await App.ReadAsync(await app.Client.PostAsJsonAsync("/api/owners/erasure", new { jobs = new[] { job } }));
        Assert.Equal(
            (1, 1, 1),
            (erased.GetProperty("jobs").GetInt32(), erased.GetProperty("pictures").GetInt32(), erased.GetProperty("links").GetInt32())
        );
        JsonElement bill = Assert.Single(erased.GetProperty("keptBills").EnumerateArray());
        Assert.StartsWith("Bill B-", bill.Text("number"), StringComparison.Ordinal);
        // Picture, small picture and document.
        Assert.Equal(files - 3, Directory.GetFiles(app.Files, "*", SearchOption.AllDirectories).Length);
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{job}/photos/{proof}")).StatusCode);

        string dump = await DumpAsync();
        Assert.Equal(
            ["papers"],
            [.. dump.Split('\n').Where(row => row.Contains("Quillfeather", StringComparison.Ordinal)).Select(row => row.Split(' ')[0])]
        );
        Assert.DoesNotContain($"Mistyped {Name}", dump, StringComparison.Ordinal);
        Assert.Empty((await app.GetAsync("/api/owners?q=quillf")).EnumerateArray());
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        Assert.Equal("Desk machine", sheet.GetProperty("fields").Text("machine"));

        // Nobody takes it back, and the page goes on.
        foreach (JsonElement entry in (await app.GetAsync($"/api/jobs/{job}/history")).GetProperty("entries").EnumerateArray())
        {
            if (entry.Text("kind") == "erased")
            {
                Assert.False(entry.GetProperty("canTurn").GetBoolean());
                HttpResponseMessage turned = await app.Client.PostAsync(
                    $"/api/jobs/{job}/undo/{entry.GetProperty("eventId").GetInt64()}",
                    null
                );
                Assert.Contains(
                    turned.StatusCode,
                    new[] { HttpStatusCode.NotFound, HttpStatusCode.UnprocessableEntity, HttpStatusCode.Conflict }
                );
            }
        }

        JsonElement log = await app.GetAsync("/api/audit?of=access");
        Assert.Contains(log.GetProperty("entries").EnumerateArray(), one => one.Text("what") == "erased the owner of");
        Assert.Contains(log.GetProperty("entries").EnumerateArray(), one =>
            one.Text("what") == "took out" && one.Text("subject") == "owner.zip"
        );
    }

    [Fact]
    public async Task Owners_are_forgotten_by_the_workshops_rule_and_no_sooner()
    {
        string old = await JobAsync("Oldacre"),
            recent = await JobAsync("Newbold"),
            here = await JobAsync("Staying");
        await using RemedosContext context = await app.ContextAsync();
        DateTimeOffset now = DateTimeOffset.UtcNow;
        foreach ((string job, DateTimeOffset left) in new[] { (old, now.AddMonths(-25)), (recent, now.AddMonths(-23)) })
        {
            Guid id = Guid.Parse(job);
            await context.Jobs.Where(one => one.Id == id).ExecuteUpdateAsync(set => set.SetProperty(one => one.HandedOverAt, left));
        }

        Retention retention = app.Services.GetRequiredService<Retention>();
        await retention.RunAsync(CancellationToken.None);
        Assert.Equal("Oldacre", (await app.GetAsync($"/api/jobs/{old}")).GetProperty("fields").Text("owner"));

        await app.Client.PatchAsJsonAsync("/api/settings/forgetOwnersAfterMonths", new { value = 24, @base = (int?)null });
        await Task.WhenAll(retention.RunAsync(CancellationToken.None), retention.RunAsync(CancellationToken.None));
        async Task<string?> OwnerAsync(string job) =>
            (await app.GetAsync($"/api/jobs/{job}")).GetProperty("fields").GetProperty("owner").GetString();
        Assert.Equal((null, "Newbold", "Staying"), (await OwnerAsync(old), await OwnerAsync(recent), await OwnerAsync(here)));
        Assert.Equal(1, await context.AccessEvents.CountAsync(one => one.Subject!.EndsWith("by the workshop’s rule")));
    }
}
