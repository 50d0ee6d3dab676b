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

    /// <summary>The columns of an original, from its first rows; null when it is no table.</summary>
    public LogColumns? Columns(Guid workshopId, string sha256)
    {
        using FileStream stream = files.Open(sha256);
        return LogReader.Columns(stream, fingerprint => Remembered(workshopId, fingerprint));
    }

    public Task<string> Sha256Async(RemedosContext context, Guid logFileId, CancellationToken cancellation) =>
        context.LogFiles.Where(f => f.Id == logFileId).Select(f => f.Sha256).SingleAsync(cancellation);

    /// <summary>A run's own rows, from its original.</summary>
    public async Task<Log> ReadAsync(RemedosContext context, Run run, CancellationToken cancellation)
    {
        string sha256 = await Sha256Async(context, run.LogFileId, cancellation);
        return await Task.Run(
            () =>
            {
                Log log = Read(run.WorkshopId, sha256, null, cancellation).Log!;
                return run.Stretch is { } stretch ? log.Part(stretch.StartSeconds, stretch.EndSeconds) : log;
            },
            cancellation);
    }

    /// <summary>Reads a run's original again and analyses it under its present conditions.</summary>
    public async Task AnalyzeAnewAsync(RemedosContext context, Run run, CancellationToken cancellation)
    {
        Log log = await ReadAsync(context, run, cancellation);
        run.Analysis = await Task.Run(() => RunAnalyzer.Analyze(log, run.Conditions), cancellation);
        run.AnalysisVersion = RunAnalyzer.Version;
    }

    private Dictionary<int, ChannelRole>? Remembered(Guid workshopId, string fingerprint)
    {
        using RemedosContext context = contexts.CreateDbContext();
        return context.RememberedRoles.AsNoTracking().SingleOrDefault(r => r.WorkshopId == workshopId && r.Fingerprint == fingerprint)?.Roles
            .Where(pair => ChannelRoles.TryParse(pair.Value, out _))
            .ToDictionary(pair => pair.Key, pair => ChannelRoles.TryParse(pair.Value, out ChannelRole role) ? role : ChannelRole.Other);
    }
}
