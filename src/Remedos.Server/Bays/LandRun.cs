using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Jobs;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Queue;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>A run that is over, as it lands: its readings and how it was made.</summary>
/// <param name="ToSequence">Its last reading.</param>
/// <param name="PanelOff">Whether hands had taken the panel off.</param>
/// <param name="Cooler">Another cooler that hands had put on a simulated machine, by its name; null for none.</param>
internal sealed record LandingRun(Guid BayId, int BayNumber, BayRun Run, long ToSequence, bool PanelOff, string? Cooler = null);

/// <summary>
/// Lands a run that is over on its job: its readings become a log like any other, kept as an original and read by the importer. The machine
/// has its order by then;
/// whatever the file store or the disk do only keeps the log waiting, and its readings stay in the database meanwhile.
/// </summary>
internal sealed class LandRun(IDbContextFactory<RemedosContext> contexts, Writes writes, IFileStore files, QueueBell bell) : IWorkHandler
{
    /// <summary>Fewer readings than this are no run, s.</summary>
    private const double ShortestSeconds = 60;

    public string Kind => WorkItem.LandRun;

    /// <summary>Puts a bay's run that is over into the queue, and begins the run that follows.</summary>
    public static async Task BeginAsync(
        RemedosContext context,
        Bay bay,
        long toSequence,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        BayRun run = bay.Run!;
        string? cooler = bay.Hands?.Cooler is { } id and not BenchHands.Lifted
            ? MachineLibrary.Coolers.FirstOrDefault(one => one.Id == id)?.Part.Name
            : null;
        LandingRun landing = new(bay.Id, bay.Number, run, toSequence, bay.Hands?.PanelOff == true, cooler);
        await WorkQueue.AddAsync(context, bay.WorkshopId, WorkItem.LandRun, Guid.CreateVersion7(now), now, landing, 0, null, cancellation);
        if (run.State.Stage == GuidedStage.Done && run.HasMore)
        {
            BayRun next = run.NextOne(bay.Recording, bay.Acknowledged + 1, bay.Sender);
            bay.Run = run.RemountBetween ? await OnNewMountAsync(context, next, now, cancellation) : next;
        }
    }

    /// <summary>A run before which the cooler is lifted and put back has a mount of its own.</summary>
    private static async Task<BayRun> OnNewMountAsync(
        RemedosContext context,
        BayRun next,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Guid workshop = await context
            .Mounts.Where(mount => mount.Id == next.MountId)
            .Select(mount => mount.WorkshopId)
            .FirstOrDefaultAsync(cancellation);
        Write write = new(context, workshop, next.PersonId, now, cancellation);
        if (await write.JobAsync(next.JobId) is not { } job || JobSetups.OfMount(job, next.MountId) is not var (setup, _))
        {
            return next;
        }

        Mount mount = JobSetups.AddMount(setup, now, now);
        write.Event(job, JobEvents.MountAdded, mount.Id.ToString());
        return next with { MountId = mount.Id, On = $"{JobSetups.Name(setup)}, mount {mount.Number}" };
    }

    public async Task HandleAsync(Lease lease, CancellationToken cancellation)
    {
        LandingRun landing = JsonSerializer.Deserialize<LandingRun>(lease.Item.Payload!, RemedosContext.Json)!;
        BayRun run = landing.Run;
        BayLog log = new();
        Workshop workshop;
        await using (RemedosContext context = await contexts.CreateDbContextAsync(cancellation))
        {
            workshop = await context.Workshops.AsNoTracking().SingleAsync(w => w.Id == lease.Item.WorkshopId, cancellation);
            await foreach (
                BayReading reading in BayReadings.ReadAsync(
                    context,
                    workshop.Id,
                    landing.BayId,
                    run.Recording,
                    run.FromSequence,
                    landing.ToSequence,
                    cancellation
                )
            )
            {
                log.Add(reading);
            }
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
                    (Setup setup, Mount mount) = On(job, landing, write);
                    RunConditions conditions = AddLog.StartingConditions(job, setup, mount, ConditionsOf(landing), write.Now);
                    await AddLog.AddAsync(write, job, name, sha256, length, mount.Id, conditions, MarksOf(run), landing.BayNumber);
                    write.Once(bell.Ring);
                }

                await lease.EndAsync(write.Context, write.Cancellation);
                return null;
            },
            null,
            cancellation
        );
    }

    /// <summary>Its readings stay in the database until somebody has made room and it is tried again; the health report says so.</summary>
    public Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation) => Task.CompletedTask;

    /// <summary>
    /// What it was measured on. Where hands had put another cooler on, the bay knows better than whoever started the run: that cooler's
    /// setup, which is made where there is none.
    /// </summary>
    private static (Setup Setup, Mount Mount) On(Job job, LandingRun landing, Write write)
    {
        (Setup Setup, Mount Mount) said = JobSetups.OfMount(job, landing.Run.MountId)
            ?? (JobSetups.Current(job), JobSetups.CurrentMount(job));
        if (
            landing.Cooler is not { } cooler
            || string.Equals(JobSetups.Effective(job, said.Setup).Cooler?.Trim(), cooler, StringComparison.OrdinalIgnoreCase)
        )
        {
            return said;
        }

        Setup? there = JobSetups
            .Standing(job)
            .LastOrDefault(setup =>
                setup.FailedWhy is null && string.Equals(setup.Difference.Cooler?.Trim(), cooler, StringComparison.OrdinalIgnoreCase)
            );
        if (there is null)
        {
            there = JobSetups.Add(job, SetupKind.Cooler, said.Setup.Number, write.Now, write.Now);
            there.Difference.Cooler = cooler;
            there.Difference.CoolerKind = MachineLibrary.Coolers.First(one => one.Part.Name == cooler).Part.Kind;
            write.Event(job, JobEvents.SetupAdded, there.Id.ToString());
        }

        return (there, JobSetups.Standing(there)[^1]);
    }

    /// <summary>What the bay knows of how it was made; what it does not know stays unknown.</summary>
    private static RunConditions ConditionsOf(LandingRun landing)
    {
        BayRun run = landing.Run;
        BenchOrder order = run.Plan.Under;
        return new RunConditions(
            run.Plan.IsOwnersLoad ? "the owner’s own load" : LoadKind.All.Single(kind => kind.Id == run.Work).Workload,
            order.PanelOff || landing.PanelOff ? "side-off" : "closed",
            order is { FanPercent: null, FanRpm: null } ? "auto" : "fixed",
            order.FanPercent,
            order.PowerCapW ?? RunConditions.NoCap,
            AmbientC: run.AmbientC,
            TemperatureLimitC: run.LimitC,
            RatedPowerW: run.RatedPowerW,
            Trial: order.PumpFull ? "pump-full" : null,
            // Where a load comes and goes, its edges are known better than they can be found.
            Load: run.Plan.IsOwnersLoad || run.Work == LoadKind.Bursty ? run.State.Edges : null,
            FellSilent: run.FellSilent ? true : null
        )
        {
            FanRpm = order.FanRpm,
            // The bench loads the processor and leaves the card alone; the owner's program may do otherwise.
            CardLoad = run.Plan.IsOwnersLoad ? null : "idle",
        };
    }

    private static IReadOnlyList<RunMark> MarksOf(BayRun run) => run.FellSilent ? [new RunMark(run.ElapsedSeconds, run.State.Reason!)] : [];
}
