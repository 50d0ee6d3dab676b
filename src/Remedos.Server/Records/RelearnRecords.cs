using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Queue;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Records;

/// <summary>
/// Reckons the shares of all of a workshop's jobs anew, some at a time: after a change of parts that are in many of them.
/// </summary>
internal sealed class RelearnRecords(IDbContextFactory<RemedosContext> contexts, KeepRecords records, Writes writes, TimeProvider clock)
    : IWorkHandler
{
    private const int AtOnce = 200;

    public string Kind => WorkItem.Relearn;

    public async Task HandleAsync(Lease lease, CancellationToken cancellation)
    {
        Guid workshop = lease.Item.WorkshopId;
        await AllAsync(contexts, records, workshop, clock, cancellation);
        await writes.RunAsync(
            workshop,
            Guid.Empty,
            async write =>
            {
                await lease.EndAsync(write.Context, cancellation);
                return null;
            },
            null,
            cancellation
        );
    }

    public Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation) => Task.CompletedTask;

    /// <summary>Reckons all jobs of a workshop; what others change meanwhile is not held up.</summary>
    public static async Task AllAsync(
        IDbContextFactory<RemedosContext> contexts,
        KeepRecords records,
        Guid workshop,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        for (int last = 0; ; )
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
            context.Workshop = workshop;
            var next = await context
                .Jobs.Where(job => job.WorkshopId == workshop && job.Number > last)
                .OrderBy(job => job.Number)
                .Take(AtOnce)
                .Select(job => new { job.Id, job.Number })
                .ToListAsync(cancellation);
            await using var transaction = await context.Database.BeginTransactionAsync(cancellation);
            bool done = next.Count < AtOnce;
            await records.RelearnAsync(context, workshop, [.. next.Select(job => job.Id)], done, clock.GetUtcNow(), cancellation);
            await transaction.CommitAsync(cancellation);
            if (done)
            {
                return;
            }

            last = next[^1].Number;
        }
    }
}
