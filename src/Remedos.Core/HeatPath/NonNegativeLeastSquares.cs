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
    /// <param name="start">A guess, n values ≥ 0, whose positive entries are tried first; empty for none. It changes the way, not the
    /// answer.</param>
    /// <returns>x, n values ≥ 0 that satisfy the Karush–Kuhn–Tucker conditions to rounding.</returns>
    public static double[] Solve(double[,] a, double[] b, ReadOnlySpan<double> start = default)
    {
        int n = b.Length;
        double[] x = new double[n],
            gradient = new double[n];
        bool[] free = new bool[n];
        double tolerance = 1e-10 * b.Max(Math.Abs);
        Workspace work = new(n);
        if (!start.IsEmpty)
        {
            for (int i = 0; i < n; i++)
            {
                x[i] = start[i];
                free[i] = start[i] > 0;
            }

            Settle(a, b, x, free, work);
        }

        for (int round = 0; round < 3 * n; round++)
        {
            int enter = -1;
            for (int i = 0; i < n; i++)
            {
                gradient[i] = b[i];
                for (int j = 0; j < n; j++)
                {
                    gradient[i] -= x[j] > 0 ? a[i, j] * x[j] : 0;
                }

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
            Settle(a, b, x, free, work);
        }

        return x;
    }

    /// <summary>Solves for the free unknowns; those that would turn negative are stopped at zero and leave, until none does.</summary>
    private static void Settle(double[,] a, double[] b, double[] x, bool[] free, Workspace work)
    {
        while (true)
        {
            int count = 0;
            for (int i = 0; i < x.Length; i++)
            {
                if (free[i])
                {
                    work.Set[count++] = i;
                }
            }

            SolveFree(a, b, work, count);
            double step = 1;
            for (int k = 0; k < count; k++)
            {
                double here = x[work.Set[k]],
                    there = work.Trial[k];
                step = there <= 0 ? Math.Min(step, here / Math.Max(here - there, double.Epsilon)) : step;
            }

            for (int k = 0; k < count; k++)
            {
                int i = work.Set[k];
                x[i] += step * (work.Trial[k] - x[i]);
                if (step < 1 && x[i] <= 1e-14)
                {
                    x[i] = 0;
                    free[i] = false;
                }
            }

            if (step >= 1)
            {
                return;
            }
        }
    }

    /// <summary>Cholesky on the free rows and columns.</summary>
    private static void SolveFree(double[,] a, double[] b, Workspace work, int count)
    {
        double[,] l = work.Lower;
        for (int i = 0; i < count; i++)
        {
            for (int j = 0; j <= i; j++)
            {
                double sum = a[work.Set[i], work.Set[j]];
                for (int k = 0; k < j; k++)
                {
                    sum -= l[i, k] * l[j, k];
                }

                l[i, j] = i == j ? Math.Sqrt(Math.Max(sum, 1e-300)) : sum / l[j, j];
            }

            double right = b[work.Set[i]];
            for (int k = 0; k < i; k++)
            {
                right -= l[i, k] * work.Trial[k];
            }

            work.Trial[i] = right / l[i, i];
        }

        for (int i = count - 1; i >= 0; i--)
        {
            double right = work.Trial[i];
            for (int k = i + 1; k < count; k++)
            {
                right -= l[k, i] * work.Trial[k];
            }

            work.Trial[i] = right / l[i, i];
        }
    }

    private sealed class Workspace(int n)
    {
        public int[] Set { get; } = new int[n];

        public double[] Trial { get; } = new double[n];

        public double[,] Lower { get; } = new double[n, n];
    }
}
