using CsCheck;
using MathNet.Numerics.LinearAlgebra;
using Remedos.Core.HeatPath;

namespace Remedos.Core.Tests.HeatPath;

public sealed class FitTests
{
    /// <summary>The conditions of Karush, Kuhn and Tucker are necessary and sufficient for this convex problem.</summary>
    [Fact]
    public void Non_negative_least_squares_meets_its_optimality_conditions() =>
        Gen.Select(Gen.Int[1, 10], Gen.Double[-3, 3].Array[300]).Sample((n, numbers) =>
        {
            Matrix<double> columns = Matrix<double>.Build.Dense(20, n, (i, j) => numbers[(i * n) + j]);
            Vector<double> right = Vector<double>.Build.Dense(20, i => numbers[200 + i]);
            Matrix<double> a = columns.TransposeThisAndMultiply(columns) + (1e-6 * Matrix<double>.Build.DenseIdentity(n));
            Vector<double> b = columns.TransposeThisAndMultiply(right);
            double[] x = NonNegativeLeastSquares.Solve(a, b);
            Vector<double> gradient = b - (a * Vector<double>.Build.DenseOfArray(x));
            double small = 1e-7 * (1 + b.AbsoluteMaximum());
            for (int i = 0; i < n; i++)
            {
                Assert.True(x[i] >= 0);
                Assert.True(gradient[i] <= small, $"x[{i}] should grow");
                Assert.True(x[i] == 0 || Math.Abs(gradient[i]) <= small, $"x[{i}] is not at its minimum");
            }
        });

    /// <summary>A first-order answer written down by its formula, under a power step and a fall: the fit must find its total and its constant.</summary>
    [Fact]
    public void A_known_response_is_found_again()
    {
        (double R, double Tau)[] modes = [(0.12, 1.5), (0.10, 25), (0.15, 260)];
        double[] time = [.. Enumerable.Range(0, 2400).Select(i => (double)i)];
        double[] power = [.. time.Select(t => t is > 300 and <= 2000 ? 150.0 : 20.0)];
        double[] rise = [.. time.Select(t => 3 + modes.Sum(m => m.R * (20 + (130 * (Grown(t - 300, m.Tau) - Grown(t - 2000, m.Tau))))))];
        ThermalFit fit = ThermalFit.Fit(time, rise, power, [], [])!;
        Assert.Equal(0.37, fit.SelfResistanceCPerW, 0.004);
        Assert.Equal(3, fit.ConstantC, 0.5);
        Assert.InRange(fit.ResidualC, 0, 0.1);
        static double Grown(double t, double tau) => t <= 0 ? 0 : 1 - Math.Exp(-t / tau);
    }

    [Fact]
    public void A_log_that_cannot_carry_a_fit_gets_none()
    {
        double[] time = [.. Enumerable.Range(0, 60).Select(i => i * 10.0)];
        Assert.Null(ThermalFit.Fit(time, time, time, [], []));
    }
}
