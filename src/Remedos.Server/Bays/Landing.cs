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

    /// <summary>Adds the log and its import to the context; the caller saves. What was stopped at once leaves nothing.</summary>
    public async Task LandAsync(RemedosContext context, Bay bay, CancellationToken cancellation)
    {
        BayRun run = bay.Run!;
        Log log = BayReading.ToLog(await BayReadings.ReadAsync(context, bay, run.Stream, run.FromSequence, cancellation));
        if (log.DurationSeconds < ShortestSeconds)
        {
            return;
        }

        using MemoryStream bytes = new();
        await using (StreamWriter text = new(bytes, new UTF8Encoding(false), leaveOpen: true))
        {
            TidyLog.Write(log, text);
        }

        bytes.Position = 0;
        (string sha256, long length) = await files.SaveAsync(bytes, cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        Job job = await context.Jobs.AsNoTracking().SingleAsync(j => j.Id == run.JobId, cancellation);
        BenchOrder order = run.Plan.Variant.For(run.RatedPowerW);
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
                Workload = run.Variant == "by-hand" ? "the owner’s own load" : "all-core",
                Panel = run.Variant == "panel-off" ? "side-off" : "closed",
                FanPolicy = order.FanPercent is null ? "auto" : "fixed",
                FanPercent = order.FanPercent,
                PowerCapW = order.PowerCapW,
                AmbientC = run.AmbientC,
                TemperatureLimitC = run.LimitC,
            },
            State = Import.Queued,
            CreatedAt = now,
        });
    }

    public void Ring() => bell.Ring();
}
