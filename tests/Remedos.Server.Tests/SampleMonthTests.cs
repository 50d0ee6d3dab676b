using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Data.Samples;

namespace Remedos.Server.Tests;

/// <summary>Samples lie by the month of their run, whatever their ids are and whenever the part was made.</summary>
public sealed class SampleMonthTests(App app) : IClassFixture<App>
{
    private static readonly DateOnly Today = DateOnly.FromDateTime(DateTime.UtcNow);

    private static string PartOf(DateOnly day) => $"sample_chunks_{day.Year:0000}_{day.Month:00}";

    private async Task<Dictionary<Guid, string>> PlacesAsync()
    {
        await using RemedosContext context = await app.ContextAsync();
        return (
            await context
                .Database.SqlQuery<Place>($"SELECT DISTINCT run_id AS run, tableoid::regclass::text AS part FROM sample_chunks")
                .ToListAsync()
        ).ToDictionary(place => place.Run, place => place.Part);
    }

    private sealed record Place(Guid Run, string Part);

    /// <summary>A run like another one, with samples, under an id.</summary>
    private static async Task CopyAsync(RemedosContext context, Run like, Guid id, Core.Logs.Log log)
    {
        context.Runs.Add(
            new Run
            {
                Id = id,
                WorkshopId = like.WorkshopId,
                JobId = like.JobId,
                LogFileId = like.LogFileId,
                MountId = like.MountId,
                ImportedAt = like.ImportedAt,
                Rows = like.Rows,
                Conditions = like.Conditions,
                Analysis = like.Analysis,
                AnalysisVersion = RunAnalyzer.Version,
            }
        );
        await context.SaveChangesAsync();
        await SampleStore.WriteAsync(context, like.WorkshopId, id, log, CancellationToken.None);
    }

    [Fact]
    public async Task A_month_that_has_gathered_in_the_rest_is_moved_into_a_part_of_its_own_and_reads_the_same()
    {
        string job = (await app.NewJobAsync()).Text("id");
        byte[] original = App.Example("02-paste-before.csv");
        await app.AddLogAsync(job, "before", "a.csv", original);
        Guid first = (await app.SheetWhenAsync(job, sheet => sheet.Count("runs") == 1)).GetProperty("runs")[0].GetProperty("id").GetGuid();
        Assert.Equal(PartOf(Today), (await PlacesAsync())[first]);

        // As an archive of an earlier time brings them: a month of its own, a few runs of another, ids that say no time, one of the future.
        DateTimeOffset may = new(2021, 5, 3, 8, 0, 0, TimeSpan.Zero);
        Guid[] ofMay = [.. Enumerable.Range(0, 24).Select(hour => Guid.CreateVersion7(may.AddHours(24 * hour)))];
        Guid few = Guid.CreateVersion7(may.AddYears(-1)),
            random = Guid.Parse("f0000000-0000-4000-8000-000000000001"),
            future = Guid.Parse("ffffffff-ffff-7fff-bfff-ffffffffffff");
        Core.Logs.Log log = Core.Logs.LogReader.Read(new MemoryStream(original)).Log!;
        await using RemedosContext context = await app.ContextAsync();
        await context.Database.OpenConnectionAsync();
        Run like = await context.Runs.AsNoTracking().SingleAsync(run => run.Id == first);
        foreach (Guid id in ofMay.Concat([few, random, future]))
        {
            await CopyAsync(context, like, id, log);
        }

        Dictionary<Guid, string> before = await PlacesAsync();
        Assert.All(ofMay.Concat([few, random, future]), id => Assert.Equal("sample_chunks_rest", before[id]));
        string trace = await app.Client.GetStringAsync($"/api/runs/{ofMay[7]}/trace");

        Assert.Equal([new DateOnly(2021, 5, 1)], await SampleMonths.EnsureAsync(context, Today, CancellationToken.None));
        Assert.Empty(await SampleMonths.EnsureAsync(context, Today, CancellationToken.None));
        Dictionary<Guid, string> after = await PlacesAsync();
        Assert.All(ofMay, id => Assert.Equal("sample_chunks_2021_05", after[id]));
        Assert.All([few, random, future], id => Assert.Equal("sample_chunks_rest", after[id]));
        Assert.Equal(trace, await app.Client.GetStringAsync($"/api/runs/{ofMay[7]}/trace"));
        // Nothing was lost, and what is read of one run is read in its month alone.
        Assert.Equal(before.Count, after.Count);
        string plan = string.Join(
            '\n',
            await context
                .Database.SqlQuery<string>(
                    $"EXPLAIN SELECT * FROM sample_chunks WHERE workshop_id = {like.WorkshopId} AND run_id = {ofMay[7]}"
                )
                .ToListAsync()
        );
        Assert.Contains("sample_chunks_2021_05", plan, StringComparison.Ordinal);
        Assert.DoesNotContain("_rest", plan, StringComparison.Ordinal);
        Assert.DoesNotContain(PartOf(Today), plan, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Parts_stand_ready_for_the_months_to_come_also_where_several_servers_make_them()
    {
        DateOnly later = Today.AddMonths(14);
        await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(async _ =>
                {
                    await using RemedosContext context = await app.ContextAsync();
                    await SampleMonths.EnsureAsync(context, later, CancellationToken.None);
                })
        );
        await using RemedosContext context = await app.ContextAsync();
        List<string> parts = await context
            .Database.SqlQuery<string>(
                $"SELECT inhrelid::regclass::text AS \"Value\" FROM pg_inherits WHERE inhparent = 'sample_chunks'::regclass"
            )
            .ToListAsync();
        for (int month = 0; month <= 3; month++)
        {
            Assert.Contains(PartOf(Today.AddMonths(month)), parts);
            Assert.Contains(PartOf(later.AddMonths(month)), parts);
        }
    }
}
