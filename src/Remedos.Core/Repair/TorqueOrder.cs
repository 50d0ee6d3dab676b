namespace Remedos.Core.Repair;

/// <summary>
/// In which order screws in a ring are turned so that the base stays level: across, then where most room is between
/// those that are tight.
/// </summary>
public static class TorqueOrder
{
    /// <summary>The screws by their place round the ring, from 1.</summary>
    /// <param name="screws">2 or more.</param>
    /// <exception cref="ArgumentOutOfRangeException">Fewer than two screws have no order.</exception>
    public static IReadOnlyList<int> Of(int screws)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(screws, 2);
        List<int> order = [0];
        while (order.Count < screws)
        {
            // By turns the one opposite the last, and the one in the widest gap; of those alike, the farthest from the last.
            bool opposite = order.Count % 2 == 1;
            order.Add(
                Enumerable
                    .Range(0, screws)
                    .Except(order)
                    .OrderByDescending(one => opposite ? Apart(one, order[^1], screws) : order.Min(done => Apart(one, done, screws)))
                    .ThenByDescending(one => Apart(one, order[^1], screws))
                    .ThenBy(one => one)
                    .First()
            );
        }

        return [.. order.Select(one => one + 1)];
    }

    private static int Apart(int one, int other, int screws) => Math.Min(Math.Abs(one - other), screws - Math.Abs(one - other));
}
