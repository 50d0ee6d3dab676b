using System.Security.Cryptography;
using System.Text;

namespace Remedos.Core.Logs;

/// <summary>One reading of one table: its columns while they fill.</summary>
internal sealed class LogTable
{
    private const int RowsBetweenReports = 2048;

    /// <summary>A log as wide as this is worth a second processor.</summary>
    private const int WideColumns = 16;

    /// <summary>More is not reserved on the word of the first rows, only grown into.</summary>
    private const int MostRowsExpected = 2_000_000;

    private readonly LogDialect _dialect;
    private readonly TableColumn[] _columns;
    private readonly TimeColumns? _time;
    private readonly List<Warning> _warnings = [];
    private SampleBuffer<double> _seconds = new();
    private RowBlock _filling,
        _reading;
    private Task? _helper;
    private int _nextColumn;
    private readonly bool[] _read = new bool[RowBlock.Rows];
    private readonly string _fingerprint;
    private long _lastDataLine,
        _skippedRows;

    public LogTable(LogDialect dialect, Func<string, IReadOnlyDictionary<int, ChannelRole>?>? remembered)
    {
        _dialect = dialect;
        _fingerprint = Fingerprint(dialect);
        IReadOnlyDictionary<int, ChannelRole>? said = remembered?.Invoke(_fingerprint);
        int width =
            dialect.Header.Length > 1 && string.IsNullOrWhiteSpace(dialect.Header[^1]) ? dialect.Header.Length - 1 : dialect.Header.Length;
        ChannelName[] names =
        [
            .. dialect.Header.Take(width).Select((source, i) => ChannelName.Parse(source.Trim(), dialect.Units?.ElementAtOrDefault(i))),
        ];
        _time = TimeColumns.Find(
            dialect,
            names,
            [
                .. (said ?? new Dictionary<int, ChannelRole>())
                    .Where(pair => pair.Value == ChannelRole.Time && pair.Key < names.Length)
                    .Select(pair => pair.Key),
            ]
        );
        _columns =
        [
            .. names.Select(
                (name, i) =>
                    new TableColumn(
                        i,
                        name,
                        _time?.Holds(i) == true,
                        First(i),
                        said is not null && said.TryGetValue(i, out ChannelRole role) ? role : null
                    )
            ),
        ];
        (_filling, _reading) = (new RowBlock(_columns.Length), new RowBlock(_columns.Length));
    }

    /// <summary>Of the whole file; 0 when unknown.</summary>
    public long Bytes { get; init; }

    public LogColumns Guessed() =>
        new(
            _fingerprint,
            [
                .. _columns.Select(column =>
                    column.Guessed(
                        [.. First(column.Index).Take(LogColumns.FirstValues)],
                        [
                            .. _dialect
                                .Sample.Where(row => row.Length > column.Index)
                                .Select(row => row[column.Index].Trim())
                                .Where(cell => cell.Length > 0)
                                .Take(LogColumns.FirstValues),
                        ]
                    )
                ),
            ]
        );

    private static string Fingerprint(LogDialect dialect) =>
        Convert.ToHexStringLower(
            SHA256.HashData(
                Encoding.UTF8.GetBytes(string.Join('\u001f', dialect.Header) + '\u001e' + string.Join('\u001f', dialect.Units ?? []))
            )
        )[..32];

    private List<double> First(int column) =>
        [
            .. _dialect
                .Sample.Where(row => row.Length > column)
                .Select(row => NumberText.TryRead(row[column], _dialect.DecimalSign, out double value) ? value : double.NaN)
                .Where(double.IsFinite),
        ];

