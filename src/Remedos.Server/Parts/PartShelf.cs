using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Parts;

/// <summary>A workshop's parts as they are to be read, not changed: many, seldom different, and wanted by every page.</summary>
internal static class PartShelf
{
    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(30);

    /// <summary>All of them, those that are retired too.</summary>
    public static async Task<IReadOnlyList<Part>> OfAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Guid workshop,
        CancellationToken cancellation
    )
    {
        string stand = await StandAsync(context, workshop, cancellation);
        return (await remembered.GetOrCreateAsync($"parts {workshop} {stand}", async entry =>
            {
                entry.SlidingExpiration = Remembered;
                return await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop).ToListAsync(cancellation);
            }))!;
    }

    /// <summary>
    /// A text that is another one once any part has changed: of two that were changed at once the later moment may be kept first, so that
    /// the latest alone would not tell.
    /// </summary>
    public static Task<string> StandAsync(RemedosContext context, Guid workshop, CancellationToken cancellation) =>
        context
            .Database.SqlQuery<string>(
                $"""
                SELECT count(*) || ':' || coalesce(sum(extract(epoch FROM changed_at)), 0) AS "Value"
                FROM parts WHERE workshop_id = {workshop}
                """
            )
            .SingleAsync(cancellation);
}
