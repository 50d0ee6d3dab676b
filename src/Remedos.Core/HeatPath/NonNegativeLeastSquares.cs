using MathNet.Numerics.LinearAlgebra;

namespace Remedos.Core.HeatPath;

/// <summary>
/// Least squares with unknowns that may not be negative: the active-set method of Lawson &amp; Hanson, <i>Solving Least Squares
/// Problems</i> (1974), chapter 23, on the normal equations, which are small here.
/// </summary>
public static class NonNegativeLeastSquares
{
    /// <summary>Minimises ½xᵀAx − bᵀx over x ≥ 0.</summary>
    /// <param name="a">AᵀA of the problem, n × n, positive definite (add a penalty if it may not be).</param>
    /// <param name="b">Aᵀy of the problem, n.</param>
    /// <returns>x, n values ≥ 0 that satisfy the Karush–Kuhn–Tucker conditions to rounding.</returns>
    public static double[] Solve(Matrix<double> a, Vector<double> b)
    {
        int n = b.Count;
        double[] x = new double[n];
        bool[] free = new bool[n];
        double tolerance = 1e-10 * b.AbsoluteMaximum();
        for (int round = 0; round < 3 * n; round++)
        {
            Vector<double> gradient = b - (a * Vector<double>.Build.DenseOfArray(x));
            int enter = -1;
            for (int i = 0; i < n; i++)
            {
                if (!free[i] && gradient[i] > tolerance && (enter < 0 || gradient[i] > gradient[enter]))
                {
                    enter = i;
                }
            }

            if (enter < 0)
            {
                return x;
            }

            free[enter] = true;
            while (true)
            {
                int[] set = [.. Enumerable.Range(0, n).Where(i => free[i])];
                double[] trial = SolveFree(a, b, set);
                double step = 1;
                for (int k = 0; k < set.Length; k++)
                {
                    step = trial[k] <= 0 ? Math.Min(step, x[set[k]] / (x[set[k]] - trial[k])) : step;
                }

                for (int k = 0; k < set.Length; k++)
                {
                    x[set[k]] += step * (trial[k] - x[set[k]]);
                }

                if (step >= 1)
                {
                    break;
                }

                foreach (int i in set)
                {
                    if (x[i] <= 1e-14)
                    {
                        x[i] = 0;
                        free[i] = false;
                    }
                }
            }
        }

        return x;
    }

    private static double[] SolveFree(Matrix<double> a, Vector<double> b, int[] set)
    {
        Matrix<double> part = Matrix<double>.Build.Dense(set.Length, set.Length, (i, j) => a[set[i], set[j]]);
        Vector<double> right = Vector<double>.Build.Dense(set.Length, i => b[set[i]]);
        return part.Cholesky().Solve(right).ToArray();
    }
}
