using Microsoft.EntityFrameworkCore;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Data.Samples;
using Remedos.Server.Files;

namespace Remedos.Server.Runs;

/// <summary>
/// Reads originals from the file store, under what the workshop has said of their columns as the context at hand sees it.
/// </summary>
public sealed class RunReader(IFileStore files) : IDisposable
{
    /// <summary>So many originals are parsed at once; the rest wait, so that no number of clicks fills the memory.</summary>
    private const int AtOnce = 3;

    private readonly SemaphoreSlim _turns = new(AtOnce);

    public Task<LogReading> ReadAsync(
        RemedosContext context,
        Guid workshopId,
        string sha256,
        IProgress<long>? progress,
        CancellationToken cancellation
    ) => ReadAsync(context, workshopId, sha256, null, progress, cancellation);

    private async Task<LogReading> ReadAsync(
        RemedosContext context,
        Guid workshopId,
        string sha256,
        (int Column, ChannelRole Role)? said,
        IProgress<long>? progress,
        CancellationToken cancellation
    )
    {
        string? fingerprint = await FingerprintAsync(sha256, cancellation);
        Dictionary<int, ChannelRole>? roles = fingerprint is null
            ? null
            : await ColumnRoles.OfAsync(context, workshopId, fingerprint, cancellation);
        if (said is var (column, role))
        {
            roles = new Dictionary<int, ChannelRole>(roles ?? []) { [column] = role };
        }

        return await InTurnAsync(
            async () =>
            {
                await using Stream stream = await files.OpenAsync(sha256, cancellation);
                return LogReader.Read(stream, progress, found => found == fingerprint ? roles : null, cancellation);
            },
            cancellation
        );
    }

    /// <summary>The columns of an original, from its first rows; null when it is no table.</summary>
    public async Task<LogColumns?> ColumnsAsync(RemedosContext context, Guid workshopId, string sha256, CancellationToken cancellation)
    {
        string? fingerprint = await FingerprintAsync(sha256, cancellation);
        Dictionary<int, ChannelRole>? roles = fingerprint is null
            ? null
            : await ColumnRoles.OfAsync(context, workshopId, fingerprint, cancellation);
        await using Stream stream = await files.OpenAsync(sha256, cancellation);
        return LogReader.Columns(stream, found => found == fingerprint ? roles : null);
    }

    public void Dispose() => _turns.Dispose();

    public static Task<string> Sha256Async(RemedosContext context, Guid workshopId, Guid logFileId, CancellationToken cancellation) =>
        context.LogFiles.Where(f => f.WorkshopId == workshopId && f.Id == logFileId).Select(f => f.Sha256).SingleAsync(cancellation);

    /// <summary>A run's own rows, from its original.</summary>
    /// <exception cref="OriginalMissingException">It is not in the file store.</exception>
    /// <exception cref="UnreadableOriginalException">It was read once and is not any more.</exception>
    public Task<Log> ReadAsync(RemedosContext context, Run run, CancellationToken cancellation) =>
        ReadAsync(context, run, null, cancellation);

    private async Task<Log> ReadAsync(RemedosContext context, Run run, (int Column, ChannelRole Role)? said, CancellationToken cancellation)
    {
        string sha256 = await Sha256Async(context, run.WorkshopId, run.LogFileId, cancellation);
        LogReading reading = await ReadAsync(context, run.WorkshopId, sha256, said, null, cancellation);
        Log log = reading.Log ?? throw new UnreadableOriginalException(reading.Problem!.Located);
        return run.Stretch is { } stretch ? log.Part(stretch.StartSeconds, stretch.EndSeconds) : log;
    }

    /// <summary>
    /// Reads a run's original again and analyses it. Nothing is changed, so that no row is locked while a large log is read.
    /// </summary>
    /// <param name="context">Where roles are looked up.</param>
    /// <param name="run">Whose original.</param>
    /// <param name="conditions">Under which it is analysed.</param>
    /// <param name="said">A column's role that is about to be remembered; null for none.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task<RunReading> AnalyzeAsync(
        RemedosContext context,
        Run run,
        RunConditions conditions,
        (int Column, ChannelRole Role)? said,
        CancellationToken cancellation
    )
    {
        Log log = await ReadAsync(context, run, said, cancellation);
        return new RunReading(
            run.Version,
            log,
            await InTurnAsync(() => Task.FromResult(RunAnalyzer.Analyze(log, conditions)), cancellation)
        );
    }

    /// <summary>What a header is known by; null when it is no table.</summary>
    private async Task<string?> FingerprintAsync(string sha256, CancellationToken cancellation) =>
        await InTurnAsync(
            async () =>
            {
                await using Stream stream = await files.OpenAsync(sha256, cancellation);
                return LogReader.Columns(stream, _ => null)?.HeaderFingerprint;
            },
            cancellation
        );

    private async Task<T> InTurnAsync<T>(Func<Task<T>> read, CancellationToken cancellation)
    {
        await _turns.WaitAsync(cancellation);
        try
        {
            return await Task.Run(read, cancellation);
        }
        finally
        {
            _turns.Release();
        }
    }
}

/// <summary>An original that was read once cannot be read any more.</summary>
public sealed class UnreadableOriginalException(string why) : Exception(why);

/// <summary>A run's original as it reads now.</summary>
/// <param name="Version">Of the run that it was read for.</param>
public sealed record RunReading(uint Version, Log Log, RunAnalysis Analysis)
{
    /// <summary>Gives the run its analysis; with other columns also what is drawn of it.</summary>
    public async Task ApplyAsync(RemedosContext context, Run run, bool samplesToo, CancellationToken cancellation)
    {
        run.Analysis = Analysis;
        run.AnalysisVersion = RunAnalyzer.Version;
        run.MissingOriginal = false;
        if (samplesToo)
        {
            run.Rows = Log.Samples;
            await SampleStore.ReplaceAsync(context, run.WorkshopId, run.Id, Log, cancellation);
        }
    }
}
