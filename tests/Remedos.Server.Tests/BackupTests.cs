using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Server.Backups;

namespace Remedos.Server.Tests;

/// <summary>Backups that the server makes by itself: when, of what, how many, and what is told when one is not made.</summary>
public sealed class BackupTests(BackupTests.WithFolder app) : IClassFixture<BackupTests.WithFolder>
{
    public sealed class WithFolder : App
    {
        public string Folder { get; } = Directory.CreateTempSubdirectory("remedos-backups-").FullName;

        protected override Dictionary<string, string> Settings => new() { ["BackupFolder"] = Folder };

        public override async ValueTask DisposeAsync()
        {
            await base.DisposeAsync();
            Directory.Delete(Folder, recursive: true);
        }
    }

    private static Workshop At(string zone, string? time, string prefix = "WS") =>
        new()
        {
            Id = Guid.Parse("01a223fe-c193-7588-9dd6-7462c021939f"),
            Name = "Quay End",
            TagPrefix = prefix,
            Currency = "EUR",
            TimeZone = zone,
            BackupAt = time is null ? null : TimeOnly.Parse(time),
        };

    private static DateTimeOffset Moment(string text) =>
        DateTimeOffset.Parse(text, System.Globalization.CultureInfo.InvariantCulture, System.Globalization.DateTimeStyles.AssumeUniversal);

    /// <summary>On the workshop's own clock, over the days on which that is moved as well.</summary>
    [Theory]
    [InlineData("UTC", "12:30", "2026-11-28 08:00", "2026-11-28 12:30")]
    [InlineData("UTC", "12:30", "2026-11-28 12:30", "2026-11-29 12:30")]
    [InlineData("UTC", "12:30", "2026-11-20 12:31", "2026-11-21 12:30")] // off for a week: due since then
    [InlineData("Atlantic/Azores", "12:30", "2026-11-28 08:00", "2026-11-28 13:30")] // an hour behind
    [InlineData("Europe/Lisbon", "01:30", "2026-03-28 12:00", "2026-03-29 01:30")] // an hour that is left out
    [InlineData("Europe/Lisbon", "12:00", "2026-10-24 11:00", "2026-10-25 12:00")] // and one that comes twice
    public void The_next_is_due_at_the_workshops_own_time(string zone, string time, string last, string due) =>
        Assert.Equal(Moment(due), BackupPlan.Next(At(zone, time), new BackupStand { TriedAt = Moment(last), MadeAt = Moment(last) }));

    [Fact]
    public void None_is_due_where_none_is_wanted_and_a_failed_one_is_tried_again()
    {
        BackupStand failed = new() { TriedAt = Moment("2026-11-28 12:30"), Problem = "The disk is full." };
        Assert.Null(BackupPlan.Next(At("UTC", null), failed));
        Assert.Equal(Moment("2026-11-28 13:30"), BackupPlan.Next(At("UTC", "12:30"), failed));
        // From when it is wanted on: the first is made when its time has come.
        Assert.Equal(
            Moment("2026-11-29 12:30"),
            BackupPlan.Next(At("UTC", "12:30"), new BackupStand { TriedAt = Moment("2026-11-28 14:00") })
        );
    }

    [Fact]
    public void Only_the_workshops_own_and_oldest_are_over()
    {
        Workshop workshop = At("UTC", "12:30");
        string[] own = [.. Enumerable.Range(1, 5).Select(day => BackupPlan.NameOf(workshop, Moment($"2026-11-0{day} 12:30")))];
        Workshop other = new()
        {
            Id = Guid.NewGuid(),
            Name = "Other",
            TagPrefix = "WS",
            Currency = "EUR",
            TimeZone = "UTC",
        };
        string[] all = [.. own.Reverse(), "notes.zip", own[0] + ".part", "x" + own[1], BackupPlan.NameOf(other, Moment("2020-01-01"))];
        Assert.Equal([own[1], own[0]], BackupPlan.Over(workshop, all, 3));
        Assert.Empty(BackupPlan.Over(workshop, all, 5));
        // The letters before its tags have changed since.
        Assert.Equal([own[0]], BackupPlan.Over(At("UTC", "12:30", prefix: "AA"), own, 4));
    }

