using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using NpgsqlTypes;
using Remedos.Core.Jobs;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Data.Samples;

namespace Remedos.Benchmarks;

/// <summary>Storing a run's samples with their pyramid against a bare binary COPY of the same numbers.</summary>
internal static class StoringBench
{
    public static async Task RunAsync(string path, string connectionString)
    {
        Log log = ReadingBench.Read(path);
        DbContextOptions<RemedosContext> options = new DbContextOptionsBuilder<RemedosContext>()
            .UseNpgsql(connectionString)
            .UseSnakeCaseNamingConvention()
            .Options;
        Run run = await PrepareAsync(options, log);
        await using NpgsqlConnection bare = new(connectionString);
        await bare.OpenAsync();
        await using (NpgsqlCommand create = new("CREATE TABLE bare_samples (channel smallint, values real[])", bare))
        {
            await create.ExecuteNonQueryAsync();
        }

        (double ours, double copy) = await Table.MediansAsync(
            async () =>
            {
                await using RemedosContext context = new(options);
                await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync();
                await context.SampleChunks.Where(c => c.RunId == run.Id).ExecuteDeleteAsync();
                await context.TimeChunks.Where(c => c.RunId == run.Id).ExecuteDeleteAsync();
                await SampleStore.WriteAsync(context, run.WorkshopId, run.Id, log, CancellationToken.None);
                await transaction.CommitAsync();
            },
            () => CopyAsync(bare, log)
        );
        Table.Row("stored with its pyramid, against a bare binary COPY", ours, copy);
    }

    private static async Task CopyAsync(NpgsqlConnection connection, Log log)
    {
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await using (NpgsqlCommand empty = new("DELETE FROM bare_samples", connection))
        {
            await empty.ExecuteNonQueryAsync();
        }

        await using (NpgsqlBinaryImporter copy = await connection.BeginBinaryImportAsync("COPY bare_samples FROM STDIN (FORMAT BINARY)"))
        {
            foreach (Channel channel in log.Channels.Where(c => c.Values.Length > 0))
            {
                await copy.StartRowAsync();
                await copy.WriteAsync((short)channel.Column, NpgsqlDbType.Smallint);
                await copy.WriteAsync(channel.Values, NpgsqlDbType.Array | NpgsqlDbType.Real);
            }

            await copy.CompleteAsync();
        }

        await transaction.CommitAsync();
    }

    private static async Task<Run> PrepareAsync(DbContextOptions<RemedosContext> options, Log log)
    {
        await using RemedosContext context = new(options);
        await context.Database.MigrateAsync();
        DateTimeOffset now = DateTimeOffset.UtcNow;
        Workshop workshop = new()
        {
            Id = Guid.NewGuid(),
            Name = "Bench",
            TagPrefix = "B",
            Currency = "EUR",
            TimeZone = "UTC",
            NextJobNumber = 2,
        };
        Job job = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = workshop.Id,
            Number = 1,
            CreatedAt = now,
            ChangedAt = now,
        };
        LogFile file = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = workshop.Id,
            Name = "wide.csv",
            Sha256 = new string('0', 64),
            StoredAt = now,
        };
        Setup setup = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = workshop.Id,
            JobId = job.Id,
            Number = 1,
            Round = 1,
            Kind = SetupKind.AsItCame,
            CreatedAt = now,
        };
        Mount mount = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = workshop.Id,
            JobId = job.Id,
            SetupId = setup.Id,
            Number = 1,
            CreatedAt = now,
        };
        RunConditions conditions = new();
        Run run = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = workshop.Id,
            JobId = job.Id,
            LogFileId = file.Id,
            MountId = mount.Id,
            ImportedAt = now,
            Rows = log.Samples,
            Conditions = conditions,
            Analysis = RunAnalyzer.Analyze(log, conditions),
        };
        context.AddRange(workshop, job, setup, mount, file, run);
        await context.SaveChangesAsync();
        return run;
    }
}
