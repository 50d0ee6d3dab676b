using Remedos.Core.Runs;

namespace Remedos.Core.Parts;

/// <summary>The kinds of parts that a machine is made of.</summary>
public static class PartKind
{
    public const string Processor = "processor", Board = "board", Memory = "memory", Graphics = "graphics", Case = "case", Cooler = "cooler";

    public static readonly string[] All = [Processor, Board, Memory, Graphics, Case, Cooler];
}

/// <summary>What is known of a part; each kind has its own.</summary>
/// <param name="TemperatureLimitC">Where a processor protects itself, °C.</param>
/// <param name="SustainedPowerW">What a processor is rated to draw for long, W.</param>
/// <param name="CoolerKind">Of a cooler, one of <see cref="RunConditions.CoolerKinds"/>.</param>
/// <param name="HeightMm">Of memory, above its slot, mm.</param>
public sealed record PartValues(double? TemperatureLimitC = null, double? SustainedPowerW = null, string? CoolerKind = null, double? HeightMm = null)
{
    /// <summary>What cannot be, as a sentence; null when all is well.</summary>
    public string? Problem(string kind) =>
        TemperatureLimitC is not (null or (>= 40 and <= 130)) ? "Processors protect themselves somewhere between 40 and 130 °C."
        : SustainedPowerW is not (null or (>= 1 and <= 2000)) ? "Expected 1 to 2000 W."
        : HeightMm is not (null or (>= 10 and <= 100)) ? "Memory stands 10 to 100 mm high."
        : CoolerKind is { } cooler && !RunConditions.CoolerKinds.Contains(cooler) ? $"Expected one of {string.Join(", ", RunConditions.CoolerKinds)}."
        : kind != PartKind.Processor && (TemperatureLimitC ?? SustainedPowerW) is not null ? "Only a processor has a limit and a rated power."
        : kind != PartKind.Cooler && CoolerKind is not null ? "Only a cooler has a kind of cooler."
        : null;
}
