using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.HeatPath;

/// <summary>What the bands of a healthy machine with this kind of cooler are, °C/W, and why.</summary>
/// <param name="CaseCPerW">The case air's part of bulk; every watt inside heats it, the card's too.</param>
public sealed record HealthyPath(string CoolerKind, double ChipCPerW, double CoolerCPerW, double BulkCPerW, double CaseCPerW, string Reason)
{
    private static readonly IReadOnlyList<HealthyPath> All = Load();

    public double TotalCPerW => ChipCPerW + CoolerCPerW + BulkCPerW;

    /// <summary>The row of a cooler kind; null when the kind is not known, for then nothing is expected.</summary>
    public static HealthyPath? Of(string? coolerKind) => All.FirstOrDefault(row => row.CoolerKind == coolerKind);

    private static HealthyPath[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.HeatPath.healthy-path.json")!;
        HealthyPath[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.HealthyPathArray)!;
        return rows.All(row => row is { ChipCPerW: > 0, CoolerCPerW: > 0, CaseCPerW: > 0, Reason.Length: > 20 } && row.BulkCPerW > row.CaseCPerW && Runs.RunConditions.CoolerKinds.Contains(row.CoolerKind))
            ? rows
            : throw new InvalidDataException("healthy-path.json: every row needs a known cooler kind, positive resistances with the case’s part below the bulk, and a reason.");
    }
}
