using MathNet.Numerics.Distributions;

namespace Remedos.Core.Comparison;

/// <summary>The runs of a setup, mount by mount.</summary>
/// <param name="RunsOfMounts">How many runs each mount has.</param>
/// <param name="RoomC">Standard uncertainty of a mount's room, °C.</param>
internal sealed record Design(IReadOnlyList<int> RunsOfMounts, double RoomC)
{
    public int Mounts => RunsOfMounts.Count;

    public int Runs => RunsOfMounts.Sum();

    /// <summary>Σ 1/n_j / m²: by what the variance of a run counts in the mean of the mounts' means.</summary>
    public double WithinWeight => RunsOfMounts.Sum(n => 1.0 / n) / (Mounts * (double)Mounts);

    /// <summary>With so many mounts more, of a run each.</summary>
    public Design WithMounts(int more) => this with { RunsOfMounts = [.. RunsOfMounts, .. Enumerable.Repeat(1, more)] };

    /// <summary>With so many runs more, each on the mount that has fewest.</summary>
    public Design WithRuns(int more)
    {
        int[] runs = [.. RunsOfMounts];
        for (int k = 0; k < more; k++)
        {
            runs[Array.IndexOf(runs, runs.Min())]++;
        }

        return this with
        {
            RunsOfMounts = runs,
        };
    }
}

/// <summary>Standard uncertainty of a difference and the degrees of freedom that it is worth.</summary>
internal readonly record struct Spread(double U, double Degrees)
{
    private const double Power = 0.8;

    /// <summary>Half of the 95 % interval.</summary>
    public double HalfWidth => U * StudentT.InvCDF(0, 1, Degrees, 0.975);

    /// <summary>The smallest true difference that is found clear of zero four times in five: (t₀.₉₇₅ + t₀.₈)·u.</summary>
    public double SmallestDetectable => U * (StudentT.InvCDF(0, 1, Degrees, 0.975) + StudentT.InvCDF(0, 1, Degrees, Power));

    /// <summary>Two-sided p of a difference.</summary>
    public double PValue(double difference) =>
        U <= 0 ? (difference == 0 ? 1 : 0) : 2 * StudentT.CDF(0, 1, Degrees, -Math.Abs(difference) / U);
}

/// <summary>
/// The two-level variance: u² = s_m²/m + s_w²·Σ(1/n_j)/m² on each side, and what is shared by a side (docs/science.md,
/// “Verdicts”). One
/// function answers for the interval, the smallest change that would be seen, and how many more mounts or runs would settle it.
/// </summary>
internal static class Precision
{
    private const int MostWanted = 20;

    /// <summary>A component known as well as this has no degrees of freedom to speak of.</summary>
    private const double WellKnown = 1000;

    /// <summary>Of one setup's mean, or of the difference of two.</summary>
    /// <param name="scatter">Of this bench, this job included, °C at reference power.</param>
    /// <param name="sides">One design or two.</param>
    /// <param name="systematicC">Standard uncertainty that no further run takes away: the fan's part, the other heat, °C.</param>
    public static Spread Of(Repeatability scatter, IReadOnlyList<Design> sides, double systematicC)
    {
        double mounts = Square(scatter.MountC) * sides.Sum(side => 1.0 / side.Mounts);
        double within = Square(scatter.WithinC) * sides.Sum(side => side.WithinWeight);
        double rest = sides.Sum(side => Square(side.RoomC) / side.Mounts) + Square(systematicC);
        double variance = mounts + within + rest;
        // Satterthwaite 1946.
        double degrees =
            Square(variance)
            / ((Square(mounts) / scatter.MountDegrees) + (Square(within) / scatter.WithinDegrees) + (Square(rest) / WellKnown));
        return new Spread(Math.Sqrt(variance), Math.Clamp(degrees, 1, WellKnown));
    }

    /// <summary>
    /// Bench scatter with what these setups' own re-mounts and repeats add to it.
    /// </summary>
    /// <param name="bench">What is known of the bench otherwise.</param>
    /// <param name="setups">Of each setup, of each mount, the runs' values, °C at reference power.</param>
    /// <param name="readingC">Standard uncertainty of a run by its own log, °C: no scatter is smaller.</param>
    public static Repeatability Learn(Repeatability bench, IReadOnlyList<IReadOnlyList<double[]>> setups, double readingC)
    {
        ShownScatter repeats = Shown(setups, 0, 0);
        // What runs and rooms scatter by themselves is left in the few mounts of one job: a little too wide errs on the safe side.
        Repeatability known = repeats.Over(bench);
        return known with { WithinC = Math.Max(known.WithinC, readingC) };
    }

    /// <summary>Sums of squares of re-mounts and repeats.</summary>
    /// <param name="setups">Of each setup, of each mount, the runs' values, °C.</param>
    /// <param name="withinC">What a run scatters by itself, °C; it is no mount's.</param>
    /// <param name="roomC">What a mount's room scatters, °C; nor is that.</param>
    public static ShownScatter Shown(IReadOnlyList<IReadOnlyList<double[]>> setups, double withinC, double roomC)
    {
        double withinSquares = 0,
            withinDegrees = 0,
            mountSquares = 0,
            mountDegrees = 0;
        foreach (IReadOnlyList<double[]> setup in setups)
        {
            double[] means = [.. setup.Select(runs => runs.Average())];
            withinSquares += setup.Zip(means, (runs, mean) => runs.Sum(value => Square(value - mean))).Sum();
            withinDegrees += setup.Sum(runs => runs.Length - 1);
            mountSquares +=
                means.Sum(mean => Square(mean - means.Average()))
                - ((setup.Count - 1) * ((Square(withinC) * setup.Average(runs => 1.0 / runs.Length)) + Square(roomC)));
            mountDegrees += setup.Count - 1;
        }

        return new ShownScatter(mountSquares, mountDegrees, withinSquares, withinDegrees);
    }

    /// <summary>
    /// The fewest further mounts, or runs on the mounts there are, on each side that would settle a change of this size with 80 % power.
    /// </summary>
    /// <returns>One of the two is 0; null when more than twenty would be needed of either.</returns>
    public static (int Mounts, int Runs)? Wanted(Repeatability scatter, Design before, Design after, double systematicC, double changeC)
    {
        double change = Math.Abs(changeC);
        int? runs = Fewest(k =>
            Of(scatter with { WithinDegrees = scatter.WithinDegrees + (2 * k) }, [before.WithRuns(k), after.WithRuns(k)], systematicC)
        );
        int? mounts = Fewest(k =>
            Of(scatter with { MountDegrees = scatter.MountDegrees + (2 * k) }, [before.WithMounts(k), after.WithMounts(k)], systematicC)
        );
        return (mounts, runs) switch
        {
            (_, { } r) when r <= (mounts ?? int.MaxValue) => (0, r),
            ({ } m, _) => (m, 0),
            _ => null,
        };

        int? Fewest(Func<int, Spread> with)
        {
            for (int k = 1; k <= MostWanted; k++)
            {
                if (with(k).SmallestDetectable <= change)
                {
                    return k;
                }
            }

            return null;
        }
    }

    private static double Square(double x) => x * x;
}
