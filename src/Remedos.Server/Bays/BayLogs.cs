using System.Collections.Concurrent;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>
/// What a guided run decides by, of the runs that go on, so that each batch adds to it and none is read again. Only a shortcut: whatever
/// is not here is read from the database, and what another server was sent meanwhile is too.
/// </summary>
internal sealed class BayLogs
{
    private readonly ConcurrentDictionary<Guid, (long Recording, long From, BayLog Log)> _logs = new();

    /// <summary>
    /// The run's readings with those that have just come and are not stored yet. The bay's row is locked meanwhile, so nobody else adds to
    /// them.
    /// </summary>
    public async Task<BayLog> WithAsync(
        RemedosContext context,
        Bay bay,
        BayRun run,
        IReadOnlyList<BayReading> fresh,
        CancellationToken cancellation
    )
    {
        async Task AddAsync(BayLog log, long from, long? to)
        {
            await foreach (
                BayReading reading in BayReadings.ReadAsync(context, bay.WorkshopId, bay.Id, run.Recording, from, to, cancellation)
            )
            {
                log.Add(reading);
            }
        }

        BayLog log;
        if (
            _logs.TryGetValue(bay.Id, out var known)
            && known.Recording == run.Recording
            && known.From == run.FromSequence
            && known.Log.LastSequence < fresh[0].Sequence
        )
        {
            log = known.Log;
            if (log.LastSequence + 1 < fresh[0].Sequence)
            {
                await AddAsync(log, log.LastSequence + 1, fresh[0].Sequence - 1);
            }
        }
        else
        {
            log = GuidedRun.NewLog();
            await AddAsync(log, run.FromSequence, null);
        }

        foreach (BayReading reading in fresh)
        {
            log.Add(reading);
        }

        _logs[bay.Id] = (run.Recording, run.FromSequence, log);
        return log;
    }

    /// <summary>Forgets what may not have been stored, or is needed no more.</summary>
    public void Forget(Guid bay) => _logs.TryRemove(bay, out _);
}
