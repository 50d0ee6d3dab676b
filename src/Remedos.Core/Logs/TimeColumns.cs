namespace Remedos.Core.Logs;

/// <summary>
/// Finds the column or the pair of columns that hold the time, reads them, and makes one elapsed time of them that never runs
/// backwards: a clock that steps back an hour, midnight, or a logger that restarts does not stop it.
/// </summary>
internal sealed class TimeColumns
{
    /// <summary>A date that jumps by more is day and month confused, or a clock that was set.</summary>
    private const double LongestStepSeconds = 20 * 86400;

    private readonly int _date = -1;
    private readonly int _time;
    private readonly bool _dayFirst;
    private readonly double _scale; // 0: text such as 12:00:05; else seconds in one unit of a number
    private readonly char _decimalSign;
    private double _offset,
        _last = double.NaN,
        _first = double.NaN,
        _interval = 1;
    private bool _hasDate,
        _minutesFirst;

    private TimeColumns(int time, int date, bool dayFirst, double scale, char decimalSign) =>
        (_time, _date, _dayFirst, _scale, _decimalSign) = (time, date, dayFirst, scale, decimalSign);

    /// <summary>How often the clock was repaired, in words.</summary>
    public List<string> Repairs { get; } = [];

    /// <summary>When the first row was written, if the log has dates: seconds since 1970 on the logger's own clock.</summary>
    public double? FirstUnixSeconds => _hasDate ? _first : null;

    public bool Holds(int column) => column == _time || column == _date;

    /// <summary>The columns that hold the time; null when none does.</summary>
    /// <param name="dialect">The table.</param>
    /// <param name="names">Its columns.</param>
    /// <param name="said">Columns that a technician calls the time; empty to look for it everywhere.</param>
    public static TimeColumns? Find(LogDialect dialect, IReadOnlyList<ChannelName> names, IReadOnlyList<int> said)
    {
        List<string[]> rows = [.. dialect.Sample.Take(40)];
        string Cell(string[] row, int column) => column < row.Length ? row[column] : "";
        bool Most(int column, Func<string, bool> holds) =>
            rows.Count > 0 && rows.Count(row => holds(Cell(row, column))) >= 0.6 * rows.Count(row => row.Length > names.Count / 2);

        bool Rises(int column) =>
            rows.Zip(rows.Skip(1))
                .All(pair =>
                    NumberText.TryRead(Cell(pair.First, column), dialect.DecimalSign, out double before)
                    && NumberText.TryRead(Cell(pair.Second, column), dialect.DecimalSign, out double after)
                    && after >= before
                );
        List<int> named =
            said.Count > 0
                ? [.. said]
                :
                [
                    .. Enumerable
                        .Range(0, names.Count)
                        .Where(i =>
                            names[i].Has("time", "timestamp", "date", "elapsed", "epoch", "unix", "uptime", "runtime", "datetime", "timer")
                            || (names[i].Has("t", "ts", "sec", "secs", "seconds", "millis") && Rises(i))
                        ),
                ];
        List<int> candidates = said.Count > 0 ? named : [.. named, .. Enumerable.Range(0, names.Count).Except(named)];
        // Who counts twelve hours writes the month first.
        bool twelveHours = rows.Any(row =>
            candidates.Any(i =>
                Cell(row, i).AsSpan().Trim() is [.., 'M' or 'm'] cell && cell.Length > 6 && cell[^2] is 'A' or 'a' or 'P' or 'p'
            )
        );
        bool dayFirst = rows.SelectMany(row => candidates.Select(i => MomentText.DayFirst(Cell(row, i))))
            .FirstOrDefault(found => found is not null)
            ?? !twelveHours;

        int date = -1,
            time = -1;
        foreach (int column in candidates)
        {
            bool Reads(string cell, bool wantsDate, bool wantsTime) =>
                MomentText.TryRead(cell, dayFirst, out Moment moment) && moment.HasDate == wantsDate && moment.HasTime == wantsTime;
            if (Most(column, cell => Reads(cell, true, true)))
            {
                return new TimeColumns(column, -1, dayFirst, 0, dialect.DecimalSign);
            }

            date = date < 0 && Most(column, cell => Reads(cell, true, false)) ? column : date;
            time = time < 0 && Most(column, cell => Reads(cell, false, true)) ? column : time;
        }

        if (time >= 0)
        {
            // “12:05” is five past noon, or twelve minutes into the run where the header or the size says so.
            bool pairs = rows.All(row => Cell(row, time).Count(c => c == ':') == 1);
            bool elapsed =
                names[time].Has("elapsed", "runtime", "uptime", "timer", "duration")
                || rows.Any(row => MomentText.TryRead(Cell(row, time), dayFirst, out Moment moment) && moment.Seconds >= 86400);
            return new TimeColumns(time, date, dayFirst, 0, dialect.DecimalSign) { _minutesFirst = date < 0 && pairs && elapsed };
        }

        foreach (int column in named)
        {
            if (Most(column, cell => NumberText.TryRead(cell, dialect.DecimalSign, out _)))
            {
                double typical = rows.Select(row =>
                        NumberText.TryRead(Cell(row, column), dialect.DecimalSign, out double value) ? value : 0
                    )
                    .Max();
                return new TimeColumns(column, -1, dayFirst, Scale(names[column], typical), dialect.DecimalSign);
            }
        }

        return null;
    }

