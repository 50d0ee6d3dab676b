using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Practice;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>
/// Finds and changes bays of the workshop that asks. A bay's row is locked while it is changed, so that readings and hands take turns.
/// </summary>
internal sealed class BayDoor(WriteDoor door, Caller caller, LiveBays live, TimeProvider clock)
{
    public static ProblemHttpResult NoSuchBay() => Refusal.None("bay");

    /// <summary>A bay to look at.</summary>
    public async Task<Bay?> FindAsync(RemedosContext context, Guid id, CancellationToken cancellation)
    {
        Guid workshop = (await caller.WhoAsync(cancellation)).Workshop.Id;
        return await context.Bays.AsNoTracking().SingleOrDefaultAsync(b => b.WorkshopId == workshop && b.Id == id, cancellation);
    }

    /// <summary>Changes a bay, and tells the pages.</summary>
    /// <param name="id">Which.</param>
    /// <param name="change">What to do; a sentence when it cannot be done.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Func<Write, Bay, Task<string?>> change,
        CancellationToken cancellation
    )
    {
        BayAnswer? answer = null;
        Who who = await caller.WhoAsync(cancellation);
        return await door.WriteAsync(
            async write =>
            {
                if (await write.BayAsync(id) is not { } bay)
                {
                    return NoSuchBay();
                }

                (BenchHands? hands, BayRun? run) = (bay.Hands, bay.Run);
                if (await change(write, bay) is { } sentence)
                {
                    return Refusal.Of(sentence);
                }

                if (who.Workshop.PracticeOf is not null)
                {
                    await PracticeTries.FollowAsync(write, bay, hands, run);
                }

                write.Once(() =>
                {
                    live.Tell(bay, []);
                    answer = BayAnswer.Of(bay, clock.GetUtcNow());
                });
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation
        );
    }

    public Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Func<Bay, string?> change,
        CancellationToken cancellation
    ) => ChangeAsync(id, (_, bay) => Task.FromResult(change(bay)), cancellation);
}
