using CsCheck;
using Remedos.Core.Signals;

namespace Remedos.Core.Tests.Runs;

public sealed class StatisticsTests
{
    /// <summary>NIST StRD “Michelso”: speed of light, certified mean, deviation and lag-1 autocorrelation.</summary>
    [Fact]
    public void Mean_deviation_and_lag_agree_with_certified_values()
    {
        double[] x =
        [
            299.85,
            299.74,
            299.90,
            300.07,
            299.93,
            299.85,
            299.95,
            299.98,
            299.98,
            299.88,
            300.00,
            299.98,
            299.93,
            299.65,
            299.76,
            299.81,
            300.00,
            300.00,
            299.96,
            299.96,
            299.96,
            299.94,
            299.96,
            299.94,
            299.88,
            299.80,
            299.85,
            299.88,
            299.90,
            299.84,
            299.83,
            299.79,
            299.81,
            299.88,
            299.88,
            299.83,
            299.80,
            299.79,
            299.76,
            299.80,
            299.88,
            299.88,
            299.88,
            299.86,
            299.72,
            299.72,
            299.62,
            299.86,
            299.97,
            299.95,
            299.88,
            299.91,
            299.85,
            299.87,
            299.84,
            299.84,
            299.85,
            299.84,
            299.84,
            299.84,
            299.89,
            299.81,
            299.81,
            299.82,
            299.80,
            299.77,
            299.76,
            299.74,
            299.75,
            299.76,
            299.91,
            299.92,
            299.89,
            299.86,
            299.88,
            299.72,
            299.84,
            299.85,
            299.85,
            299.78,
            299.89,
            299.84,
            299.78,
            299.81,
            299.76,
            299.81,
            299.79,
            299.81,
            299.82,
            299.85,
            299.87,
            299.87,
            299.81,
            299.74,
            299.81,
            299.94,
            299.95,
            299.80,
            299.81,
            299.87,
        ];
        Assert.Equal(299.852400000000, Statistics.Mean(x), 10);
        Assert.Equal(0.0790105478190518, Statistics.StandardDeviation(x), 10);
        Assert.Equal(0.535199668621283, Statistics.Lag1(x), 10);
    }

    /// <summary>
    /// Half-widths must hold the true mean about 95 times in 100, for noise that is white, correlated, and rounded to whole degrees.
    /// </summary>
    [Theory]
    [InlineData(0.0, 0.0)]
    [InlineData(0.8, 0.0)]
    [InlineData(0.8, 1.0)]
    [InlineData(0.3, 1.0)]
    public void Half_widths_cover_the_truth(double correlation, double step)
    {
        Random random = new(7);
        int covered = 0;
        const int trials = 600,
            samples = 300;
        for (int trial = 0; trial < trials; trial++)
        {
            double truth = 70 + random.NextDouble(),
                noise = 0;
            double[] values = new double[samples];
            for (int i = 0; i < samples + 50; i++)
            {
                noise = (correlation * noise) + (Math.Sqrt(1 - (correlation * correlation)) * 0.6 * Gauss(random));
                if (i >= 50)
                {
                    values[i - 50] = step > 0 ? Math.Round((truth + noise) / step) * step : truth + noise;
                }
            }

            Estimate estimate = Statistics.MeanOf(values);
            covered += Math.Abs(estimate.Mean - truth) <= estimate.HalfWidth95 ? 1 : 0;
        }

        Assert.InRange(covered / (double)trials, 0.91, 1.0);
    }

    [Fact]
    public void A_mean_moves_with_its_samples() =>
        Gen.Double[-50, 150]
            .Array[40, 200]
            .Select(Gen.Double[-20, 20])
            .Sample(
                (values, shift) =>
                {
                    Estimate here = Statistics.MeanOf(values),
                        there = Statistics.MeanOf([.. values.Select(value => value + shift)]);
                    Assert.Equal(here.Mean + shift, there.Mean, 6);
                    Assert.Equal(here.StandardUncertainty, there.StandardUncertainty, 1e-4);
                }
            );

    private static double Gauss(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
