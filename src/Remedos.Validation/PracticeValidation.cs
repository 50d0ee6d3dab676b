using Remedos.Core.Practice;

namespace Remedos.Validation;

/// <summary>How a way of working does over cases of a level.</summary>
/// <param name="Mended">Share of cases of which nothing was left.</param>
/// <param name="Minutes">Of hands, mean.</param>
/// <param name="Points">Mean score, where the owner is told the truth.</param>
public sealed record PracticeRow(int Level, string Way, double Mended, double Minutes, double Points);

/// <summary>
/// Holds the score against two ways to work the same practice cases: the product's own rules, and a habit that looks at nothing, cleans
/// and seats the cooler anew.
/// </summary>
public static class PracticeValidation
{
    /// <summary>Works so many cases of each level.</summary>
    /// <param name="seed">Of the first.</param>
    public static IReadOnlyList<PracticeRow> Run(int cases, int seed)
    {
        List<PracticeRow> rows = [];
        foreach (PracticeLevel level in PracticeLevel.All)
        {
            (PracticeCase Case, PracticeStand Best)[] worked =
            [
                .. Enumerable
                    .Range(seed, cases)
                    .AsParallel()
                    .AsOrdered()
                    .Select(one => PracticeCase.Draw(level, one))
                    .Select(one => (one, BestWay.Of(one))),
            ];
            rows.Add(Row("by the product’s rules", one => one.Best, fair: true));
            rows.Add(Row("cleaned and seated anew at once", one => ByHabit(one.Case), fair: null));

            PracticeRow Row(string way, Func<(PracticeCase Case, PracticeStand Best), PracticeStand> of, bool? fair)
            {
                (PracticeCase Case, PracticeStand Best, PracticeStand Done)[] done =
                [
                    .. worked.Select(one => (one.Case, one.Best, of(one))),
                ];
                return new PracticeRow(
                    level.Number,
                    way,
                    done.Average(one => one.Done.Left(one.Case).Count == 0 ? 1.0 : 0),
                    done.Average(one => one.Done.Minutes),
                    done.Average(one =>
                        PracticeScore
                            .Of(
                                one.Case,
                                one.Done,
                                new PracticeEnding(ToldOwner.Truth(one.Case, one.Done.Kept(one.Case)), fair),
                                one.Best,
                                "EUR"
                            )
                            .Points
                    )
                );
            }
        }

        return rows;
    }

    private static PracticeStand ByHabit(PracticeCase practice) =>
        PracticeStand.Fresh.Repaired(practice, "clean").After!.Repaired(practice, "remount").After!.Ran("usual");
}
