using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>Reads back what a bay was sent.</summary>
internal static class BayReadings
{
    /// <summary>The readings of a stream of the bay from one number on, in order.</summary>
    public static async Task<IReadOnlyList<BayReading>> ReadAsync(RemedosContext context, Bay bay, string? stream, long fromSequence, CancellationToken cancellation)
    {
        List<string> batches = await context.BayBatches.AsNoTracking()
            .Where(b => b.WorkshopId == bay.WorkshopId && b.BayId == bay.Id && b.Stream == stream && b.LastSequence >= fromSequence)
            .OrderBy(b => b.FirstSequence).Select(b => b.Lines).ToListAsync(cancellation);
        return [.. batches.SelectMany(lines => lines.Split('\n')).Select(line => BayLine.Parse(line).Reading!).Where(reading => reading.Sequence >= fromSequence)];
    }
}
