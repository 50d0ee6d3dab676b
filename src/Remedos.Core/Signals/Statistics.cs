using MathNet.Numerics.Distributions;

namespace Remedos.Core.Signals;

/// <summary>A mean and its standard uncertainty.</summary>
/// <param name="Mean">In the unit of the samples.</param>
/// <param name="StandardUncertainty">One standard deviation of the mean, same unit.</param>
/// <param name="EffectiveSamples">How many independent samples the window is worth.</param>
public readonly record struct Estimate(double Mean, double StandardUncertainty, double EffectiveSamples)
{
    /// <summary>Half of the 95 % interval, by Student's t with the effective degrees of freedom.</summary>
    public double HalfWidth95 => StandardUncertainty * StudentT.InvCDF(0, 1, Math.Max(1, EffectiveSamples - 1), 0.975);
}

/// <summary>Statistics of correlated, quantised samples (docs/science.md, “Sustained values”).</summary>
public static class Statistics
{
    private const int Batches = 10;

    /// <summary>Arithmetic mean.</summary>
    public static double Mean(ReadOnlySpan<double> values)
    {
        double sum = 0;
        foreach (double value in values)
        {
            sum += value;
        }

        return sum / values.Length;
    }

    /// <summary>Standard deviation with n − 1.</summary>
    public static double StandardDeviation(ReadOnlySpan<double> values)
    {
        double mean = Mean(values),
            sum = 0;
        foreach (double value in values)
        {
            sum += (value - mean) * (value - mean);
        }

        return values.Length < 2 ? 0 : Math.Sqrt(sum / (values.Length - 1));
    }

    /// <summary>Quantile between order statistics, linear (Hyndman &amp; Fan 1996, type 7).</summary>
    public static double Quantile(ReadOnlySpan<double> values, double share)
    {
        double[] sorted = values.ToArray();
        Array.Sort(sorted);
        double place = share * (sorted.Length - 1);
        int below = (int)place;
        return below + 1 < sorted.Length ? sorted[below] + ((place - below) * (sorted[below + 1] - sorted[below])) : sorted[below];
    }

    /// <summary>The middle value.</summary>
    public static double Median(ReadOnlySpan<double> values) => Quantile(values, 0.5);

    /// <summary>
    /// Mean of correlated, quantised readings. The effective number is n(1−ρ)/(1+ρ) with the lag-1 correlation ρ; where slow wander
    /// makes batch means scatter more than that allows, the batches win. Rounding to a step q adds what noise does not dither away:
    /// (q/√12)·exp(−2π²σ²/q²), Widrow &amp; Kollár 2008.
    /// </summary>
    public static Estimate MeanOf(ReadOnlySpan<double> values)
    {
        int n = values.Length;
        double mean = Mean(values),
            deviation = StandardDeviation(values);
        double effective = deviation > 0 ? Math.Clamp(n * (1 - Lag1(values)) / (1 + Lag1(values)), Math.Min(n, 2), n) : n;
        double uncertainty = deviation / Math.Sqrt(effective);
        if (n >= 4 * Batches)
        {
            double[] means = new double[Batches];
            for (int i = 0; i < Batches; i++)
            {
                means[i] = Mean(values[(i * n / Batches)..((i + 1) * n / Batches)]);
            }

            double byBatches = StandardDeviation(means) / Math.Sqrt(Batches);
            (uncertainty, effective) = byBatches > uncertainty ? (byBatches, Math.Min(effective, Batches)) : (uncertainty, effective);
        }

        double rounding = RoundingUncertainty(values);
        return new Estimate(mean, Math.Sqrt((uncertainty * uncertainty) + (rounding * rounding)), effective);
    }

    /// <summary>Correlation of neighbouring samples, within −0.2…0.999.</summary>
    public static double Lag1(ReadOnlySpan<double> values)
    {
        double mean = Mean(values),
            products = 0,
            squares = 0;
        for (int i = 0; i < values.Length; i++)
        {
            double here = values[i] - mean;
            squares += here * here;
            products += i > 0 ? here * (values[i - 1] - mean) : 0;
        }

        return squares > 0 ? Math.Clamp(products / squares, -0.2, 0.999) : 0;
    }

    /// <summary>The smallest step between different readings, 0 when all are equal.</summary>
    public static double Step(ReadOnlySpan<double> values)
    {
        double[] sorted = values.ToArray();
        Array.Sort(sorted);
        double step = double.PositiveInfinity;
        for (int i = 1; i < sorted.Length; i++)
        {
            double gap = sorted[i] - sorted[i - 1];
            step = gap > 1e-6 && gap < step ? gap : step;
        }

        return double.IsFinite(step) ? step : 0;
    }

    private static double RoundingUncertainty(ReadOnlySpan<double> values)
    {
        double step = Step(values);
        if (step <= 0)
        {
            // A single level: nothing tells the step, so take the coarsest that sensors have.
            return 1 / Math.Sqrt(12);
        }

        double squares = 0;
        for (int i = 1; i < values.Length; i++)
        {
            squares += (values[i] - values[i - 1]) * (values[i] - values[i - 1]);
        }

        // Neighbours' differences hold the noise twice and the rounding's own q²/12 twice.
        double noise = Math.Max(0, (squares / (2 * Math.Max(1, values.Length - 1))) - (step * step / 12));
        return step / Math.Sqrt(12) * Math.Exp(-2 * Math.PI * Math.PI * noise / (step * step));
    }
}
