namespace Remedos.Core.Machines;

/// <summary>Fans, cooler and headers of a machine as they are, or as they could be.</summary>
/// <param name="Cooler">Null while none is known.</param>
/// <param name="Filter">Of <see cref="FilterState"/>.</param>
public sealed record AirPlan(
    IReadOnlyList<PlannedFan> Fans,
    PlannedCooler? Cooler,
    IReadOnlyList<PlannedHeader> Headers,
    bool PanelOff = false,
    string Filter = FilterState.Clean
)
{
    /// <summary>More than this no case holds.</summary>
    public const int MostFans = 24,
        MostHeaders = 16;

    /// <summary>A list that is longer than anything real, as a sentence; null when all is well.</summary>
    internal static string? TooMany<T>(string field, IReadOnlyList<T>? list, int most) =>
        list?.Count > most ? $"{field}: more than {most}." : null;

    /// <summary>A fan of a plan turns no slower at full, rpm.</summary>
    internal const double LeastRpm = 100;

    /// <summary>Where fans hang.</summary>
    public static readonly string[] Places = ["front", "rear", "top", "bottom", "side"];

    /// <summary>The first thing that cannot be, as a sentence with its place; null when all is well.</summary>
    public string? Problem()
    {
        static string? Between(string field, double? value, double low, double high, string unit) =>
            value is { } number && !(number >= low && number <= high)
                ? $"{field}: {number:0.###} is outside {low:0.##} to {high:0.##} {unit}."
                : null;
        string? Header(string field, string? name) =>
            name is not null && Headers.All(header => header.Name != name) ? $"{field}: there is no header “{name}”." : null;
        return Fans is null || Headers is null ? "fans and headers: both lists are needed, empty or not."
            : (TooMany("fans", Fans, MostFans) ?? TooMany("headers", Headers, MostHeaders)) is { } many ? many
            : Fans.Select(fan => fan.Id).Distinct().Count() < Fans.Count ? "fans: an id stands twice."
            : Headers.Select(header => header.Name).Distinct().Count() < Headers.Count ? "headers: a name stands twice."
            : !FilterState.All.Contains(Filter) ? $"filter: “{Filter}” is none of {string.Join(", ", FilterState.All)}."
            : Fans.Select((fan, i) => fan.ProblemInPlace($"fans[{i}].") ?? Header($"fans[{i}].header", fan.Header))
                .FirstOrDefault(one => one is not null)
                ?? (
                    Cooler?.Place is { } place && !Places.Contains(place)
                        ? $"cooler.place: “{place}” is none of {string.Join(", ", Places)}."
                        : null
                )
                ?? (Cooler?.Model?.Length > 200 ? "cooler.model: a name has at most 200 letters." : null)
                ?? Header("cooler.fanHeader", Cooler?.FanHeader)
                ?? Header("cooler.pumpHeader", Cooler?.PumpHeader)
                ?? Headers
                    .Select(
                        (header, i) =>
                            string.IsNullOrWhiteSpace(header.Name)
                                ? $"headers[{i}].name: it is missing."
                                : Between($"headers[{i}].maxCurrentA", header.MaxCurrentA, 0.05, 20, "A")
                                    ?? Between($"headers[{i}].supplyFanA", header.SupplyFanA, 0, 5, "A")
                                    ?? Curve(i, header.Steering)
                    )
                    .FirstOrDefault(one => one is not null);
    }

    private static string? Curve(int i, Steering? steering) =>
        steering is null ? null
        : !Steering.Sources.Contains(steering.Source)
            ? $"headers[{i}].steering.source: “{steering.Source}” is none of {string.Join(", ", Steering.Sources)}."
        : steering.Points is not { Count: > 0 and <= 12 } points ? $"headers[{i}].steering.points: a curve has 1 to 12 points."
        : points.Any(point => point.C is not (>= 0 and <= 120) || point.Percent is not (>= 0 and <= 100))
            ? $"headers[{i}].steering.points: a point lies at 0 to 120 °C and 0 to 100 %."
        : points.Zip(points.Skip(1)).Any(pair => pair.First.C >= pair.Second.C || pair.First.Percent > pair.Second.Percent)
            ? $"headers[{i}].steering.points: each is hotter than the one before, and no slower."
        : null;
}

/// <summary>How the cooler stands: its radiator's place and direction, and what it is plugged into.</summary>
/// <param name="Place">Null for an air cooler.</param>
/// <param name="Model">Name of another one than is on it, to be tried; null for the one that is.</param>
public sealed record PlannedCooler(
    string? Place = null,
    bool Inward = false,
    string? FanHeader = null,
    string? PumpHeader = null,
    string? Model = null
);

/// <summary>A plug on the board and what it does.</summary>
/// <param name="MaxCurrentA">Null while it is not known.</param>
/// <param name="SupplyFanA">What the supply's own fan draws, where that hangs on it; null where it does not.</param>
/// <param name="Steering">Null for one that always gives all.</param>
public sealed record PlannedHeader(string Name, double? MaxCurrentA, Steering? Steering, double? SupplyFanA = null);

/// <summary>What works while the air is looked at.</summary>
public static class AirLoad
{
    /// <summary>What a plan is asked to bear.</summary>
    public const string Both = "both",
        Processor = "processor",
        Card = "card",
        Rest = "rest";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Both, Processor, Card, Rest];

    /// <summary>What the processor takes under a load, W.</summary>
    public static double ProcessorW(Build build, string load) =>
        build.Processor.SustainedPowerW * (load is Both or Processor ? 1 : Defaults.RestingShare);

    /// <summary>What the card takes under a load, W.</summary>
    public static double CardW(Build build, string load) =>
        (build.Graphics?.PowerW ?? 0) * (load is Both or Card ? 1 : Defaults.RestingCardShare);
}
