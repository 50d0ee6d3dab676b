namespace Remedos.Core.Logs;

/// <summary>How a text table is written, found from its first lines.</summary>
/// <param name="Delimiter">What parts the fields.</param>
/// <param name="DecimalSign">Point or comma.</param>
/// <param name="HeaderLine">Line of the header, from 1.</param>
/// <param name="Header">The header's fields as written.</param>
/// <param name="Units">The row of units below the header, or null.</param>
/// <param name="Sample">The first rows of data, as fields, to look at formats.</param>
public sealed record LogDialect(
    char Delimiter,
    char DecimalSign,
    long HeaderLine,
    string[] Header,
    string[]? Units,
    IReadOnlyList<string[]> Sample
)
{
    private const int RowsLookedAt = 60;

    /// <summary>Finds the dialect of a table from the beginning of its text.</summary>
    /// <param name="head">The text's beginning; a line that it cuts off does no harm.</param>
    /// <param name="whole">True when <paramref name="head"/> is all there is.</param>
    public static (LogDialect? Dialect, LogProblem? Problem) Detect(string head, bool whole)
    {
        if (string.IsNullOrWhiteSpace(head))
        {
            return (null, new LogProblem("no-rows", "The file is empty. A log starts with a header line and has a row for each sample."));
        }

        (char delimiter, List<(long Line, string[] Fields)> rows) = new[] { ';', '\t', ',', '|' }
            .Select(candidate => (Delimiter: candidate, Rows: Rows(head, candidate, whole)))
            .MaxBy(candidate => Fit(candidate.Rows));
        if (rows.Count == 0)
        {
            return (
                null,
                new LogProblem("no-rows", "The file holds no table. A log starts with a header line and has a row for each sample.")
            );
        }

        int usual = UsualWidth(rows);
        char decimalSign = DecimalSignOf(rows);
        int header = HeaderOf(rows, usual, decimalSign);
        if (header < 0)
        {
            return (
                null,
                new LogProblem(
                    "no-numbers",
                    $"No header line was found: the first line holds only numbers. Expected column names such as “Time [s]” and “CPU "
                        + $"temperature [°C]”.",
                    rows[0].Line
                )
            );
        }

        string[]? units = header + 1 < rows.Count && LooksLikeUnits(rows[header + 1].Fields) ? rows[header + 1].Fields : null;
        List<string[]> sample = [.. rows.Skip(header + (units is null ? 1 : 2)).Select(row => row.Fields)];
        return (new LogDialect(delimiter, decimalSign, rows[header].Line, rows[header].Fields, units, sample), null);
    }

    /// <summary>
    /// The row of names: right above the first row of numbers, a row of units between them aside, because loggers like to say of themselves
    /// and
    /// the machine first. Where that tells nothing, the first row that looks like names. Negative when there is none.
    /// </summary>
    private static int HeaderOf(List<(long Line, string[] Fields)> rows, int usual, char decimalSign)
    {
        bool Named(int row) => Math.Abs(Width(rows[row].Fields) - usual) <= 1 && LooksLikeHeader(rows[row].Fields, decimalSign);
        bool IsData(int row) => Width(rows[row].Fields) == usual && !LooksLikeHeader(rows[row].Fields, decimalSign);
        int data = Enumerable.Range(0, rows.Count).FirstOrDefault(IsData, -1);
        int above = data - (data > 1 && LooksLikeUnits(rows[data - 1].Fields) && Named(data - 2) ? 2 : 1);
        return above >= 0 && Named(above) ? above : Enumerable.Range(0, rows.Count).FirstOrDefault(Named, -1);
    }

    private static List<(long Line, string[] Fields)> Rows(string head, char delimiter, bool whole)
    {
        List<(long, string[])> rows = [];
        using StringReader text = new(head);
        RowScanner scanner = new(text, delimiter);
        while (rows.Count < RowsLookedAt && scanner.Read())
        {
            bool cut = !scanner.Closed && !whole;
            bool comment = scanner.Field(0).TrimStart().StartsWith('#');
            string[] fields = new string[scanner.FieldCount];
            for (int i = 0; i < fields.Length; i++)
            {
                fields[i] = scanner.Field(i).ToString();
            }

            if (!cut && !comment && fields.Any(field => !string.IsNullOrWhiteSpace(field)))
            {
                rows.Add((scanner.Line, fields));
            }
        }

        return rows;
    }

    /// <summary>Wide and even tables win: the share of rows with the usual width, times how many fields that is.</summary>
    private static double Fit(List<(long Line, string[] Fields)> rows)
    {
        int usual = rows.Count == 0 ? 0 : UsualWidth(rows);
        double even = rows.Count(row => Math.Abs(Width(row.Fields) - usual) <= 1) / Math.Max(1.0, rows.Count);
        return usual <= 1 ? 0.1 : Math.Pow(even, 4) * Math.Min(usual, 8);
    }

    private static int UsualWidth(List<(long Line, string[] Fields)> rows) =>
        rows.GroupBy(row => Width(row.Fields)).OrderByDescending(group => group.Count()).ThenByDescending(group => group.Key).First().Key;

    /// <summary>The number of fields, a delimiter at the line's end aside.</summary>
    private static int Width(string[] fields) =>
        fields.Length > 1 && string.IsNullOrWhiteSpace(fields[^1]) ? fields.Length - 1 : fields.Length;

    private static char DecimalSignOf(List<(long Line, string[] Fields)> rows)
    {
        int commas = 0,
            points = 0;
        foreach (string field in rows.SelectMany(row => row.Fields))
        {
            bool plain = field.Length is > 0 and < 20 && !field.AsSpan().Trim().ContainsAnyExcept(NumberText.PlainCharacters);
            commas += plain && field.Count(c => c == ',') == 1 ? 1 : 0;
            points += plain && field.Count(c => c == '.') == 1 ? 1 : 0;
        }

        return commas > points ? ',' : '.';
    }

    private static bool LooksLikeHeader(string[] fields, char decimalSign)
    {
        int named = fields.Count(field =>
            !NumberText.IsMissing(field)
            && !NumberText.TryRead(field, decimalSign, out _)
            && !MomentText.TryRead(field, dayFirst: true, out _)
        );
        int filled = fields.Count(field => !NumberText.IsMissing(field));
        return named > 0 && named >= 0.7 * filled;
    }

    private static bool LooksLikeUnits(string[] fields)
    {
        int units = fields.Count(field => ChannelUnit.TryParse(field.Trim().Trim('[', ']', '(', ')'), out _));
        int filled = fields.Count(field => !NumberText.IsMissing(field));
        return units > 0 && units >= 0.6 * filled;
    }
}
