using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Factorization;

namespace Remedos.Core.Simulation;

/// <summary>
/// A linear chain of heat capacities from the die to the room, advanced exactly: C·dx/dt = −G·x + P with x the rises above the room.
/// C^½ makes G symmetric, so its eigenvectors decouple the chain and each mode relaxes as its own exponential.
/// </summary>
public sealed class ThermalNetwork
{
    private readonly double[] _rates;
    private readonly Matrix<double> _toModes, _fromModes;

    /// <summary>Builds the chain.</summary>
    /// <param name="capacitiesJPerK">Of die, base, fins, case; n ≥ 1, all &gt; 0.</param>
    /// <param name="resistancesCPerW">From each node to the next, the last one to the room; n, all &gt; 0.</param>
    public ThermalNetwork(ReadOnlySpan<double> capacitiesJPerK, ReadOnlySpan<double> resistancesCPerW)
    {
        int n = capacitiesJPerK.Length;
        Matrix<double> conductance = Matrix<double>.Build.Dense(n, n);
        for (int i = 0; i < n; i++)
        {
            double g = 1 / resistancesCPerW[i];
            conductance[i, i] += g;
            if (i + 1 < n)
            {
                conductance[i + 1, i + 1] += g;
                conductance[i, i + 1] -= g;
                conductance[i + 1, i] -= g;
            }
        }

        double[] root = [.. capacitiesJPerK.ToArray().Select(Math.Sqrt)];
        Matrix<double> symmetric = Matrix<double>.Build.Dense(n, n, (i, j) => conductance[i, j] / (root[i] * root[j]));
        Evd<double> evd = symmetric.Evd(Symmetricity.Symmetric);
        _rates = [.. evd.EigenValues.Select(value => value.Real)];
        _fromModes = Matrix<double>.Build.Dense(n, n, (i, j) => evd.EigenVectors[i, j] / root[i]);
        _toModes = Matrix<double>.Build.Dense(n, n, (i, j) => evd.EigenVectors[j, i] * root[j]);
        HeatToModes = Matrix<double>.Build.Dense(n, n, (i, j) => evd.EigenVectors[j, i] / root[j]);
    }

    private Matrix<double> HeatToModes { get; }

    /// <summary>Rises at rest under constant heat, °C above the room.</summary>
    /// <param name="heatW">Heat into each node, W; n.</param>
    public double[] Rest(double[] heatW)
    {
        Vector<double> modes = HeatToModes * Vector<double>.Build.DenseOfArray(heatW);
        modes.MapIndexedInplace((k, value) => value / _rates[k]);
        return (_fromModes * modes).ToArray();
    }

    /// <summary>Rises after <paramref name="seconds"/> of constant heat, from <paramref name="rises"/>.</summary>
    public double[] Advance(double[] rises, double[] heatW, double seconds)
    {
        Vector<double> state = _toModes * Vector<double>.Build.DenseOfArray(rises);
        Vector<double> heat = HeatToModes * Vector<double>.Build.DenseOfArray(heatW);
        for (int k = 0; k < _rates.Length; k++)
        {
            double decay = Math.Exp(-_rates[k] * seconds);
            state[k] = (state[k] * decay) + (heat[k] / _rates[k] * (1 - decay));
        }

        return (_fromModes * state).ToArray();
    }
}
