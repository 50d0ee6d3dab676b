using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Npgsql;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Coolers;
using Remedos.Server.Runs;

namespace Remedos.Server.Parts;

/// <summary>A part that the workshop knows.</summary>
/// <param name="Version">Sent back with a change, so that nobody's work is overwritten.</param>
/// <param name="Learnt">What this bench has learnt of a cooler; null for nothing.</param>
public sealed record PartAnswer(Guid Id, string Kind, string Name, PartValues Values, IReadOnlyDictionary<string, string> Cells, DateTimeOffset? RetiredAt, uint Version, string? Learnt);

/// <summary>A part to be kept.</summary>
public sealed record NewPart(string Kind, string Name, PartValues? Values);

/// <summary>A part as it was typed: a text for each field, as in a table's cells.</summary>
/// <param name="Version">The one that was read; null for a new part.</param>
public sealed record TypedPart(string Kind, string Name, IReadOnlyDictionary<string, string> Cells, uint? Version);

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
        parts.MapPost("/", AddAsync).WithName("addPart").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts.MapPost("/typed", TypedAsync).WithName("addTypedPart").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts.MapPut("/{id:guid}", ChangeAsync).WithName("changePart").ProducesProblem(StatusCodes.Status404NotFound).ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        parts.MapPut("/{id:guid}/retired", RetireAsync).WithName("retirePart").ProducesProblem(StatusCodes.Status404NotFound);
        parts.MapPartFiles();
    }

    private static async Task<Ok<PartAnswer[]>> ListAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, IMemoryCache remembered, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        List<Part> parts = await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop.Id).OrderBy(part => part.Kind).ThenBy(part => part.Name).ToListAsync(cancellation);
        IReadOnlyDictionary<string, Core.Learning.LeagueEntry> learnt = await League.LearntAsync(context, remembered, parts, cancellation);
        return TypedResults.Ok(parts.Select(part => Answer(part) with { Learnt = part.Kind == PartKind.Cooler ? learnt.GetValueOrDefault(part.Name)?.Sentence : null }).ToArray());
    }

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> AddAsync(NewPart part, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation) =>
        KeepAsync(null, part.Kind, part.Name, _ => (part.Values ?? new PartValues(), []), null, bench, contexts, clock, cancellation);

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> TypedAsync(TypedPart part, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation) =>
        KeepAsync(null, part.Kind, part.Name, Typed(part), null, bench, contexts, clock, cancellation);

    private static Task<Results<Ok<PartAnswer>, ProblemHttpResult>> ChangeAsync(Guid id, TypedPart part, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation) =>
        KeepAsync(id, part.Kind, part.Name, Typed(part), part.Version, bench, contexts, clock, cancellation);

    /// <summary>A name alone is a part as well: it is known, and nothing of it.</summary>
    private static Func<string, (PartValues, IReadOnlyList<string>)> Typed(TypedPart part) => name =>
        part.Cells.Values.All(string.IsNullOrWhiteSpace) ? (new PartValues(), []) : (PartText.Read(part.Kind, name, part.Cells, out IReadOnlyList<string> problems), problems);

    /// <summary>Keeps a new part, or a known one anew.</summary>
    private static async Task<Results<Ok<PartAnswer>, ProblemHttpResult>> KeepAsync(
        Guid? id, string kind, string typedName, Func<string, (PartValues Values, IReadOnlyList<string> Problems)> read, uint? version, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        string name = typedName.Replace("\0", "", StringComparison.Ordinal).Trim();
        if (!PartKind.All.Contains(kind) || name.Length is 0 or > LongestName)
        {
            return RunChanges.Refused(!PartKind.All.Contains(kind) ? $"“{kind}” is no kind of part; known are {string.Join(", ", PartKind.All)}." : $"A part’s name has 1 to {LongestName} letters.");
        }

        (PartValues values, IReadOnlyList<string> problems) = read(name);
        if ((problems.Count > 0 ? string.Join(" ", problems) : values.Problem(kind)) is { } wrong)
        {
            return RunChanges.Refused(wrong);
        }

        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        Part? row = id is null ? null : await context.Parts.SingleOrDefaultAsync(part => part.Id == id && part.WorkshopId == workshop.Id, cancellation);
        if (id is not null && (row is null || row.Kind != kind))
        {
            return NoSuchPart();
        }

        if (row is not null && row.Version != version)
        {
            return TypedResults.Problem("This part was changed elsewhere meanwhile. What you typed stays here; look at theirs before you save it again.", statusCode: StatusCodes.Status409Conflict, extensions: [new("theirs", Answer(row))]);
        }

        string? before = row is null ? null : Json(row);
        if (row is null)
        {
            row = new Part { Id = Guid.CreateVersion7(now), WorkshopId = workshop.Id, Kind = kind, Name = name };
            context.Parts.Add(row);
        }

        (row.Name, row.Values, row.ChangedAt) = (name, values, now);
        Append(context, row, person.Id, now, before is null ? "added" : "changed", before);
        try
        {
            await context.SaveChangesAsync(cancellation);
        }
        catch (DbUpdateException failure) when (failure.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return TypedResults.Problem($"“{name}” is among the parts already.", statusCode: StatusCodes.Status409Conflict);
        }
        catch (DbUpdateConcurrencyException)
        {
            return TypedResults.Problem("This part was changed elsewhere in this moment. Save it again.", statusCode: StatusCodes.Status409Conflict);
        }

        return TypedResults.Ok(Answer(row));
    }

    private static async Task<Results<Ok<PartAnswer>, ProblemHttpResult>> RetireAsync(Guid id, bool retired, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Part? row = await context.Parts.SingleOrDefaultAsync(part => part.Id == id && part.WorkshopId == workshop.Id, cancellation);
        if (row is null)
        {
            return NoSuchPart();
        }

        if (row.RetiredAt is null == retired)
        {
            string before = Json(row);
            row.RetiredAt = retired ? clock.GetUtcNow() : null;
            Append(context, row, person.Id, clock.GetUtcNow(), retired ? "retired" : "brought-back", before);
            await context.SaveChangesAsync(cancellation);
        }

        return TypedResults.Ok(Answer(row));
    }

    /// <summary>Writes down who changed a part, when, and what it was.</summary>
    internal static void Append(RemedosContext context, Part part, Guid person, DateTimeOffset at, string kind, string? before) =>
        context.PartEvents.Add(new PartEvent { WorkshopId = part.WorkshopId, PartId = part.Id, PersonId = person, At = at, Kind = kind, Before = before, After = Json(part) });

    internal static string Json(Part part) => JsonSerializer.Serialize(new Snapshot(part.Name, part.Values, part.RetiredAt is not null), RemedosContext.Json);

    private static ProblemHttpResult NoSuchPart() => TypedResults.Problem("There is no such part.", statusCode: StatusCodes.Status404NotFound);

    private static PartAnswer Answer(Part part) => new(part.Id, part.Kind, part.Name, part.Values, PartText.Cells(part.Kind, part.Values), part.RetiredAt, part.Version, null);
}
