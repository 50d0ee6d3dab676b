using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Queue;

namespace Remedos.Server.Queue;

/// <summary>Does one kind of work.</summary>
internal interface IWorkHandler
{
    string Kind { get; }

    /// <summary>Does it, and ends the lease inside its own transaction.</summary>
    /// <exception cref="Exception">Anything but a database that is away is a failed attempt, and tried again later.</exception>
    Task HandleAsync(Lease lease, CancellationToken cancellation);

    /// <summary>Tells where a person looks that the work has failed for good.</summary>
    Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation);
}

/// <summary>An item in the hands of one lane.</summary>
internal sealed class Lease(WorkItem item, Guid owner)
{
    public WorkItem Item => item;

    /// <summary>Ends the item together with the work's own transaction.</summary>
    /// <exception cref="LeaseLostException">Somebody else has it by now; the work is to be rolled back.</exception>
    public async Task EndAsync(RemedosContext context, CancellationToken cancellation)
    {
        if (await Mine(context).ExecuteDeleteAsync(cancellation) == 0)
        {
            throw new LeaseLostException();
        }
    }

    /// <summary>Has it looked at again at a time; that is no failure.</summary>
    public async Task AgainAtAsync(RemedosContext context, DateTimeOffset at, CancellationToken cancellation)
    {
        int kept = await Mine(context)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(i => i.NotBefore, at)
                        .SetProperty(i => i.Attempts, 0)
                        .SetProperty(i => i.LeaseOwner, (Guid?)null)
                        .SetProperty(i => i.LeaseUntil, (DateTimeOffset?)null),
                cancellation
            );
        if (kept == 0)
        {
            throw new LeaseLostException();
        }
    }

    private IQueryable<WorkItem> Mine(RemedosContext context) =>
        context.WorkItems.Where(i => i.WorkshopId == item.WorkshopId && i.Id == item.Id && i.LeaseOwner == owner);
}

/// <summary>Somebody else has taken up the work meanwhile.</summary>
internal sealed class LeaseLostException : Exception;
