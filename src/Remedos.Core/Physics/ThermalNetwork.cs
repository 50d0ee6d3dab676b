using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Factorization;

namespace Remedos.Core.Physics;

/// <summary>
/// Heat capacities joined by conductances, advanced exactly: C·dx/dt = −G·x + P with x the rises above the room and P constant
/// over a step.
/// G need not be symmetric: air that is blown out carries heat one way.
/// </summary>
public sealed class ThermalNetwork
{
    /// <summary>Terms of the series; with a norm of ½ the first one left out is below 10⁻¹⁷.</summary>
    private const int Terms = 14;

    private readonly int _n,
        _padded;
    private readonly double[] _capacities;
    private readonly double[,] _conductances;
    private double _stepSeconds = double.NaN;

    /// <summary>Column after column, each filled up to a multiple of four, as all matrices here.</summary>
    private double[] _keep = [],
        _gain = [];

    /// <summary>Builds a network.</summary>
    /// <param name="capacitiesJPerK">Of each node; n ≥ 1, all &gt; 0.</param>
    /// <param name="conductancesWPerK">G: heat that leaves node i for each degree of node j; n × n, every mode decaying.</param>
    public ThermalNetwork(ReadOnlySpan<double> capacitiesJPerK, double[,] conductancesWPerK)
    {
        (_n, _capacities, _conductances) = (capacitiesJPerK.Length, capacitiesJPerK.ToArray(), conductancesWPerK);
        _padded = (_n + 3) / 4 * 4;
    }

    /// <summary>Builds a chain from the die to the room.</summary>
    /// <param name="capacitiesJPerK">Of die, base, fins, case; n ≥ 1, all &gt; 0.</param>
    /// <param name="resistancesCPerW">From each node to the next, the last one to the room; n, all &gt; 0.</param>
    public ThermalNetwork(ReadOnlySpan<double> capacitiesJPerK, ReadOnlySpan<double> resistancesCPerW)
        : this(capacitiesJPerK, Chain(resistancesCPerW)) { }

    /// <summary>
    /// The first node's own step response as a sum of lags: each time constant, s, with its resistance, °C/W. They add up to the rest's
    /// rise a watt.
    /// </summary>
    public IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> Modes
    {
        get
        {
            // C^½ makes a symmetric G's problem symmetric, which keeps its eigenvalues real to the last digit.
            Matrix<double> scaled = Matrix<double>.Build.Dense(_n, _n, (i, j) =>
                _conductances[i, j] / Math.Sqrt(_capacities[i] * _capacities[j])
            );
            Evd<double> evd = scaled.Evd(scaled.IsSymmetric() ? Symmetricity.Symmetric : Symmetricity.Asymmetric);
            Matrix<double> back = evd.EigenVectors.Inverse();
            return
            [
                .. evd
                    .EigenValues.Select((value, k) => (1 / value.Real, evd.EigenVectors[0, k] * back[k, 0] / (_capacities[0] * value.Real)))
                    .OrderBy(mode => mode.Item1),
            ];
        }
    }

    /// <summary>Rises at rest under constant heat, °C above the room.</summary>
    /// <param name="heatW">Heat into each node, W; n.</param>
    public double[] Rest(ReadOnlySpan<double> heatW) =>
        [.. Matrix<double>.Build.DenseOfArray(_conductances).Solve(Vector<double>.Build.DenseOfArray(heatW.ToArray()))];

    /// <summary>
    /// Advances the rises by <paramref name="seconds"/> of constant heat, in place. Equal steps after one another are cheap.
    /// </summary>
    public void Advance(Span<double> rises, ReadOnlySpan<double> heatW, double seconds)
    {
        if (seconds != _stepSeconds)
        {
            Prepare(seconds);
        }

        // Column by column, four rows at once; multiplied and added apart, so that every processor rounds alike.
        Span<double> next = stackalloc double[_padded];
        next.Clear();
        AddColumns(next, _keep, rises);
        AddColumns(next, _gain, heatW);
        next[.._n].CopyTo(rises);
    }

