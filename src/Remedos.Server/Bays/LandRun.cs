using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Queue;
using Remedos.Server.Files;
using Remedos.Server.Queue;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>A run that is over, as it lands: its readings and how it was made.</summary>
/// <param name="ToSequence">Its last reading.</param>
/// <param name="PanelOff">Whether hands had taken the panel off.</param>
internal sealed record LandingRun(Guid BayId, int BayNumber, BayRun Run, long ToSequence, bool PanelOff);

/// <summary>
/// Lands a run that is over on its job: its readings become a log like any other, kept as an original and read by the importer. The machine has its order by then;
/// whatever the file store or the disk do only keeps the log waiting, and its readings stay in the database meanwhile.
/// </summary>
internal sealed class LandRun(IDbContextFactory<RemedosContext> contexts, Writes writes, IFileStore files, QueueBell bell) : IWorkHandler
{
    /// <summary>Fewer readings than this are no run, s.</summary>
    private const double ShortestSeconds = 60;

    public string Kind => WorkItem.LandRun;

    /// <summary>Puts a bay's run that is over into the queue, and begins the run that follows.</summary>
    public static async Task BeginAsync(RemedosContext context, Bay bay, long toSequence, DateTimeOffset now, CancellationToken cancellation)
    {
        BayRun run = bay.Run!;
        LandingRun landing = new(bay.Id, bay.Number, run, toSequence, bay.Hands?.PanelOff == true);
        await WorkQueue.AddAsync(context, bay.WorkshopId, WorkItem.LandRun, Guid.CreateVersion7(now), now, landing, 0, null, cancellation);
        if (run.State.Stage == GuidedState.Done && run.Following > 0)
        {
            bay.Run = run.Again(bay.Recording, bay.Acknowledged + 1, bay.Sender) with { Following = run.Following - 1 };
        }
    }

    public async Task HandleAsync(Lease lease, CancellationToken cancellation)
    {
        LandingRun landing = JsonSerializer.Deserialize<LandingRun>(lease.Item.Payload!, RemedosContext.Json)!;
        BayRun run = landing.Run;
        BayLog log;
        Workshop workshop;
        await using (RemedosContext context = await contexts.CreateDbContextAsync(cancellation))
        {
            workshop = await context.Workshops.AsNoTracking().SingleAsync(w => w.Id == lease.Item.WorkshopId, cancellation);
            log = BayLog.Of(await BayReadings.ReadAsync(context, workshop.Id, landing.BayId, run.Recording, run.FromSequence, landing.ToSequence, cancellation));
        }

        (string Sha256, long Bytes)? kept = null;
        if (log.DurationSeconds >= ShortestSeconds)
        {
            using MemoryStream bytes = new();
            await using (StreamWriter text = new(bytes, new UTF8Encoding(false), leaveOpen: true))
            {
                TidyLog.Write(log.ToLog(more: run.ByHand), text);
            }

            bytes.Position = 0;
            kept = await files.SaveAsync(bytes, bytes.Length, cancellation);
        }

        await writes.RunAsync(
            workshop.Id,
            run.PersonId,
            async write =>
            {
                // What was stopped at once leaves nothing.
                if (kept is var (sha256, length) && await write.JobAsync(run.JobId) is { } job)
                {
                    string name = $"bay-{landing.BayNumber}-{run.Variant}-{WorkshopClock.At(workshop, write.Now):yyyyMMdd-HHmmss}.csv";
                    RunConditions conditions = ConditionsOf(landing, await AddLog.StartingConditionsAsync(write.Context, job, run.Side, write.Now, write.Cancellation));
                    await AddLog.AddAsync(write, job, name, sha256, length, run.Side, conditions, MarksOf(run));
                    write.Once(bell.Ring);
                }

                await lease.EndAsync(write.Context, write.Cancellation);
                return null;
            },
            null,
            cancellation);
    }

    /// <summary>Its readings stay in the database until somebody has made room and it is tried again; the health report says so.</summary>
    public Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation) => Task.CompletedTask;

    private static RunConditions ConditionsOf(LandingRun landing, RunConditions starting)
    {
        BayRun run = landing.Run;
        BenchOrder order = run.Plan.Variant.For(run.RatedPowerW, run.Work);
        return starting with
        {
            Workload = run.Plan.IsOwnersLoad ? "the owner’s own load" : LoadKind.All.Single(kind => kind.Id == run.Work).Workload,
            Panel = order.PanelOff || landing.PanelOff ? "side-off" : "closed",
            FanPolicy = order.FanPercent is null ? "auto" : "fixed",
            FanPercent = order.FanPercent,
            PowerCapW = order.PowerCapW,
            Trial = order.PumpFull ? "pump-full" : null,
            AmbientC = run.AmbientC,
            TemperatureLimitC = run.LimitC,
            // Where a load comes and goes, its edges are known better than they can be found.
            Load = run.Plan.IsOwnersLoad || run.Work == LoadKind.Bursty ? run.State.Edges : null,
            FellSilent = run.FellSilent ? true : null,
        };
    }

    private static IReadOnlyList<RunMark> MarksOf(BayRun run) => run.FellSilent ? [new RunMark(run.ElapsedSeconds, run.State.Reason!)] : [];
}