    [Fact]
    public async Task What_is_due_is_made_once_by_however_many_and_is_an_archive_that_an_empty_workshop_reads()
    {
        foreach (string before in Directory.GetFiles(app.Folder))
        {
            File.Delete(before);
        }

        await using RemedosContext context = await app.ContextAsync();
        await context.BackupStands.ExecuteDeleteAsync();
        string job = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "owner", "Kept twice");
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        await SetAsync("backupsKept", 2, 14);
        await SetAsync("backupAt", "00:01", null);
        ScheduledBackups scheduled = app.Services.GetRequiredService<ScheduledBackups>();
        await scheduled.RunAsync(default);
        await scheduled.RunAsync(default);
        Assert.Empty(Directory.GetFiles(app.Folder)); // wanted since now

        File.WriteAllText(Path.Combine(app.Folder, "somebody else’s.zip"), "theirs");
        for (int day = 0; day < 3; day++)
        {
            await context.BackupStands.ExecuteUpdateAsync(set =>
                set.SetProperty(stand => stand.TriedAt, DateTimeOffset.UtcNow.AddDays(-2))
                    .SetProperty(stand => stand.MadeAt, (DateTimeOffset?)null)
            );
            await Task.WhenAll(scheduled.RunAsync(default), scheduled.RunAsync(default), scheduled.RunAsync(default));
            string made = Directory.GetFiles(app.Folder, "* WS *.zip").MaxBy(File.GetLastWriteTimeUtc)!;
            Assert.Single(Directory.GetFiles(app.Folder, "* WS *.zip"), path => !path.Contains("2020", StringComparison.Ordinal));
            // As of other days.
            File.Move(
                made,
                Regex.Replace(
                    made,
                    @"\d{4}-\d\d-\d\d \d{4}\.zip$",
                    $"2020-0{day + 1}-01 0001.zip",
                    RegexOptions.None,
                    TimeSpan.FromSeconds(1)
                )
            );
        }

