using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace Remedos.Core.Machines;

/// <summary>A machine of the library as its file has it: parts and steering by id.</summary>
public sealed record MachineRow(
    string Id,
    string Name,
    string Processor,
    string Cooler,
    string Case,
    string? Graphics,
    string? Radiator,
    string CoolerFan,
    string CaseFans,
    double BoardW,
    IReadOnlyList<string> Shows,
    double RoomC,
    string Reason
);

/// <summary>A ready-made steering.</summary>
public sealed record SteeringRow(string Id, string Source, IReadOnlyList<SteeringPoint> Points, double RampSeconds, string Reason)
{
    /// <summary>The same as a curve.</summary>
    public Steering Curve => new(Source, Points, RampSeconds);
}

/// <summary>
/// The invented parts, with what is true of them, and the machines of them that the bench is tried on; data files, checked when they are
/// read.
/// </summary>
public static class MachineLibrary
{
    /// <summary>Every processor of the library.</summary>
    public static IReadOnlyList<TrueProcessor> Processors { get; } =
        Load(
            TableJson.Default.TrueProcessorArray,
            "processors",
            row => row.Id,
            row => row.Reason,
            row =>
                row.Part is { InsideResistanceCPerW: > 0, BoostSeconds: >= 0, TemperatureLimitC: > 60 and < 130 }
                && row.Part.BoostPowerW >= row.Part.SustainedPowerW
                && row.Truth is { DieJPerK: > 0, IdleW: > 0, FullClockMHz: > 0, Cores: > 0 }
                && row.Part.SustainedPowerW > row.Truth.IdleW
        );

    /// <summary>Every cooler of the library.</summary>
    public static IReadOnlyList<TrueCooler> Coolers { get; } =
    [
        .. Load(
                TableJson.Default.TrueCoolerArray,
                "coolers",
                row => row.Id,
                row => row.Reason,
                row =>
                    (row.Part with { Id = row.Id }).Problem() is null
                    && row.Part is { Fans: not null, Performance.Count: > 0 }
                    && row.Part.Contradiction() is null
                    && row.Truth is { PasteCPerW: > 0, ToFinsCPerW: > 0, FinsCPerW: > 0, BaseJPerK: > 0, FinsJPerK: > 0 }
                    && row.Part.IsLiquid == row.Truth is { FlowLpm: > 0, PumpRpm: > 0 }
            )
            .Select(row => row with { Part = row.Part with { Id = row.Id } }),
    ];

    /// <summary>Every case of the library.</summary>
    public static IReadOnlyList<TrueCase> Cases { get; } =
        Load(
            TableJson.Default.TrueCaseArray,
            "cases",
            row => row.Id,
            row => row.Reason,
            row =>
                row.Part.Fans is { } fans
                && fans.All(fan => fan.MaxRpm > 0 && fan.Problem("") is null)
                && row.Truth is { Openings.Count: > 0, PanelK: > 0, AirJPerK: > 0, ChassisJPerK: > 0, ChassisWPerK: > 0 }
                && row.Truth.Fans.Count == fans.Count
                && row.Truth.Fans.All(fan => fan is { StallPa: > 0, FreeM3PerH: > 0, PathK: > 0 })
        );

    /// <summary>Every graphics card of the library.</summary>
    public static IReadOnlyList<TrueCard> Graphics { get; } =
        Load(
            TableJson.Default.TrueCardArray,
            "graphics",
            row => row.Id,
            row => row.Reason,
            row =>
                row.Part.ResistanceCPerW > row.Part.InsideResistanceCPerW
                && row.Part.InsideResistanceCPerW > 0
                && row.Truth is { DieJPerK: > 0, FinsJPerK: > 0 }
                && row.Part.PowerW > row.Truth.IdleW
        );

    /// <summary>Every fan curve of the library.</summary>
    public static IReadOnlyList<SteeringRow> Steerings { get; } =
        Load(
            TableJson.Default.SteeringRowArray,
            "steering",
            row => row.Id,
            row => row.Reason,
            row =>
                Steering.Sources.Contains(row.Source)
                && row.Points.Count > 0
                && row.Points.Zip(row.Points.Skip(1)).All(pair => pair.First.C < pair.Second.C && pair.First.Percent <= pair.Second.Percent)
        );

    /// <summary>Every machine, its parts by name.</summary>
    public static IReadOnlyList<MachineRow> Rows { get; } =
        Load(TableJson.Default.MachineRowArray, "machines", row => row.Id, row => row.Reason, row => Resolve(row, out _) is not null);

    /// <summary>Every machine, its parts in it.</summary>
    public static IReadOnlyList<BenchMachine> Machines { get; } = [.. Rows.Select(row => Resolve(row, out _)!)];

    /// <summary>A machine of its parts; null, with a sentence, when one is unknown or they do not go together.</summary>
    public static BenchMachine? Resolve(MachineRow row, out string? problem)
    {
        problem = null;
        TrueProcessor? processor = Find(Processors, part => part.Id, row.Processor, "processor", ref problem);
        TrueCooler? cooler = Find(Coolers, part => part.Id, row.Cooler, "cooler", ref problem);
        TrueCase? box = Find(Cases, part => part.Id, row.Case, "case", ref problem);
        TrueCard? card = row.Graphics is null ? null : Find(Graphics, part => part.Id, row.Graphics, "graphics card", ref problem);
        SteeringRow? coolerFan = Find(Steerings, part => part.Id, row.CoolerFan, "fan steering", ref problem),
            caseFans = Find(Steerings, part => part.Id, row.CaseFans, "fan steering", ref problem);
        if (problem is null && cooler!.Part.IsLiquid != row.Radiator is not null)
        {
            problem = cooler.Part.IsLiquid
                ? $"“{cooler.Part.Name}” is a liquid cooler: say where its radiator stands ({string.Join(", ", RadiatorWay.Ids)})."
                : $"“{cooler.Part.Name}” has no radiator.";
        }
        else if (problem is null && row.Radiator is not null && !RadiatorWay.Ids.Contains(row.Radiator))
        {
            problem = $"“{row.Radiator}” is no place of a radiator; known are {string.Join(", ", RadiatorWay.Ids)}.";
        }

        return problem is not null
            ? null
            : BenchMachine.Of(
                row.Id,
                row.Name,
                processor!,
                cooler!,
                box!,
                card,
                row.Radiator,
                coolerFan!.Curve,
                caseFans!.Curve,
                row.BoardW,
                row.Shows,
                row.RoomC
            );
    }

    private static T? Find<T>(IReadOnlyList<T> parts, Func<T, string> id, string wanted, string kind, ref string? problem)
        where T : class
    {
        T? found = parts.FirstOrDefault(part => id(part) == wanted);
        problem ??= found is null ? $"There is no {kind} “{wanted}”; known are {string.Join(", ", parts.Select(id))}." : null;
        return found;
    }

    private static T[] Load<T>(JsonTypeInfo<T[]> type, string table, Func<T, string> id, Func<T, string> reason, Func<T, bool> holds)
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Remedos.Core.Machines.{table}.json")!;
        T[] rows = JsonSerializer.Deserialize(stream, type)!;
        return rows.FirstOrDefault(row => !holds(row) || reason(row).Length < 20) is { } wrong
                ? throw new InvalidDataException($"{table}.json: “{id(wrong)}” lacks a reason or holds a value that cannot be.")
            : rows.Select(id).Distinct().Count() < rows.Length ? throw new InvalidDataException($"{table}.json: an id stands twice.")
            : rows;
    }
}
