using System.Runtime.InteropServices;
using Remedos.Core.Logs;

namespace Remedos.Core.Bays;

/// <summary>
/// Readings of a bay since a moment, kept column by column as they come, so that a run that goes on is never read again from its start.
/// </summary>
public sealed class BayLog
{
    private readonly List<double> _seconds = [];
    private readonly List<float> _chip = [];
    private readonly Dictionary<BayChannel, List<float>> _values = [];
    private double _start;

    /// <summary>Of readings that follow one another.</summary>
    public static BayLog Of(IEnumerable<BayReading> readings)
    {
        BayLog log = new();
        foreach (BayReading reading in readings)
        {
            log.Add(reading);
        }

        return log;
    }

    /// <summary>Number of the newest reading, 0 before the first.</summary>
    public long LastSequence { get; private set; }

    /// <summary>Seconds kept so far.</summary>
    public int Count => _seconds.Count;

    /// <summary>From the first reading to the last, s.</summary>
    public double DurationSeconds => Count == 0 ? 0 : _seconds[^1];

    /// <summary>Takes one reading in.</summary>
    public void Add(BayReading reading)
    {
        _start = Count == 0 ? reading.Seconds : _start;
        foreach ((BayChannel channel, double value) in reading.Values)
        {
            List<float> column = CollectionsMarshal.GetValueRefOrAddDefault(_values, channel, out _) ??= [];
            Pad(column, Count);
            column.Add((float)value);
        }

        _chip.Add((float?)reading.ChipC ?? float.NaN);
        // A clock that steps back stands still.
        _seconds.Add(Math.Max(reading.Seconds - _start, DurationSeconds));
        LastSequence = reading.Sequence;
    }

    /// <summary>The last value that was read; null for none.</summary>
    public double? Latest(ChannelRole role) =>
        _values.TryGetValue(new(role), out List<float>? column) && column.FindLastIndex(value => !float.IsNaN(value)) is >= 0 and int last
            ? column[last]
            : null;

    /// <summary>For how long a role has had no value, s; null when it never had one.</summary>
    public double? SilentFor(ChannelRole role) =>
        _values.TryGetValue(new(role), out List<float>? column)
            ? DurationSeconds - _seconds[column.FindLastIndex(value => !float.IsNaN(value))]
            : null;

    /// <summary>For how long the chip's temperature has not been read, s.</summary>
    public double ChipSilentFor =>
        DurationSeconds - (_chip.FindLastIndex(value => !float.IsNaN(value)) is >= 0 and int last ? _seconds[last] : 0);

    /// <summary>Mean, least and last of the chip over a stretch, °C; null when nothing was read in it.</summary>
    public (double Mean, double Least, double Last)? Chip(double from, double to)
    {
        int first = _seconds.BinarySearch(from) is >= 0 and int at ? at : ~_seconds.BinarySearch(from);
        (double sum, double least, double last, int n) = (0, double.PositiveInfinity, 0, 0);
        for (int i = first; i < Count && _seconds[i] <= to; i++)
        {
            if (!float.IsNaN(_chip[i]))
            {
                (sum, least, last, n) = (sum + _chip[i], Math.Min(least, _chip[i]), _chip[i], n + 1);
            }
        }

        return n == 0 ? null : (sum / n, least, last);
    }

    /// <summary>Mean of a role over a stretch; null when nothing was read in it.</summary>
    public double? Mean(ChannelRole role, double from, double to)
    {
        (double sum, int n) = (0, 0);
        if (_values.TryGetValue(new(role), out List<float>? column))
        {
            for (int i = Math.Min(Count, column.Count) - 1; i >= 0 && _seconds[i] >= from; i--)
            {
                (sum, n) = float.IsNaN(column[i]) || _seconds[i] > to ? (sum, n) : (sum + column[i], n + 1);
            }
        }

        return n == 0 ? null : sum / n;
    }

    /// <summary>As a log like any other, its time from the first reading.</summary>
    /// <param name="everySeconds">Readings closer than this are brought together as their mean; 0 for every one.</param>
    /// <param name="more">What hands have read meanwhile.</param>
    public Log ToLog(double everySeconds = 0, IReadOnlyList<HandReading>? more = null)
    {
        foreach (List<float> column in _values.Values)
        {
            Pad(column, Count);
        }

        List<int> starts = [];
        for (int i = 0; i < Count; i++)
        {
            if (i == 0 || everySeconds == 0 || _seconds[i] - _seconds[starts[^1]] >= everySeconds)
            {
                starts.Add(i);
            }
        }

        BayChannel[] channels =
        [
            .. _values
                .Keys.Concat((more ?? []).SelectMany(hand => hand.Values.Keys).Select(role => new BayChannel(role)))
                .Distinct()
                .OrderBy(channel => channel.Role)
                .ThenBy(channel => channel.Index),
        ];
        double[] time = [.. starts.Select(i => _seconds[i])];
        return new Log(
            time,
            [
                new Channel(0, "time", ChannelRole.Time, "s", [], time.Length, 0, null),
                .. channels.Select(
                    (channel, column) =>
                    {
                        float[] values = _values.TryGetValue(channel, out List<float>? all) ? Thinned(all, starts) : Empty(time.Length);
                        foreach (HandReading hand in channel.Index > 0 ? [] : more ?? [])
                        {
                            int at =
                                time.Length == 0
                                    ? -1
                                    : Math.Clamp(
                                        Array.FindIndex(time, t => t >= hand.Seconds) is >= 0 and int found ? found : time.Length - 1,
                                        0,
                                        time.Length - 1
                                    );
                            if (at >= 0 && hand.Values.TryGetValue(channel.Role, out double value))
                            {
                                values[at] = (float)value;
                            }
                        }

                        float[] there = [.. values.Where(value => !float.IsNaN(value))];
                        return new Channel(
                            column + 1,
                            channel.Name,
                            channel.Role,
                            channel.Role.Unit()?.Canonical ?? "",
                            values,
                            there.Length,
                            0,
                            there.Length == 0 ? null : there.Average()
                        );
                    }
                ),
            ],
            null,
            []
        );
    }

    private float[] Thinned(List<float> column, List<int> starts)
    {
        float[] thin = new float[starts.Count];
        for (int row = 0; row < thin.Length; row++)
        {
            int end = row + 1 < starts.Count ? starts[row + 1] : Count;
            (double sum, int n) = (0, 0);
            for (int i = starts[row]; i < end; i++)
            {
                (sum, n) = float.IsNaN(column[i]) ? (sum, n) : (sum + column[i], n + 1);
            }

            thin[row] = n == 0 ? float.NaN : (float)(sum / n);
        }

        return thin;
    }

    private static float[] Empty(int length)
    {
        float[] values = new float[length];
        Array.Fill(values, float.NaN);
        return values;
    }

    private static void Pad(List<float> column, int length)
    {
        while (column.Count < length)
        {
            column.Add(float.NaN);
        }
    }
}

/// <summary>What was read by hand while a run went on.</summary>
/// <param name="Seconds">Since the run began.</param>
public sealed record HandReading(double Seconds, IReadOnlyDictionary<ChannelRole, double> Values);
