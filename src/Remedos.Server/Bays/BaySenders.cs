using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Data;

namespace Remedos.Server.Bays;

/// <summary>
/// Which bay a token speaks for. It is remembered for some seconds, so that readings that come ten times a second ask once; what is sent
/// is taken only if the bay, locked, still has that token (<see cref="BayIntake"/>).
/// </summary>
internal sealed class BaySenders(IDbContextFactory<RemedosContext> contexts, IMemoryCache remembered, TimeProvider clock)
{
    private static readonly TimeSpan Remembered = TimeSpan.FromSeconds(10);

    /// <summary>The bay of a number that a token, by its hash, speaks for; null for none.</summary>
    public async Task<(Guid Workshop, Guid Bay)?> FindAsync(int number, string token, CancellationToken cancellation)
    {
        if (remembered.TryGetValue(Key(number, token), out (Guid, Guid) known))
        {
            return known;
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        var bay = await context
            .Bays.AsNoTracking()
            .Where(bay => bay.TokenSha256 == token && bay.Number == number)
            .Where(BayToken.Holds(clock.GetUtcNow()))
            .Select(bay => new { bay.WorkshopId, bay.Id })
            .SingleOrDefaultAsync(cancellation);
        return bay is null ? null : remembered.Set(Key(number, token), (bay.WorkshopId, bay.Id), Remembered);
    }

    public void Forget(int number, string token) => remembered.Remove(Key(number, token));

    public static ProblemHttpResult Unknown(int number) =>
        TypedResults.Problem(
            $"Bay {number} does not know this token, or it has expired. A new one is made on the bay’s card.",
            statusCode: StatusCodes.Status401Unauthorized
        );

    private static (Type, int, string) Key(int number, string token) => (typeof(BaySenders), number, token);
}
