using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;

namespace Remedos.Server.Runs;

/// <summary>Reads originals from the file store, under what the workshop has said of their columns.</summary>
public sealed class RunReader(IDbContextFactory<RemedosContext> contexts, FileStore files)
{
    public LogReading Read(Guid workshopId, string sha256, IProgress<long>? progress, CancellationToken cancellation)
    {
        using FileStream stream = files.Open(sha256);
        return LogReader.Read(stream, progress, fingerprint => Remembered(workshopId, fingerprint), cancellation);
    }

    /// <summary>Reads a run's original again, and analyses it under these conditions.</summary>
    public async Task<(Log Log, RunAnalysis Analysis)> ReadAnewAsync(Run run, RunConditions conditions, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        string sha256 = await context.LogFiles.Where(f => f.Id == run.LogFileId).Select(f => f.Sha256).SingleAsync(cancellation);
        return await Task.Run(
            () =>
            {
                Log log = Read(run.WorkshopId, sha256, null, cancellation).Log!;
                return (log, RunAnalyzer.Analyze(log, conditions));
            },
            cancellation);
    }

    private Dictionary<int, ChannelRole>? Remembered(Guid workshopId, string fingerprint)
    {
        using RemedosContext context = contexts.CreateDbContext();
        return context.RememberedRoles.AsNoTracking().SingleOrDefault(r => r.WorkshopId == workshopId && r.Fingerprint == fingerprint)?.Roles
            .Where(pair => ChannelRoles.TryParse(pair.Value, out _))
            .ToDictionary(pair => pair.Key, pair => ChannelRoles.TryParse(pair.Value, out ChannelRole role) ? role : ChannelRole.Other);
    }
}
