using System.Reflection;
using System.Text.Json;
using Remedos.Core.Parts;

namespace Remedos.Core.Matching;

/// <summary>A length that a hand with a ruler can answer at the machine; measures.json holds them all.</summary>
/// <param name="Field">The job's field that keeps it.</param>
/// <param name="Part">Kind of the part that it is a value of.</param>
/// <param name="PartField">Which value of that part.</param>
/// <param name="Words">What is measured, in the middle of a sentence.</param>
/// <param name="How">Where the ruler is held.</param>
/// <param name="Place">Which row, where the part's field is a list of places.</param>
public sealed record MeasureRow(string Field, string Part, string PartField, string Title, string Words, string How, string? Place = null)
{
    /// <summary>Every measure, in the order in which a hand takes them.</summary>
    public static IReadOnlyList<MeasureRow> All { get; } = Load();

    private static readonly Dictionary<string, MeasureRow> ByField = All.ToDictionary(row => row.Field, StringComparer.Ordinal);

    /// <summary>The measure that a job's field keeps.</summary>
    public static MeasureRow Of(string field) => ByField[field];

    /// <summary>The measure of a radiator's thickness at a place; null for a place of no usual name.</summary>
    public static MeasureRow? RadiatorAt(string place) => All.FirstOrDefault(row => row.Place == place);

    private static MeasureRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Matching.measures.json")!;
        MeasureRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.MeasureRowArray)!;
        return
            rows.FirstOrDefault(row =>
                row is not { Title.Length: > 0, Words.Length: > 0, How.Length: > 10 }
                || !PartKind.All.Contains(row.Part)
                || PartFields.Of(row.Part).All(field => field.Name != row.PartField)
            )
                is { } wrong
            ? throw new InvalidDataException($"measures.json: “{wrong.Field}” lacks its words or names no value of a part.")
            : rows;
    }
}

/// <summary>What a cooler wants to be measured first.</summary>
/// <param name="Field">Of <see cref="MeasureRow.All"/>.</param>
/// <param name="AtLeastMm">From here on it goes in, as far as this measure says; null where less is wanted.</param>
/// <param name="AtMostMm">Up to here it goes in.</param>
public sealed record FitMeasure(string Field, double? AtLeastMm = null, double? AtMostMm = null);
