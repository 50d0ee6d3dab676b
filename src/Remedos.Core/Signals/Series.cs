using Remedos.Core.Logs;

namespace Remedos.Core.Signals;

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

    /// <summary>The first channel of a role; null where the log has none.</summary>
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
        // The window stays sorted: one value leaves, one comes in.
        double[] window = new double[(2 * half) + 2];
        int count = 0;
        void Insert(double value)
        {
            int place = Place(window.AsSpan(0, count), value);
            Array.Copy(window, place, window, place + 1, count - place);
            window[place] = value;
            count++;
        }

        for (int i = 0; i < Math.Min(half, Values.Length); i++)
        {
            Insert(Values[i]);
        }

        for (int i = 0; i < smooth.Length; i++)
        {
            if (i + half < Values.Length)
            {
                Insert(Values[i + half]);
            }

            if (i - half > 0)
            {
                int place = Place(window.AsSpan(0, count), Values[i - half - 1]);
                count--;
                Array.Copy(window, place + 1, window, place, count - place);
            }

            smooth[i] = window[count / 2];
        }

        return new Series(Time, smooth);

        static int Place(ReadOnlySpan<double> sorted, double value)
        {
            int index = sorted.BinarySearch(value);
            return index < 0 ? ~index : index;
        }
    }
}
