using System.Reflection;
using System.Text.Json;
using Remedos.Core.Diagnosis;

namespace Remedos.Core.Repair;

/// <summary>What can be done to a machine; how long it takes is what its steps take (<see cref="RepairPlanner"/>).</summary>
/// <param name="Id">As in the table of causes.</param>
/// <param name="Settles">How often it ends the matter where its cause is there.</param>
/// <param name="Done">What the owner reads of it afterwards.</param>
/// <param name="Title">Of one that no cause names; the others are called as their cause calls them.</param>
/// <param name="Opens">Likewise what comes open for it: nothing, case or cooler.</param>
public sealed record RepairRow(
    string Id,
    long PartsMinor,
    double Settles,
    string Done,
    string Reason,
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

    /// <summary>The repairs that are another cooler.</summary>
    public const string Upgrade = "upgrade",
        ReplaceLoop = "replace-loop";

    /// <summary>The same cooler, cleaned and put on anew.</summary>
    public const string Remount = "remount";

    /// <summary>Fins, filters and fans blown out.</summary>
    public const string Clean = "clean";

    /// <summary>A worn part of the cooler that is put in anew.</summary>
    public const string ReplaceFan = "replace-fan";

    /// <summary>Whether something that is done is another cooler.</summary>
    public static bool IsAnotherCooler(string id) => id is Upgrade or ReplaceLoop;

    /// <summary>Every repair there is.</summary>
    public static IReadOnlyList<RepairRow> All { get; } = Load();

    /// <summary>The repair of a name that is known to be there.</summary>
    public static RepairRow Of(string id) => All.Single(row => row.Id == id);

    private static RepairRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Repair.repairs.json")!;
        RepairRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.RepairRowArray)!;
        return DiagnosisTables.Causes.Select(cause => cause.Repair).Distinct().FirstOrDefault(repair => rows.All(row => row.Id != repair))
                is { } missing
                ? throw new InvalidDataException($"repairs.json: “{missing}” is missing.")
            : rows.FirstOrDefault(row => row is not { PartsMinor: >= 0, Settles: > 0 and <= 1, Done.Length: > 5, Reason.Length: > 10 })
                is { } wrong
                ? throw new InvalidDataException($"repairs.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.")
            : rows.FirstOrDefault(row => row.Cause is null && (row.Title is null || row.Opens is null)) is { } nameless
                ? throw new InvalidDataException($"repairs.json: no cause names “{nameless.Id}”: it needs a title and what it opens.")
            : rows;
    }
}