    private void AddColumns(Span<double> sums, double[] columns, ReadOnlySpan<double> factors)
    {
        ref double sum = ref MemoryMarshal.GetReference(sums);
        ref double column = ref MemoryMarshal.GetArrayDataReference(columns);
        for (int j = 0; j < _n; j++)
        {
            if (factors[j] == 0)
            {
                continue;
            }

            Vector256<double> factor = Vector256.Create(factors[j]);
            for (int i = 0; i < _padded; i += Vector256<double>.Count)
            {
                (
                    Vector256.LoadUnsafe(ref sum, (nuint)i) + (factor * Vector256.LoadUnsafe(ref column, (nuint)((j * _padded) + i)))
                ).StoreUnsafe(ref sum, (nuint)i);
            }
        }
    }

    private static double[,] Chain(ReadOnlySpan<double> resistances)
    {
        int n = resistances.Length;
        double[,] conductance = new double[n, n];
        for (int i = 0; i < n; i++)
        {
            double g = 1 / resistances[i];
            conductance[i, i] += g;
            if (i + 1 < n)
            {
                conductance[i + 1, i + 1] += g;
                conductance[i, i + 1] -= g;
                conductance[i + 1, i] -= g;
            }
        }

        return conductance;
    }

    /// <summary>
    /// The two matrices of one step: what is kept of the rises, e^M with M = −C⁻¹·G·Δt, and what a watt adds,
    /// φ(M)·Δt·C⁻¹ with φ(M) = (e^M − 1)/M. By their series after halving the step until it is small, and doubling
    /// back (Moler &amp; Van Loan 2003, method 3).
    /// </summary>
    private void Prepare(double seconds)
    {
        double[] m = new double[_n * _padded];
        double norm = 0;
        for (int i = 0; i < _n; i++)
        {
            double row = 0;
            for (int j = 0; j < _n; j++)
            {
                m[(j * _padded) + i] = -_conductances[i, j] * seconds / _capacities[i];
                row += Math.Abs(m[(j * _padded) + i]);
            }

            norm = Math.Max(norm, row);
        }

        int halvings = Math.Max(0, (int)Math.Ceiling(Math.Log2(Math.Max(norm, 1e-300) / 0.5)));
        for (int i = 0; i < m.Length; i++)
        {
            m[i] = Math.ScaleB(m[i], -halvings);
        }

        double[] keep = Identity(),
            phi = Identity(),
            power = Identity();
        double factorial = 1;
        for (int k = 1; k <= Terms; k++)
        {
            power = Product(power, m);
            factorial *= k;
            for (int i = 0; i < m.Length; i++)
            {
                keep[i] += power[i] / factorial;
                phi[i] += power[i] / (factorial * (k + 1));
            }
        }

        for (int k = 0; k < halvings; k++)
        {
            double[] kept = Product(keep, phi);
            for (int i = 0; i < phi.Length; i++)
            {
                phi[i] = (kept[i] + phi[i]) / 2;
            }

            keep = Product(keep, keep);
        }

        for (int j = 0; j < _n; j++)
        {
            for (int i = 0; i < _n; i++)
            {
                phi[(j * _padded) + i] *= seconds / _capacities[j];
            }
        }

        (_keep, _gain, _stepSeconds) = (keep, phi, seconds);
    }

    private double[] Identity()
    {
        double[] one = new double[_n * _padded];
        for (int i = 0; i < _n; i++)
        {
            one[(i * _padded) + i] = 1;
        }

        return one;
    }

    private double[] Product(double[] a, double[] b)
    {
        double[] product = new double[a.Length];
        for (int j = 0; j < _n; j++)
        {
            AddColumns(product.AsSpan(j * _padded, _padded), a, b.AsSpan(j * _padded, _n));
        }

        return product;
    }
}
