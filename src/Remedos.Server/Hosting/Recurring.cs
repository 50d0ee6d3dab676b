namespace Remedos.Server.Hosting;

/// <summary>Does something again and again while the server runs. A time that fails is told, and holds up none that follow.</summary>
internal abstract class Recurring(TimeSpan every, TimeProvider clock, ILogger log) : BackgroundService
{
    /// <summary>What did not happen when it fails, for the log.</summary>
    protected abstract string WhatFails { get; }

    /// <summary>Does it once.</summary>
    public abstract Task RunAsync(CancellationToken cancellation);

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using PeriodicTimer timer = new(every, clock);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await RunAsync(stoppingToken);
            }
            catch (Exception failure) when (!stoppingToken.IsCancellationRequested)
            {
                // What is away is told in one line: it is tried again soon.
                log.LogWarning(ProblemSentences.IsAway(failure) ? null : failure, "{What}: {Why}", WhatFails, failure.Message);
            }
        }
    }
}
