using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Hosting;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>
/// Turns an uploaded log into runs. They appear whole or not at all: rows, samples and the end of the work are one transaction.
/// </summary>
internal sealed class ImportLog(
    IDbContextFactory<RemedosContext> contexts,
    Writes writes,
    RunReader reader,
    Telemetry telemetry,
    TimeProvider clock
) : IWorkHandler
{
    private static readonly TimeSpan Report = TimeSpan.FromMilliseconds(250);

    public string Kind => WorkItem.ImportLog;

    public async Task HandleAsync(Lease lease, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        (Guid workshop, Guid id) = (lease.Item.WorkshopId, lease.Item.SubjectId);
        Import import = await context.Imports.SingleAsync(i => i.WorkshopId == workshop && i.Id == id, cancellation);
        LogFile file = await context
            .LogFiles.AsNoTracking()
            .SingleAsync(f => f.WorkshopId == workshop && f.Id == import.LogFileId, cancellation);
        if (import.CancelRequested)
        {
            await EndAsync(lease, import, Import.Cancelled, null, null, cancellation);
            return;
        }

        (import.State, import.BytesRead) = (Import.Reading, 0);
        await context.SaveChangesAsync(cancellation);
        using CancellationTokenSource cancel = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        using CancellationTokenSource finished = new();
        long bytesRead = 0;
        Task reporting = ReportAsync(import, () => Interlocked.Read(ref bytesRead), cancel, finished.Token);
        try
        {
            LogReading reading = await reader.ReadAsync(
                context,
                workshop,
                file.Sha256,
                new Progress(bytes => Interlocked.Exchange(ref bytesRead, bytes)),
                cancel.Token
            );
            if (reading.Log is null)
            {
                await EndAsync(
                    lease,
                    import,
                    Import.Failed,
                    $"“{file.Name}”: {reading.Problem!.Located}",
                    reading.Problem.Code,
                    cancellation
                );
                return;
            }

            IReadOnlyList<ReadRun> runs = await Task.Run(() => ReadRun.Of(reading.Log, import.Conditions), cancel.Token);
            await finished.CancelAsync();
            await StoreAsync(lease, import, file, runs, cancel.Token);
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            await EndAsync(lease, import, Import.Cancelled, null, null, cancellation);
        }
        catch (OriginalMissingException)
        {
            await EndAsync(
                lease,
                import,
                Import.Failed,
                $"“{file.Name}” is no longer in the file store. Add it again.",
                null,
                cancellation
            );
        }
        finally
        {
            await finished.CancelAsync();
            await reporting;
        }
    }

    public async Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation)
    {
        Import import = await context.Imports.SingleAsync(i => i.WorkshopId == item.WorkshopId && i.Id == item.SubjectId, cancellation);
        string name = await context
            .LogFiles.Where(f => f.WorkshopId == item.WorkshopId && f.Id == import.LogFileId)
            .Select(f => f.Name)
            .SingleAsync(cancellation);
        (import.State, import.Problem) = (
            Import.Failed,
            $"“{name}” could not be read to the end, though it was tried {QueueWorker.Attempts} times. The original is kept; the "
                + $"server’s log says more."
        );
    }

    private async Task StoreAsync(Lease lease, Import import, LogFile file, IReadOnlyList<ReadRun> runs, CancellationToken cancellation)
    {
        await writes.RunAsync(
            import.WorkshopId,
            import.PersonId,
            async write =>
            {
                Job job = (await write.JobAsync(import.JobId))!;
                Import row = await write.Context.Imports.SingleAsync(
                    i => i.WorkshopId == import.WorkshopId && i.Id == import.Id,
                    cancellation
                );
                if (await AddLog.SetupOfLogAsync(write.Context, job, file.Sha256, but: null, cancellation) is not null)
                {
                    (row.State, row.Problem) = (Import.Failed, $"“{file.Name}” is already on this job.");
                }
                else
                {
                    (row.State, row.RunId) = (Import.Done, await RunStore.AddAsync(write, job, import, runs));
                }

                await lease.EndAsync(write.Context, cancellation);
                return null;
            },
            null,
            cancellation
        );
        telemetry.Imported(Import.Done, clock.GetUtcNow() - import.CreatedAt);
    }

    private async Task EndAsync(Lease lease, Import import, string state, string? problem, string? code, CancellationToken cancellation)
    {
        await writes.RunAsync(
            import.WorkshopId,
            import.PersonId,
            async write =>
            {
                await write
                    .Context.Imports.Where(i => i.WorkshopId == import.WorkshopId && i.Id == import.Id)
                    .ExecuteUpdateAsync(
                        set =>
                            set.SetProperty(i => i.State, state).SetProperty(i => i.Problem, problem).SetProperty(i => i.ProblemCode, code),
                        cancellation
                    );
                await lease.EndAsync(write.Context, cancellation);
                return null;
            },
            null,
            cancellation
        );
        telemetry.Imported(state, clock.GetUtcNow() - import.CreatedAt);
    }

    /// <summary>Writes progress, and looks whether somebody asked to stop.</summary>
    private async Task ReportAsync(Import import, Func<long> bytesRead, CancellationTokenSource cancel, CancellationToken finished)
    {
        while (!finished.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(Report, clock, finished);
                await using RemedosContext context = await contexts.CreateDbContextAsync(finished);
                long read = bytesRead();
                IQueryable<Import> its = context.Imports.Where(i => i.WorkshopId == import.WorkshopId && i.Id == import.Id);
                await its.ExecuteUpdateAsync(set => set.SetProperty(i => i.BytesRead, read), finished);
                if (await its.AnyAsync(i => i.CancelRequested, finished))
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
