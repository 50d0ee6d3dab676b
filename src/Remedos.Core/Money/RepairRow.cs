using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Money;

/// <summary>What a repair takes.</summary>
/// <param name="Id">As in the table of causes.</param>
/// <param name="MinutesByKind">Of one that puts a cooler on, by its kind: off, on, cables, first power-on, closed again.</param>
/// <param name="Settles">How often it ends the matter where its cause is there.</param>
public sealed record RepairRow(
    string Id,
    double Minutes,
    long PartsMinor,
    double Settles,
    string Reason,
    IReadOnlyDictionary<string, double>? MinutesByKind = null
)
{
    /// <summary>Every repair there is.</summary>
    public static IReadOnlyList<RepairRow> All { get; } = Load();

    /// <summary>The repair of a name that is known to be there.</summary>
    public static RepairRow Of(string id) => All.Single(row => row.Id == id);

    private static RepairRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Money.repairs.json")!;
        RepairRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.RepairRowArray)!;
        return Diagnosis
                .DiagnosisTables.Causes.Select(cause => cause.Repair)
                .Distinct()
                .FirstOrDefault(repair => rows.All(row => row.Id != repair))
                is { } missing
                ? throw new InvalidDataException($"repairs.json: “{missing}” is missing.")
            : rows.FirstOrDefault(row => row is not { Minutes: > 0, PartsMinor: >= 0, Settles: > 0 and <= 1, Reason.Length: > 10 })
                is { } wrong
                ? throw new InvalidDataException($"repairs.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.")
            : rows;
    }
}
