using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Samples;

namespace Remedos.Server.Tests;

/// <summary>The way of a log from upload to run, and what may happen to it on the way.</summary>
public sealed class ImportTests(ImportTests.SmallLimit app) : IClassFixture<ImportTests.SmallLimit>
{
    private const int Limit = 60_000_000;

    public sealed class SmallLimit : App
    {
        protected override Dictionary<string, string> Settings => new() { ["LargestLogBytes"] = Limit.ToString() };
    }

    [Fact]
    public async Task A_log_becomes_a_run_with_every_sample_and_its_original_byte_for_byte()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(id, "temperatureLimitC", 95);
        byte[] original = App.Example("02-paste-before.csv");
        HttpResponseMessage accepted = await app.AddLogAsync(id, "before", "paste before.csv", original);
        Assert.Equal(HttpStatusCode.Accepted, accepted.StatusCode);

        JsonElement sheet = await app.SheetWhenAsync(id, s => s.Count("runs") == 1);
        JsonElement run = sheet.GetProperty("runs")[0];
        Assert.Equal((1, "paste before.csv"), (run.GetProperty("setup").GetInt32(), run.Text("fileName")));
        Assert.Equal(95, run.GetProperty("conditions").GetProperty("temperatureLimitC").GetDouble());
        Assert.Equal(88.28, run.GetProperty("analysis").GetProperty("load").GetProperty("sustainedTemperatureC").GetDouble(), 0.05);
        Assert.Equal(original, await app.Client.GetByteArrayAsync($"/api/runs/{run.Text("id")}/original"));

