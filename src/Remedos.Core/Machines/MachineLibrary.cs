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

/// <summary>The invented parts and machines that the bench is tried on; data files, checked when they are read.</summary>
public static class MachineLibrary
{
    /// <summary>Where a library machine's radiator can hang.</summary>
    public static readonly string[] Radiators = ["front-in", "top-out", "rear-out"];

    /// <summary>Every processor of the library.</summary>
    public static IReadOnlyList<ProcessorSpec> Processors { get; } =
        Load(
            TableJson.Default.ProcessorSpecArray,
            "processors",
            part => part.Id,
            part => part.Reason,
            part =>
                part is { InsideCPerW: > 0, DieJPerK: > 0, IdleW: > 0, FullClockMHz: > 0, Cores: > 0 }
                && part.SustainedW > part.IdleW
                && part.BoostW >= part.SustainedW
                && part.LimitC is > 60 and < 130
        );

    /// <summary>Every cooler of the library.</summary>
    public static IReadOnlyList<CoolerSpec> Coolers { get; } =
        Load(
            TableJson.Default.CoolerSpecArray,
            "coolers",
            part => part.Id,
            part => part.Reason,
            part =>
                part is { PasteCPerW: > 0, ToFinsCPerW: > 0, FinsCPerW: > 0, BaseJPerK: > 0, FinsJPerK: > 0 }
                && CoolerPart.Kinds.Contains(part.Kind)
                && part.IsLiquid == part is { FlowLpm: > 0, PumpRpm: > 0, RadiatorFans: > 0 }
        );

    /// <summary>Every case of the library.</summary>
    public static IReadOnlyList<CaseSpec> Cases { get; } =
        Load(
            TableJson.Default.CaseSpecArray,
            "cases",
            part => part.Id,
            part => part.Reason,
            part =>
                part is { Openings.Count: > 0, PanelK: > 0, AirJPerK: > 0, ChassisJPerK: > 0, ChassisWPerK: > 0 }
                && part.Fans.All(fan => fan is { StallPa: > 0, FreeM3PerH: > 0, MaxRpm: > 0, PathK: > 0 })
        );

    /// <summary>Every graphics card of the library.</summary>
    public static IReadOnlyList<GraphicsSpec> Graphics { get; } =
        Load(
            TableJson.Default.GraphicsSpecArray,
            "graphics",
            part => part.Id,
            part => part.Reason,
            part => part is { InsideCPerW: > 0, FinsCPerW: > 0, DieJPerK: > 0, FinsJPerK: > 0 } && part.FullW > part.IdleW
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
    public static IReadOnlyList<MachineSpec> Machines { get; } = [.. Rows.Select(row => Resolve(row, out _)!)];

    /// <summary>A machine of its parts; null, with a sentence, when one is unknown or they do not go together.</summary>
    public static MachineSpec? Resolve(MachineRow row, out string? problem)
    {
        problem = null;
        ProcessorSpec? processor = Find(Processors, part => part.Id, row.Processor, "processor", ref problem);
        CoolerSpec? cooler = Find(Coolers, part => part.Id, row.Cooler, "cooler", ref problem);
        CaseSpec? box = Find(Cases, part => part.Id, row.Case, "case", ref problem);
        GraphicsSpec? card = row.Graphics is null ? null : Find(Graphics, part => part.Id, row.Graphics, "graphics card", ref problem);
        SteeringRow? coolerFan = Find(Steerings, part => part.Id, row.CoolerFan, "fan steering", ref problem),
            caseFans = Find(Steerings, part => part.Id, row.CaseFans, "fan steering", ref problem);
        if (problem is null && cooler!.IsLiquid != row.Radiator is not null)
        {
            problem = cooler.IsLiquid
                ? $"“{cooler.Name}” is a liquid cooler: say where its radiator stands ({string.Join(", ", Radiators)})."
                : $"“{cooler.Name}” has no radiator.";
        }
        else if (problem is null && row.Radiator is not null && !Radiators.Contains(row.Radiator))
        {
            problem = $"“{row.Radiator}” is no place of a radiator; known are {string.Join(", ", Radiators)}.";
        }

        return problem is not null
            ? null
            : new MachineSpec(
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
                row.RoomC,
                row.Reason
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
