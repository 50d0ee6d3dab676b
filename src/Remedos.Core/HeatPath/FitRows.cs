namespace Remedos.Core.HeatPath;

/// <summary>
/// The rows that a fit works on. A short log is taken row by row. In a long one, where nothing happens for hours, rows are averaged in
/// stretches;
/// after each step of power they stay single for two minutes, because there the quick lags show.
/// </summary>
internal sealed class FitRows
{
    /// <summary>Up to this many rows nothing is averaged.</summary>
    private const int Few = 6000;

    private const double SingleAfterStepSeconds = 120,
        StepShare = 0.3;

    private readonly int[] _starts;
    private readonly int _rows;

    private FitRows(int[] starts, int rows)
    {
        (_starts, _rows) = (starts, rows);
        Weights = [.. starts.Select((start, k) => (double)((k + 1 < starts.Length ? starts[k + 1] : rows) - start))];
    }

    public int Count => _starts.Length;

    /// <summary>How many rows each stretch stands for.</summary>
    public double[] Weights { get; }

    public static FitRows Of(FitInput input)
    {
        int n = input.TimeSeconds.Length,
            fitted = n - input.FirstRow,
            usual = Math.Max(1, (int)Math.Ceiling(fitted / (double)(Few / 2)));
        List<int> starts = new(Math.Min(n, Few));
        double low = input.PowerW.Min(),
            step = StepShare * (input.PowerW.Max() - low),
            level = input.PowerW[input.FirstRow],
            singleUntil = double.NegativeInfinity;
        for (int i = input.FirstRow; i < n; i++)
        {
            if (Math.Abs(input.PowerW[i] - level) > step)
            {
                (level, singleUntil) = (input.PowerW[i], starts.Count < Few ? input.TimeSeconds[i] + SingleAfterStepSeconds : singleUntil);
            }

            if (fitted <= Few || input.TimeSeconds[i] <= singleUntil || starts.Count == 0 || i - starts[^1] >= usual)
            {
                starts.Add(i);
            }
        }

        return new FitRows([.. starts], n);
    }

    /// <summary>Means of the stretches; an empty series stays empty.</summary>
    public double[] Means(double[] values)
    {
        if (values.Length == 0)
        {
            return [];
        }

        double[] means = new double[_starts.Length];
        for (int k = 0; k < means.Length; k++)
        {
            int start = _starts[k],
                behind = k + 1 < _starts.Length ? _starts[k + 1] : _rows;
            double sum = 0;
            for (int i = start; i < behind; i++)
            {
                sum += values[i];
            }

            means[k] = sum / (behind - start);
        }

        return means;
    }
}