    /// <summary>Elapsed seconds since the first row; false when the row's time cannot be read.</summary>
    public bool TryRead(RowScanner row, out double elapsed)
    {
        elapsed = double.NaN;
        if (!TryRaw(row, out double raw))
        {
            return false;
        }

        if (double.IsNaN(_first))
        {
            _first = raw;
            _last = 0;
            elapsed = 0;
            return true;
        }

        double now = raw - _first + _offset;
        double step = now - _last;
        if (step < -0.5 || step > LongestStepSeconds)
        {
            double repair =
                step > 0 ? _interval - step
                : step is > -3900 and < -3000 ? 3600
                : !_hasDate && step is > -86400.5 and < -82800 ? 86400
                : _interval - step;
            Repairs.Add(
                repair switch
                {
                    3600 => $"the clock steps back an hour after {_last:0} s",
                    86400 => $"the clock passes midnight after {_last:0} s",
                    < -LongestStepSeconds / 2 => $"the date jumps after {_last:0} s",
                    _ => $"the clock starts again after {_last:0} s",
                }
            );
            _offset += repair;
            now += repair;
            step = now - _last;
        }

        if (step is > 0 and < 3600)
        {
            _interval += 0.05 * (step - _interval);
        }

        elapsed = Math.Max(now, _last);
        _last = elapsed;
        return true;
    }

    private bool TryRaw(RowScanner row, out double seconds)
    {
        ReadOnlySpan<char> cell = row.Field(_time);
        if (_scale > 0)
        {
            bool read = NumberText.TryRead(cell, _decimalSign, out seconds);
            seconds *= _scale;
            return read;
        }

        seconds = double.NaN;
        if (!MomentText.TryRead(cell, _dayFirst, out Moment moment) || !moment.HasTime)
        {
            return false;
        }

        seconds = _minutesFirst ? moment.Seconds / 60 : moment.Seconds;
        _hasDate |= moment.HasDate;
        if (_date >= 0)
        {
            if (!MomentText.TryRead(row.Field(_date), _dayFirst, out Moment day) || !day.HasDate)
            {
                return false;
            }

            _hasDate = true;
            seconds += day.Seconds;
        }

        return true;
    }

    /// <summary>Seconds in one unit of a numeric time, from the header's unit or else from its size: epochs count from 1970.</summary>
    private static double Scale(ChannelName name, double typical) =>
        name.Unit is { Canonical: "s" } unit ? unit.Scale
        : typical is > 20000 and < 80000 && name.Has("date") ? 86400 // days since 1899, as spreadsheets count
        : typical > 1e17 ? 1e-9
        : typical > 1e14 ? 1e-6
        : typical > 1e11 ? 1e-3
        : 1;
}
