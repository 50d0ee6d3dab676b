using System.Collections.Concurrent;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>
/// The readings of runs that go on, so that each batch adds to them and none is read again. Only a shortcut: whatever is not here, or has
/// been added to by another
/// server, is read from the database.
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
        BayLog log =
            _logs.TryGetValue(bay.Id, out var known)
            && known.Recording == run.Recording
            && known.From == run.FromSequence
            && known.Log.LastSequence == fresh[0].Sequence - 1
                ? known.Log
                : BayLog.Of(
                    await BayReadings.ReadAsync(context, bay.WorkshopId, bay.Id, run.Recording, run.FromSequence, null, cancellation)
                );
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
