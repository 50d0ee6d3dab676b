using MathNet.Numerics.LinearAlgebra;

namespace Remedos.Core.HeatPath;

/// <summary>
/// The chip's rise as a sum of first-order lags of its own power, T − T_room = c + Σ R_k·y_k, τ_k dy_k/dt = P − y_k, with log-spaced
/// time constants and R_k ≥ 0 (docs/science.md, “The heat path”). It uses the measured power, so throttling and boosting do not spoil it.
/// </summary>
/// <param name="TauSeconds">Time constants of the grid, s.</param>
/// <param name="ResistanceCPerW">R_k of each, °C/W, at the fan speed of the reference window.</param>
/// <param name="CardResistanceCPerW">What a watt of the graphics card adds to the chip through the case air, °C/W; 0 without its power.</param>
/// <param name="ConstantC">Steady heat of board and supply, °C.</param>
/// <param name="ResidualC">Root mean square of what the fit leaves, °C.</param>
public sealed record ThermalFit(double[] TauSeconds, double[] ResistanceCPerW, double CardResistanceCPerW, double ConstantC, double ResidualC)
{
    private const int PerDecade = 8;
    private const double Ridge = 1e-6;
    private const double Shortest = 0.3, Longest = 3000, LongestShareOfLog = 0.35;

    /// <summary>Lags slower than this pass through fins or radiator, whose resistance falls as the fan speeds up.</summary>
    private const double FanActsAboveSeconds = 20;

    /// <summary>The card's heat reaches the chip through the case air only, which is slow.</summary>
    private const double CardActsAboveSeconds = 90;

    /// <summary>Total resistance for the chip's own heat, °C/W.</summary>
    public double SelfResistanceCPerW => ResistanceCPerW.Sum();

    /// <summary>Fits a run.</summary>
    /// <param name="time">Rows, s, not decreasing; n.</param>
    /// <param name="rise">Chip above room, °C; n.</param>
    /// <param name="power">Mean since the row before, W; n.</param>
    /// <param name="fanRatio">Fan speed over that of the reference window; n, or empty when it is not logged.</param>
    /// <param name="cardPower">The graphics card's power, W; n, or empty when it is not logged.</param>
    /// <returns>The fit, or null when the log cannot carry one: no power step, sampled slower than 5 s, or under five minutes.</returns>
    public static ThermalFit? Fit(ReadOnlySpan<double> time, ReadOnlySpan<double> rise, ReadOnlySpan<double> power, ReadOnlySpan<double> fanRatio, ReadOnlySpan<double> cardPower)
    {
        int n = time.Length;
        if (n < 100 || time[^1] - time[0] < 240 || (time[^1] - time[0]) / n > 5)
        {
            return null;
        }

        // Lags much longer than the load cannot be told from the constant: the grid ends where the log stops telling them apart.
        double longest = Math.Clamp(LongestShareOfLog * (time[^1] - time[0]), 60, Longest);
        int count = 1 + (int)Math.Floor(PerDecade * Math.Log10(longest / Shortest));
        double[] tau = [.. Enumerable.Range(0, count).Select(k => Shortest * Math.Pow(10, (double)k / PerDecade))];
        double[] cardTau = cardPower.IsEmpty ? [] : [.. tau.Where(t => t > CardActsAboveSeconds)];
        double[][] columns = [.. tau.Concat(cardTau).Select(_ => new double[n]), Ones(n)];
        for (int k = 0; k < count; k++)
        {
            Filter(time, power, tau[k] > FanActsAboveSeconds ? fanRatio : default, tau[k], columns[k]);
        }

        for (int k = 0; k < cardTau.Length; k++)
        {
            Filter(time, cardPower, default, cardTau[k], columns[count + k]);
        }

        double[] x = Solve(columns, rise);
        double squares = 0;
        for (int i = 0; i < n; i++)
        {
            double residual = rise[i];
            for (int k = 0; k < x.Length; k++)
            {
                residual -= x[k] > 0 ? x[k] * columns[k][i] : 0;
            }

            squares += residual * residual;
        }

        return new ThermalFit(tau, x[..count], x[count..^1].Sum(), x[^1], Math.Sqrt(squares / n));
    }

    /// <summary>Non-negative least squares on the columns, the constant last; a small ridge keeps neighbours on the grid from trading against each other.</summary>
    private static double[] Solve(double[][] columns, ReadOnlySpan<double> rise)
    {
        int size = columns.Length;
        Matrix<double> normal = Matrix<double>.Build.Dense(size, size);
        Vector<double> right = Vector<double>.Build.Dense(size);
        for (int k = 0; k < size; k++)
        {
            for (int j = 0; j <= k; j++)
            {
                normal[k, j] = normal[j, k] = Dot(columns[k], columns[j]);
            }

            right[k] = Dot(columns[k], rise);
        }

        double scale = Enumerable.Range(0, size - 1).Max(k => normal[k, k]);
        for (int k = 0; k < size; k++)
        {
            normal[k, k] += k == size - 1 ? 1e-6 * normal[k, k] : Ridge * scale;
        }

        return NonNegativeLeastSquares.Solve(normal, right);
    }

    private static double[] Ones(int n)
    {
        double[] ones = new double[n];
        Array.Fill(ones, 1);
        return ones;
    }

    /// <summary>y of one lag, exact for power that is constant between rows; starts in balance with the first minute's power.</summary>
    private static void Filter(ReadOnlySpan<double> time, ReadOnlySpan<double> power, ReadOnlySpan<double> fanRatio, double tau, Span<double> y)
    {
        double first = 0;
        int early = 0;
        while (early < time.Length && time[early] - time[0] < 30)
        {
            first += power[early++];
        }

        double state = first / Math.Max(1, early);
        for (int i = 0; i < time.Length; i++)
        {
            double decay = i == 0 ? 1 : Math.Exp(-(time[i] - time[i - 1]) / tau);
            double drive = fanRatio.IsEmpty ? power[i] : power[i] * Math.Pow(Math.Max(0.1, fanRatio[i]), -0.7);
            state = (state * decay) + (drive * (1 - decay));
            y[i] = state;
        }
    }

    private static double Dot(ReadOnlySpan<double> a, ReadOnlySpan<double> b)
    {
        double sum = 0;
        for (int i = 0; i < a.Length; i++)
        {
            sum += a[i] * b[i];
        }

        return sum;
    }
}
