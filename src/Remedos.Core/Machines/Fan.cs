using System.Text.Json.Serialization;

namespace Remedos.Core.Machines;

/// <summary>A fan: of a cooler or its radiator, in a shop, or hung in a case; what it is and how loud, wherever it is.</summary>
/// <param name="SizeMm">And what follows but its full speed: null when nobody has read it.</param>
/// <param name="MaxRpm">Full speed.</param>
/// <param name="NoiseAtMaxDba">dB(A) at 1 m.</param>
public record Fan(double? SizeMm, double MaxRpm, double? MinRpm = null, double? CurrentA = null, double? NoiseAtMaxDba = null)
{
    internal const double UsualMm = 120;

    /// <summary>Its size, or the usual one while nobody has read it, mm.</summary>
    [JsonIgnore]
    public double ReckonedMm => SizeMm ?? UsualMm;

    /// <summary>At full speed, dB(A) at 1 m: as it says, else what the fan laws say of its size.</summary>
    [JsonIgnore]
    public double DbaAtMax => NoiseAtMaxDba ?? FanLaw.Dba(ReckonedMm, MaxRpm);

    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    /// <param name="at">What stands before its fields: “fans[0].”.</param>
    public string? Problem(string at) => Problem(at, SizeMm, MaxRpm, MinRpm, CurrentA, NoiseAtMaxDba);

    /// <summary>Likewise of one that a case has to take: it says its size.</summary>
    protected string? ProblemInCase(string at) =>
        SizeMm is null ? $"{at}sizeMm: it is missing." : Problem(at, SizeMm, MaxRpm, MinRpm, CurrentA, NoiseAtMaxDba, LeastOfCaseMm);

    /// <summary>The smallest that coolers have, and that hang in cases, mm.</summary>
    internal const double LeastMm = 20,
        LeastOfCaseMm = 30;

    internal static string? Problem(
        string at,
        double? sizeMm,
        double? maxRpm,
        double? minRpm = null,
        double? currentA = null,
        double? noiseAtMaxDba = null,
        double leastMm = LeastMm
    )
    {
        string? Between(string field, double? value, double low, double high, string unit) =>
            value is { } number && !(number >= low && number <= high)
                ? $"{at}{field}: {number:0.###} is outside {low:0.##} to {high:0.##} {unit}."
                : null;
        return Between("sizeMm", sizeMm, leastMm, 250, "mm")
            ?? Between("maxRpm", maxRpm, 100, 10000, "rpm")
            ?? Between("minRpm", minRpm, 0, maxRpm ?? 10000, "rpm")
            ?? Between("noiseAtMaxDba", noiseAtMaxDba, 0, 100, "dB(A)")
            ?? Between("currentA", currentA, 0, 5, "A");
    }
}

/// <summary>A fan on its own, as a shop has it.</summary>
public sealed record FanPart(
    double? SizeMm,
    double MaxRpm,
    double? MinRpm = null,
    double? CurrentA = null,
    double? NoiseAtMaxDba = null,
    long? PriceMinor = null
) : Fan(SizeMm, MaxRpm, MinRpm, CurrentA, NoiseAtMaxDba)
{
    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    public string? Problem() => ProblemInCase("");
}

/// <summary>A fan in its place in a case.</summary>
/// <param name="Id">Its own within the plan.</param>
/// <param name="Inward">Whether it draws room air in.</param>
/// <param name="Header">The one it hangs on; null on the supply: always full.</param>
public sealed record PlannedFan(
    string Id,
    string Place,
    bool Inward,
    double? SizeMm,
    double MaxRpm,
    double? MinRpm = null,
    double? CurrentA = null,
    double? NoiseAtMaxDba = null,
    string? Header = null
) : Fan(SizeMm, MaxRpm, MinRpm, CurrentA, NoiseAtMaxDba)
{
    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    /// <param name="at">What stands before its fields.</param>
    internal string? ProblemInPlace(string at) =>
        AirPlan.Places.Contains(Place) ? ProblemInCase(at) : $"{at}place: “{Place}” is none of {string.Join(", ", AirPlan.Places)}.";
}

/// <summary>A fan of a case as it was found: where it hangs and how fast it runs.</summary>
/// <param name="Direction">in or out.</param>
/// <param name="MaxRpm">Full speed; null when unknown.</param>
public sealed record FanNote(
    string Place,
    string Direction,
    double SizeMm,
    double Rpm,
    double? MaxRpm = null,
    double? NoiseAtMaxDba = null,
    double? CurrentA = null
)
{
    /// <summary>The fan that it is. One of which the full speed is not known runs as it was noted, whatever its header gives.</summary>
    internal PlannedFan Planned(string id, string? header) =>
        new(
            id,
            Place,
            Direction == "in",
            SizeMm,
            MaxRpm ?? Math.Max(AirPlan.LeastRpm, Rpm),
            CurrentA: CurrentA,
            NoiseAtMaxDba: NoiseAtMaxDba,
            Header: MaxRpm is null ? null : header
        );

    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    internal string? Problem(string at) =>
        Direction is not ("in" or "out") ? $"{at}direction: “{Direction}” is neither in nor out."
        : Rpm is not (>= 0 and <= 6000) ? $"{at}rpm: {Rpm:0.###} is outside 0 to 6000 rpm."
        : Fan.Problem(at, SizeMm, MaxRpm, currentA: CurrentA, noiseAtMaxDba: NoiseAtMaxDba, leastMm: Fan.LeastOfCaseMm);
}
