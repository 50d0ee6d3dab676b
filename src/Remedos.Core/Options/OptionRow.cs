using System.Reflection;
using System.Text.Json;
using Remedos.Core.Repair;

namespace Remedos.Core.Options;

/// <summary>What is judged of an option, with the reason.</summary>
/// <param name="Act">What is done for it, of <see cref="RepairRow"/>; null where nothing is done here.</param>
/// <param name="Days">That the machine is away, on average.</param>
/// <param name="Undone">What cannot be taken back; null for nothing.</param>
/// <param name="Lasts">How long it lasts, as a sentence.</param>
/// <param name="Parts">Whether a part is bought for it.</param>
/// <param name="Returns">Whether that part goes back for nothing where it does not help.</param>
public sealed record OptionRow(
    string Id,
    double Days,
    string Risk,
    string Lasts,
    string Reason,
    string? Act = null,
    string? Undone = null,
    bool Parts = false,
    bool Returns = false
)
{
    /// <summary>Options that rules ask for by name.</summary>
    public const string LikeForLike = "like-for-like",
        AnotherCooler = "another-cooler",
        UsedPart = "used-part",
        CapPower = "cap-power",
        Undervolt = "undervolt",
        WarrantyClaim = "warranty-claim",
        Leave = "leave";

    /// <summary>All of them.</summary>
    public static IReadOnlyList<OptionRow> All { get; } = Load();

    private static OptionRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Options.options.json")!;
        OptionRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.OptionRowArray)!;
        return rows.FirstOrDefault(row => row is not { Days: >= 0 and < 60, Risk.Length: > 4, Lasts.Length: > 4, Reason.Length: > 10 })
                is { } bare
                ? throw new InvalidDataException($"options.json: “{bare.Id}” lacks words or a reason.")
            : rows.FirstOrDefault(row => row.Act is { } act && RepairRow.All.All(one => one.Id != act)) is { } lost
                ? throw new InvalidDataException($"options.json: there is nothing “{lost.Act}” that could be done.")
            : rows;
    }
}
