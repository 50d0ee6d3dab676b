using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Records;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Parts;

/// <summary>A part that the workshop knows.</summary>
/// <param name="Version">Sent back with a change, so that nobody's work is overwritten.</param>
/// <param name="Learnt">What this bench has learnt of a cooler; null for nothing.</param>
public sealed record PartAnswer(
    Guid Id,
    string Kind,
    string Name,
    PartValues Values,
    IReadOnlyDictionary<string, string> Cells,
    DateTimeOffset? RetiredAt,
    uint Version,
    string? Learnt
);

/// <summary>A part to be kept.</summary>
public sealed record NewPart(string Kind, string Name, PartValues? Values = null);

/// <summary>A part as it was typed: a text for each field, as in a table's cells.</summary>
/// <param name="Version">The one that was read; null for a new part.</param>
public sealed record TypedPart(string Kind, string Name, IReadOnlyDictionary<string, string> Cells, uint? Version = null);

/// <summary>The workshop's own library of parts, to choose from at intake and to match against.</summary>
internal static class PartEndpoints
{
    private const int LongestName = 200;

    private sealed record Snapshot(string Name, PartValues Values, bool Retired);

    public static void MapParts(this RouteGroupBuilder api)
    {
        RouteGroupBuilder parts = api.MapGroup("/parts").WithTags("parts");
        parts.MapGet("/", ListAsync).WithName("listParts");
        parts.MapGet("/fields", () => TypedResults.Ok(PartFields.All)).WithName("listPartFields");
        parts
            .MapPost("/", AddAsync)
            .WithName("addPart")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts
            .MapPost("/typed", TypedAsync)
            .WithName("addTypedPart")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts
            .MapPut("/{id:guid}", ChangeAsync)
            .WithName("changePart")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts.MapPut("/{id:guid}/retired", RetireAsync).WithName("retirePart").ProducesProblem(StatusCodes.Status404NotFound);
        parts.MapPartFiles();
    }