        JsonElement stand = await App.ReadAsync(await app.Client.PostAsync("/api/backups", null));
        Assert.Equal(JsonValueKind.Null, stand.GetProperty("problem").ValueKind);
        string[] kept = Directory.GetFiles(app.Folder, "* WS *.zip");
        Assert.Equal(2, kept.Length);
        Assert.True(File.Exists(Path.Combine(app.Folder, "somebody else’s.zip")));
        string last = Path.Combine(app.Folder, stand.Text("fileName"));
        Assert.Equal(new FileInfo(last).Length, stand.GetProperty("bytes").GetInt64());
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(last));
        Assert.True(stand.GetProperty("nextAt").GetDateTimeOffset() > DateTimeOffset.UtcNow);

        using HttpClient empty = await app.OtherWorkshopAsync();
        HttpResponseMessage read = await empty.PostAsync("/api/archive", new ByteArrayContent(await File.ReadAllBytesAsync(last)));
        Assert.True(read.IsSuccessStatusCode, await read.Content.ReadAsStringAsync());
        JsonElement restored = await empty.GetFromJsonAsync<JsonElement>("/api/settings");
        Assert.Equal(("00:01", 2), (restored.Text("backupAt"), restored.GetProperty("backupsKept").GetInt32()));
        await SetAsync("backupAt", null, "00:01");
    }

    [Fact]
    public async Task One_that_is_not_made_is_told_and_harms_none_that_is_there()
    {
        JsonElement first = await App.ReadAsync(await app.Client.PostAsync("/api/backups", null));
        string made = Path.Combine(app.Folder, first.Text("fileName")),
            away = app.Folder + ".away";
        Directory.Move(app.Folder, away);
        try
        {
            await SetAsync("backupAt", "00:01", null);
            JsonElement stand = await App.ReadAsync(await app.Client.PostAsync("/api/backups", null));
            Assert.Equal(
                ($"The folder {app.Folder} is not there: its disk may not be mounted.", first.Text("fileName")),
                (stand.Text("problem"), stand.Text("fileName"))
            );
            Assert.False(Directory.Exists(app.Folder));
            JsonElement health = await app.GetAsync("/health");
            Assert.Equal("degraded", health.Text("status"));
            Assert.Contains("The last backup was not made. The folder", health.Text("sentence"), StringComparison.Ordinal);
        }
        finally
        {
            Directory.Move(away, app.Folder);
        }

        Assert.True(File.Exists(made));
        Assert.Equal(
            JsonValueKind.Null,
            (await App.ReadAsync(await app.Client.PostAsync("/api/backups", null))).GetProperty("problem").ValueKind
        );
        Assert.Equal("healthy", (await app.GetAsync("/health")).Text("status"));
        await SetAsync("backupAt", null, "00:01");
    }

    [Theory]
    [InlineData("backupAt", "\"25:00\"", "12:30")]
    [InlineData("backupAt", "7", "12:30")]
    [InlineData("backupsKept", "0", "1 to 1000")]
    [InlineData("open", "{\"days\":[]}", "one day at least")]
    [InlineData("open", "{\"days\":[{\"day\":1,\"from\":\"9\",\"to\":\"x\"}]}", "Opening hours are days")]
    public async Task A_setting_that_cannot_be_gets_a_sentence(string field, string value, string sentence)
    {
        using StringContent body = new($"{{\"value\":{value},\"base\":null}}", System.Text.Encoding.UTF8, "application/json");
        HttpResponseMessage answer = await app.Client.PatchAsync($"/api/settings/{field}", body);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains(sentence, (await App.ReadAsync(answer)).Text("detail"), StringComparison.Ordinal);
    }

    /// <summary>What stands at the head of what leaves the workshop: its sign and its hours, and in an archive.</summary>
    [Fact]
    public async Task The_sign_and_the_hours_stand_at_the_head_of_documents()
    {
        string job = (await app.NewJobAsync()).Text("id");
        using NetVips.Image drawn = NetVips.Image.Black(300, 120) + 200;
        byte[] picture = drawn.Cast(NetVips.Enums.BandFormat.Uchar).PngsaveBuffer();
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync("/api/settings/logo")).StatusCode);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await app.Client.PostAsync("/api/settings/logo", new ByteArrayContent([1, 2, 3]))).StatusCode
        );
        JsonElement settings = await App.ReadAsync(await app.Client.PostAsync("/api/settings/logo", new ByteArrayContent(picture)));
        Assert.Equal(12, settings.Text("logo").Length);
        byte[] shown = await app.Client.GetByteArrayAsync("/api/settings/logo");
        using (NetVips.Image kept = NetVips.Image.NewFromBuffer(shown))
        {
            Assert.Equal((300, 120), (kept.Width, kept.Height));
        }

        object[] days =
        [
            .. Enumerable
                .Range(1, 5)
                .Select(day => new
                {
                    day,
                    from = "09:00:00",
                    to = "17:30:00",
                }),
        ];
        HttpResponseMessage saved = await app.Client.PatchAsJsonAsync(
            "/api/settings/open",
            new { value = new { days }, @base = (object?)null }
        );
        Assert.True(saved.IsSuccessStatusCode, await saved.Content.ReadAsStringAsync());
        using (
            UglyToad.PdfPig.PdfDocument pdf = UglyToad.PdfPig.PdfDocument.Open(
                await app.Client.GetByteArrayAsync($"/api/jobs/{job}/report.pdf")
            )
        )
        {
            Assert.Contains(
                "Open Mon–Fri 09:00–17:30",
                string.Join(' ', pdf.GetPage(1).GetWords().Select(word => word.Text)),
                StringComparison.Ordinal
            );
            Assert.Single(pdf.GetPage(1).GetImages());
        }

        using ZipArchive archive = new(new MemoryStream(await app.Client.GetByteArrayAsync("/api/archive")));
        using (MemoryStream inIt = new())
        {
            await using Stream content = archive.GetEntry("logo.jpg")!.Open();
            await content.CopyToAsync(inIt);
            Assert.Equal(shown, inIt.ToArray());
        }

        Assert.Equal(
            JsonValueKind.Null,
            (await App.ReadAsync(await app.Client.DeleteAsync("/api/settings/logo"))).GetProperty("logo").ValueKind
        );
        JsonElement log = await app.GetAsync("/api/audit");
        Assert.Contains("logo", log.ToString(), StringComparison.Ordinal);
    }

    private async Task SetAsync(string field, object? value, object? @base)
    {
        HttpResponseMessage saved = await app.Client.PatchAsJsonAsync($"/api/settings/{field}", new { value, @base });
        Assert.True(saved.IsSuccessStatusCode, await saved.Content.ReadAsStringAsync());
    }
}
