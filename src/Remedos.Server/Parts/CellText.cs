namespace Remedos.Server.Parts;

/// <summary>
/// Cells of CSV files. What a spreadsheet would take for a formula is written with an apostrophe before it, which spreadsheets show as
/// text; one such apostrophe is
/// taken off again when the file comes back.
/// </summary>
internal static class CellText
{
    private const string FormulaStarts = "=+-@\t\r";

    /// <summary>A cell as it is written.</summary>
    public static string Of(string cell)
    {
        string safe = IsFormula(cell) ? "'" + cell : cell;
        return safe.AsSpan().IndexOfAny(",\"\r\n") >= 0 ? $"\"{safe.Replace("\"", "\"\"", StringComparison.Ordinal)}\"" : safe;
    }

    /// <summary>A cell as it was meant.</summary>
    public static string Plain(string cell)
    {
        string trimmed = cell.Replace("\0", "", StringComparison.Ordinal).Trim();
        return trimmed.StartsWith('\'') && IsFormula(trimmed[1..]) ? trimmed[1..] : trimmed;
    }

    /// <summary>A number may begin with a minus; nothing else that begins so is one.</summary>
    private static bool IsFormula(string cell) =>
        cell.Length > 0
        && FormulaStarts.Contains(cell[0], StringComparison.Ordinal)
        && !double.TryParse(cell, System.Globalization.NumberStyles.Float, System.Globalization.CultureInfo.InvariantCulture, out _);
}
