using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Demo;

/// <summary>The demo workshop's library of parts: what the simulated machines are made of, and boards and memory beside it. All invented.</summary>
internal static class DemoParts
{
    private static readonly string[] Boards = ["Quoin B5", "Quoin B7 Plus", "Quoin Mini", "Ashlar W9", "Stanchion office board", "Stanchion till board"];

    private static readonly (string Name, double HeightMm)[] Memory = [("Dowel Flat 2 × 16", 31), ("Dowel Flat 2 × 8", 31), ("Dowel Crest 2 × 16", 44), ("Dowel Crest 4 × 16", 44), ("Dowel Spire 2 × 32", 52)];

    public static void Add(RemedosContext context, Workshop workshop, DateTimeOffset now)
    {
        foreach ((string kind, string name, PartValues values) in Known())
        {
            context.Parts.Add(new Part { Id = Guid.CreateVersion7(now), WorkshopId = workshop.Id, Kind = kind, Name = name, Values = values, ChangedAt = now });
        }
    }

    private static IEnumerable<(string Kind, string Name, PartValues Values)> Known() =>
    [
        .. MachineLibrary.Processors.Select(one => (PartKind.Processor, one.Name, new PartValues(TemperatureLimitC: one.LimitC, SustainedPowerW: one.SustainedW))),
        .. Boards.Select(name => (PartKind.Board, name, new PartValues())),
        .. Memory.Select(one => (PartKind.Memory, one.Name, new PartValues(HeightMm: one.HeightMm))),
        .. MachineLibrary.Graphics.Select(one => (PartKind.Graphics, one.Name, new PartValues())),
        .. MachineLibrary.Cases.Select(one => (PartKind.Case, one.Name, new PartValues())),
        .. MachineLibrary.Coolers.Select(one => (PartKind.Cooler, one.Name, new PartValues(CoolerKind: one.Kind))),
    ];
}