    public LogReading Read(RowScanner rows, CountingStream bytes, IProgress<long>? progress, CancellationToken cancellation)
    {
        bool hasTemperature = _columns.Any(column => column.Role.IsProcessorTemperature());
        if (_dialect.Sample.Count == 0)
        {
            return Fail("no-rows", "The file has a header line but no rows below it.", _dialect.HeaderLine);
        }

        if (!hasTemperature)
        {
            return Fail(
                "no-temperature",
                $"No column holds a processor temperature. The columns are: {Listed()}. Expected a name such as “CPU temperature "
                    + $"[°C]”.",
                _dialect.HeaderLine
            );
        }

        if (_time is null)
        {
            bool numbers = _dialect.Sample.Any(row => row.Any(cell => NumberText.TryRead(cell, _dialect.DecimalSign, out _)));
            return numbers
                ? Fail(
                    "no-time",
                    $"No column holds the time. The columns are: {Listed()}. Expected a name such as “Time [s]” or “Timestamp”.",
                    _dialect.HeaderLine
                )
                : Fail(
                    "no-numbers",
                    $"The rows hold words where numbers should be: “{Quote(_dialect.Sample[0])}”.",
                    _dialect.HeaderLine + 1
                );
        }

        int sinceReport = 0;
        while (rows.Read())
        {
            if (rows.Line > _dialect.HeaderLine)
            {
                ReadRow(rows);
            }

            if (++sinceReport == RowsBetweenReports)
            {
                sinceReport = 0;
                cancellation.ThrowIfCancellationRequested();
                progress?.Report(bytes.Count);
            }
        }

        TurnOver();
        FinishBlock();
        progress?.Report(bytes.Count);
        return rows.RowTooLong
            ? Fail(
                "row-too-long",
                "A row is longer than a million characters. A log has one line for each sample; this file may lack line ends.",
                rows.Line
            )
            : Finish();
    }

    private void ReadRow(RowScanner rows)
    {
        if (rows.FieldCount <= 1 && rows.Field(0).IsWhiteSpace())
        {
            return;
        }

        if (!rows.Closed && WasCut(rows))
        {
            _warnings.Add(new Warning("truncated-last-row", $"The last row (line {rows.Line}) breaks off and was left out."));
            return;
        }

        if (!_time!.TryRead(rows, out double elapsed))
        {
            _skippedRows += rows.Line == _dialect.HeaderLine + 1 && _dialect.Units is not null ? 0 : 1;
            return;
        }

        _seconds.Add(elapsed);
        _filling.Add(rows);
        if (_filling.IsFull)
        {
            TurnOver();
        }
    }

    /// <summary>Hands the full block over to be read, while the next one fills.</summary>
    private void TurnOver()
    {
        FinishBlock();
        (_filling, _reading) = (_reading, _filling);
        if (_lastDataLine == 0 && _reading.Count > 0)
        {
            // One array of about the right size is kinder to memory than a dozen that grow.
            int expected = (int)Math.Min(Bytes / (_reading.LettersPerRow + 1), MostRowsExpected);
            _seconds.Reserve(expected);
            Array.ForEach(_columns, column => column.Reserve(expected));
        }

        Array.Clear(_read);
        _nextColumn = -1;
        _helper = _columns.Length >= WideColumns ? Task.Run(ReadColumns) : null;
    }

    /// <summary>Sees the block through that was handed over; rows without any reading are dropped again.</summary>
    private void FinishBlock()
    {
        ReadColumns();
        _helper?.GetAwaiter().GetResult();
        Span<bool> read = _read.AsSpan(0, _reading.Count);
        if (read.Contains(false))
        {
            _seconds.KeepOfLast(_filling.Count, read);
            foreach (TableColumn column in _columns)
            {
                column.KeepOfLast(read);
            }
        }

        int last = read.LastIndexOf(true);
        _lastDataLine = last < 0 ? _lastDataLine : _reading.Line(last);
        _reading.Clear();
    }

    /// <summary>Takes one column after the other that nobody has taken, whoever comes: the thread that scans, and its helper.</summary>
    private void ReadColumns()
    {
        for (int column; _reading.Count > 0 && (column = Interlocked.Increment(ref _nextColumn)) < _columns.Length; )
        {
            _columns[column].Read(_reading, _dialect.DecimalSign, _read);
        }
    }

