using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Server.Files;
using Remedos.Server.Hosting;

namespace Remedos.Server.Tests.Servers;

/// <summary>Originals and pictures in a store that several machines share, reached by its protocol.</summary>
public sealed class S3StoreTests(S3StoreTests.Stored app) : IClassFixture<S3StoreTests.Stored>
{
    public sealed class Stored : App
    {
        internal StandInStore Store { get; } = new();

        protected override Dictionary<string, string> Settings =>
            new()
            {
                ["FileStore"] = Store.Address,
                ["FileStoreKey"] = StandInStore.Key,
                ["FileStoreSecret"] = StandInStore.Secret,
                ["Scratch"] = Files,
            };

        public override async ValueTask InitializeAsync()
        {
            await Store.StartAsync();
            await base.InitializeAsync();
        }

        public override async ValueTask DisposeAsync()
        {
            await base.DisposeAsync();
            await Store.DisposeAsync();
        }
    }

    private IFileStore Files => app.Services.GetRequiredService<IFileStore>();

    private static IConfiguration With(params (string Key, string? Value)[] settings) =>
        new ConfigurationBuilder()
            .AddInMemoryCollection(settings.Select(pair => new KeyValuePair<string, string?>(pair.Key, pair.Value)))
            .Build();

    [Fact]
    public async Task A_log_and_a_picture_come_back_byte_for_byte_and_equal_ones_are_sent_once()
    {
        string job = (await app.NewJobAsync()).Text("id");
        byte[] log = App.Example("02-paste-before.csv");
        await app.AddLogAsync(job, "before", "a.csv", log);
        JsonElement sheet = await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1);
        string run = sheet.GetProperty("runs")[0].Text("id");
        Assert.Equal(log, await app.Client.GetByteArrayAsync($"/api/runs/{run}/original"));
        Assert.NotEmpty(await app.Client.GetByteArrayAsync($"/api/runs/{run}/tidy"));
        using ByteArrayContent picture = new(IntakeTests.Png);
        JsonElement with = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=p.png", picture));
        byte[] shown = await app.Client.GetByteArrayAsync($"/api/jobs/{job}/photos/{with.GetProperty("photos")[0].Text("id")}");
        Assert.Contains(app.Store.Kept.Values, kept => kept.AsSpan().SequenceEqual(shown));

        int sent = app.Store.Puts;
        string other = (await app.NewJobAsync()).Text("id");
        await app.AddLogAsync(other, "before", "b.csv", log);
        await app.SheetWhenAsync(other, sheet => sheet.Count("runs") == 1);
        Assert.Equal(sent, app.Store.Puts);
        // On this machine nothing is left of any.
        Assert.Empty(Directory.EnumerateFiles(app.Files));
    }

    [Fact]
    public async Task Any_content_is_kept_by_its_hash_and_what_is_not_there_is_told()
    {
        Random random = new(7);
        foreach (int length in new[] { 0, 1, 65_536, 5_000_001 })
        {
            byte[] content = new byte[length];
            random.NextBytes(content);
            (string sha256, long bytes) = await Files.SaveAsync(new MemoryStream(content), null, default);
            Assert.Equal((Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content)), length), (sha256, (int)bytes));
            await using Stream stream = await Files.OpenAsync(sha256, default);
            using MemoryStream read = new();
            await stream.CopyToAsync(read);
            Assert.Equal(content, read.ToArray());
            Assert.True(await Files.HasAsync(sha256, default));
            await Files.RemoveAsync(sha256, default);
            await Files.RemoveAsync(sha256, default);
            Assert.False(await Files.HasAsync(sha256, default));
            await Assert.ThrowsAsync<OriginalMissingException>(() => Files.OpenAsync(sha256, default));
        }
    }

    [Fact]
    public async Task A_store_that_is_away_is_told_and_what_waits_for_it_is_done_when_it_is_back()
    {
        string job = (await app.NewJobAsync()).Text("id");
        byte[] log = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(App.Example("02-paste-before.csv")).ReplaceLineEndings("\r\n"));
        await app.AddLogAsync(job, "before", "a.csv", log);
        string run = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0].Text("id");
        await app.LeaveUnfinishedAsync(job, "before", attempts: 1);
        await app.Store.StopAsync();
        HttpResponseMessage refused = await app.Client.GetAsync($"/api/runs/{run}/original");
        Assert.Equal(
            (HttpStatusCode.ServiceUnavailable, HttpStatusCode.ServiceUnavailable),
            (refused.StatusCode, (await app.Client.GetAsync("/health")).StatusCode)
        );
        Assert.Contains(
            "The file store does not answer, so nothing was changed",
            (await App.ReadAsync(refused)).Text("detail"),
            StringComparison.Ordinal
        );
        HttpResponseMessage taken = await app.AddLogAsync(job, "before", "b.csv", Encoding.UTF8.GetBytes("time"));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, taken.StatusCode);
        // Longer than a few attempts last.
        await Task.Delay(TimeSpan.FromSeconds(2));
        Assert.Equal(1, (await app.GetAsync($"/api/jobs/{job}")).Count("imports"));
        await app.Store.StartAsync();
        JsonElement sheet = await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1 && sheet.Count("imports") == 0);
        Assert.Equal(log, await app.Client.GetByteArrayAsync($"/api/runs/{sheet.GetProperty("runs")[0].Text("id")}/original"));
    }

    [Fact]
    public async Task A_store_of_another_database_or_with_another_secret_is_refused_at_the_start()
    {
        string marker = app.Store.Kept.Keys.Single(name => name.EndsWith("store-id", StringComparison.Ordinal));
        byte[] own = app.Store.Kept[marker];
        app.Store.Kept[marker] = Encoding.UTF8.GetBytes(Guid.NewGuid().ToString());
        StartupException other = await Assert.ThrowsAsync<StartupException>(() => Startup.PrepareAsync(app.Services, false, default));
        Assert.Contains("belongs to another database", other.Message, StringComparison.Ordinal);
        app.Store.Kept[marker] = own;
        await Startup.PrepareAsync(app.Services, false, default);

        using S3Store stranger = new(
            StoreAddress.Of(app.Store.Address, With(("FileStoreKey", StandInStore.Key), ("FileStoreSecret", "ten lanterns"))),
            new Scratch(app.Files)
        );
        await Assert.ThrowsAsync<StoreAwayException>(() => stranger.IdentityAsync(default));
    }

    [Theory]
    [InlineData("https://store.example", "such as https://store.example/originals")]
    [InlineData("https://store.example/originals", "FileStoreKey is not set")]
    public void An_address_without_a_bucket_or_a_key_gets_a_sentence(string address, string sentence) =>
        Assert.Contains(
            sentence,
            Assert.Throws<StartupException>(() => StoreAddress.Of(address, With())).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void An_address_is_taken_apart()
    {
        StoreAddress at = StoreAddress.Of(
            "https://store.example:9000/originals/quay/end/",
            With(("FileStoreKey", "k"), ("FileStoreSecret", "s"), ("FileStoreRegion", "north"))
        );
        Assert.Equal(
            (new Uri("https://store.example:9000"), "originals", "quay/end/", "k", "s", "north"),
            (at.Service, at.Bucket, at.Prefix, at.Key, at.Secret, at.Region)
        );
    }
}
