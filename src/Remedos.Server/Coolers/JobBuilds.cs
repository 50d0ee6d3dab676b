using Remedos.Core.Matching;
using Remedos.Core.Parts;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;

namespace Remedos.Server.Coolers;

/// <summary>What would be otherwise; each goes before what the job says. Null for as it is.</summary>
public sealed record WhatIf(string? School = null, double? RoomC = null, double? HottestRoomC = null, double? MemoryHeightMm = null, double? SustainedPowerW = null, double? MaxNoiseDba = null, long? MaxPriceMinor = null, double? CaseFanRpm = null)
{
    public static readonly WhatIf Nothing = new();
}

/// <summary>A job's machine as a build, from the workshop's parts of the names that the intake has.</summary>
internal static class JobBuilds
{
    private const double UsualRoomC = 22, UsualHottestC = 30;

    /// <summary>The build; null, with a sentence, while too little is known to choose a cooler by.</summary>
    public static Build? Of(Job job, IReadOnlyList<Part> parts, WhatIf what, out string? problem)
    {
        PartValues? Known(string kind, string? name) => name is null ? null : parts.FirstOrDefault(part => part.Kind == kind && string.Equals(part.Name, name.Trim(), StringComparison.OrdinalIgnoreCase))?.Values;
        ProcessorPart? chip = Known(PartKind.Processor, job.Parts.Processor)?.Processor;
        if ((what.SustainedPowerW ?? job.RatedPowerW ?? chip?.SustainedPowerW) is not { } watts || (job.TemperatureLimitC ?? chip?.TemperatureLimitC) is not { } limit)
        {
            problem = "A cooler is chosen for a processor: note which one it is, or its rated power and its temperature limit, at the intake.";
            return null;
        }

        double room = what.RoomC ?? job.RoomC ?? UsualRoomC;
        CasePart? housing = Known(PartKind.Case, job.Parts.Case)?.Case;
        double? memory = what.MemoryHeightMm ?? job.Parts.MemoryHeightMm ?? Known(PartKind.Memory, job.Parts.Memory)?.Memory?.HeightMm;
        Build build = new(
            (chip ?? new ProcessorPart(job.Parts.Processor ?? "its processor", null, watts, limit)) with { SustainedPowerW = watts, TemperatureLimitC = limit },
            Known(PartKind.Board, job.Parts.Board)?.Board,
            memory is null ? null : new MemoryPart(memory),
            housing is null || what.CaseFanRpm is not { } rpm ? housing : housing with { Fans = [.. (housing.Fans ?? []).Select(fan => fan with { Rpm = rpm })] },
            Known(PartKind.Graphics, job.Parts.Graphics)?.Graphics ?? (job.Parts.Graphics is null ? null : new GraphicsPart(Name: job.Parts.Graphics)),
            room, what.HottestRoomC ?? Math.Max(room, UsualHottestC),
            parts.FirstOrDefault(part => part.Kind == PartKind.Cooler && string.Equals(part.Name, job.Parts.Cooler?.Trim(), StringComparison.OrdinalIgnoreCase))?.Id.ToString(),
            new Wants(what.School, what.MaxPriceMinor, what.MaxNoiseDba));
        problem = build.Problem();
        return problem is null ? build : null;
    }

    /// <summary>The workshop's coolers, with those whose values are not known left out.</summary>
    public static IReadOnlyList<CoolerPart> CoolersOf(IEnumerable<Part> parts) =>
        [.. parts.Where(part => part.Kind == PartKind.Cooler && part.Values.Cooler is not null).Select(part => part.Values.Cooler! with { Id = part.Id.ToString(), Name = part.Name })];
}
