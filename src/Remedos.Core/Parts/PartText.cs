using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Remedos.Core.Parts;

/// <summary>
/// Parts as lines of a table: a cell for each field. A list is written with blanks between its entries, rows with a semicolon between them
/// and a colon between their cells, in the order of the fields:
/// <c>CPU:1:cpu; PUMP:2:full</c>.
/// </summary>
public static class PartText
{
    /// <summary>Cells by field; what is not known is left out.</summary>
    public static IReadOnlyDictionary<string, string> Cells(string kind, PartValues values)
    {
        JsonObject all = JsonSerializer.SerializeToNode(values, TableJson.Default.PartValues)!.AsObject();
        Dictionary<string, string> cells = new(StringComparer.Ordinal);
        if (all[kind] is JsonObject known)
        {
            foreach (PartField field in PartFields.Of(kind))
            {
                if (known[field.Name] is { } node && Cell(field, node) is { Length: > 0 } text)
                {
                    cells[field.Name] = text;
                }
            }
        }

        return cells;
    }

    /// <summary>What the cells say; with a sentence for each that says nothing or what cannot be, the values are not to be used.</summary>
    /// <param name="kind">Of <see cref="PartKind.All"/>.</param>
    /// <param name="cells">By the field's name; empty ones are not known.</param>
    public static PartValues Read(string kind, string name, IReadOnlyDictionary<string, string> cells, out IReadOnlyList<string> problems)
    {
        List<string> wrong = [];
        JsonObject known = new() { ["name"] = name };
        if (kind == PartKind.Cooler)
        {
            known["id"] = "";
        }

        foreach ((string column, string text) in cells.Where(cell => !string.IsNullOrWhiteSpace(cell.Value)))
        {
            if (PartFields.Of(kind).FirstOrDefault(one => one.Name == column) is not { } field)
            {
                wrong.Add($"{column}: a {kind} has no such field.");
            }
            else if (Node(field, text.Trim(), column, wrong) is { } node)
            {
                known[column] = node;
            }
        }

        wrong.AddRange(
            PartFields
                .Of(kind)
                .Where(field =>
                    field.Needed && known[field.Name] is null && !wrong.Exists(one => one.StartsWith(field.Name, StringComparison.Ordinal))
                )
                .Select(field => $"{field.Name}: it is missing, and a {kind} says nothing without it.")
        );
        PartValues values = new();
        if (wrong.Count == 0)
        {
            // A fan has no name of its own inside.
            values =
                known.Count > 1 || PartFields.Of(kind).Any(field => field.Needed)
                    ? JsonSerializer.Deserialize(new JsonObject { [kind] = known }, TableJson.Default.PartValues)!
                    : values;
            if (values.Problem(kind) is { } problem)
            {
                wrong.Add(problem);
            }
        }

        problems = wrong;
        return values;
    }

    private static string Cell(PartField field, JsonNode node) =>
        field.Type switch
        {
            "rows" => string.Join(
                "; ",
                node.AsArray()
                    .Select(row => string.Join(":", field.Of!.Select(of => row![of.Name] is { } cell ? Cell(of, cell) : "")).TrimEnd(':'))
            ),
            "texts" => string.Join(" ", node.AsArray().Select(one => one!.GetValue<string>())),
            "numbers" => string.Join("/", node.AsArray().Select(one => Number(one!))),
            "yes-no" => node.GetValue<bool>() ? "yes" : "no",
            "text" or "choice" => node.GetValue<string>(),
            _ => Number(node),
        };

    private static string Number(JsonNode node) => node.GetValue<double>().ToString("0.######", CultureInfo.InvariantCulture);

    private static JsonNode? Node(PartField field, string text, string where, List<string> wrong)
    {
        switch (field.Type)
        {
            case "text":
                return JsonValue.Create(text);
            case "choice":
                return field.Choices!.Contains(text)
                    ? JsonValue.Create(text)
                    : Wrong($"“{Shown(text)}” is none of {string.Join(", ", field.Choices!)}");
            case "yes-no":
                return text.ToLowerInvariant() switch
                {
                    "yes" or "true" or "1" => JsonValue.Create(true),
                    "no" or "false" or "0" => JsonValue.Create(false),
                    _ => Wrong($"“{Shown(text)}” is neither yes nor no"),
                };
            case "texts":
                return new JsonArray([
                    .. text.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Select(one => (JsonNode)JsonValue.Create(one)!),
                ]);
            case "numbers":
                List<JsonNode?> numbers =
                [
                    .. text.Split(['/', ' '], StringSplitOptions.RemoveEmptyEntries).Select(one => NumberNode(one, false)),
                ];
                return numbers.Contains(null) ? null : new JsonArray([.. numbers]);
            case "rows":
                JsonArray rows = [];
                string[] lines = text.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
                for (int i = 0; i < lines.Length; i++)
                {
                    rows.Add((JsonNode?)Row(field, lines[i], $"{where}[{i + 1}]", wrong));
                }

                return rows;
            default:
                return NumberNode(text, field.Type is "whole" or "money");
        }

        JsonNode? Wrong(string what)
        {
            wrong.Add($"{where}: {what}.");
            return null;
        }

        JsonNode? NumberNode(string number, bool whole) =>
            !double.TryParse(number.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
            || !double.IsFinite(value)
                ? Wrong($"“{Shown(number)}” is no number")
            : Math.Abs(value) > LargestNumber ? Wrong($"“{Shown(number)}” is larger than anything that a part has")
            : !whole ? JsonValue.Create(value)
            : value != Math.Round(value) ? Wrong($"“{Shown(number)}” is no whole number")
            : JsonValue.Create((long)value);
    }

    private const double LargestNumber = 1e9;

    /// <summary>The beginning of what was typed.</summary>
    private static string Shown(string text) => text.Length <= 40 ? text : text[..40] + "…";

    private static JsonObject? Row(PartField field, string line, string where, List<string> wrong)
    {
        string[] cells = line.Split(':', StringSplitOptions.TrimEntries);
        if (cells.Length > field.Of!.Count)
        {
            wrong.Add(
                $"{where}: “{line}” has {cells.Length} entries; at most {field.Of.Count} are known: "
                    + $"{string.Join(":", field.Of.Select(of => of.Name))}."
            );
            return null;
        }

        JsonObject row = [];
        for (int i = 0; i < field.Of.Count; i++)
        {
            string cell = i < cells.Length ? cells[i] : "";
            if (cell.Length > 0)
            {
                row[field.Of[i].Name] = Node(field.Of[i], cell, $"{where}.{field.Of[i].Name}", wrong);
            }
            else if (field.Of[i].Needed)
            {
                wrong.Add($"{where}.{field.Of[i].Name}: it is missing in “{line}”.");
            }
        }

        return row;
    }
}
