using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Factorization;

namespace Remedos.Core.Simulation;

/// <summary>
/// A linear chain of heat capacities from the die to the room, advanced exactly: C·dx/dt = −G·x + P with x the rises above the room.
/// C^½ makes G symmetric, so its eigenvectors decouple the chain and each mode relaxes as its own exponential.
/// </summary>
public sealed class ThermalNetwork
{
    private readonly int _n;
    private readonly double[] _rates;
    private readonly double[,] _toModes, _fromModes, _heatToModes;
    private double _stepSeconds = double.NaN;
    private double[] _keep = [], _gain = [];

    /// <summary>Builds the chain.</summary>
    /// <param name="capacitiesJPerK">Of die, base, fins, case; n ≥ 1, all &gt; 0.</param>
    /// <param name="resistancesCPerW">From each node to the next, the last one to the room; n, all &gt; 0.</param>
    public ThermalNetwork(ReadOnlySpan<double> capacitiesJPerK, ReadOnlySpan<double> resistancesCPerW)
    {
        int n = _n = capacitiesJPerK.Length;
        double[,] conductance = new double[n, n];
        double[] root = new double[n];
        for (int i = 0; i < n; i++)
        {
            root[i] = Math.Sqrt(capacitiesJPerK[i]);
            double g = 1 / resistancesCPerW[i];
            conductance[i, i] += g;
            if (i + 1 < n)
            {
                conductance[i + 1, i + 1] += g;
                conductance[i, i + 1] -= g;
                conductance[i + 1, i] -= g;
            }
        }

        Matrix<double> symmetric = Matrix<double>.Build.Dense(n, n, (i, j) => conductance[i, j] / (root[i] * root[j]));
        Evd<double> evd = symmetric.Evd(Symmetricity.Symmetric);
        _rates = [.. evd.EigenValues.Select(value => value.Real)];
        _fromModes = new double[n, n];
        _toModes = new double[n, n];
        _heatToModes = new double[n, n];
        for (int i = 0; i < n; i++)
        {
            for (int j = 0; j < n; j++)
            {
                _fromModes[i, j] = evd.EigenVectors[i, j] / root[i];
                _toModes[i, j] = evd.EigenVectors[j, i] * root[j];
                _heatToModes[i, j] = evd.EigenVectors[j, i] / root[j];
            }
        }
    }

    /// <summary>The die's own step response as a sum of lags: each time constant, s, with its resistance, °C/W. They add up to the rest's rise a watt.</summary>
    public IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> Modes =>
        [.. _rates.Select((rate, k) => (1 / rate, _fromModes[0, k] * _heatToModes[k, 0] / rate)).OrderBy(mode => mode.Item1)];

    /// <summary>Rises at rest under constant heat, °C above the room.</summary>
    /// <param name="heatW">Heat into each node, W; n.</param>
    public double[] Rest(ReadOnlySpan<double> heatW)
    {
        double[] rises = new double[_n];
        for (int k = 0; k < _n; k++)
        {
            double mode = Row(_heatToModes, k, heatW) / _rates[k];
            for (int i = 0; i < _n; i++)
            {
                rises[i] += _fromModes[i, k] * mode;
            }
        }

        return rises;
    }

    /// <summary>Advances the rises by <paramref name="seconds"/> of constant heat, in place. Equal steps after one another are cheap.</summary>
    public void Advance(Span<double> rises, ReadOnlySpan<double> heatW, double seconds)
    {
        if (seconds != _stepSeconds)
        {
            Prepare(seconds);
        }

        Span<double> next = stackalloc double[_n];
        for (int i = 0; i < _n; i++)
        {
            double sum = 0;
            for (int j = 0; j < _n; j++)
            {
                sum += (_keep[(i * _n) + j] * rises[j]) + (_gain[(i * _n) + j] * heatW[j]);
            }

            next[i] = sum;
        }

        next.CopyTo(rises);
    }

    /// <summary>Makes the two matrices of one step: what is kept of the rises, and what a watt adds.</summary>
    private void Prepare(double seconds)
    {
        double[] keep = new double[_n * _n], gain = new double[_n * _n];
        for (int k = 0; k < _n; k++)
        {
            double decay = Math.Exp(-_rates[k] * seconds), grown = 1 - decay;
            for (int i = 0; i < _n; i++)
            {
                for (int j = 0; j < _n; j++)
                {
                    keep[(i * _n) + j] += _fromModes[i, k] * decay * _toModes[k, j];
                    gain[(i * _n) + j] += _fromModes[i, k] * grown / _rates[k] * _heatToModes[k, j];
                }
            }
        }

        (_keep, _gain, _stepSeconds) = (keep, gain, seconds);
    }

    private double Row(double[,] matrix, int row, ReadOnlySpan<double> vector)
    {
        double sum = 0;
        for (int j = 0; j < _n; j++)
        {
            sum += matrix[row, j] * vector[j];
        }

        return sum;
    }
}
