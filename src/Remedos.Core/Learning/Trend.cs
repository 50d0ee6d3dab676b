using MathNet.Numerics.Distributions;

namespace Remedos.Core.Learning;

/// <summary>Whether what machines show of a cooler drifts over the years: the slope of a straight line by least squares.</summary>
/// <param name="AYear">Change of the logarithm of its factor in a year.</param>
/// <param name="HalfWidth">Half of its 95 % interval, by Student's t.</param>
public sealed record Trend(int Machines, double AYear, double HalfWidth)
{
    /// <summary>Fewer machines, or a shorter time, show no trend.</summary>
    private const int FewestMachines = 5;

    private const double ShortestYears = 0.5;

    /// <summary>Fits it; null for too few machines or too short a time.</summary>
    /// <param name="seen">When, in years from any day, and the logarithm of the factor.</param>
    public static Trend? Of(IReadOnlyList<(double Years, double Log)> seen)
    {
        if (seen.Count < FewestMachines || seen.Max(one => one.Years) - seen.Min(one => one.Years) < ShortestYears)
        {
            return null;
        }

        double middle = seen.Average(one => one.Years),
            mean = seen.Average(one => one.Log),
            spread = seen.Sum(one => Math.Pow(one.Years - middle, 2)),
            slope = seen.Sum(one => (one.Years - middle) * (one.Log - mean)) / spread,
            squares = seen.Sum(one => Math.Pow(one.Log - mean - (slope * (one.Years - middle)), 2));
        int degrees = seen.Count - 2;
        return new Trend(seen.Count, slope, Math.Sqrt(squares / degrees / spread) * StudentT.InvCDF(0, 1, degrees, 0.975));
    }

    /// <summary>In words: “It gets 3 ± 2 % worse a year.”</summary>
    public string Sentence =>
        (
            Math.Abs(AYear) <= HalfWidth ? "No trend could be told: "
            : AYear > 0 ? "It gets worse from machine to machine: "
            : "It gets better from machine to machine: "
        ) + $"{100 * AYear:+0;−0;0} ± {100 * HalfWidth:0} % a year.";

    /// <summary>A trend, or why there is none.</summary>
    public static string Words(Trend? trend) =>
        trend?.Sentence ?? $"Too few machines, or too short a time, for a trend: {FewestMachines} over half a year are needed.";
}