    private static async Task<Ok<PartAnswer[]>> ListAsync(Caller caller, IMemoryCache remembered, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        List<Part> parts = await context
            .Parts.AsNoTracking()
            .Where(part => part.WorkshopId == workshop.Id)
            .OrderBy(part => part.Kind)
            .ThenBy(part => part.Name)
            .ToListAsync(cancellation);
        IReadOnlyDictionary<string, Core.Learning.LeagueEntry> learnt = await LeagueRecords.LearntAsync(context, workshop.Id, cancellation);
        return TypedResults.Ok(
            parts
                .Select(part =>
                    Answer(part) with
                    {
                        Learnt = part.Kind == PartKind.Cooler ? learnt.GetValueOrDefault(part.Name)?.Sentence : null,
                    }
                )
                .ToArray()
        );
    }

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> AddAsync(
        NewPart part,
        WriteDoor door,
        CancellationToken cancellation
    ) => KeepAsync(null, part.Kind, part.Name, _ => (part.Values ?? new PartValues(), []), null, door, cancellation);

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> TypedAsync(
        TypedPart part,
        WriteDoor door,
        CancellationToken cancellation
    ) => KeepAsync(null, part.Kind, part.Name, Typed(part), null, door, cancellation);

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        TypedPart part,
        WriteDoor door,
        CancellationToken cancellation
    ) => KeepAsync(id, part.Kind, part.Name, Typed(part), part.Version, door, cancellation);

    /// <summary>A name alone is a part as well: it is known, and nothing of it.</summary>
    private static Func<string, (PartValues, IReadOnlyList<string>)> Typed(TypedPart part) =>
        name =>
            part.Cells.Values.All(string.IsNullOrWhiteSpace)
                ? (new PartValues(), [])
                : (PartText.Read(part.Kind, name, part.Cells, out IReadOnlyList<string> problems), problems);

    /// <summary>Keeps a new part, or a known one anew.</summary>
    private static async Task<Results<Ok<PartAnswer>, ProblemHttpResult>> KeepAsync(
        Guid? id,
        string kind,
        string typedName,
        Func<string, (PartValues Values, IReadOnlyList<string> Problems)> read,
        uint? version,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        if (!PartKind.All.Contains(kind))
        {
            return Refusal.Of($"“{kind}” is no kind of part; known are {string.Join(", ", PartKind.All)}.");
        }

        string name = NameOf(typedName);
        if (name.Length is 0 or > LongestName)
        {
            return Refusal.Of($"A part’s name has 1 to {LongestName} letters.");
        }

        (PartValues values, IReadOnlyList<string> problems) = read(name);
        if ((problems.Count > 0 ? string.Join(" ", problems) : values.Problem(kind)) is { } wrong)
        {
            return Refusal.Of(wrong);
        }

        Part? kept = null;
        return await door.WriteAsync(
            async write =>
            {
                Part? row = id is null ? null : await write.PartAsync(id.Value);
                if (id is not null && (row is null || row.Kind != kind))
                {
                    return NoSuchPart();
                }

                if (row is not null && row.Version != version)
                {
                    return TypedResults.Problem(
                        "This part was changed elsewhere meanwhile. What you typed stays here; look at theirs before you save it again.",
                        statusCode: StatusCodes.Status409Conflict,
                        extensions: [new("theirs", Answer(row))]
                    );
                }

                string key = name.ToLowerInvariant();
                if (
                    await write.Context.Parts.AnyAsync(
                        part =>
                            part.WorkshopId == write.WorkshopId
                            && part.Kind == kind
                            && part.Id != id
                            && EF.Property<string>(part, "NameKey") == key,
                        cancellation
                    )
                )
                {
                    return Refusal.Conflict($"“{name}” is among the parts already.");
                }

                string? before = row is null ? null : Json(row);
                if (row is null)
                {
                    row = new Part
                    {
                        Id = Guid.CreateVersion7(write.Now),
                        WorkshopId = write.WorkshopId,
                        Kind = kind,
                        Name = name,
                    };
                    write.Context.Parts.Add(row);
                }

                (row.Name, row.Values, row.ChangedAt) = (name, values, write.Now);
                Append(write, row, before is null ? "added" : "changed", before);
                kept = row;
                return null;
            },
            () => Task.FromResult(Answer(kept!)),
            cancellation
        );
    }

    /// <summary>A name as it is kept.</summary>
    internal static string NameOf(string typed) => Core.Bays.BayLine.Clean(typed).Trim();

    private static async Task<Results<Ok<PartAnswer>, ProblemHttpResult>> RetireAsync(
        Guid id,
        bool retired,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        Part? kept = null;
        return await door.WriteAsync(
            async write =>
            {
                if (await write.PartAsync(id) is not { } row)
                {
                    return NoSuchPart();
                }

                if (row.RetiredAt is null == retired)
                {
                    string before = Json(row);
                    row.RetiredAt = retired ? write.Now : null;
                    row.ChangedAt = write.Now;
                    Append(write, row, retired ? "retired" : "brought-back", before);
                }

                kept = row;
                return null;
            },
            () => Task.FromResult(Answer(kept!)),
            cancellation
        );
    }

    /// <summary>Writes down who changed a part, when, and what it was.</summary>
    internal static void Append(Write write, Part part, string kind, string? before) =>
        write.Context.PartEvents.Add(
            new PartEvent
            {
                WorkshopId = part.WorkshopId,
                PartId = part.Id,
                PersonId = write.PersonId,
                At = write.Now,
                Kind = kind,
                Before = before,
                After = Json(part),
            }
        );

    internal static string Json(Part part) =>
        JsonSerializer.Serialize(new Snapshot(part.Name, part.Values, part.RetiredAt is not null), RemedosContext.Json);

    private static ProblemHttpResult NoSuchPart() => Refusal.None("part");

    private static PartAnswer Answer(Part part) =>
        new(part.Id, part.Kind, part.Name, part.Values, PartText.Cells(part.Kind, part.Values), part.RetiredAt, part.Version, null);
}
