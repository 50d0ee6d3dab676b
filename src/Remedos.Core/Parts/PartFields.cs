using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Parts;

/// <summary>Something that is known of a kind of part: its name in JSON and as a column, and in words.</summary>
/// <param name="Type">number, whole, money, text, yes-no, choice, texts, numbers, or rows of further fields.</param>
/// <param name="Of">The fields of a row.</param>
/// <param name="Needed">Whether the part says nothing without it.</param>
public sealed record PartField(
    string Name,
    string Title,
    string Type,
    string? Unit = null,
    string? Hint = null,
    IReadOnlyList<string>? Choices = null,
    IReadOnlyList<PartField>? Of = null,
    bool Needed = false
);

/// <summary>All fields of a kind, in order.</summary>
public sealed record PartKindFields(string Kind, IReadOnlyList<PartField> Fields);

/// <summary>The one list of what can be known of parts: forms, tables and files are made from it (docs/formats.md).</summary>
public static class PartFields
{
    private static readonly string[] Types = ["number", "whole", "money", "text", "yes-no", "choice", "texts", "numbers", "rows"];

    /// <summary>The fields of every kind of part.</summary>
    public static IReadOnlyList<PartKindFields> All { get; } = Load();

    /// <summary>The fields of one kind.</summary>
    public static IReadOnlyList<PartField> Of(string kind) => All.Single(one => one.Kind == kind).Fields;

    private static PartKindFields[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Parts.part-fields.json")!;
        PartKindFields[] kinds = JsonSerializer.Deserialize(stream, TableJson.Default.PartKindFieldsArray)!;
        return
            kinds
                .Select(kind => kind.Kind)
                .SequenceEqual([
                    PartKind.Processor,
                    PartKind.Board,
                    PartKind.Memory,
                    PartKind.Graphics,
                    PartKind.Case,
                    PartKind.Cooler,
                    PartKind.Fan,
                ])
            && kinds
                .SelectMany(kind => kind.Fields)
                .SelectMany(field => field.Of is null ? [field] : field.Of.Append(field))
                .All(field => Types.Contains(field.Type) && field.Title.Length > 0 && field.Type == "rows" == field.Of is not null)
            ? kinds
            : throw new InvalidDataException("part-fields.json: a kind is missing, or a field has an unknown type.");
    }
}
