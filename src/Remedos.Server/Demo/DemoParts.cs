using System.Reflection;
using System.Text.Json;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Demo;

/// <summary>The demo workshop's library of parts. All invented, and consistent with the simulated machines.</summary>
internal static class DemoParts
{
    private sealed record Row(
        string Kind,
        string Name,
        ProcessorPart? Processor,
        BoardPart? Board,
        MemoryPart? Memory,
        GraphicsPart? Graphics,
        CasePart? Case,
        CoolerPart? Cooler,
        FanPart? Fan
    );

    public static void Add(RemedosContext context, Workshop workshop, DateTimeOffset now)
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Server.Demo.parts.json")!;
        foreach (Row row in JsonSerializer.Deserialize<Row[]>(stream, RemedosContext.Json)!)
        {
            PartValues values = new(row.Processor, row.Board, row.Memory, row.Graphics, row.Case, row.Cooler, row.Fan);
            if (values.Problem(row.Kind) is { } problem)
            {
                throw new InvalidDataException($"parts.json: “{row.Name}”: {problem}");
            }

            context.Parts.Add(
                new Part
                {
                    Id = Guid.CreateVersion7(now),
                    WorkshopId = workshop.Id,
                    Kind = row.Kind,
                    Name = row.Name,
                    Values = values,
                    ChangedAt = now,
                }
            );
        }
    }
}
