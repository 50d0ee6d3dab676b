using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests;

/// <summary>
/// Originals that are missing, stores that are another's, runs that cannot be read any more, and work that fails for good.
/// </summary>
public sealed class StoreTests(App app) : IClassFixture<App>
{
    private async Task<(string Job, string Run)> WithRunAsync(byte[] log)
    {
        string job = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(job, "before", "a.csv", log);
        return (job, (await app.SheetWhenAsync(job, s => s.Count("runs") == 1)).GetProperty("runs")[0].Text("id"));
    }

    private async Task<string> OriginalOfAsync(string run)
    {
        await using RemedosContext context = await app.ContextAsync();
        string hash = await context
            .Runs.Where(r => r.Id == Guid.Parse(run))
            .Join(context.LogFiles, r => r.LogFileId, f => f.Id, (r, f) => f.Sha256)
            .SingleAsync();
        return Path.Combine(app.Files, hash[..2], hash);
    }

    private static byte[] Log(string header, int rows = 400) =>
        Encoding.UTF8.GetBytes(
            $"{header}\n" + string.Concat(Enumerable.Range(0, rows).Select(i => $"{i},{40 + (i % 3)},{20 + (i % 2)},{900 + (i % 7)}\n"))
        );

    /// <summary>A missing original is told as missing, ticks nothing off, and is read once it is back.</summary>
    [Fact]
    public async Task A_missing_original_is_missing_and_nothing_else_is_changed()
    {
        (string job, string run) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Missing one [rpm]"));
        (string otherJob, string other) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],There [rpm]"));
        string original = await OriginalOfAsync(run);
        File.Move(original, original + ".away");
        foreach (string page in new[] { "original", "tidy", "fit", "columns" })
        {
            HttpResponseMessage answer = await app.Client.GetAsync($"/api/runs/{run}/{page}");
            Assert.Equal(HttpStatusCode.Gone, answer.StatusCode);
            Assert.Contains("original is missing", (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
        }

        await SetVersionAsync(0, run, other);
        await app.StartAsync();
        // The run that can be read is, though the other stands before it; the other is told and not ticked off.
        await app.SheetWhenAsync(job, sheet => sheet.GetProperty("runs")[0].GetProperty("missingOriginal").GetBoolean());
        await using (RemedosContext context = await app.ContextAsync())
        {
            await UntilAsync(async () =>
                await context.Runs.AsNoTracking().AnyAsync(r => r.Id == Guid.Parse(other) && r.AnalysisVersion > 0)
            );
            Assert.Equal(0, (await context.Runs.AsNoTracking().SingleAsync(r => r.Id == Guid.Parse(run))).AnalysisVersion);
        }

        Assert.Contains("lost their original", (await app.GetAsync("/health")).Text("sentence"), StringComparison.Ordinal);
        File.Move(original + ".away", original);
        await app.StartAsync();
        await app.SheetWhenAsync(job, sheet => !sheet.GetProperty("runs")[0].GetProperty("missingOriginal").GetBoolean());
        Assert.Equal(1, (await app.GetAsync($"/api/jobs/{otherJob}")).Count("runs"));
    }

    /// <summary>
    /// What cannot be read any more is tried a few times, set aside and told; older runs behind it are read all the same.
    /// </summary>
    [Fact]
    public async Task A_run_that_cannot_be_read_starves_no_other()
    {
        (_, string good) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Good [rpm]"));
        (_, string bad) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Bad [rpm]"));
        string original = await OriginalOfAsync(bad);
        byte[] kept = await File.ReadAllBytesAsync(original);
        await File.WriteAllTextAsync(original, "no log any more");
        await SetVersionAsync(0, good, bad);
        await app.StartAsync();
        await using RemedosContext context = await app.ContextAsync();
        await UntilAsync(async () => await context.Runs.AsNoTracking().AnyAsync(r => r.Id == Guid.Parse(good) && r.AnalysisVersion > 0));
        await UntilAsync(() =>
            context
                .WorkItems.AsNoTracking()
                .AnyAsync(item => item.SubjectId == Guid.Parse(bad) && item.Attempts == 1 && item.LastError != null)
        );
        // The pauses between the tries are not waited for here.
        await context
            .WorkItems.Where(item => item.SubjectId == Guid.Parse(bad))
            .ExecuteUpdateAsync(set =>
                set.SetProperty(item => item.Attempts, 4).SetProperty(item => item.NotBefore, DateTimeOffset.UtcNow.AddSeconds(-1))
            );
        await UntilAsync(() =>
            context.WorkItems.AsNoTracking().AnyAsync(item => item.SubjectId == Guid.Parse(bad) && item.SetAsideAt != null)
        );
        Assert.Equal("degraded", (await app.GetAsync("/health")).Text("status"));
        await File.WriteAllBytesAsync(original, kept);
        await context.WorkItems.Where(item => item.SubjectId == Guid.Parse(bad)).ExecuteDeleteAsync();
        await app.StartAsync();
        await UntilAsync(async () => await context.Runs.AsNoTracking().AnyAsync(r => r.Id == Guid.Parse(bad) && r.AnalysisVersion > 0));
    }

    /// <summary>Work that ends the process each time is not taken up for ever.</summary>
    [Fact]
    public async Task An_import_that_kills_the_server_is_set_aside_and_told()
    {
        (string job, _) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Killer [rpm]"));
        Import killer = await app.LeaveUnfinishedAsync(job, "before", attempts: 5);
        JsonElement sheet = await app.SheetWhenAsync(job, s =>
            s.GetProperty("imports").EnumerateArray().Any(i => i.Text("state") == "failed")
        );
        Assert.Contains("could not be read to the end", sheet.GetProperty("imports")[0].Text("problem"), StringComparison.Ordinal);
        await using RemedosContext context = await app.ContextAsync();
        await context.WorkItems.Where(item => item.SubjectId == killer.Id).ExecuteDeleteAsync();
    }

    /// <summary>What is drawn of a run follows what its columns are said to be.</summary>
    [Fact]
    public async Task A_column_that_is_something_else_is_drawn_whole()
    {
        // Said to be the room: every value is far too warm for one and rejected; as a fan's speed all of them count.
        (string job, string run) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Aux"));
        JsonElement room = await SayAsync("ambient-temperature");
        Assert.Equal((0, 0), (Channel(room).GetProperty("samples").GetInt32(), await DrawnAsync()));
        JsonElement fan = await SayAsync("cpu-fan-speed");
        Assert.Equal((400, 400), (Channel(fan).GetProperty("samples").GetInt32(), await DrawnAsync()));
        await app.Client.PostAsync($"/api/jobs/{job}/undo/{fan.GetProperty("lastChange").GetProperty("eventId").GetInt64()}", null);
        Assert.Equal(0, await DrawnAsync());

        async Task<JsonElement> SayAsync(string role)
        {
            uint version = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("runs")[0].GetProperty("version").GetUInt32();
            return await App.ReadAsync(await app.Client.PutAsJsonAsync($"/api/runs/{run}/columns/3/role", new { role, version }));
        }

        async Task<int> DrawnAsync() =>
            (await app.GetAsync($"/api/runs/{run}/trace?columns=3"))
                .GetProperty("channels")
                .EnumerateArray()
                .Sum(channel => channel.GetProperty("values").EnumerateArray().Count(value => value.ValueKind == JsonValueKind.Number));

        static JsonElement Channel(JsonElement sheet) => sheet.GetProperty("runs")[0].GetProperty("analysis").GetProperty("channels")[3];
    }

    [Fact]
    public async Task A_store_that_is_anothers_is_refused_at_the_start()
    {
        string marker = Path.Combine(app.Files, "store-id");
        string own = await File.ReadAllTextAsync(marker);
        IServiceProvider services = app.Services;
        await File.WriteAllTextAsync(marker, Guid.NewGuid().ToString());
        Assert.Contains(
            "belongs to another database",
            (await Assert.ThrowsAsync<StartupException>(() => Startup.PrepareAsync(services, false, default))).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await app.Client.GetAsync("/health")).StatusCode);
        File.Delete(marker);
        Assert.Contains(
            "its disk may not be there",
            (await Assert.ThrowsAsync<StartupException>(() => Startup.PrepareAsync(services, false, default))).Message,
            StringComparison.Ordinal
        );
        await File.WriteAllTextAsync(marker, own);
        await Startup.PrepareAsync(services, false, default);
    }

