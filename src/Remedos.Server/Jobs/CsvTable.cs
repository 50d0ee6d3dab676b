using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Server.Parts;

namespace Remedos.Server.Jobs;

/// <summary>A column of a table for other programs.</summary>
/// <param name="Unit">In the second row; empty for none.</param>
internal sealed record CsvColumn<T>(string Name, string Unit, Func<T, object?> Value);

/// <summary>A table for other programs: a row of names, a row of units, then the rows; nothing stands where nothing is known.</summary>
internal static class CsvTable
{
    public const string MediaType = "text/csv";

    public static FileContentHttpResult Of<T>(IReadOnlyList<CsvColumn<T>> columns, IEnumerable<T> rows, string fileName)
    {
        StringBuilder text = new();
        void Line(IEnumerable<string> cells) => text.AppendJoin(',', cells.Select(CellText.Of)).Append("\r\n");
        Line(columns.Select(column => column.Name));
        Line(columns.Select(column => column.Unit));
        foreach (T row in rows)
        {
            Line(columns.Select(column => Written(column.Value(row))));
        }

        return TypedResults.File(Encoding.UTF8.GetBytes(text.ToString()), $"{MediaType}; charset=utf-8", fileName);
    }

    /// <summary>As the last digit has it.</summary>
    private static string Written(object? value) =>
        value switch
        {
            null => "",
            bool yes => yes ? "yes" : "no",
            DateTimeOffset at => at.ToUniversalTime().ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture),
            IFormattable number => number.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString()!,
        };
}
