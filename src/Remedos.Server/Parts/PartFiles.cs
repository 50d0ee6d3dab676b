using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Session;
using Remedos.Server.Writing;
using Sylvan.Data.Csv;

namespace Remedos.Server.Parts;

/// <summary>A line of a file, and what it would do.</summary>
/// <param name="Line">In the file, from 1; of JSON, which part it is.</param>
/// <param name="Change">new, changed, same or wrong.</param>
/// <param name="Sentences">What is wrong, or each field that changes: from what to what.</param>
public sealed record ImportLine(int Line, string Kind, string Name, string Change, IReadOnlyList<string> Sentences)
{
    public const string New = "new",
        Changed = "changed",
        Same = "same",
        Wrong = "wrong";
}

/// <summary>What a file would do, or has done.</summary>
/// <param name="Applied">Whether it was done; nothing is ever done by halves.</param>
public sealed record PartImport(bool Applied, int New, int Changed, int Same, int Wrong, IReadOnlyList<ImportLine> Lines);

/// <summary>Parts as files: CSV and JSON, out and in again (docs/formats.md).</summary>
internal static class PartFiles
{
    private const int MostBytes = 8 << 20,
        MostLines = 20_000,
        LongestCell = 4000;

    private const string Csv = "csv",
        Json = "json";

    /// <summary>What a line is; a cooler’s own kind is a field of it.</summary>
    private const string PartColumn = "part",
        NameColumn = "name";

