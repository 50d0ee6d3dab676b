using System.Reflection;
using System.Text.Json;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Demo;

/// <summary>The demo workshop's library of parts. All invented; the simulated machines’ own parts are among them.</summary>
internal static class DemoParts
{
    internal sealed record Row(
        string Kind,
        string Name,
        ProcessorPart? Processor,
        BoardPart? Board,
        MemoryPart? Memory,
        GraphicsPart? Graphics,
        CasePart? Case,
        CoolerPart? Cooler,
        FanPart? Fan
    )
    {
        public PartValues Values => new(Processor, Board, Memory, Graphics, Case, Cooler, Fan);
    }

    /// <summary>The parts that the simulated machines are made of, and the rest of a shelf.</summary>
    internal static IReadOnlyList<Row> Shelf { get; } =
    [
        .. MachineLibrary.Processors.Select(one => Part(PartKind.Processor, one.Part.Name) with { Processor = one.Part }),
        .. MachineLibrary.Coolers.Select(one => Part(PartKind.Cooler, one.Part.Name) with { Cooler = one.Part with { Id = "" } }),
        .. MachineLibrary.Cases.Select(one => Part(PartKind.Case, one.Part.Name!) with { Case = one.Part }),
        .. MachineLibrary.Graphics.Select(one => Part(PartKind.Graphics, one.Part.Name!) with { Graphics = one.Part }),
        .. Rest(),
    ];

    private static Row Part(string kind, string name) => new(kind, name, null, null, null, null, null, null, null);

    private static Row[] Rest()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Server.Demo.parts.json")!;
        return JsonSerializer.Deserialize<Row[]>(stream, RemedosContext.Json)!;
    }

    public static void Add(RemedosContext context, Workshop workshop, DateTimeOffset now)
    {
        foreach (Row row in Shelf)
        {
            if (row.Values.Problem(row.Kind) is { } problem)
            {
                throw new InvalidDataException($"“{row.Name}”: {problem}");
            }

            context.Parts.Add(
                new Part
                {
                    Id = Guid.CreateVersion7(now),
                    WorkshopId = workshop.Id,
                    Kind = row.Kind,
                    Name = row.Name,
                    Values = row.Values,
                    ChangedAt = now,
                }
            );
        }
    }
}
