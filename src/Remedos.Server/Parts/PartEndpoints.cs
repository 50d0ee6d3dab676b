using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Runs;

namespace Remedos.Server.Parts;

/// <summary>A part that the workshop knows.</summary>
public sealed record PartAnswer(Guid Id, string Kind, string Name, PartValues Values);

/// <summary>A part to be kept.</summary>
public sealed record NewPart(string Kind, string Name, PartValues? Values);

/// <summary>The workshop's own library of parts, to choose from at intake.</summary>
internal static class PartEndpoints
{
    private const int LongestName = 200;

    public static void MapParts(this RouteGroupBuilder api)
    {
        RouteGroupBuilder parts = api.MapGroup("/parts").WithTags("parts");
        parts.MapGet("/", ListAsync).WithName("listParts");
        parts.MapPost("/", AddAsync).WithName("addPart").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Ok<PartAnswer[]>> ListAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        List<Part> parts = await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop.Id).OrderBy(part => part.Kind).ThenBy(part => part.Name).ToListAsync(cancellation);
        return TypedResults.Ok(parts.Select(Answer).ToArray());
    }

    private static async Task<Results<Ok<PartAnswer>, ProblemHttpResult>> AddAsync(NewPart part, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        string name = part.Name.Replace("\0", "", StringComparison.Ordinal).Trim();
        PartValues values = part.Values ?? new PartValues();
        if (!PartKind.All.Contains(part.Kind) || name.Length is 0 or > LongestName || values.Problem(part.Kind) is not null)
        {
            return RunChanges.Refused(!PartKind.All.Contains(part.Kind) ? $"“{part.Kind}” is no kind of part; known are {string.Join(", ", PartKind.All)}." : name.Length is 0 or > LongestName ? $"A part’s name has 1 to {LongestName} letters." : values.Problem(part.Kind)!);
        }

        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        Part row = new() { Id = Guid.CreateVersion7(now), WorkshopId = workshop.Id, Kind = part.Kind, Name = name, Values = values, ChangedAt = now };
        context.Parts.Add(row);
        try
        {
            await context.SaveChangesAsync(cancellation);
        }
        catch (DbUpdateException failure) when (failure.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return TypedResults.Problem($"“{name}” is among the parts already.", statusCode: StatusCodes.Status409Conflict);
        }

        return TypedResults.Ok(Answer(row));
    }

    private static PartAnswer Answer(Part part) => new(part.Id, part.Kind, part.Name, part.Values);
}
