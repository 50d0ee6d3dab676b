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
        var stand = await context
            .Parts.Where(part => part.WorkshopId == workshop)
            .GroupBy(_ => 1)
            .Select(all => new { Count = all.Count(), Last = all.Max(part => part.ChangedAt) })
            .SingleOrDefaultAsync(cancellation);
        return stand is null
            ? []
            : (await remembered.GetOrCreateAsync($"parts {workshop} {stand.Count} {stand.Last.UtcTicks}", async entry =>
                {
                    entry.SlidingExpiration = Remembered;
                    return await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop).ToListAsync(cancellation);
                }))!;
    }
}
