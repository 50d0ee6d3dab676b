using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>Finds and changes bays of the workshop that asks.</summary>
internal sealed class BayDesk(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, LiveBays live, TimeProvider clock)
{
    public static ProblemHttpResult NoSuchBay() => TypedResults.Problem("There is no such bay.", statusCode: StatusCodes.Status404NotFound);

    public async Task<Bay?> FindAsync(RemedosContext context, Guid id, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        return await context.Bays.SingleOrDefaultAsync(b => b.Id == id && b.WorkshopId == workshop.Id, cancellation);
    }

    public Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ChangeAsync(Guid id, Func<Bay, string?> change, CancellationToken cancellation) =>
        ChangeAsync(id, (_, bay) => Task.FromResult(change(bay)), cancellation);

    /// <summary>Changes a bay on top of whatever readings that come in between have changed, and tells the pages.</summary>
    /// <param name="change">What to do; a sentence when it cannot be done. It may be called again, on the bay as it is then.</param>
    public async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ChangeAsync(Guid id, Func<RemedosContext, Bay, Task<string?>> change, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await FindAsync(context, id, cancellation) is not { } bay)
        {
            return NoSuchBay();
        }

        while (true)
        {
            if (await change(context, bay) is { } sentence)
            {
                return RunChanges.Refused(sentence);
            }

            try
            {
                await context.SaveChangesAsync(cancellation);
                live.Tell(bay, []);
                return TypedResults.Ok(BayAnswer.Of(bay, clock.GetUtcNow()));
            }
            catch (DbUpdateConcurrencyException conflict)
            {
                foreach (EntityEntry entry in conflict.Entries)
                {
                    await entry.ReloadAsync(cancellation);
                }
            }
        }
    }
}
