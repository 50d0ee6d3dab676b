using Remedos.Core.Planning;

namespace Remedos.Core.Tests.Planning;

/// <summary>Days as they might be, drawn.</summary>
internal static class DrawnDay
{
    /// <summary>Three weeks of nine to half past five, seen at nine.</summary>
    public static IReadOnlyList<Span> Weeks { get; } =
    [.. Enumerable.Range(0, 21).Where(day => day % 7 < 5).Select(day => new Span(day * 1440d, (day * 1440d) + 510))];

    public static PlanRequest Of(Random random, int jobs, int hands, int bays, int mostPieces) =>
        new(
            Weeks,
            [.. Enumerable.Range(0, hands).Select(i => new PlanHand($"hand {i}", i == 1 ? [.. Weeks.Skip(1)] : Weeks))],
            [.. Enumerable.Range(1, bays).Select(i => new PlanBay(i, i == 2 ? [new Span(0, 120)] : []))],
            [.. Enumerable.Range(0, jobs).Select(i => Job(random, i, hands, mostPieces))]
        )
        {
            // As planned: what is compared is order, not luck.
            Spreads = Enum.GetValues<WorkKind>().ToDictionary(kind => kind, _ => new Spread(1, 0, 0)),
        };

    private static PlanJob Job(Random random, int number, int hands, int mostPieces)
    {
        List<WorkPiece> pieces = [];
        int count = random.Next(1, mostPieces + 1);
        for (int i = 0; i < count; i++)
        {
            pieces.Add(
                random.Next(4) switch
                {
                    0 or 1 => WorkPiece.Run($"run {i}"),
                    2 => new WorkPiece(WorkKind.Repair, $"repair {i}", random.Next(10, 90)),
                    _ => new WorkPiece(WorkKind.Check, $"look {i}", random.Next(3, 15), random.Next(2) * random.Next(120)),
                }
            );
        }

        return new PlanJob(
            $"job {number}",
            pieces,
            random.Next(5) == 0 ? random.Next(600) : 0,
            random.Next(2) == 0 ? random.Next(60, 800) : null,
            random.Next(6) == 0 ? $"hand {random.Next(hands)}" : null
        );
    }
}
