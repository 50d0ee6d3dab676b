using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Hosting;

namespace Remedos.Server.Runs;

/// <summary>
/// Turns queued imports into runs, one at a time. A run appears whole or not at all: its rows and samples are one transaction.
/// A server that dies, or a database that goes away, leaves the import in the queue, where it is taken up again.
/// </summary>
public sealed class Importer(IDbContextFactory<RemedosContext> contexts, RunReader reader, ImportBell bell, TimeProvider clock, ILogger<Importer> log) : BackgroundService
{
    private static readonly TimeSpan Lease = TimeSpan.FromSeconds(20), Idle = TimeSpan.FromSeconds(2), Report = TimeSpan.FromMilliseconds(250);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (await TakeAsync(stoppingToken) is { } import)
                {
                    await ImportAsync(import, stoppingToken);
                }
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception failure)
            {
                // The import stays in the queue; its lease runs out and it is tried again.
                log.LogWarning(failure, "The importer stumbled and goes on");
            }

            await bell.WaitAsync(Idle, stoppingToken);
        }
    }

    /// <summary>Takes the oldest import that nobody reads; two servers never take the same.</summary>
    private async Task<Import?> TakeAsync(CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow(), until = now + Lease;
        List<Import> taken = await context.Imports.FromSql($"""
            UPDATE imports SET state = 'reading', lease_until = {until}, bytes_read = 0
            WHERE id = (SELECT id FROM imports WHERE state = 'queued' OR (state = 'reading' AND lease_until < {now})
                        ORDER BY created_at LIMIT 1 FOR UPDATE SKIP LOCKED)
            RETURNING *
            """).AsNoTracking().ToListAsync(cancellation);
        return taken.SingleOrDefault();
    }

    private async Task ImportAsync(Import import, CancellationToken stopping)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(stopping);
        LogFile file = await context.LogFiles.AsNoTracking().SingleAsync(f => f.Id == import.LogFileId, stopping);
        using CancellationTokenSource cancel = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        long bytesRead = 0;
        Progress progress = new(bytes => Interlocked.Exchange(ref bytesRead, bytes));
        using CancellationTokenSource finished = new();
        Task reporting = ReportAsync(import.Id, () => Interlocked.Read(ref bytesRead), cancel, finished.Token);
        try
        {
            LogReading reading = await Task.Run(
                () => reader.Read(import.WorkshopId, file.Sha256, progress, cancel.Token),
                cancel.Token);
            if (reading.Log is null)
            {
                await EndAsync(import.Id, Import.Failed, $"“{file.Name}”: {reading.Problem!.Located}", stopping, reading.Problem.Code);
                return;
            }

            IReadOnlyList<ReadRun> runs = await Task.Run(() => ReadRun.Of(reading.Log, import.Conditions), cancel.Token);
            await StoreAsync(import, runs, cancel.Token);
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            await EndAsync(import.Id, Import.Cancelled, null, stopping);
        }
        catch (FileNotFoundException)
        {
            await EndAsync(import.Id, Import.Failed, $"“{file.Name}” is no longer in the file store. Add it again.", stopping);
        }
        catch (Exception failure) when (!ProblemSentences.IsDatabaseAway(failure) && failure is not OperationCanceledException)
        {
            log.LogError(failure, "Import {Import} failed", import.Id);
            await EndAsync(import.Id, Import.Failed, $"“{file.Name}” could not be read to the end. The original is kept; the server’s log says more.", stopping);
        }
        finally
        {
            await finished.CancelAsync();
            await reporting;
        }
    }

    private async Task StoreAsync(Import import, IReadOnlyList<ReadRun> runs, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        Job job = await context.Jobs.SingleAsync(j => j.Id == import.JobId, cancellation);
        Guid first = await RunStore.AddAsync(context, job, import.LogFileId, import.Side, import.Conditions, runs, import.PersonId, clock.GetUtcNow(), cancellation);
        await context.Imports.Where(i => i.Id == import.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.State, Import.Done).SetProperty(i => i.RunId, first), cancellation);
        await transaction.CommitAsync(cancellation);
    }

    private async Task EndAsync(Guid importId, string state, string? problem, CancellationToken cancellation, string? code = null)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await context.Imports.Where(i => i.Id == importId)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.State, state).SetProperty(i => i.Problem, problem).SetProperty(i => i.ProblemCode, code), cancellation);
    }

    /// <summary>Writes progress, renews the lease, and looks whether somebody asked to stop.</summary>
    private async Task ReportAsync(Guid importId, Func<long> bytesRead, CancellationTokenSource cancel, CancellationToken finished)
    {
        while (!finished.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(Report, clock, finished);
                await using RemedosContext context = await contexts.CreateDbContextAsync(finished);
                long read = bytesRead();
                DateTimeOffset until = clock.GetUtcNow() + Lease;
                await context.Imports.Where(i => i.Id == importId)
                    .ExecuteUpdateAsync(set => set.SetProperty(i => i.BytesRead, read).SetProperty(i => i.LeaseUntil, until), finished);
                if (await context.Imports.AnyAsync(i => i.Id == importId && i.CancelRequested, finished))
                {
                    await cancel.CancelAsync();
                    return;
                }
            }
            catch (OperationCanceledException) when (finished.IsCancellationRequested)
            {
                return;
            }
            catch (Exception failure) when (ProblemSentences.IsDatabaseAway(failure))
            {
                // The reading goes on; only its progress is not seen for a while.
            }
        }
    }

    private sealed class Progress(Action<long> report) : IProgress<long>
    {
        public void Report(long value) => report(value);
    }
}
