using System.Text.Json.Serialization;

namespace Remedos.Core.Machines;

/// <summary>Resistance from the base to the air it breathes, paste included, with all its fans at a speed, °C/W.</summary>
public sealed record PerformancePoint(double Rpm, double ResistanceCPerW);

/// <summary>A cooler as a catalogue or the workshop's own bench has it. Lengths mm, from the socket's centre; null where unknown.</summary>
/// <param name="Kind">down-draught, tower, dual-tower, liquid or passive.</param>
/// <param name="ReachTowardMemoryMm">How far it stands out towards the memory.</param>
/// <param name="ClearanceUnderFanMm">Room for memory below its fan.</param>
/// <param name="FanCanRiseMm">How far the fan can be moved up; the cooler grows by as much.</param>
/// <param name="RadiatorThicknessMm">With its fans.</param>
/// <param name="ClaimedW">The maker's claim; never held against another maker's.</param>
/// <param name="SpreadShare">Half of its performance's 95 % interval, as a share; null for what its source is usually worth.</param>
/// <param name="Note">What this bench has learnt of it; null for nothing.</param>
/// <param name="ReachTowardRearMm">How far it stands out over the heat sinks at the rear, and towards the top.</param>
/// <param name="ClearanceUnderFinsMm">Room for heat sinks below its fins.</param>
/// <param name="HoseMm">From block to radiator.</param>
/// <param name="BackPlateMm">How far its back plate stands out behind the board.</param>
/// <param name="RadiatorLengthMm">With its end tanks.</param>
/// <param name="CanTurn">Whether its bracket lets it be put on turned by a quarter; null when unknown.</param>
/// <param name="Follows">The cooler whose next generation it is, by name; null for none.</param>
/// <param name="Measured">Whether its performance was measured on this bench.</param>
public sealed record CoolerPart(
    string Id,
    string Name,
    string Kind,
    IReadOnlyList<string>? Sockets = null,
    double? HeightMm = null,
    double? ReachTowardMemoryMm = null,
    double? ClearanceUnderFanMm = null,
    double? FanCanRiseMm = null,
    double? ReachTowardSlotMm = null,
    double? RadiatorSizeMm = null,
    double? RadiatorThicknessMm = null,
    IReadOnlyList<Fan>? Fans = null,
    double? PumpCurrentA = null,
    IReadOnlyList<PerformancePoint>? Performance = null,
    double? ClaimedW = null,
    long? PriceMinor = null,
    int? WarrantyMonths = null,
    bool Measured = false,
    double? SpreadShare = null,
    string? Note = null,
    double? ReachTowardRearMm = null,
    double? ReachTowardTopMm = null,
    double? ClearanceUnderFinsMm = null,
    double? HoseMm = null,
    double? BackPlateMm = null,
    double? RadiatorLengthMm = null,
    bool? CanTurn = null,
    string? Follows = null
)
{
    private const int OfALoop = 3,
        MostPoints = 100;

    /// <summary>A cooler of which only the kind is known: the usual one of its kind.</summary>
    /// <param name="kind">down-draught, tower, dual-tower, liquid or passive.</param>
    public static CoolerPart OfKind(string kind) =>
        new(
            "",
            $"a {kind.Replace('-', ' ')} cooler",
            kind,
            RadiatorSizeMm: kind == "liquid" ? 240 : null,
            Fans: kind == "passive"
                ? []
                : [.. Enumerable.Repeat(new Fan(null, Defaults.MaxRpmOf(kind)), kind is "liquid" or "dual-tower" ? 2 : 1)]
        );

    /// <summary>The kinds of cooler.</summary>
    public static readonly string[] Kinds = ["down-draught", "tower", "dual-tower", "liquid", "passive"];

    /// <summary>Whether it carries its heat by a liquid.</summary>
    [JsonIgnore]
    public bool IsLiquid => Kind == "liquid";

    /// <summary>Of its fastest fan, rpm; 0 without fans.</summary>
    [JsonIgnore]
    public double FullRpm
    {
        get
        {
            double most = 0;
            for (int i = 0; i < (Fans?.Count ?? 0); i++)
            {
                most = Math.Max(most, Fans![i].MaxRpm);
            }

            return most;
        }
    }

    /// <summary>Parts that can fail: each fan, and of a loop its pump, its seals and its liquid.</summary>
    [JsonIgnore]
    public int FailurePoints => (Fans?.Count ?? 0) + (IsLiquid ? OfALoop : 0);

    /// <summary>Where its own values contradict each other, as a sentence; null when they do not.</summary>
    public string? Contradiction() =>
        !IsLiquid && RadiatorSizeMm is not null
            ? $"{Name} is noted as a {Kind} and has a radiator of {RadiatorSizeMm:0} mm: one of them is wrong."
        : IsLiquid && PumpCurrentA is 0 ? $"{Name} is a liquid cooler whose pump draws nothing: its current is noted wrongly."
        : WorseWithMoreSpeed() ? $"{Name} is noted to cool worse with faster fans: two of its speeds are mixed up."
        : null;

    private bool WorseWithMoreSpeed()
    {
        for (int i = 0; i < (Performance?.Count ?? 0); i++)
        {
            for (int j = 0; j < Performance!.Count; j++)
            {
                if (Performance[j].Rpm > Performance[i].Rpm && Performance[j].ResistanceCPerW > Performance[i].ResistanceCPerW + 1e-9)
                {
                    return true;
                }
            }
        }

        return false;
    }

    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    public string? Problem()
    {
        string? Between(string field, double? value, double low, double high, string unit) =>
            value is { } number && !(number >= low && number <= high)
                ? $"{field}: {number:0.###} is outside {low:0.##} to {high:0.##} {unit}."
                : null;
        return string.IsNullOrWhiteSpace(Id) ? "id: every cooler needs one."
            : !Kinds.Contains(Kind) ? $"kind: “{Kind}” is none of {string.Join(", ", Kinds)}."
            : Between("heightMm", HeightMm, 10, 300, "mm")
                ?? Between("reachTowardMemoryMm", ReachTowardMemoryMm, 0, 200, "mm")
                ?? Between("clearanceUnderFanMm", ClearanceUnderFanMm, 0, 200, "mm")
                ?? Between("fanCanRiseMm", FanCanRiseMm, 0, 100, "mm")
                ?? Between("reachTowardSlotMm", ReachTowardSlotMm, 0, 200, "mm")
                ?? Between("radiatorSizeMm", RadiatorSizeMm, 80, 600, "mm")
                ?? Between("radiatorThicknessMm", RadiatorThicknessMm, 10, 150, "mm")
                ?? Between("pumpCurrentA", PumpCurrentA, 0, 5, "A")
                ?? Between("reachTowardRearMm", ReachTowardRearMm, 0, 200, "mm")
                ?? Between("reachTowardTopMm", ReachTowardTopMm, 0, 200, "mm")
                ?? Between("clearanceUnderFinsMm", ClearanceUnderFinsMm, 0, 200, "mm")
                ?? Between("hoseMm", HoseMm, 50, 2000, "mm")
                ?? Between("backPlateMm", BackPlateMm, 0, 150, "mm")
                ?? Between("radiatorLengthMm", RadiatorLengthMm, 80, 700, "mm")
                ?? Between("claimedW", ClaimedW, 5, 2000, "W")
                ?? Between("priceMinor", PriceMinor, 0, 1e9, "")
                ?? AirPlan.TooMany("fans", Fans, AirPlan.MostFans)
                ?? AirPlan.TooMany("performance", Performance, MostPoints)
                ?? (Performance ?? [])
                    .Select(
                        (point, i) =>
                            Between($"performance[{i}].resistanceCPerW", point.ResistanceCPerW, 0.01, 5, "°C/W")
                            ?? Between($"performance[{i}].rpm", point.Rpm, 0, 10000, "rpm")
                    )
                    .FirstOrDefault(one => one is not null)
                ?? (Fans ?? []).Select((fan, i) => fan.Problem($"fans[{i}].")).FirstOrDefault(one => one is not null);
    }
}
