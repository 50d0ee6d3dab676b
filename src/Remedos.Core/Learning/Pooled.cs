namespace Remedos.Core.Learning;

/// <summary>What one machine says of a quantity.</summary>
/// <param name="StandardError">In the same unit; above 0.</param>
public readonly record struct Figure(double Value, double StandardError)
{
    /// <summary>Half-widths of 95 % intervals are so many standard errors.</summary>
    public const double Sigma95 = 1.959964;

    /// <summary>Half of its 95 % interval.</summary>
    public double HalfWidth => Sigma95 * StandardError;
}

/// <summary>
/// What several machines say together: the random-effects mean of DerSimonian and Laird (1986), for no two machines are quite alike.
/// </summary>
/// <param name="Machines">How many.</param>
/// <param name="Mean">Of what machines do, each weighed by how well it is known.</param>
/// <param name="StandardError">Of the mean.</param>
/// <param name="BetweenSd">By how much machines differ in truth, a standard deviation; 0 where their scatter is explained without.</param>
public sealed record Pooled(int Machines, double Mean, double StandardError, double BetweenSd)
{
    /// <summary>Half of the mean's 95 % interval.</summary>
    public double HalfWidth => Figure.Sigma95 * StandardError;

    /// <summary>Pools them; null for none.</summary>
    public static Pooled? Of(IReadOnlyList<Figure> figures)
    {
        if (figures.Count == 0)
        {
            return null;
        }

        double[] weights = [.. figures.Select(one => 1 / (one.StandardError * one.StandardError))];
        double all = weights.Sum(),
            mean = Weighed(weights),
            heterogeneity = figures.Zip(weights, (one, weight) => weight * Math.Pow(one.Value - mean, 2)).Sum(),
            scale = all - (weights.Sum(weight => weight * weight) / all);
        double between = figures.Count < 2 ? 0 : Math.Max(0, (heterogeneity - (figures.Count - 1)) / scale);
        double[] both = [.. figures.Select(one => 1 / ((one.StandardError * one.StandardError) + between))];
        return new Pooled(figures.Count, Weighed(both), 1 / Math.Sqrt(both.Sum()), Math.Sqrt(between));

        double Weighed(double[] by) => figures.Zip(by, (one, weight) => weight * one.Value).Sum() / by.Sum();
    }
}