    [Fact]
    public async Task Only_the_servers_user_reads_what_is_kept_and_leftovers_are_cleared()
    {
        (_, string run) = await WithRunAsync(Log("Time [s],CPU temperature [°C],CPU power [W],Private [rpm]"));
        string original = await OriginalOfAsync(run);
        const UnixFileMode others = UnixFileMode.GroupRead | UnixFileMode.OtherRead | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute;
        Assert.Equal(UnixFileMode.None, File.GetUnixFileMode(original) & others);
        Assert.Equal(UnixFileMode.None, File.GetUnixFileMode(Path.GetDirectoryName(original)!) & others);
        (string old, string young) = (Path.Combine(app.Files, "incoming", "old"), Path.Combine(app.Files, "incoming", "young"));
        await File.WriteAllTextAsync(old, "x");
        await File.WriteAllTextAsync(young, "x");
        File.SetLastWriteTimeUtc(old, DateTime.UtcNow.AddDays(-1));
        _ = new FolderStore(app.Files);
        Assert.Equal((false, true), (File.Exists(old), File.Exists(young)));
        File.Delete(young);
    }

    /// <summary>A picture is what is seen: no place, no oversized one, nothing that only begins like one.</summary>
    [Fact]
    public async Task A_picture_is_decoded_sized_and_stripped()
    {
        string job = (await app.NewJobAsync()).Text("id");
        using NetVips.Image large = NetVips
            .Image.Black(4000, 2000, bands: 3)
            .Mutate(image =>
                image.Set(NetVips.GValue.GStrType, "exif-ifd3-GPSLatitude", "59/1 0/1 0/1 (59, Rational, 3 components, 24 bytes)")
            );
        byte[] withPlace = large.JpegsaveBuffer();
        Assert.Contains("GPSLatitude", Fields(withPlace));
        JsonElement sheet = await App.ReadAsync(await AddAsync(withPlace));
        string photo = sheet.GetProperty("photos")[0].Text("id");
        byte[] kept = await app.Client.GetByteArrayAsync($"/api/jobs/{job}/photos/{photo}"),
            small = await app.Client.GetByteArrayAsync($"/api/jobs/{job}/photos/{photo}?small=true");
        Assert.DoesNotContain("GPSLatitude", Fields(kept));
        using NetVips.Image shown = NetVips.Image.NewFromBuffer(kept),
            thumbnail = NetVips.Image.NewFromBuffer(small);
        Assert.Equal((3000, 1500, 400, 200), (shown.Width, shown.Height, thumbnail.Width, thumbnail.Height));

        using NetVips.Image huge = NetVips.Image.Black(16_000, 16_000);
        Assert.Contains("million dots are taken", await RefusedAsync(huge.PngsaveBuffer(compression: 1)), StringComparison.Ordinal);
        Assert.Contains("is no picture", await RefusedAsync([.. IntakeTests.Png.Take(20), .. new byte[40]]), StringComparison.Ordinal);
        Assert.Contains(
            "is no picture",
            await RefusedAsync("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray()),
            StringComparison.Ordinal
        );
        // What was taken off is served no more.
        await app.Client.DeleteAsync($"/api/jobs/{job}/photos/{photo}");
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{job}/photos/{photo}")).StatusCode);

        Task<HttpResponseMessage> AddAsync(byte[] picture) =>
            app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=p.jpg", new ByteArrayContent(picture));
        async Task<string> RefusedAsync(byte[] picture)
        {
            HttpResponseMessage answer = await AddAsync(picture);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
            return (await App.ReadAsync(answer)).Text("detail");
        }

        static string Fields(byte[] picture)
        {
            using NetVips.Image image = NetVips.Image.NewFromBuffer(picture);
            return string.Join(' ', image.GetFields());
        }
    }

    [Fact]
    public async Task Names_of_files_are_cut_between_letters()
    {
        string job = (await app.NewJobAsync()).Text("id");
        HttpResponseMessage taken = await app.AddLogAsync(job, "before", new string('a', 254) + "😀.csv", App.Example("empty.csv"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, taken.StatusCode);
        Assert.Equal(new string('a', 254), GivenName.Of("dir/" + new string('a', 254) + "😀", "x"));
        Assert.Equal("x", GivenName.Of("..\\\0", "x"));
    }

    private async Task SetVersionAsync(int version, params IEnumerable<string> runs)
    {
        await using RemedosContext context = await app.ContextAsync();
        Guid[] ids = [.. runs.Select(Guid.Parse)];
        await context.Runs.Where(r => ids.Contains(r.Id)).ExecuteUpdateAsync(set => set.SetProperty(r => r.AnalysisVersion, version));
    }

    private static async Task UntilAsync(Func<Task<bool>> holds)
    {
        using CancellationTokenSource limit = new(TimeSpan.FromSeconds(30));
        while (!await holds())
        {
            await Task.Delay(50, limit.Token);
        }
    }
}
