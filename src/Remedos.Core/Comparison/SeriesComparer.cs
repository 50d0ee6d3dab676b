namespace Remedos.Core.Comparison;

/// <summary>A setup as it enters a series.</summary>
/// <param name="Name">As it is to be told, different from the others'.</param>
public sealed record SeriesSetup(string Name, IReadOnlyList<ConditionedRun> Runs, long? PriceMinor = null);

/// <summary>A setup's place in a series. Figures are null where it cannot be compared with the first.</summary>
/// <param name="ResistanceCPerW">Of its own heat at the first setup's fan speed, °C/W.</param>
/// <param name="AtReferencePowerC">Its temperature at the first setup's power, room and fan speed, °C.</param>
/// <param name="HalfWidthC">Half of the 95 % interval of that, °C.</param>
/// <param name="Rank">1 is the coolest; null where it cannot be compared.</param>
/// <param name="Group">Letters; setups with one in common cannot be told apart at 95 %.</param>
public sealed record SeriesRow(
    string Name,
    int Mounts,
    int Runs,
    double? ResistanceCPerW,
    double? HalfWidthCPerW,
    double? AtReferencePowerC,
    double? HalfWidthC,
    double? SoundDba,
    double? Score,
    int? Rank,
    string? Group
)
{
    /// <summary>What it cost, in the currency's minor unit; null where unknown.</summary>
    public long? PriceMinor { get; init; }

    /// <summary>Temperature as it ran, mean over its runs, °C.</summary>
    public double? TemperatureC { get; init; }

    /// <summary>The fan under sustained load, rpm.</summary>
    public double? FanRpm { get; init; }

    /// <summary>Sustained clock, MHz.</summary>
    public double? ClockMHz { get; init; }

    /// <summary>Sustained power, W.</summary>
    public double? PowerW { get; init; }

    /// <summary>Whether it stood at its thermal limit.</summary>
    public bool AtLimit { get; init; }
}

/// <summary>Two setups of a series.</summary>
/// <param name="ChangeC">From a to b at reference power; negative: b is cooler.</param>
/// <param name="HalfWidthC">Half of its own 95 % interval, °C.</param>
/// <param name="PAdjusted">Two-sided p by Holm (1979) over all pairs.</param>
public sealed record SeriesPair(string A, string B, double ChangeC, double HalfWidthC, double PAdjusted, Verdict Verdict);

/// <summary>An obstacle of one setup of a series.</summary>
public sealed record SeriesObstacle(string Setup, string Code, ObstacleWeight Severity, string Message, string Remedy);

/// <summary>What one more mount would most likely settle.</summary>
/// <param name="A">A setup of the pair that is nearest to being told apart.</param>
/// <param name="Mounts">Further mounts a side; 0 when runs on the mounts there are suffice.</param>
/// <param name="Runs">Further runs a side.</param>
public sealed record SeriesNext(string A, string B, int Mounts, int Runs);

/// <summary>The contract's answer of `series` (docs/formats.md).</summary>
public sealed record SeriesResult(IReadOnlyList<SeriesRow> Setups, IReadOnlyList<SeriesPair> Pairs, IReadOnlyList<SeriesObstacle> Obstacles)
{
    /// <summary>Mean of the first setup's sustained powers, W; null where nothing can be compared.</summary>
    public double? ReferencePowerW { get; init; }

    /// <summary>The fan speed that all setups are carried to, rpm; null where they are compared as they ran.</summary>
    public double? ReferenceRpm { get; init; }

    /// <summary>The room that all are carried to, °C.</summary>
    public double? RoomC { get; init; }

    /// <summary>Null when every pair is told apart, or none could be within twenty.</summary>
    public SeriesNext? Next { get; init; }
}

/// <summary>Ranks three setups and more under like conditions, with Holm's correction over all pairs.</summary>
public static class SeriesComparer
{
    private const double Alpha = 0.05;