        Log log = LogReader.Read(new MemoryStream(original)).Log!;
        await using RemedosContext context = await app.ContextAsync();
        List<SampleChunk> chunks = await context
            .SampleChunks.Where(c => c.RunId == Guid.Parse(run.Text("id")) && c.Level == 0)
            .OrderBy(c => c.Chunk)
            .ToListAsync();
        foreach (Channel channel in log.Channels.Where(c => c.Role != ChannelRole.Time))
        {
            Assert.Equal(channel.Values, chunks.Where(c => c.Channel == channel.Column).SelectMany(c => c.Values));
        }
    }

    [Theory]
    [InlineData("not-numeric.csv", "words where numbers should be")]
    [InlineData("no-time-no-temperature.csv", "No column holds a processor temperature")]
    [InlineData("one-column.csv", "No column holds the time")]
    [InlineData("binary.csv", "not text")]
    [InlineData("header-only.csv", "no rows")]
    [InlineData("picture.png", "a picture")]
    public async Task A_file_that_is_no_log_gets_a_sentence_and_can_be_put_away(string file, string words)
    {
        string id = (await app.NewJobAsync()).Text("id");
        byte[] content = file == "picture.png" ? [0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10, 0, 0] : App.Example(file);
        await app.AddLogAsync(id, "before", file, content);
        JsonElement sheet = await app.SheetWhenAsync(id, s =>
            s.GetProperty("imports").EnumerateArray().Any(i => i.Text("state") == "failed")
        );
        JsonElement import = sheet.GetProperty("imports")[0];
        Assert.Contains(words, import.Text("problem"), StringComparison.Ordinal);
        Assert.Contains(file, import.Text("problem"), StringComparison.Ordinal);
        Assert.Equal(0, sheet.Count("runs"));

        Assert.Equal(HttpStatusCode.NoContent, (await app.Client.DeleteAsync($"/api/imports/{import.Text("id")}")).StatusCode);
        Assert.Equal(0, (await app.GetAsync($"/api/jobs/{id}")).Count("imports"));
    }

    [Fact]
    public async Task A_truncated_log_is_read_without_its_last_row()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", "truncated.csv", App.Example("truncated.csv"));
        JsonElement run = (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0];
        Assert.Contains(run.GetProperty("analysis").GetProperty("warnings").EnumerateArray(), w => w.Text("code") == "truncated-last-row");
    }

    [Fact]
    public async Task Empty_doubled_too_large_and_homeless_logs_are_refused_at_the_door()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await Refused(HttpStatusCode.UnprocessableEntity, "is empty", await app.AddLogAsync(id, "before", "empty.csv", []));
        await Refused(
            HttpStatusCode.NotFound,
            "no such setup",
            await app.Client.PostAsync($"/api/jobs/{id}/logs?mount={Guid.NewGuid()}&fileName=a.csv", new ByteArrayContent([65]))
        );
        await Refused(
            HttpStatusCode.UnprocessableEntity,
            "panel: “ajar” is none of",
            await app.AddLogAsync(id, "before", "a.csv", [65], """{"panel":"ajar"}""")
        );
        await Refused(
            HttpStatusCode.UnprocessableEntity,
            "line 1: expected JSON",
            await app.AddLogAsync(id, "before", "a.csv", [65], "ambient 23")
        );
        await Refused(
            HttpStatusCode.RequestEntityTooLarge,
            "logs up to 60 MB",
            await app.AddLogAsync(id, "before", "large.csv", new byte[Limit + 1])
        );
        byte[] log = App.Example("03-paste-after.csv");
        await app.AddLogAsync(id, "before", "one.csv", log);
        await app.SheetWhenAsync(id, s => s.Count("runs") == 1);
        await Refused(
            HttpStatusCode.Conflict,
            "already on this job, on Setup 1 as it came",
            await app.AddLogAsync(id, "after", "two.csv", log)
        );

        static async Task Refused(HttpStatusCode status, string words, HttpResponseMessage answer)
        {
            Assert.Equal(status, answer.StatusCode);
            Assert.Contains(words, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task An_import_that_waits_can_be_stopped()
    {
        string id = (await app.NewJobAsync()).Text("id"),
            other = (await app.NewJobAsync()).Text("id");
        // Two heavy ones: they take turns.
        await app.AddLogAsync(other, "before", "long.csv", LongLog(900_000));
        HttpResponseMessage waits = await app.AddLogAsync(id, "before", "next.csv", LongLog(890_000));
        await app.Client.DeleteAsync($"/api/imports/{(await App.ReadAsync(waits)).Text("id")}");
        await app.SheetWhenAsync(other, s => s.Count("runs") == 1);
        JsonElement sheet = await app.GetAsync($"/api/jobs/{id}");
        Assert.Equal((0, 0), (sheet.Count("runs"), sheet.Count("imports")));
    }

    [Fact]
    public async Task A_small_log_does_not_wait_behind_large_ones()
    {
        string[] large = [(await app.NewJobAsync()).Text("id"), (await app.NewJobAsync()).Text("id")];
        string small = (await app.NewJobAsync()).Text("id");
        JsonElement[] waiting =
        [
            .. (
                await Task.WhenAll(
                    large.Select(
                        async (id, i) => await App.ReadAsync(await app.AddLogAsync(id, "before", "large.csv", LongLog(1_000_000 + i)))
                    )
                )
            ),
        ];
        await app.AddLogAsync(small, "before", "small.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(small, s => s.Count("runs") == 1);
        JsonElement[] sheets = await Task.WhenAll(large.Select(id => app.GetAsync($"/api/jobs/{id}")));
        Assert.Contains(sheets, sheet => sheet.Count("runs") == 0);
        await Task.WhenAll(waiting.Select(import => app.Client.DeleteAsync($"/api/imports/{import.Text("id")}")));
    }

    [Fact]
    public async Task What_a_server_left_unfinished_another_takes_up()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", "left.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(id, s => s.Count("runs") == 1);
        await app.LeaveUnfinishedAsync(id, "after", attempts: 1);
        Assert.Equal(2, (await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0].GetProperty("setup").GetInt32());
    }

    /// <summary>The database is cut off while a long log is read; it comes back, and the run is there once and whole.</summary>
    [Fact]
    public async Task A_database_that_goes_away_in_the_middle_leaves_nothing_half_written()
    {
        string id = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(id, "before", "cut.csv", LongLog(400_000));
        await app.SheetWhenAsync(id, s => s.GetProperty("imports").EnumerateArray().Any(i => i.Text("state") == "reading"));
        await app.AdminAsync($"ALTER DATABASE {app.Database} ALLOW_CONNECTIONS false");
        await app.AdminAsync($"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{app.Database}'");

        try
        {
            // The first meets connections that have died, later ones find none to be had.
            for (int attempt = 0; attempt < 3; attempt++)
            {
                HttpResponseMessage away = await app.SaveAsync(id, "owner", "typed while it was away");
                string sentence = await away.Content.ReadAsStringAsync();
                Assert.Equal(HttpStatusCode.ServiceUnavailable, away.StatusCode);
                Assert.Contains("database does not answer", sentence, StringComparison.Ordinal);
                Assert.DoesNotContain("   at ", sentence, StringComparison.Ordinal);
            }
        }
        finally
        {
            await app.AdminAsync($"ALTER DATABASE {app.Database} ALLOW_CONNECTIONS true");
        }

        Guid run = Guid.Parse((await app.SheetWhenAsync(id, s => s.Count("runs") == 1)).GetProperty("runs")[0].Text("id"));
        await using RemedosContext context = await app.ContextAsync();
        int values = (
            await context.SampleChunks.Where(c => c.RunId == run && c.Level == 0).Select(c => c.Values.Length).ToListAsync()
        ).Sum();
        Assert.Equal(400_000 * 3, values);
        Assert.Equal(
            run,
            (
                await context
                    .SampleChunks.Where(c => context.Runs.Any(r => r.Id == c.RunId && r.JobId == Guid.Parse(id)))
                    .Select(c => c.RunId)
                    .Distinct()
                    .ToListAsync()
            ).Single()
        );
        Assert.Equal(HttpStatusCode.OK, (await app.SaveAsync(id, "owner", "typed while it was away")).StatusCode);
    }

    private static byte[] LongLog(int rows)
    {
        StringBuilder text = new("Time [s],CPU temperature [°C],CPU power [W],Room temperature [°C]\n");
        for (int i = 0; i < rows; i++)
        {
            bool load = i > rows / 5 && i < rows * 4 / 5;
            text.Append(i).Append(load ? ",80." : ",35.").Append(i % 10).Append(load ? ",120." : ",15.").Append(i % 7).Append(",22.0\n");
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }
}
