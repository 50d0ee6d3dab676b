using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Queue;

/// <summary>How much work waits, fails and for how long.</summary>
/// <param name="Age">Of the oldest that could have been done by now.</param>
public sealed record QueueStand(int Waiting, int SetAside, TimeSpan Age);

/// <summary>Looks at the queue every few seconds, for whoever asks how it stands.</summary>
internal sealed class QueueFigures(IDbContextFactory<RemedosContext> contexts, TimeProvider clock) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(15);

    /// <summary>As it was last seen.</summary>
    public QueueStand Last { get; private set; } = new(0, 0, TimeSpan.Zero);

    /// <summary>As it is.</summary>
    public async Task<QueueStand> NowAsync(RemedosContext context, CancellationToken cancellation)
    {
        DateTimeOffset now = clock.GetUtcNow();
        var queue = await context
            .WorkItems.GroupBy(_ => 1)
            .Select(all => new
            {
                Waiting = all.Count(item => item.SetAsideAt == null),
                SetAside = all.Count(item => item.SetAsideAt != null),
                Oldest = all.Where(item => item.SetAsideAt == null && item.NotBefore <= now).Min(item => (DateTimeOffset?)item.NotBefore),
            })
            .SingleOrDefaultAsync(cancellation);
        return Last = new(queue?.Waiting ?? 0, queue?.SetAside ?? 0, queue?.Oldest is { } oldest ? now - oldest : TimeSpan.Zero);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using PeriodicTimer timer = new(Every, clock);
        do
        {
            try
            {
                await using RemedosContext context = await contexts.CreateDbContextAsync(stoppingToken);
                await NowAsync(context, stoppingToken);
            }
            catch (Exception failure) when (failure is not OperationCanceledException)
            {
                // A database that is away is told by everything else already.
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