    /// <summary>
    /// A last row without a line end was cut when it lacks fields or its last number lacks the decimals that the column has.
    /// </summary>
    private bool WasCut(RowScanner row)
    {
        if (row.FieldCount < _columns.Length)
        {
            return true;
        }

        ReadOnlySpan<char> last = row.Field(row.FieldCount - 1);
        int index = row.FieldCount - 1;
        IEnumerable<string> above = _dialect
            .Sample.Where(cells => cells.Length > index && NumberText.TryRead(cells[index], _dialect.DecimalSign, out _))
            .Select(cells => cells[index]);
        int fewest = above.Select(cell => NumberText.Decimals(cell, _dialect.DecimalSign)).DefaultIfEmpty(0).Min();
        return NumberText.TryRead(last, _dialect.DecimalSign, out _) && NumberText.Decimals(last, _dialect.DecimalSign) < fewest;
    }

    private LogReading Finish()
    {
        double[] time = _seconds.ToArray();
        Channel[] channels = new Channel[_columns.Length];
        Parallel.For(0, channels.Length, i => channels[i] = _columns[i].Finish(time.Length));
        if (channels.FirstOrDefault(channel => channel.Role == ChannelRole.CpuPower && channel.Samples > 0) is { } power)
        {
            channels =
            [
                .. channels.Select(channel =>
                    channel.Role.IsProcessorTemperature() && Rejection.ApplyStuck(channel.Values, power.Values, time) is > 0 and var stuck
                        ? channel.Part(0, time.Length) with
                        {
                            Rejected = channel.Rejected + stuck,
                        }
                        : channel
                ),
            ];
        }

        if (!channels.Any(channel => channel.Samples > 0 && channel.Role != ChannelRole.Time))
        {
            return Fail(
                "no-numbers",
                $"No row could be read: “{Quote(_dialect.Sample[0])}” holds no time and number where they should be.",
                _dialect.HeaderLine + 1
            );
        }

        if (!channels.Any(channel => channel.Samples > 0 && channel.Role.IsProcessorTemperature()))
        {
            return Fail("no-temperature", "The processor's temperature column holds no possible reading.", _dialect.HeaderLine);
        }

        if (time.Length > 1 && time[^1] <= time[0])
        {
            return Fail(
                "time-stands-still",
                $"The time never moves: every row down to line {_lastDataLine} has the same time.",
                _dialect.HeaderLine + 1
            );
        }

        foreach (string repair in _time!.Repairs)
        {
            _warnings.Add(new Warning("clock-repaired", $"Elapsed time goes on although {repair}."));
        }

        if (_skippedRows > 0)
        {
            _warnings.Add(
                new Warning(
                    "rows-skipped",
                    $"{_skippedRows} {(_skippedRows == 1 ? "row has" : "rows have")} no readable time (repeated headers, summaries) "
                        + $"and {(_skippedRows == 1 ? "was" : "were")} left out."
                )
            );
        }

        foreach (Channel channel in channels.Where(channel => channel.Rejected > 0 && channel.Role != ChannelRole.Other))
        {
            _warnings.Add(
                new Warning(
                    "samples-rejected",
                    $"{channel.Rejected} impossible {(channel.Rejected == 1 ? "sample" : "samples")} of “{channel.Source}” left out."
                )
            );
        }

        return new LogReading(new Log(time, channels, _time.FirstUnixSeconds, _warnings) { HeaderFingerprint = _fingerprint }, null);
    }

    private static LogReading Fail(string code, string message, long? line) => new(null, new LogProblem(code, message, line));

    private string Listed() =>
        string.Join(", ", _dialect.Header.Where(name => !string.IsNullOrWhiteSpace(name)).Take(12).Select(name => $"“{name.Trim()}”"))
        + (_dialect.Header.Length > 12 ? " …" : "");

    private static string Quote(string[] cells) => string.Join(" ", cells.Take(6));
}
