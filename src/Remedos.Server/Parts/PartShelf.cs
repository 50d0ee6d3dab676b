using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Coolers;

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
        ReferenceStand stand = await ReferenceStand.OfAsync(context, workshop, cancellation);
        return await OfAsync(context, remembered, workshop, stand, cancellation);
    }

    /// <summary>The same where it is known already how they stand.</summary>
    public static async Task<IReadOnlyList<Part>> OfAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Guid workshop,
        ReferenceStand stand,
        CancellationToken cancellation
    ) => (await remembered.GetOrCreateAsync((typeof(PartShelf), workshop, stand.Parts), async entry =>
            {
                entry.SlidingExpiration = Remembered;
                return await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop).ToListAsync(cancellation);
            }))!;
}
