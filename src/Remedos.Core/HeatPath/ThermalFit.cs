using System.Numerics;
using System.Runtime.InteropServices;
using Remedos.Core.Physics;
using Remedos.Core.Signals;

namespace Remedos.Core.HeatPath;

/// <summary>What a fit is made from. All arrays have one value a row.</summary>
/// <param name="TimeSeconds">Rows, s, not decreasing.</param>
/// <param name="RiseC">Chip above room, °C.</param>
/// <param name="PowerW">The processor's mean since the row before, W.</param>
/// <param name="FanRatio">The processor fan's speed over that of the reference window; empty when it is not logged.</param>
/// <param name="CardPowerW">The graphics card's power, W; empty when it is not logged or rests.</param>
/// <param name="FirstRow">Rows before this one only tell what warmed the machine beforehand; the fit is to those from here on.</param>
public sealed record FitInput(
    double[] TimeSeconds,
    double[] RiseC,
    double[] PowerW,
    double[] FanRatio,
    double[] CardPowerW,
    int FirstRow = 0
);

/// <summary>
/// The chip's rise as a sum of first-order lags of its own power, T − T_room = c + Σ R_k·y_k, with log-spaced time constants and
/// R_k ≥ 0 (docs/science.md, “The heat path”). It uses the measured power, so throttling and boosting do not spoil it.
/// </summary>
public sealed class ThermalFit
{
    /// <summary>A fan that stays within this ratio of its slowest is as good as fixed.</summary>
    private const double FanMovesAbove = 1.1;

    /// <summary>Keeps neighbours on the grid from trading against each other; a share of the largest column.</summary>
    private const double Ridge = 1e-6;

    /// <summary>Residuals are alike for about this long; blocks keep that, s.</summary>
    private const double BlockSeconds = 60;

    private readonly Lag[] _lags;
    private readonly double[] _weights;
    private readonly double[][] _columns;
    private readonly double[,] _normal;
    private readonly double[] _solution;

    private ThermalFit(FitInput input, Lag[] lags, double[] weights, double[][] columns, double[,] normal, double[] solution)
    {
        (Input, _lags, _weights, _columns, _normal, _solution) = (input, lags, weights, columns, normal, solution);
        FittedC = Predict(solution);
        ResidualC = [.. input.RiseC.Zip(FittedC, (measured, fitted) => measured - fitted)];
    }

    /// <summary>What was fitted: the rows of a short log, of a long one stretches of them (see <see cref="FitRows"/>).</summary>
    public FitInput Input { get; }

    /// <summary>The fitted rise of each row, °C.</summary>
    public double[] FittedC { get; }

    /// <summary>Measured minus fitted, °C.</summary>
    public double[] ResidualC { get; }

    /// <summary>Steady heat of board and supply, °C.</summary>
    public double ConstantC => _solution[^1];

    /// <summary>What a watt of the graphics card adds to the chip through the case air, °C/W; 0 without its power.</summary>
    public double CardResistanceCPerW => Sum(_solution, lag => lag.Kind == LagKind.Shared);

    /// <summary>The part of it that goes with the fan's speed, at the reference speed, °C/W; 0 where the fan did not move.</summary>
    public double FanResistanceCPerW => Sum(_solution, lag => lag.Kind == LagKind.OwnThroughFan);

    /// <summary>Total resistance for the chip's own heat at the reference fan speed, °C/W.</summary>
    public double SelfResistanceCPerW => Sum(_solution, _ => true);

    /// <summary>R between two time constants, °C/W: above the first, up to the second.</summary>
    public double Between(double fromSeconds, double toSeconds) => Between(_solution, fromSeconds, toSeconds);

    /// <summary>Fits a run.</summary>
    /// <returns>The fit, or null when the log cannot carry one: fewer than 100 rows, under four minutes, or sampled slower than 5
    /// s.</returns>
    public static ThermalFit? Fit(FitInput input)
    {
        double[] time = input.TimeSeconds;
        int n = time.Length;
        if (n - input.FirstRow < 100 || time[^1] - time[input.FirstRow] < 240 || (time[^1] - time[0]) / n > 5)
        {
            return null;
        }

        double[] ratio = [];
        if (input.FanRatio.Length > 0 && input.FanRatio.Max() > FanMovesAbove * Math.Max(0.1, input.FanRatio.Min()))
        {
            ratio = [.. input.FanRatio.Select(ratioNow => Math.Pow(Math.Max(0.1, ratioNow), PhysicalConstants.FanExponent))];
        }

        double[] together = input.CardPowerW.Length > 0 ? [.. input.PowerW.Zip(input.CardPowerW, (own, card) => own + card)] : [];
        Lag[] lags = Lags.Grid(time[^1] - time[0], ratio.Length > 0, together.Length > 0);
        FitRows rows = FitRows.Of(input);
        double[][] columns = new double[lags.Length + 1][];
        Parallel.For(
            0,
            lags.Length,
            () => new double[n],
            (k, _, every) =>
            {
                Lags.Filter(
                    time,
                    lags[k].Kind == LagKind.Shared ? together : input.PowerW,
                    lags[k].Kind == LagKind.OwnThroughFan ? ratio : default,
                    lags[k].TauSeconds,
                    every
                );
                columns[k] = rows.Means(every);
                return every;
            },
            _ => { }
        );

        columns[^1] = new double[rows.Count];
        Array.Fill(columns[^1], 1);
        FitInput fitted = new(
            rows.Means(time),
            rows.Means(input.RiseC),
            rows.Means(input.PowerW),
            rows.Means(input.FanRatio),
            rows.Means(input.CardPowerW)
        );
        double[,] normal = Normal(columns, rows.Weights);
        return new ThermalFit(
            fitted,
            lags,
            rows.Weights,
            columns,
            normal,
            NonNegativeLeastSquares.Solve(normal, Right(columns, fitted.RiseC, rows.Weights))
        );
    }

