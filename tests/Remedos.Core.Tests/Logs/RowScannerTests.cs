using CsCheck;
using Remedos.Core.Logs;

namespace Remedos.Core.Tests.Logs;

/// <summary>The scanner has a quick way and a careful one; both must part rows as RFC 4180 says, wherever a buffer ends.</summary>
public sealed class RowScannerTests
{
    private static readonly Gen<string> Cell = Gen.OneOf(
        Gen.String[Gen.Char["0123456789.-"], 0, 30],
        Gen.String[Gen.Char["ab °\t"], 0, 40],
        Gen.String[Gen.Char["a,\"\n\r;"], 0, 12]
    );

    [Fact]
    public void Rows_that_were_written_are_read_back() =>
        Gen.Select(Cell.Array[1, 30].Array[1, 40], Gen.Bool.Select(unix => unix ? "\n" : "\r\n"), Gen.Char[",;\t"], Gen.Bool)
            .Sample(
                (rows, end, delimiter, closed) =>
                {
                    string text =
                        string.Join(end, rows.Select(row => string.Join(delimiter, row.Select(cell => Quoted(cell, delimiter)))))
                        + (closed ? end : "");
                    List<string[]> read = Read(new StringReader(text), delimiter);
                    // A last row of one empty cell that nothing closes is no row.
                    List<string[]> written = [.. rows];
                    if (!closed && written[^1] is [""])
                    {
                        written.RemoveAt(written.Count - 1);
                    }

                    Assert.Equal(written, read);
                },
                iter: 500
            );

    [Fact]
    public void A_reader_that_gives_a_letter_at_a_time_changes_nothing() =>
        Cell.Array[1, 12]
            .Array[1, 12]
            .Sample(
                rows =>
                {
                    string text = string.Concat(rows.Select(row => string.Join(',', row.Select(cell => Quoted(cell, ','))) + "\n"));
                    Assert.Equal(Read(new StringReader(text), ','), Read(new Dripping(text), ','));
                },
                iter: 200
            );

    [Fact]
    public void Lines_are_counted_through_quoted_line_ends_and_the_last_row_says_whether_it_was_closed()
    {
        RowScanner scanner = new(new StringReader("a,b\n\"1\n2\",3\nx,y"), ',');
        List<(long Line, bool Closed)> rows = [];
        while (scanner.Read())
        {
            rows.Add((scanner.Line, scanner.Closed));
        }

        Assert.Equal([(1, true), (2, true), (4, false)], rows);
    }

    private static string Quoted(string cell, char delimiter) =>
        cell.AsSpan().IndexOfAny([delimiter, '"', '\n', '\r']) >= 0 ? $"\"{cell.Replace("\"", "\"\"", StringComparison.Ordinal)}\"" : cell;

    private static List<string[]> Read(TextReader text, char delimiter)
    {
        RowScanner scanner = new(text, delimiter);
        List<string[]> rows = [];
        while (scanner.Read())
        {
            string[] row = new string[scanner.FieldCount];
            for (int i = 0; i < row.Length; i++)
            {
                row[i] = scanner.Field(i).ToString();
            }

            rows.Add(row);
        }

        return rows;
    }

    private sealed class Dripping(string text) : TextReader
    {
        private int _at;

        public override int Read(char[] buffer, int index, int count)
        {
            if (_at == text.Length)
            {
                return 0;
            }

            buffer[index] = text[_at++];
            return 1;
        }
    }
}

public sealed class NumbersAndMomentsTests
{
    [Fact]
    public void Plain_numbers_read_as_the_framework_reads_them() =>
        Gen.Select(Gen.Double[-1e6, 1e6], Gen.Int[0, 6])
            .Sample(
                (value, digits) =>
                {
                    string text = value.ToString("F" + digits, System.Globalization.CultureInfo.InvariantCulture);
                    Assert.True(NumberText.TryRead(text, '.', out double read));
                    Assert.Equal(double.Parse(text, System.Globalization.CultureInfo.InvariantCulture), read);
                    Assert.True(NumberText.TryRead(" " + text.Replace('.', ',') + " ", ',', out double comma));
                    Assert.Equal(read, comma);
                }
            );

    [Theory]
    [InlineData("+3.5", 3.5)]
    [InlineData("1e3", 1000)]
    [InlineData(".5", 0.5)]
    [InlineData("5.", 5)]
    [InlineData("12345678901234567890", 12345678901234567890.0)]
    public void Unusual_numbers_are_read(string text, double value)
    {
        Assert.True(NumberText.TryRead(text, '.', out double read));
        Assert.Equal(value, read);
    }

    [Theory]
    [InlineData("")]
    [InlineData("-")]
    [InlineData("N/A")]
    [InlineData("1.2.3")]
    [InlineData("12:30")]
    [InlineData("warm")]
    [InlineData("1,5")]
    public void What_is_no_number_is_none(string text) => Assert.False(NumberText.TryRead(text, '.', out _));

    [Theory]
    [InlineData("2031-04-02T12:00:05Z", 1932897605)]
    [InlineData("2031-04-02 12:00:05.250", 1932897605.25)]
    [InlineData("2031-04-02T14:00:05+02:00", 1932897605)]
    [InlineData("02.04.2031 12:00:05", 1932897605)]
    [InlineData("02/04/2031 12:00:05 PM", 1932897605)]
    [InlineData("02/04/31 12:00:05 AM", 1932854405)]
    [InlineData("00:01:02,5", 62.5)]
    [InlineData("26:00:00", 93600)]
    public void Dates_and_times_are_read_as_they_are_written(string text, double seconds)
    {
        Assert.True(MomentText.TryRead(text, dayFirst: true, out Moment moment));
        Assert.Equal(seconds, moment.Seconds, 6);
    }

    [Theory]
    [InlineData("31.02.2031")]
    [InlineData("12:61")]
    [InlineData("13:00 PM")]
    [InlineData("2031-13-01")]
    [InlineData("3.5")]
    [InlineData("")]
    public void What_is_no_moment_is_none(string text) => Assert.False(MomentText.TryRead(text, dayFirst: true, out _));

    /// <summary>Elapsed time goes on whatever the clock does: an hour back, midnight, a logger that starts again.</summary>
    [Theory]
    [InlineData("2031-10-26 02:59:59", "2031-10-26 02:00:00", "2031-10-26 02:00:01")]
    [InlineData("23:59:59", "00:00:00", "00:00:01")]
    [InlineData("5000", "0", "1")]
    public void A_clock_that_steps_back_does_not_stop_the_time(string last, string next, string after)
    {
        bool number = double.TryParse(last, out double end);
        string[] before =
        [
            .. Enumerable
                .Range(0, 20)
                .Select(i =>
                    number
                        ? $"{end - 19 + i}"
                        : DateTime
                            .Parse(last, System.Globalization.CultureInfo.InvariantCulture)
                            .AddSeconds(i - 19)
                            .ToString(last.Length > 8 ? "yyyy-MM-dd HH:mm:ss" : "HH:mm:ss")
                ),
        ];
        IEnumerable<string> rows = before.Concat([next, after]).Select((t, i) => $"{t},{50 + (i % 3)}\n");
        string text = "Time,CPU temperature [°C]\n" + string.Concat(rows);
        Log log = Example.ReadText(text).Log!;
        Assert.Equal(21, log.DurationSeconds, 0.1);
        Assert.Contains(log.Warnings, warning => warning.Code == "clock-repaired");
    }
}
