using Remedos.Core.Logs;

namespace Remedos.Core.Runs;

/// <summary>One quantity over a run's time base, gaps carried forward from the last reading.</summary>
/// <param name="Time">Elapsed seconds of each row.</param>
/// <param name="Values">One value a row; no NaN.</param>
public sealed record Series(double[] Time, double[] Values)
{
    /// <summary>A series of a channel; null when fewer than half of its rows hold a sample.</summary>
    public static Series? Of(Log log, Channel? channel)
    {
        if (channel is null || channel.Samples * 2 < log.Samples)
        {
            return null;
        }

        double[] values = new double[channel.Values.Length];
        double last = channel.Values.First(value => !float.IsNaN(value));
        for (int i = 0; i < values.Length; i++)
        {
            last = float.IsNaN(channel.Values[i]) ? last : channel.Values[i];
            values[i] = last;
        }

        return new Series(log.TimeSeconds, values);
    }

    public static Series? Of(Log log, ChannelRole role) => Of(log, log.Find(role));

    /// <summary>Index of the first row at or after a time.</summary>
    public int IndexAt(double seconds)
    {
        int index = Array.BinarySearch(Time, seconds);
        if (index < 0)
        {
            return ~index;
        }

        while (index > 0 && Time[index - 1] >= seconds)
        {
            index--;
        }

        return index;
    }

    /// <summary>The values from one time to another, both ends included.</summary>
    public ReadOnlySpan<double> Between(double start, double end)
    {
        int first = IndexAt(start);
        int behind = IndexAt(Math.BitIncrement(end));
        return behind > first ? Values.AsSpan(first, behind - first) : default;
    }

    /// <summary>Mean between two times; null when no row lies there.</summary>
    public double? MeanBetween(double start, double end)
    {
        ReadOnlySpan<double> values = Between(start, end);
        return values.IsEmpty ? null : Statistics.Mean(values);
    }

    /// <summary>A running median over an odd number of rows: removes blips, keeps edges.</summary>
    public Series Median(int width)
    {
        int half = Math.Max(0, width / 2);
        double[] smooth = new double[Values.Length];
        double[] window = new double[(2 * half) + 1];
        for (int i = 0; i < smooth.Length; i++)
        {
            int first = Math.Max(0, i - half), last = Math.Min(smooth.Length - 1, i + half), count = last - first + 1;
            Array.Copy(Values, first, window, 0, count);
            Array.Sort(window, 0, count);
            smooth[i] = window[count / 2];
        }

        return new Series(Time, smooth);
    }
}
