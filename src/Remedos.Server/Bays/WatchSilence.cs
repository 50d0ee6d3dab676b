using Remedos.Core;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Queue;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>
/// Watches a bay while a run goes on: readings move a run on, and a machine that switches itself off sends none. It is looked at when it
/// would have been silent for
/// too long, and not before; what fell silent is stopped, lands and rings like any run that is over.
/// </summary>
internal sealed class WatchSilence(Writes writes, BayLogs logs, LiveBays live, QueueBell bell) : IWorkHandler
{
    /// <summary>Longer than a hitch of a network, and short enough that somebody still stands beside it.</summary>
    public static readonly TimeSpan SilentAfter = TimeSpan.FromSeconds(8);

    /// <summary>Whoever works on a machine may have switched it off.</summary>
    private static readonly TimeSpan HandsAgain = TimeSpan.FromSeconds(4);

    public string Kind => WorkItem.WatchSilence;

    /// <summary>Begins to watch a bay whose run has just begun.</summary>
    public static Task BeginAsync(RemedosContext context, Bay bay, DateTimeOffset now, CancellationToken cancellation) =>
        WorkQueue.AddAsync(context, bay.WorkshopId, WorkItem.WatchSilence, bay.Id, now, null, 0, now + SilentAfter, cancellation);

    public async Task HandleAsync(Lease lease, CancellationToken cancellation) =>
        await writes.RunAsync(
            lease.Item.WorkshopId,
            Guid.Empty,
            async write =>
            {
                if (await write.BayAsync(lease.Item.SubjectId) is not { Run: { State.IsOver: false } run } bay)
                {
                    await lease.EndAsync(write.Context, cancellation);
                    return null;
                }

                DateTimeOffset heard = bay.LastSeenAt ?? write.Now;
                if (run.State.WaitsForHand || write.Now - heard < SilentAfter)
                {
                    await lease.AgainAtAsync(
                        write.Context,
                        run.State.WaitsForHand ? write.Now + HandsAgain : heard + SilentAfter,
                        cancellation
                    );
                    return null;
                }

                Degrees.TellIn(run.TemperatureUnit);
                bay.Run = run.After(GuidedRun.FellSilent(run.Plan, run.State, run.ElapsedSeconds, run.LastChipC)) with
                {
                    FellSilent = run.State.Stage == GuidedStage.Load,
                };
                await LandRun.BeginAsync(write.Context, bay, bay.Acknowledged, write.Now, cancellation);
                await lease.EndAsync(write.Context, cancellation);
                write.Once(() =>
                {
                    logs.Forget(bay.Id);
                    live.Tell(bay, []);
                    bell.Ring();
                });
                return null;
            },
            null,
            cancellation
        );

    public Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation) => Task.CompletedTask;
}
