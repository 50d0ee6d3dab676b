using System.Reflection;
using System.Text.Json;
using Remedos.Core.Diagnosis;

namespace Remedos.Core.Money;

/// <summary>What a repair takes.</summary>
/// <param name="Id">As in the table of causes.</param>
/// <param name="MinutesByKind">Of one that puts a cooler on, by its kind: off, on, cables, first power-on, closed again.</param>
/// <param name="Settles">How often it ends the matter where its cause is there.</param>
/// <param name="Done">What the owner reads of it afterwards.</param>
/// <param name="Title">Of one that no cause names; the others are called as their cause calls them.</param>
/// <param name="Opens">Likewise what comes open for it: nothing, case or cooler.</param>
public sealed record RepairRow(
    string Id,
    double Minutes,
    long PartsMinor,
    double Settles,
    string Done,
    string Reason,
    IReadOnlyDictionary<string, double>? MinutesByKind = null,
    string? Title = null,
    string? Opens = null
)
{
    /// <summary>What it is called.</summary>
    public string Name => Title ?? Cause!.RepairTitle;

    /// <summary>What comes open for it: nothing, case or cooler.</summary>
    public string Opening => Opens ?? Cause!.Opens;

    /// <summary>The first cause that it mends; null for one that no cause asks for.</summary>
    private CauseRow? Cause => DiagnosisTables.Causes.FirstOrDefault(cause => cause.Repair == Id);

    /// <summary>Every repair there is.</summary>
    public static IReadOnlyList<RepairRow> All { get; } = Load();

    /// <summary>The repair of a name that is known to be there.</summary>
    public static RepairRow Of(string id) => All.Single(row => row.Id == id);

    private static RepairRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Money.repairs.json")!;
        RepairRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.RepairRowArray)!;
        return DiagnosisTables.Causes.Select(cause => cause.Repair).Distinct().FirstOrDefault(repair => rows.All(row => row.Id != repair))
                is { } missing
                ? throw new InvalidDataException($"repairs.json: “{missing}” is missing.")
            : rows.FirstOrDefault(row =>
                row is not { Minutes: > 0, PartsMinor: >= 0, Settles: > 0 and <= 1, Done.Length: > 5, Reason.Length: > 10 }
            )
                is { } wrong
                ? throw new InvalidDataException($"repairs.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.")
            : rows.FirstOrDefault(row => row.Cause is null && (row.Title is null || row.Opens is null)) is { } nameless
                ? throw new InvalidDataException($"repairs.json: no cause names “{nameless.Id}”, so it needs a title and what it opens.")
            : rows;
    }
}
