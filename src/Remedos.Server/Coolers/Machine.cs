using Microsoft.AspNetCore.Mvc;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Jobs;

namespace Remedos.Server.Coolers;

/// <summary>A machine by the names of its parts; null for what is not known. The figures go before what the parts say.</summary>
public sealed record MachineNames(
    string? Processor = null,
    string? Board = null,
    string? Memory = null,
    double? MemoryHeightMm = null,
    string? Graphics = null,
    string? Case = null,
    string? Cooler = null,
    double? RatedPowerW = null,
    double? TemperatureLimitC = null,
    double? RoomC = null,
    string? FansSteeredBy = null,
    Measured? Measured = null,
    string? RadiatorAt = null,
    double? FansFixedRpm = null
)
{
    /// <summary>A job with its setups, as it is now.</summary>
    public static MachineNames Of(Job job) => Of(job, JobSetups.Now(job).Cooler);

    /// <summary>A job with one of its coolers on it: where a radiator hangs was noted of the one that came with it.</summary>
    public static MachineNames Of(Job job, string? cooler) =>
        new(
            job.Parts.Processor,
            job.Parts.Board,
            job.Parts.Memory,
            job.Parts.MemoryHeightMm,
            job.Parts.Graphics,
            job.Parts.Case,
            cooler,
            job.RatedPowerW,
            job.TemperatureLimitC,
            job.RoomC,
            job.Parts.FansSteeredBy,
            job.Measured,
            cooler == job.Parts.Cooler ? job.Parts.RadiatorAt : null,
            job.Parts.FansFixedRpm
        );
}

/// <summary>A machine put together from parts, without a job; null for what is not known.</summary>
public sealed record ChosenParts(
    [FromQuery(Name = "processor")] string? Processor = null,
    [FromQuery(Name = "board")] string? Board = null,
    [FromQuery(Name = "memory")] string? Memory = null,
    [FromQuery(Name = "graphics")] string? Graphics = null,
    [FromQuery(Name = "case")] string? Case = null,
    [FromQuery(Name = "cooler")] string? Cooler = null
)
{
    internal MachineNames Names => new(Processor, Board, Memory, null, Graphics, Case, Cooler);
}

/// <summary>What would be otherwise; each goes before what the machine says. Null for as it is.</summary>
public sealed record WhatIf(
    [FromQuery(Name = "school")] string? School = null,
    [FromQuery(Name = "roomC")] double? RoomC = null,
    [FromQuery(Name = "hottestRoomC")] double? HottestRoomC = null,
    [FromQuery(Name = "memoryHeightMm")] double? MemoryHeightMm = null,
    [FromQuery(Name = "sustainedPowerW")] double? SustainedPowerW = null,
    [FromQuery(Name = "maxNoiseDba")] double? MaxNoiseDba = null,
    [FromQuery(Name = "maxPriceMinor")] long? MaxPriceMinor = null,
    [FromQuery(Name = "caseFanRpm")] double? CaseFanRpm = null
)
{
    public static readonly WhatIf Nothing = new();
}

/// <summary>A machine as a build, from the workshop's parts of its names.</summary>
internal static class Machine
{
    /// <summary>The school's id for the workshop's own weights.</summary>
    public const string OwnSchool = "own";

    /// <summary>The build; null, with a sentence, while too little is known to choose by.</summary>
    public static Build? BuildOf(MachineNames names, IReadOnlyList<Part> parts, WhatIf what, out string? problem)
    {
        PartValues? Known(string kind, string? name) => Find(parts, kind, name)?.Values;
        ProcessorPart? chip = Known(PartKind.Processor, names.Processor)?.Processor;
        if (
            (what.SustainedPowerW ?? names.RatedPowerW ?? chip?.SustainedPowerW) is not { } watts
            || (names.TemperatureLimitC ?? chip?.TemperatureLimitC) is not { } limit
        )
        {
            problem =
                "A cooler is chosen for a processor: note which one it is, or its rated power and its temperature limit, at the intake.";
            return null;
        }

        double room = what.RoomC ?? names.RoomC ?? Defaults.RoomC;
        CasePart? housing = Known(PartKind.Case, names.Case)?.Case;
        double? memory = what.MemoryHeightMm ?? names.MemoryHeightMm ?? Known(PartKind.Memory, names.Memory)?.Memory?.HeightMm;
        Build build = new(
            (chip ?? new ProcessorPart(names.Processor ?? "its processor", null, watts, limit)) with
            {
                SustainedPowerW = watts,
                TemperatureLimitC = limit,
            },
            Known(PartKind.Board, names.Board)?.Board,
            memory is null ? null : new MemoryPart(memory),
            housing is null || what.CaseFanRpm is not { } rpm
                ? housing
                : housing with
                {
                    Fans = [.. (housing.Fans ?? []).Select(fan => fan with { Rpm = rpm, MaxRpm = null })],
                },
            Known(PartKind.Graphics, names.Graphics)?.Graphics ?? (names.Graphics is null ? null : new GraphicsPart(Name: names.Graphics)),
            room,
            what.HottestRoomC ?? Math.Max(room, Defaults.HottestRoomC),
            Find(parts, PartKind.Cooler, names.Cooler)?.Id.ToString(),
            new Wants(what.School == OwnSchool ? null : what.School, what.MaxPriceMinor, what.MaxNoiseDba),
            names.FansSteeredBy,
            names.RadiatorAt,
            what.CaseFanRpm ?? names.FansFixedRpm
        );
        build = names.Measured?.On(build) ?? build;
        problem = build.Problem();
        return problem is null ? build : null;
    }

    public static Part? Find(IReadOnlyList<Part> parts, string kind, string? name) =>
        name is null
            ? null
            : parts.FirstOrDefault(part => part.Kind == kind && string.Equals(part.Name, name.Trim(), StringComparison.OrdinalIgnoreCase));

    /// <summary>The cooler that is on it, with what this bench knows of it.</summary>
    public static CoolerPart? CoolerOf(Build build, IReadOnlyList<CoolerPart> coolers) =>
        coolers.FirstOrDefault(cooler => cooler.Id == build.CurrentCooler);

    /// <summary>Parts of it that are not noted, or not among the workshop's; a sentence each.</summary>
    public static string[] Unknown(MachineNames names, Build build)
    {
        (string Name, bool Known, string? Noted)[] all =
        [
            ("processor", build.Processor.InsideResistanceCPerW is not null, names.Processor),
            ("board", build.Board is not null, names.Board),
            ("memory’s height", build.Memory is not null, names.Memory),
            ("case", build.Case is not null, names.Case),
            ("cooler that is on it", build.CurrentCooler is not null, names.Cooler),
        ];
        return
        [
            .. all.Where(one => !one.Known)
                .Select(one =>
                    one.Noted is null
                        ? $"The {one.Name} is not noted."
                        : $"The {one.Name}, “{one.Noted}”, is not among the workshop’s parts with its measures."
                ),
        ];
    }
}
