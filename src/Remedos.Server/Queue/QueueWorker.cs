using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Queue;
using Remedos.Server.Hosting;
using Remedos.Server.Session;

namespace Remedos.Server.Queue;

/// <summary>Takes work from the queue and has it done; see this folder's README.</summary>
internal sealed class QueueWorker(
    IDbContextFactory<RemedosContext> contexts,
    IEnumerable<IWorkHandler> handlers,
    QueueBell bell,
    TimeProvider clock,
    ILogger<QueueWorker> log
) : BackgroundService
{
    /// <summary>After so many attempts an item is set aside.</summary>
    public const int Attempts = 5;

    /// <summary>Up to here a log is read in a second or so, bytes.</summary>
    private const long Light = 16_000_000;

    private static readonly TimeSpan LeaseFor = TimeSpan.FromSeconds(30),
        Renew = TimeSpan.FromSeconds(5),
        Idle = TimeSpan.FromSeconds(1),
        FirstPause = TimeSpan.FromSeconds(5),
        LongestPause = TimeSpan.FromHours(1);

    private readonly Dictionary<string, IWorkHandler> _handlers = handlers.ToDictionary(handler => handler.Kind, StringComparer.Ordinal);

    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll(StaleAsync(stoppingToken), LaneAsync(long.MaxValue, stoppingToken), LaneAsync(Light, stoppingToken));

    /// <summary>Once at the start: runs that an older reading made are read anew.</summary>
    private async Task StaleAsync(CancellationToken stopping)
    {
        for (bool done = false; !done && !stopping.IsCancellationRequested; )
        {
            done = await StumblingAsync(
                async () =>
                {
                    await using RemedosContext context = await contexts.CreateDbContextAsync(stopping);
                    if (await WorkQueue.AddStaleRunsAsync(context, RunAnalyzer.Version, clock.GetUtcNow(), stopping) > 0)
                    {
                        bell.Ring();
                    }
                },
                stopping
            );
        }
    }

    private async Task LaneAsync(long heaviest, CancellationToken stopping)
    {
        Guid owner = Guid.NewGuid();
        while (!stopping.IsCancellationRequested)
        {
            Task rung = bell.Next;
            bool more = false;
            bool fine = await StumblingAsync(
                async () =>
                {
                    if (await TakeAsync(owner, heaviest, stopping) is { } item)
                    {
                        more = true;
                        await DoAsync(item, owner, stopping);
                    }
                },
                stopping
            );
            if (!more && fine)
            {
                await Task.WhenAny(rung, Task.Delay(Idle, clock, stopping));
            }
        }
    }

    /// <summary>Does something that may fail for a database that is away; false when it did, after a pause.</summary>
    private async Task<bool> StumblingAsync(Func<Task> step, CancellationToken stopping)
    {
        try
        {
            await step();
            return true;
        }
        catch (OperationCanceledException) when (stopping.IsCancellationRequested)
        {
            return false;
        }
        catch (Exception failure)
        {
            // A database that is away is told in one line: it is tried again every second.
            log.LogWarning(ProblemSentences.IsAway(failure) ? null : failure, "The queue stumbled and goes on: {Why}", failure.Message);
            await Task.Delay(Idle, clock, CancellationToken.None);
            return false;
        }
    }

    /// <summary>Takes what is most urgent and oldest; two lanes never take the same.</summary>
    private async Task<WorkItem?> TakeAsync(Guid owner, long heaviest, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow(),
            until = now + LeaseFor;
        List<WorkItem> taken = await context
            .WorkItems.FromSql(
                $"""
                UPDATE work_items SET lease_owner = {owner}, lease_until = {until}, attempts = attempts + 1
                WHERE (workshop_id, id) = (
                    SELECT workshop_id, id FROM work_items
                    WHERE set_aside_at IS NULL AND not_before <= {now} AND (lease_until IS NULL OR lease_until < {now})
                      AND weight <= {heaviest}
                    ORDER BY urgency, created_at LIMIT 1 FOR UPDATE SKIP LOCKED)
                RETURNING *
                """
            )
            .IgnoreQueryFilters()
            .AsNoTracking()
            .ToListAsync(cancellation);
        return taken.SingleOrDefault();
    }

    private async Task DoAsync(WorkItem item, Guid owner, CancellationToken stopping)
    {
        if (item.Attempts > Attempts)
        {
            // It was taken as often as it may be and never came back: whatever it does ends the process.
            await SetAsideAsync(item, owner, item.LastError ?? "It stopped the server each time it was tried.", stopping);
            return;
        }

        using CancellationTokenSource lost = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        using CancellationTokenSource finished = new();
        Task renewing = RenewAsync(item, owner, lost, finished.Token);
        try
        {
            await using (RemedosContext context = await contexts.CreateDbContextAsync(lost.Token))
            {
                Degrees.TellIn(await ToldDegrees.OfAsync(context, item.WorkshopId, lost.Token));
            }

            await _handlers[item.Kind].HandleAsync(new Lease(item, owner), lost.Token);
        }
        catch (LeaseLostException)
        {
            // Whoever has it now does it.
        }
        catch (OperationCanceledException) when (lost.IsCancellationRequested)
        {
            await GiveBackAsync(item, owner);
        }
        catch (Exception failure) when (ProblemSentences.IsAway(failure))
        {
            await GiveBackAsync(item, owner);
            throw;
        }
        catch (Exception failure)
        {
            log.LogError(failure, "{Kind} of {Subject} failed, attempt {Attempt}", item.Kind, item.SubjectId, item.Attempts);
            await FailedAsync(item, owner, failure.Message, stopping);
        }
        finally
        {
            await finished.CancelAsync();
            await renewing;
        }
    }

    private async Task FailedAsync(WorkItem item, Guid owner, string why, CancellationToken cancellation)
    {
        if (item.Attempts >= Attempts)
        {
            await SetAsideAsync(item, owner, why, cancellation);
            return;
        }

        double pause = Math.Min(FirstPause.TotalSeconds * Math.Pow(6, item.Attempts - 1), LongestPause.TotalSeconds);
        DateTimeOffset next = clock.GetUtcNow().AddSeconds(pause);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await Mine(context, item, owner)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(i => i.NotBefore, next)
                        .SetProperty(i => i.LastError, why)
                        .SetProperty(i => i.LeaseOwner, (Guid?)null)
                        .SetProperty(i => i.LeaseUntil, (DateTimeOffset?)null),
                cancellation
            );
    }

    private async Task SetAsideAsync(WorkItem item, Guid owner, string why, CancellationToken cancellation)
    {
        log.LogError(
            "{Kind} of {Subject} is set aside after {Attempts} attempts: {Why}",
            item.Kind,
            item.SubjectId,
            item.Attempts - 1,
            why
        );
        DateTimeOffset now = clock.GetUtcNow();
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await using Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(
            cancellation
        );
        await Mine(context, item, owner)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(i => i.SetAsideAt, now)
                        .SetProperty(i => i.LastError, why)
                        .SetProperty(i => i.LeaseOwner, (Guid?)null)
                        .SetProperty(i => i.LeaseUntil, (DateTimeOffset?)null),
                cancellation
            );
        await _handlers[item.Kind].SetAsideAsync(context, item, cancellation);
        await context.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
    }

    /// <summary>Lets go of what was not the work's own fault; the attempt does not count.</summary>
    private async Task GiveBackAsync(WorkItem item, Guid owner)
    {
        try
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(CancellationToken.None);
            await Mine(context, item, owner)
                .ExecuteUpdateAsync(
                    set =>
                        set.SetProperty(i => i.Attempts, i => i.Attempts - 1)
                            .SetProperty(i => i.LeaseOwner, (Guid?)null)
                            .SetProperty(i => i.LeaseUntil, (DateTimeOffset?)null),
                    CancellationToken.None
                );
        }
        catch (Exception failure) when (ProblemSentences.IsAway(failure))
        {
            // The lease runs out by itself.
        }
    }

    /// <summary>Renews the lease; work that has lost it is stopped.</summary>
    private async Task RenewAsync(WorkItem item, Guid owner, CancellationTokenSource lost, CancellationToken finished)
    {
        while (!finished.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(Renew, clock, finished);
                DateTimeOffset until = clock.GetUtcNow() + LeaseFor;
                await using RemedosContext context = await contexts.CreateDbContextAsync(finished);
                if (await Mine(context, item, owner).ExecuteUpdateAsync(set => set.SetProperty(i => i.LeaseUntil, until), finished) == 0)
                {
                    await lost.CancelAsync();
                    return;
                }
            }
            catch (OperationCanceledException) when (finished.IsCancellationRequested)
            {
                return;
            }
            catch (Exception failure) when (ProblemSentences.IsAway(failure))
            {
                // Whoever takes it up meanwhile ends this one's transaction by itself.
            }
        }
    }

    private static IQueryable<WorkItem> Mine(RemedosContext context, WorkItem item, Guid owner) =>
        context.WorkItems.Where(i => i.WorkshopId == item.WorkshopId && i.Id == item.Id && i.LeaseOwner == owner);
}
