using System.Text.Json.Serialization;
using Remedos.Core.Machines;

namespace Remedos.Core.Parts;

/// <summary>The kinds of parts that a machine is made of.</summary>
public static class PartKind
{
    /// <summary>The kinds of part.</summary>
    public const string Processor = "processor",
        Board = "board",
        Memory = "memory",
        Graphics = "graphics",
        Case = "case",
        Cooler = "cooler",
        Fan = "fan";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Processor, Board, Memory, Graphics, Case, Cooler, Fan];
}

/// <summary>What is known of a part, under the name of its kind; nothing at all where only its name is known.</summary>
public sealed record PartValues(
    ProcessorPart? Processor = null,
    BoardPart? Board = null,
    MemoryPart? Memory = null,
    GraphicsPart? Graphics = null,
    CasePart? Case = null,
    CoolerPart? Cooler = null,
    FanPart? Fan = null
)
{
    /// <summary>What it costs without tax, in the currency's minor unit; null when unknown.</summary>
    [JsonIgnore]
    public long? PriceMinor =>
        Processor?.PriceMinor
        ?? Board?.PriceMinor
        ?? Memory?.PriceMinor
        ?? Graphics?.PriceMinor
        ?? Case?.PriceMinor
        ?? Cooler?.PriceMinor
        ?? Fan?.PriceMinor;

    /// <summary>What cannot be, as a sentence; null when all is well.</summary>
    public string? Problem(string kind)
    {
        (string Kind, object? Value)[] all =
        [
            (PartKind.Processor, Processor),
            (PartKind.Board, Board),
            (PartKind.Memory, Memory),
            (PartKind.Graphics, Graphics),
            (PartKind.Case, Case),
            (PartKind.Cooler, Cooler),
            (PartKind.Fan, Fan),
        ];
        return all.FirstOrDefault(one => one.Value is not null && one.Kind != kind) is { Value: not null } other
                ? $"What a {other.Kind} is like was told of a {kind}."
            : Fan is { } fan ? fan.Problem()
            : Cooler is { } cooler ? (cooler with { Id = "new" }).Problem()
            : new Build(Processor ?? new ProcessorPart("any", null, 65, 95), Board, Memory, Case, Graphics).Problem();
    }
}