    /// <summary>The part of R between two time constants that a load of this length has not brought out yet, °C/W.</summary>
    public double Unseen(double fromSeconds, double toSeconds, double loadSeconds)
    {
        double sum = 0;
        for (int k = 0; k < _lags.Length; k++)
        {
            sum +=
                _lags[k].TauSeconds > fromSeconds && _lags[k].TauSeconds <= toSeconds
                    ? _solution[k] * Math.Exp(-loadSeconds / _lags[k].TauSeconds)
                    : 0;
        }

        return sum;
    }

    /// <summary>
    /// How far the rise will be from its rest some seconds after a stretch of rows, °C, if these powers and the reference fan speed go on.
    /// A mean over the stretch, because the quick lags follow every flicker of the power.
    /// </summary>
    public double GapC(int firstRow, int lastRow, double watts, double cardWatts, double afterSeconds)
    {
        double gap = 0;
        for (int k = 0; k < _lags.Length; k++)
        {
            if (_solution[k] > 0)
            {
                double drive = _lags[k].Kind == LagKind.Shared ? watts + cardWatts : watts;
                gap +=
                    _solution[k]
                    * (drive - Statistics.Mean(_columns[k].AsSpan(firstRow, lastRow - firstRow + 1)))
                    * Math.Exp(-afterSeconds / _lags[k].TauSeconds);
            }
        }

        return gap;
    }

    /// <summary>
    /// Refits to the fitted line plus residuals that are drawn anew in blocks, and reads something off each time (Künsch 1989): its
    /// scatter is what the noise of this log leaves open.
    /// </summary>
    /// <param name="draws">How often.</param>
    /// <param name="random">Where the blocks come from.</param>
    /// <param name="read">What is read off: R between two time constants is given by the function handed over.</param>
    public IReadOnlyList<T> Bootstrap<T>(int draws, Random random, Func<Func<double, double, double>, T> read)
    {
        int n = ResidualC.Length,
            block = Math.Clamp((int)(BlockSeconds * n / Math.Max(1, Input.TimeSeconds[^1] - Input.TimeSeconds[0])), 5, n / 4);
        double[] right = new double[_columns.Length],
            fitted = Right(_columns, FittedC, _weights),
            drawn = new double[n];
        List<T> results = new(draws);
        for (int draw = 0; draw < draws; draw++)
        {
            for (int at = 0; at < n; at += block)
            {
                int from = random.Next(n - block + 1),
                    length = Math.Min(block, n - at);
                ResidualC.AsSpan(from, length).CopyTo(drawn.AsSpan(at));
            }

            double[] noise = Right(_columns, drawn, _weights);
            for (int k = 0; k < right.Length; k++)
            {
                right[k] = fitted[k] + noise[k];
            }

            double[] x = NonNegativeLeastSquares.Solve(_normal, right, _solution);
            results.Add(read((low, high) => Between(x, low, high)));
        }

        return results;
    }

    private double Between(double[] x, double low, double high) => Sum(x, lag => lag.TauSeconds > low && lag.TauSeconds <= high);

    private double Sum(double[] x, Func<Lag, bool> of)
    {
        double sum = 0;
        for (int k = 0; k < _lags.Length; k++)
        {
            sum += of(_lags[k]) ? x[k] : 0;
        }

        return sum;
    }

    private double[] Predict(double[] x)
    {
        double[] rise = new double[Input.RiseC.Length];
        for (int k = 0; k < x.Length; k++)
        {
            for (int i = 0; x[k] > 0 && i < rise.Length; i++)
            {
                rise[i] += x[k] * _columns[k][i];
            }
        }

        return rise;
    }

    private static double[,] Normal(double[][] columns, double[] weights)
    {
        int size = columns.Length;
        double[,] normal = new double[size, size];
        for (int k = 0; k < size; k++)
        {
            double[] weighted = [.. columns[k].Zip(weights, (value, weight) => value * weight)];
            for (int j = 0; j <= k; j++)
            {
                normal[k, j] = normal[j, k] = Dot(weighted, columns[j]);
            }
        }

        double largest = Enumerable.Range(0, size - 1).Max(k => normal[k, k]);
        for (int k = 0; k < size; k++)
        {
            normal[k, k] += k == size - 1 ? 1e-6 * normal[k, k] : Ridge * largest;
        }

        return normal;
    }

    private static double[] Right(double[][] columns, double[] rise, double[] weights)
    {
        double[] weighted = [.. rise.Zip(weights, (value, weight) => value * weight)];
        return [.. columns.Select(column => Dot(column, weighted))];
    }

    private static double Dot(double[] a, double[] b)
    {
        ReadOnlySpan<Vector<double>> left = MemoryMarshal.Cast<double, Vector<double>>(a),
            right = MemoryMarshal.Cast<double, Vector<double>>(b);
        Vector<double> sums = Vector<double>.Zero;
        for (int i = 0; i < left.Length; i++)
        {
            sums += left[i] * right[i];
        }

        double sum = Vector.Sum(sums);
        for (int i = left.Length * Vector<double>.Count; i < a.Length; i++)
        {
            sum += a[i] * b[i];
        }

        return sum;
    }
}
