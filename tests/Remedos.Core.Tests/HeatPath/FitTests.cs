using CsCheck;
using Remedos.Core.HeatPath;

namespace Remedos.Core.Tests.HeatPath;

public sealed class FitTests
{
    /// <summary>
    /// The conditions of Karush, Kuhn and Tucker are necessary and sufficient for this convex problem; any start must lead there.
    /// </summary>
    [Fact]
    public void Non_negative_least_squares_meets_its_optimality_conditions() =>
        Gen.Select(Gen.Int[1, 10], Gen.Double[-3, 3].Array[300], Gen.Bool)
            .Sample(
                (n, numbers, started) =>
                {
                    double[,] a = new double[n, n];
                    double[] b = new double[n];
                    for (int i = 0; i < n; i++)
                    {
                        for (int j = 0; j < n; j++)
                        {
                            a[i, j] =
                                Enumerable.Range(0, 20).Sum(row => numbers[(row * n) + i] * numbers[(row * n) + j]) + (i == j ? 1e-6 : 0);
                        }

                        b[i] = Enumerable.Range(0, 20).Sum(row => numbers[(row * n) + i] * numbers[200 + row]);
                    }

                    double[] x = NonNegativeLeastSquares.Solve(a, b, started ? [.. numbers.Take(n).Select(v => Math.Max(0, v))] : []);
                    double small = 1e-7 * (1 + b.Max(Math.Abs));
                    for (int i = 0; i < n; i++)
                    {
                        double gradient = b[i] - Enumerable.Range(0, n).Sum(j => a[i, j] * x[j]);
                        Assert.True(x[i] >= 0);
                        Assert.True(gradient <= small, $"x[{i}] should grow");
                        Assert.True(x[i] == 0 || Math.Abs(gradient) <= small, $"x[{i}] is not at its minimum");
                    }
                }
            );

    /// <summary>A sum of lags written down by its formula, under a power step and a fall.</summary>
    [Fact]
    public void A_known_response_is_found_again()
    {
        ThermalFit fit = ThermalFit.Fit(Known(0, 1, 0))!;
        Assert.Equal(0.37, fit.SelfResistanceCPerW, 0.004);
        Assert.Equal(0.12, fit.Between(0, 3), 0.01);
        Assert.Equal(0.10, fit.Between(3, 90), 0.01);
        Assert.Equal(0.15, fit.Between(90, 1e9), 0.01);
        Assert.Equal(3, fit.ConstantC, 0.5);
        Assert.InRange(HeatBands.Quality(fit).ExplainedShare, 0.999, 1);
    }

    [Fact]
    public void A_shift_of_time_changes_nothing_and_resistance_goes_as_one_over_power() =>
        Gen.Select(Gen.Double[-1e6, 1e6], Gen.Double[0.3, 3])
            .Sample(
                (shift, scale) =>
                {
                    ThermalFit plain = ThermalFit.Fit(Known(0, 1, 0))!,
                        shifted = ThermalFit.Fit(Known(shift, 1, 0))!,
                        scaled = ThermalFit.Fit(Known(0, scale, 0))!;
                    Assert.Equal(plain.Between(0, 3), shifted.Between(0, 3), 1e-3);
                    Assert.Equal(plain.SelfResistanceCPerW, shifted.SelfResistanceCPerW, 1e-4);
                    Assert.Equal(plain.SelfResistanceCPerW / scale, scaled.SelfResistanceCPerW, 1e-3 / scale);
                },
                iter: 8
            );

    /// <summary>Irregular rows: the filter is exact for power that is constant between rows, whatever their distance.</summary>
    [Theory]
    [InlineData(0.5)]
    [InlineData(2.0)]
    [InlineData(4.0)]
    public void Another_sampling_interval_finds_the_same_totals(double interval)
    {
        ThermalFit fit = ThermalFit.Fit(Known(0, 1, interval))!;
        Assert.Equal(0.37, fit.SelfResistanceCPerW, 0.005);
        Assert.Equal(0.15, fit.Between(90, 1e9), 0.02);
    }

    /// <summary>The fan's part is exact where the fan steps: resistance and time constant go together, the heat capacity stays.</summary>
    [Fact]
    public void A_lag_through_the_fan_comes_to_rest_at_its_ratio()
    {
        double[] time = [.. Enumerable.Range(0, 4000).Select(i => i * 0.9)],
            power = [.. time.Select(_ => 100.0)],
            ratio = [.. time.Select(t => t < 1800 ? 1.5 : 1.0)],
            y = new double[4000];
        Lags.Filter(time, power, ratio, 100, y);
        Assert.Equal(150, y[1999], 6);
        Assert.Equal(100 + (50 * Math.Exp(-(time[2100] - time[1999]) / 100)), y[2100], 6);
    }

    [Theory]
    [InlineData(60, 1.0)]
    [InlineData(600, 10.0)]
    public void A_log_that_cannot_carry_a_fit_gets_none(int rows, double step)
    {
        double[] time = [.. Enumerable.Range(0, rows).Select(i => i * step)];
        Assert.Null(ThermalFit.Fit(new FitInput(time, time, time, [], [])));
    }

    /// <summary>Rise of three lags and 3 °C of other heat: 20 W, 150 W from 300 to 2000 s, 20 W.</summary>
    private static FitInput Known(double shift, double scale, double interval)
    {
        (double R, double Tau)[] modes = [(0.12, 1.2), (0.10, 20), (0.15, 300)];
        interval = interval == 0 ? 1 : interval;
        double[] time = [.. Enumerable.Range(0, (int)(2400 / interval)).Select(i => i * interval)];
        double[] power = [.. time.Select(t => scale * (t is > 300 and <= 2000 ? 150.0 : 20.0))];
        // The step of the power belongs to the row interval in which it falls.
        double on = time.First(t => t > 300) - interval,
            off = time.Last(t => t <= 2000);
        double[] rise = [.. time.Select(t => 3 + modes.Sum(m => m.R * (20 + (130 * (Grown(t - on, m.Tau) - Grown(t - off, m.Tau))))))];
        return new FitInput([.. time.Select(t => t + shift)], rise, power, [], []);
        static double Grown(double t, double tau) => t <= 0 ? 0 : 1 - Math.Exp(-t / tau);
    }
}