    /// <summary>Ranks setups; the first is the reference.</summary>
    public static SeriesResult Compare(IReadOnlyList<SeriesSetup> setups, Repeatability? bench = null, Subject subject = Subject.Processor)
    {
        List<SeriesObstacle> obstacles = [];
        List<SeriesSetup> compared = [];
        HashSet<string> told = [];
        foreach (SeriesSetup setup in setups)
        {
            bool isFirst = ReferenceEquals(setup, setups[0]);
            IReadOnlyList<Obstacle> between = Obstacles.Between(setups[0].Runs, setup.Runs, subject);
            // What the reference lacks is told once, at the reference.
            foreach (Obstacle obstacle in between.Where(o => isFirst || !told.Contains(o.Message)))
            {
                told.Add(obstacle.Message);
                obstacles.Add(new SeriesObstacle(setup.Name, obstacle.Code, obstacle.Severity, obstacle.Message, obstacle.Remedy));
            }

            if (between.All(obstacle => obstacle.Severity != ObstacleWeight.Blocking) && Readings(setup, subject).Length > 0)
            {
                compared.Add(setup);
            }
        }

        SeriesRow Bare(SeriesSetup setup) => Row(setup, subject, null, null, null);
        if (compared.Count == 0 || compared[0] != setups[0])
        {
            return new SeriesResult([.. setups.Select(Bare)], [], obstacles);
        }

        AlignedSetups aligned = new(
            [.. compared.Select(setup => Readings(setup, subject))],
            [.. compared.Select(setup => Obstacles.SameFan(setups[0].Runs, setup.Runs))]
        );
        Repeatability scatter = aligned.Learn(bench ?? Repeatability.Prior);
        double reference = aligned.ReferencePowerW;
        Design[] designs = [.. compared.Select((_, k) => aligned.DesignOf(k))];
        double[] values = [.. compared.Select((_, k) => aligned.MeanOf(k) * reference)];
        (int A, int B, Spread Spread, double Change)[] pairs =
        [
            .. from a in Enumerable.Range(0, compared.Count)
            from b in Enumerable.Range(a + 1, compared.Count - a - 1)
            select (a, b, Precision.Of(scatter, [designs[a], designs[b]], aligned.SystematicC(a, b)), values[b] - values[a]),
        ];
        double[] adjusted = Holm([.. pairs.Select(pair => pair.Spread.PValue(pair.Change))]);
        bool[,] apart = new bool[compared.Count, compared.Count];
        for (int i = 0; i < pairs.Length; i++)
        {
            apart[pairs[i].A, pairs[i].B] = apart[pairs[i].B, pairs[i].A] = adjusted[i] < Alpha;
        }

        int[] order = [.. Enumerable.Range(0, compared.Count).OrderBy(k => values[k])];
        string[] groups = Groups(order, apart);
        double foot = aligned.RoomC + aligned.OtherHeatC;
        SeriesRow Ranked(SeriesSetup setup)
        {
            int k = compared.IndexOf(setup);
            return k < 0
                ? Bare(setup)
                : Row(
                    setup,
                    subject,
                    (values[k], foot + values[k], Precision.Of(scatter, [designs[k]], 0).HalfWidth, reference),
                    Array.IndexOf(order, k) + 1,
                    groups[k]
                );
        }

        return new SeriesResult(
            [.. setups.Select(Ranked)],
            [
                .. pairs.Select(
                    (pair, i) =>
                        new SeriesPair(
                            compared[pair.A].Name,
                            compared[pair.B].Name,
                            pair.Change,
                            pair.Spread.HalfWidth,
                            adjusted[i],
                            adjusted[i] >= Alpha ? Verdict.NoMeasurableChange
                                : pair.Change < 0 ? Verdict.Improved
                                : Verdict.Worse
                        )
                ),
            ],
            obstacles
        )
        {
            ReferencePowerW = reference,
            ReferenceRpm = aligned.ReferenceRpm,
            RoomC = aligned.RoomC,
            Next = Next(pairs.Where((_, i) => adjusted[i] >= Alpha), compared, designs, scatter, aligned),
        };
    }

    /// <summary>p-values corrected for their number, by Holm (1979): stepwise, never decreasing, at most 1.</summary>
    internal static double[] Holm(double[] p)
    {
        int[] order = [.. Enumerable.Range(0, p.Length).OrderBy(i => p[i])];
        double[] adjusted = new double[p.Length];
        double largest = 0;
        for (int k = 0; k < order.Length; k++)
        {
            largest = Math.Max(largest, Math.Min(1, (p.Length - k) * p[order[k]]));
            adjusted[order[k]] = largest;
        }

        return adjusted;
    }

