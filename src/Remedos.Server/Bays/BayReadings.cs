using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;

namespace Remedos.Server.Bays;

/// <summary>Reads back what a bay was sent.</summary>
internal static class BayReadings
{
    /// <summary>The readings of a recording of the bay from one number on, in order.</summary>
    /// <param name="toSequence">The last one; null for all.</param>
    public static async Task<IReadOnlyList<BayReading>> ReadAsync(
        RemedosContext context,
        Guid workshopId,
        Guid bayId,
        long recording,
        long fromSequence,
        long? toSequence,
        CancellationToken cancellation
    )
    {
        long to = toSequence ?? long.MaxValue;
        List<string> batches = await context
            .BayBatches.AsNoTracking()
            .Where(b =>
                b.WorkshopId == workshopId
                && b.BayId == bayId
                && b.Recording == recording
                && b.LastSequence >= fromSequence
                && b.FirstSequence <= to
            )
            .OrderBy(b => b.FirstSequence)
            .Select(b => b.Lines)
            .ToListAsync(cancellation);
        return
        [
            .. batches
                .SelectMany(lines => lines.Split('\n'))
                .Select(line => BayLine.Parse(line).Reading!)
                .Where(reading => reading.Sequence >= fromSequence && reading.Sequence <= to),
        ];
    }
}
