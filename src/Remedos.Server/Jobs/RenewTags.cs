using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Data;

namespace Remedos.Server.Jobs;

/// <summary>
/// Renews tags that are seen though something elsewhere has changed since they were made, a few at a time and behind the answer: the next
/// look shows them.
/// </summary>
internal sealed class RenewTags(IServiceScopeFactory scopes, TimeProvider clock, ILogger<RenewTags> log) : BackgroundService
{
    private const int AtOnce = 8,
        MostWanted = 1_000;

    /// <summary>So that those who work now go first.</summary>
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(200);

    /// <summary>What does not fit is seen, and wanted, again.</summary>
    private readonly Channel<(Guid Workshop, Guid Job)> _wanted = Channel.CreateBounded<(Guid, Guid)>(
        new BoundedChannelOptions(MostWanted) { FullMode = BoundedChannelFullMode.DropWrite, SingleReader = true }
    );

    public void Want(Guid workshop, IEnumerable<Guid> jobs)
    {
        foreach (Guid job in jobs)
        {
            _ = _wanted.Writer.TryWrite((workshop, job));
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await _wanted.Reader.WaitToReadAsync(stoppingToken))
        {
            HashSet<(Guid Workshop, Guid Job)> next = [];
            while (next.Count < AtOnce && _wanted.Reader.TryRead(out var one))
            {
                next.Add(one);
            }

            try
            {
                foreach (IGrouping<Guid, Guid> workshop in next.GroupBy(one => one.Workshop, one => one.Job))
                {
                    await RenewAsync(workshop.Key, [.. workshop], stoppingToken);
                }
            }
            catch (Exception failure) when (failure is not OperationCanceledException)
            {
                log.LogWarning(failure, "Tags could not be renewed; they are when they are looked at again");
            }

            await Task.Delay(Between, clock, stoppingToken);
        }
    }

    private async Task RenewAsync(Guid id, Guid[] jobs, CancellationToken cancellation)
    {
        await using AsyncServiceScope scope = scopes.CreateAsyncScope();
        await using RemedosContext context = await scope
            .ServiceProvider.GetRequiredService<IDbContextFactory<RemedosContext>>()
            .CreateDbContextAsync(cancellation);
        context.Workshop = id;
        Workshop workshop = await context.Workshops.AsNoTracking().SingleAsync(one => one.Id == id, cancellation);
        Degrees.TellIn(workshop.TemperatureUnit);
        TagStand stand = await TagStand.OfAsync(context, workshop, clock.GetUtcNow(), cancellation);
        // Somebody else may have wanted the same.
        Guid[] old = await context
            .KeptTags.Where(tag =>
                tag.WorkshopId == id && jobs.Contains(tag.JobId) && (tag.Revision != stand.Revision || tag.Day != stand.Day)
            )
            .Select(tag => tag.JobId)
            .ToArrayAsync(cancellation);
        await scope.ServiceProvider.GetRequiredService<TagMaker>().MakeAsync(context, workshop, stand, old, cancellation);
    }
}
