using System.Runtime.InteropServices;
using Remedos.Core.Logs;

namespace Remedos.Core.Bays;

/// <summary>
/// Readings of a bay since a moment, kept column by column as they come, so that a run that goes on is never read again from its start.
/// </summary>
/// <param name="everySeconds">Readings closer than this are kept as their mean, one row for all; 0 keeps a row of each.</param>
/// <param name="only">
/// Roles of which rows are kept, besides the chip's temperature, which stands for all of the processor's; null keeps every channel.
/// </param>
public sealed class BayLog(double everySeconds = 0, IReadOnlySet<ChannelRole>? only = null)
{
    private readonly List<double> _seconds = [];
    private readonly Column _chip = new();
    private readonly Dictionary<BayChannel, Column> _values = [];
    private double _start;

    /// <summary>Of readings that follow one another.</summary>
    public static BayLog Of(IEnumerable<BayReading> readings, double everySeconds = 0)
    {
        BayLog log = new(everySeconds);
        foreach (BayReading reading in readings)
        {
            log.Add(reading);
        }

        return log;
    }

    /// <summary>Number of the newest reading, 0 before the first.</summary>
    public long LastSequence { get; private set; }

    /// <summary>Rows kept so far.</summary>
    public int Count => _seconds.Count;

    /// <summary>From the first reading to the last, s.</summary>
    public double DurationSeconds { get; private set; }

    /// <summary>Takes one reading in.</summary>
    public void Add(BayReading reading)
    {
        _start = Count == 0 ? reading.Seconds : _start;
        // A clock that steps back stands still.
        DurationSeconds = Math.Max(reading.Seconds - _start, DurationSeconds);
        if (Count == 0 || DurationSeconds - _seconds[^1] >= everySeconds)
        {
            _seconds.Add(DurationSeconds);
        }

        foreach ((BayChannel channel, double value) in reading.Values)
        {
            if (only?.Contains(channel.Role) == false)
            {
                continue;
            }

            Column column = CollectionsMarshal.GetValueRefOrAddDefault(_values, channel, out _) ??= new Column();
            column.Put(Count - 1, value, DurationSeconds);
        }

        if (reading.ChipC is { } chip)
        {
            _chip.Put(Count - 1, chip, DurationSeconds);
        }

        LastSequence = reading.Sequence;
    }

    /// <summary>The last value that was read; null for none.</summary>
    public double? Latest(ChannelRole role) => _values.GetValueOrDefault(new(role))?.Last;

    /// <summary>For how long a role has had no value, s; null when it never had one.</summary>
    public double? SilentFor(ChannelRole role) => DurationSeconds - _values.GetValueOrDefault(new(role))?.LastAt;

    /// <summary>For how long the chip's temperature has not been read, s.</summary>
    public double ChipSilentFor => DurationSeconds - _chip.LastAt;

    /// <summary>Mean, least and last of the chip over a stretch, °C; null when nothing was read in it.</summary>
    public (double Mean, double Least, double Last)? Chip(double from, double to)
    {
        int first = _seconds.BinarySearch(from) is >= 0 and int at ? at : ~_seconds.BinarySearch(from);
        (double sum, double least, double last, int n) = (0, double.PositiveInfinity, 0, 0);
        for (int i = first; i < Count && _seconds[i] <= to; i++)
        {
            if (_chip[i] is var chip && !float.IsNaN(chip))
            {
                (sum, least, last, n) = (sum + chip, Math.Min(least, chip), chip, n + 1);
            }
        }

        return n == 0 ? null : (sum / n, least, last);
    }

    /// <summary>Mean of a role over a stretch; null when nothing was read in it.</summary>
    public double? Mean(ChannelRole role, double from, double to)
    {
        (double sum, int n) = (0, 0);
        if (_values.TryGetValue(new(role), out Column? column))
        {
            for (int i = Count - 1; i >= 0 && _seconds[i] >= from; i--)
            {
                (sum, n) = float.IsNaN(column[i]) || _seconds[i] > to ? (sum, n) : (sum + column[i], n + 1);
            }
        }

        return n == 0 ? null : sum / n;
    }

    /// <summary>As a log like any other, its time from the first reading.</summary>
    /// <param name="more">What hands have read meanwhile.</param>
    public Log ToLog(IReadOnlyList<HandReading>? more = null)
    {
        Dictionary<BayChannel, Column> kept = _values;
        if (only is not null && _chip.Last is not null)
        {
            kept = new(_values) { [new(ChannelRole.CpuTemperature)] = _chip };
        }

        BayChannel[] channels =
        [
            .. kept
                .Keys.Concat((more ?? []).SelectMany(hand => hand.Values.Keys).Select(role => new BayChannel(role)))
                .Distinct()
                .OrderBy(channel => channel.Role)
                .ThenBy(channel => channel.Index),
        ];
        double[] time = [.. _seconds];
        return new Log(
            time,
            [
                new Channel(0, "time", ChannelRole.Time, "s", [], time.Length, 0, null),
                .. channels.Select(
                    (channel, column) =>
                    {
                        float[] values = (kept.GetValueOrDefault(channel) ?? new Column()).Rows(time.Length);
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

    /// <summary>One channel's values by their rows: of a row with several their mean, of one with none no number.</summary>
    private sealed class Column
    {
        private readonly List<float> _rows = [];
        private (double Sum, int Count) _inLast;

        public double? Last { get; private set; }

        /// <summary>When it was read last, s; 0 before.</summary>
        public double LastAt { get; private set; }

        public float this[int row] => row < _rows.Count ? _rows[row] : float.NaN;

        public void Put(int row, double value, double seconds)
        {
            while (_rows.Count <= row)
            {
                _rows.Add(float.NaN);
                _inLast = (0, 0);
            }

            _inLast = (_inLast.Sum + value, _inLast.Count + 1);
            _rows[row] = (float)(_inLast.Sum / _inLast.Count);
            (Last, LastAt) = (value, seconds);
        }

        public float[] Rows(int count) => [.. _rows, .. Enumerable.Repeat(float.NaN, count - _rows.Count)];
    }
}

/// <summary>What was read by hand while a run went on.</summary>
/// <param name="Seconds">Since the run began.</param>
public sealed record HandReading(double Seconds, IReadOnlyDictionary<ChannelRole, double> Values);