    public static void MapPartFiles(this RouteGroupBuilder parts)
    {
        parts
            .MapGet("/file", ExportAsync)
            .WithName("exportParts")
            .Produces(StatusCodes.Status200OK, contentType: "text/csv")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts
            .MapPost("/file", ImportAsync)
            .WithName("importParts")
            .Accepts<string>("text/plain")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<IResult> ExportAsync(string? kind, string? format, Caller caller, CancellationToken cancellation)
    {
        if (format is not (null or Csv or Json) || (kind is not null && !PartKind.All.Contains(kind)))
        {
            return Refusal.Of(
                format is not (null or Csv or Json)
                    ? $"“{format}” is neither csv nor json."
                    : $"“{kind}” is no kind of part; known are {string.Join(", ", PartKind.All)}."
            );
        }

        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        List<Part> all = await context
            .Parts.AsNoTracking()
            .Where(part => part.WorkshopId == workshop.Id && part.RetiredAt == null && (kind == null || part.Kind == kind))
            .OrderBy(part => part.Kind)
            .ThenBy(part => part.Name)
            .ToListAsync(cancellation);
        string name = $"{kind ?? "part"}s.{format ?? Csv}";
        return format == Json
            ? TypedResults.File(Encoding.UTF8.GetBytes(JsonOf(all)), "application/json", name)
            : TypedResults.File(Encoding.UTF8.GetBytes(CsvOf(all, kind)), "text/csv", name);
    }

    private static readonly JsonSerializerOptions Indented = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static string JsonOf(IEnumerable<Part> parts) =>
        new JsonArray([
            .. parts.Select(part =>
                (JsonNode)
                    new JsonObject
                    {
                        ["part"] = part.Kind,
                        ["name"] = part.Name,
                        ["values"] = new JsonObject(
                            PartText
                                .Cells(part.Kind, part.Values)
                                .Select(cell => KeyValuePair.Create(cell.Key, (JsonNode?)JsonValue.Create(cell.Value)))
                        ),
                    }
            ),
        ]).ToJsonString(Indented);

    private static string CsvOf(IReadOnlyList<Part> parts, string? kind)
    {
        string[] fields =
        [
            .. PartFields
                .All.Where(one => kind is null || one.Kind == kind)
                .SelectMany(one => one.Fields)
                .Select(field => field.Name)
                .Distinct(),
        ];
        StringBuilder text = new();
        void Line(IEnumerable<string> cells) => text.AppendJoin(',', cells.Select(CellText.Of)).Append('\n');
        Line([PartColumn, NameColumn, .. fields]);
        foreach (Part part in parts)
        {
            IReadOnlyDictionary<string, string> cells = PartText.Cells(part.Kind, part.Values);
            Line([part.Kind, part.Name, .. fields.Select(field => cells.GetValueOrDefault(field, ""))]);
        }

        return text.ToString();
    }

    private static async Task<Results<Ok<PartImport>, ProblemHttpResult>> ImportAsync(
        bool apply,
        HttpRequest request,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        if (request.ContentLength > MostBytes)
        {
            return Refusal.Of($"A file of parts has at most {MostBytes >> 20} MB.");
        }

        using StreamReader reader = new(request.Body, Encoding.UTF8, detectEncodingFromByteOrderMarks: true);
        string text = await reader.ReadToEndAsync(cancellation);
        List<FileLine>? lines = Read(text, out string? problem);
        if (lines is null)
        {
            return Refusal.Of(problem!);
        }

        PartImport? import = null;
        Results<Ok<PartImport>, ProblemHttpResult> done = await door.WriteAsync(
            async write =>
            {
                // The workshop's row is locked, so that two files at once are taken one after the other.
                await write.WorkshopAsync();
                Dictionary<(string, string), Part> known = [];
                foreach (
                    Part part in await write.Context.Parts.Where(part => part.WorkshopId == write.WorkshopId).ToListAsync(cancellation)
                )
                {
                    known.TryAdd((part.Kind, part.Name.ToLowerInvariant()), part);
                }

                HashSet<(string, string)> seen = [];
                List<ImportLine> answer = [.. lines.Select(line => Take(write, known, seen, line))];
                int Count(string change) => answer.Count(line => line.Change == change);
                bool whole = apply && Count(ImportLine.Wrong) == 0;
                import = new PartImport(
                    whole,
                    Count(ImportLine.New),
                    Count(ImportLine.Changed),
                    Count(ImportLine.Same),
                    Count(ImportLine.Wrong),
                    answer
                );
                if (!whole)
                {
                    write.Context.ChangeTracker.Clear();
                }

                return null;
            },
            () => Task.FromResult(import!),
            cancellation
        );
        return done;
    }

    /// <summary>Puts a line on top of what is known; nothing of it is saved here.</summary>
    private static ImportLine Take(Write write, Dictionary<(string, string), Part> known, HashSet<(string, string)> seen, FileLine line)
    {
        ImportLine Wrong(params IEnumerable<string> sentences) => new(line.Line, line.Kind, line.Name, ImportLine.Wrong, [.. sentences]);
        if (line.Problem is not null || !PartKind.All.Contains(line.Kind) || line.Name.Length is 0 or > 200)
        {
            return Wrong(
                line.Problem
                    ?? (
                        !PartKind.All.Contains(line.Kind)
                            ? $"part: “{line.Kind}” is none of {string.Join(", ", PartKind.All)}."
                            : "name: a part has one, of at most 200 letters."
                    )
            );
        }

        if (!seen.Add((line.Kind, line.Name.ToLowerInvariant())))
        {
            return Wrong($"name: “{line.Name}” stands in the file twice.");
        }

        // What the file says nothing of stays as it is; an empty cell says that it is not known.
        known.TryGetValue((line.Kind, line.Name.ToLowerInvariant()), out Part? part);
        IReadOnlyDictionary<string, string> was = part is null ? new Dictionary<string, string>() : PartText.Cells(part.Kind, part.Values);
        Dictionary<string, string> cells = new(was, StringComparer.Ordinal);
        foreach (
            (string field, string text) in line.Cells.Where(cell =>
                cell.Value.Length > 0 || PartFields.Of(line.Kind).Any(field => field.Name == cell.Key)
            )
        )
        {
            cells[field] = text;
        }

        // A name with nothing behind it is known by name alone.
        IReadOnlyList<string> problems = [];
        PartValues values = cells.Values.All(string.IsNullOrWhiteSpace)
            ? new PartValues()
            : PartText.Read(line.Kind, line.Name, cells, out problems);
        if (problems.Count > 0)
        {
            return Wrong(problems);
        }

        if (part is null)
        {
            part = new Part
            {
                Id = Guid.CreateVersion7(write.Now),
                WorkshopId = write.WorkshopId,
                Kind = line.Kind,
                Name = line.Name,
                Values = values,
                ChangedAt = write.Now,
            };
            write.Context.Parts.Add(part);
            PartEndpoints.Append(write, part, "imported", null);
            return new ImportLine(line.Line, line.Kind, line.Name, ImportLine.New, []);
        }

        IReadOnlyDictionary<string, string> becomes = PartText.Cells(line.Kind, values);
        string[] changes =
        [
            .. PartFields
                .Of(line.Kind)
                .Select(field =>
                    (field.Name, Before: was.GetValueOrDefault(field.Name, ""), After: becomes.GetValueOrDefault(field.Name, ""))
                )
                .Where(field => field.Before != field.After)
                .Select(field =>
                    $"{field.Name}: {(field.Before.Length == 0 ? "nothing" : field.Before)} → "
                    + $"{(field.After.Length == 0 ? "nothing" : field.After)}"
                ),
        ];
        if (part.RetiredAt is not null)
        {
            changes = [.. changes, "It was retired and comes back."];
        }

        if (changes.Length == 0)
        {
            return new ImportLine(line.Line, line.Kind, line.Name, ImportLine.Same, []);
        }

        string before = PartEndpoints.Json(part);
        (part.Values, part.ChangedAt, part.RetiredAt) = (values, write.Now, null);
        PartEndpoints.Append(write, part, "imported", before);
        return new ImportLine(line.Line, line.Kind, line.Name, ImportLine.Changed, changes);
    }

    /// <summary>A line as it was read.</summary>
    /// <param name="Cells">A text for each column that the file has; empty where it is not known.</param>
    private sealed record FileLine(int Line, string Kind, string Name, IReadOnlyDictionary<string, string> Cells, string? Problem = null);

    private static List<FileLine>? Read(string text, out string? problem)
    {
        string trimmed = text.TrimStart();
        if (trimmed.Length == 0)
        {
            problem = "The file is empty.";
            return null;
        }

        return trimmed[0] is '[' or '{' ? ReadJson(text, out problem) : ReadCsv(text, out problem);
    }

    private static readonly JsonSerializerOptions OnceEach = new(JsonSerializerDefaults.Web) { AllowDuplicateProperties = false };

    private static List<FileLine>? ReadJson(string text, out string? problem)
    {
        JsonArray parts;
        try
        {
            // A key that stands twice is found only when it is looked for: look now.
            JsonNode? node = JsonSerializer.SerializeToNode(JsonSerializer.Deserialize<JsonElement>(text, OnceEach));
            parts = node as JsonArray ?? (node?["parts"] as JsonArray)!;
        }
        catch (JsonException failure)
        {
            problem = failure.LineNumber is { } line
                ? $"It is no JSON: line {line + 1}, column {failure.BytePositionInLine + 1} cannot be read."
                : "It is no JSON that can be read: a key may stand twice.";
            return null;
        }

        problem =
            parts is null ? "Expected a list of parts, each with part, name and values."
            : parts.Count > MostLines ? $"At most {MostLines} parts come in one file."
            : null;
        return problem is not null
            ? null
            :
            [
                .. parts!.Select(
                    (part, i) =>
                        part is JsonObject one
                        && one[PartColumn] is JsonValue kind
                        && one[NameColumn] is JsonValue name
                        && one["values"] is JsonObject or null
                            ? new FileLine(
                                i + 1,
                                kind.ToString(),
                                PartEndpoints.NameOf(name.ToString()),
                                (one["values"] as JsonObject ?? []).ToDictionary(
                                    value => value.Key,
                                    value => value.Value?.ToString() ?? "",
                                    StringComparer.Ordinal
                                )
                            )
                            : new FileLine(i + 1, "", "", new Dictionary<string, string>(), "Expected part, name and values.")
                ),
            ];
    }

    private static List<FileLine>? ReadCsv(string text, out string? problem)
    {
        string first = text.Split('\n', 2)[0];
        char delimiter = new[] { ';', '\t', ',' }.MaxBy(one => first.Count(letter => letter == one));
        try
        {
            using CsvDataReader csv = CsvDataReader.Create(
                new StringReader(text),
                new CsvDataReaderOptions { Delimiter = delimiter, MaxBufferSize = 1 << 20 }
            );
            return ReadLines(csv, delimiter, out problem);
        }
        catch (CsvFormatException failure)
        {
            problem =
                $"Line {failure.RowNumber + 1} cannot be read as a table’s line: its quotes do not close, or a cell in it is longer "
                + $"than {LongestCell} letters.";
            return null;
        }
    }

    private static List<FileLine>? ReadLines(CsvDataReader csv, char delimiter, out string? problem)
    {
        string[] header = [.. Enumerable.Range(0, csv.FieldCount).Select(i => csv.GetName(i).Trim())];
        string[] known = [.. PartFields.All.SelectMany(kind => kind.Fields).Select(field => field.Name), PartColumn, NameColumn];
        problem =
            !header.Contains(PartColumn) || !header.Contains(NameColumn) ? "Line 1 names the columns; part and name are among them."
            : header.FirstOrDefault(column => !known.Contains(column)) is { } unknown
                ? $"Line 1, column {Array.IndexOf(header, unknown) + 1}: “{unknown}” is no field of any part."
            : header.Distinct().Count() < header.Length
                ? $"Line 1: “{header.GroupBy(column => column).First(column => column.Count() > 1).Key}” stands there twice."
            : null;
        List<FileLine> lines = [];
        while (problem is null && csv.Read())
        {
            problem = lines.Count >= MostLines ? $"At most {MostLines} parts come in one file." : null;
            string Cell(string column) =>
                Array.IndexOf(header, column) is var i && i < csv.RowFieldCount ? CellText.Plain(csv.GetString(i)) : "";
            Dictionary<string, string> cells = header
                .Where(column => column is not (PartColumn or NameColumn))
                .ToDictionary(column => column, Cell, StringComparer.Ordinal);
            lines.Add(
                new FileLine(
                    csv.RowNumber + 1,
                    Cell(PartColumn),
                    Cell(NameColumn),
                    cells,
                    csv.RowFieldCount > header.Length
                        ? $"It has {csv.RowFieldCount} cells and the header {header.Length}: a "
                            + $"{(delimiter == ',' ? "comma" : "separator")} too many, or quotes missing."
                        : null
                )
            );
        }

        return problem is null ? lines : null;
    }
}
