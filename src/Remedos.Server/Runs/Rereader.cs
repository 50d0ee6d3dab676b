using Microsoft.EntityFrameworkCore;
using Remedos.Core.Runs;
using Remedos.Data;

namespace Remedos.Server.Runs;

/// <summary>Makes stored analyses anew in the background that an older reading made, or whose columns have been overruled since.</summary>
public sealed class Rereader(IDbContextFactory<RemedosContext> contexts, RunReader reader, ILogger<Rereader> log) : BackgroundService
{
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(3);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            bool done = false;
            try
            {
                done = await RereadOneAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (DbUpdateConcurrencyException)
            {
                // Somebody changed the run meanwhile, and so read it anew.
                continue;
            }
            catch (Exception failure)
            {
                log.LogWarning(failure, "The rereader stumbled and goes on");
            }

            if (!done)
            {
                await Task.Delay(Idle, stoppingToken);
            }
        }
    }

    /// <summary>Reads one stale run; false when there is none.</summary>
    private async Task<bool> RereadOneAsync(CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await context.Runs.Where(r => r.AnalysisVersion < RunAnalyzer.Version).OrderByDescending(r => r.ImportedAt).FirstOrDefaultAsync(cancellation) is not { } run)
        {
            return false;
        }

        try
        {
            await reader.AnalyzeAnewAsync(context, run, cancellation);
        }
        catch (FileNotFoundException)
        {
            // Without its original it keeps what was read.
            log.LogWarning("The original of run {Run} is not in the file store", run.Id);
            run.AnalysisVersion = RunAnalyzer.Version;
        }

        await context.SaveChangesAsync(cancellation);
        return true;
    }
}