    /// <summary>
    /// Letters by Piepho's insert and absorb (2004): each letter is a largest set in which no two are told apart; a setup carries the
    /// letters of its sets.
    /// </summary>
    internal static string[] Groups(int[] order, bool[,] apart)
    {
        int n = order.Length;
        List<HashSet<int>> sets =
        [
            [.. order],
        ];
        for (int a = 0; a < n; a++)
        {
            for (int b = a + 1; b < n; b++)
            {
                if (!apart[order[a], order[b]])
                {
                    continue;
                }

                foreach (HashSet<int> both in sets.Where(set => set.Contains(order[a]) && set.Contains(order[b])).ToArray())
                {
                    sets.Remove(both);
                    sets.Add([.. both.Where(k => k != order[a])]);
                    sets.Add([.. both.Where(k => k != order[b])]);
                }

                sets =
                [
                    .. sets.Where(
                        (set, i) => !sets.Where((other, j) => j != i && set.IsSubsetOf(other) && (set.Count < other.Count || j < i)).Any()
                    ),
                ];
            }
        }

        HashSet<int>[] inOrder =
        [
            .. sets.OrderBy(set => set.Min(k => Array.IndexOf(order, k))).ThenBy(set => set.Max(k => Array.IndexOf(order, k))),
        ];
        return [.. Enumerable.Range(0, n).Select(k => string.Concat(inOrder.Select((set, i) => set.Contains(k) ? Letter(i) : "")))];
    }

    private static string Letter(int i) => i < 26 ? $"{(char)('a' + i)}" : $"{(char)('A' + (i % 26))}";

    private static SeriesNext? Next(
        IEnumerable<(int A, int B, Spread Spread, double Change)> open,
        List<SeriesSetup> compared,
        Design[] designs,
        Repeatability scatter,
        AlignedSetups aligned
    )
    {
        SeriesNext? best = null;
        foreach ((int a, int b, Spread spread, double change) in open.OrderByDescending(pair => Math.Abs(pair.Change) / pair.Spread.U))
        {
            if (
                Precision.Wanted(scatter, designs[a], designs[b], aligned.SystematicC(a, b), change) is var (mounts, runs)
                && (best is null || mounts + runs < best.Mounts + best.Runs)
            )
            {
                best = new SeriesNext(compared[a].Name, compared[b].Name, mounts, runs);
            }
        }

        return best;
    }

    private static Reading[] Readings(SeriesSetup setup, Subject subject) => Comparer.Readings(setup.Runs, subject, setup.Name);

    private static SeriesRow Row(
        SeriesSetup setup,
        Subject subject,
        (double Value, double At, double Half, double Reference)? figures,
        int? rank,
        string? group
    )
    {
        Reading[] readings = Readings(setup, subject);
        double[] levels = [.. readings.Select(run => run.SoundDba).OfType<double>()];
        return new SeriesRow(
            setup.Name,
            readings.Select(run => run.Mount).Distinct().Count(),
            setup.Runs.Count,
            figures?.Value / figures?.Reference,
            figures?.Half / figures?.Reference,
            figures?.At,
            figures?.Half,
            levels.Length == 0 ? null : 10 * Math.Log10(levels.Average(level => Math.Pow(10, level / 10))),
            readings.Length > 0 && readings.All(run => run.Score is > 0) ? readings.Average(run => run.Score) : null,
            rank,
            group
        )
        {
            PriceMinor = setup.PriceMinor,
            TemperatureC = readings.Length == 0 ? null : readings.Average(run => run.TemperatureC),
            FanRpm = readings.Length > 0 && readings.All(run => run.Fan is not null) ? readings.Average(run => run.Fan!.Rpm) : null,
            ClockMHz = readings.Average(run => run.ClockMHz),
            PowerW = readings.Length == 0 ? null : readings.Average(run => run.PowerW),
            AtLimit = readings.Any(run => run.AtLimit),
        };
    }
}
