using System.Text;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>Lands a run that is over on its job: its readings become a log like any other, kept as an original and read by the importer.</summary>
internal sealed class Landing(FileStore files, ImportBell bell, TimeProvider clock)
{
    /// <summary>Fewer readings than this are no run, s.</summary>
    private const double ShortestSeconds = 60;

    /// <summary>Adds the log and its import to the context, and begins the run that follows; the caller saves. What was stopped at once leaves nothing.</summary>
    /// <param name="log">The run's readings; null to read them from the database.</param>
    public async Task LandAsync(RemedosContext context, Bay bay, BayLog? log, CancellationToken cancellation)
    {
        BayRun run = bay.Run!;
        log ??= BayLog.Of(await BayReadings.ReadAsync(context, bay, run.Stream, run.FromSequence, cancellation));
        if (log.DurationSeconds >= ShortestSeconds)
        {
            await AddImportAsync(context, bay, run, log.ToLog(more: run.ByHand), cancellation);
        }

        if (run.State.Stage == GuidedState.Done && run.Following > 0)
        {
            bay.Run = run.Again(bay.Stream!, bay.Acknowledged + 1, bay.Sender) with { Following = run.Following - 1 };
        }
    }

    private async Task AddImportAsync(RemedosContext context, Bay bay, BayRun run, Log log, CancellationToken cancellation)
    {

        using MemoryStream bytes = new();
        await using (StreamWriter text = new(bytes, new UTF8Encoding(false), leaveOpen: true))
        {
            TidyLog.Write(log, text);
        }

        bytes.Position = 0;
        (string sha256, long length) = await files.SaveAsync(bytes, cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        Job job = await context.Jobs.AsNoTracking().SingleAsync(j => j.Id == run.JobId, cancellation);
        BenchOrder order = run.Plan.Variant.For(run.RatedPowerW, run.Work);
        LogFile file = new() { Id = Guid.CreateVersion7(now), WorkshopId = bay.WorkshopId, Name = $"bay-{bay.Number}-{run.Variant}-{now:yyyyMMdd-HHmmss}.csv", Sha256 = sha256, Bytes = length, StoredAt = now };
        context.LogFiles.Add(file);
        context.Imports.Add(new Import
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = bay.WorkshopId,
            JobId = run.JobId,
            PersonId = run.PersonId,
            LogFileId = file.Id,
            Side = run.Side,
            Conditions = (await AddLog.StartingConditionsAsync(context, job, run.Side, now, cancellation)) with
            {
                Workload = run.Plan.IsOwnersLoad ? "the owner’s own load" : LoadKind.All.Single(kind => kind.Id == run.Work).Workload,
                Panel = order.PanelOff || bay.Hands?.PanelOff == true ? "side-off" : "closed",
                FanPolicy = order.FanPercent is null ? "auto" : "fixed",
                FanPercent = order.FanPercent,
                PowerCapW = order.PowerCapW,
                Trial = order.PumpFull ? "pump-full" : null,
                AmbientC = run.AmbientC,
                TemperatureLimitC = run.LimitC,
                // Where a load comes and goes, its edges are known better than they can be found.
                Load = run.Plan.IsOwnersLoad || run.Work == LoadKind.Bursty ? run.State.Edges : null,
            },
            State = Import.Queued,
            CreatedAt = now,
        });
    }

    public void Ring() => bell.Ring();
}
