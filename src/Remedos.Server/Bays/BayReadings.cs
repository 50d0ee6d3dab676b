using System.Runtime.CompilerServices;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;

namespace Remedos.Server.Bays;

/// <summary>Reads back what a bay was sent.</summary>
internal static class BayReadings
{
    /// <summary>The readings of a recording of the bay from one number on, in order; an hour of them is never in memory together.</summary>
    /// <param name="toSequence">The last one; null for all.</param>
    public static async IAsyncEnumerable<BayReading> ReadAsync(
        RemedosContext context,
        Guid workshopId,
        Guid bayId,
        long recording,
        long fromSequence,
        long? toSequence,
        [EnumeratorCancellation] CancellationToken cancellation
    )
    {
        long to = toSequence ?? long.MaxValue;
        IAsyncEnumerable<string> batches = context
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
            .AsAsyncEnumerable();
        await foreach (string lines in batches.WithCancellation(cancellation))
        {
            foreach (string line in lines.Split('\n'))
            {
                if (BayLine.Parse(line).Reading is { } reading && reading.Sequence >= fromSequence && reading.Sequence <= to)
                {
                    yield return reading;
                }
            }
        }
    }
}
