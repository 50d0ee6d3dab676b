using Microsoft.EntityFrameworkCore;
using Remedos.Core.Learning;
using Remedos.Data;

namespace Remedos.Server.Records;

/// <summary>What the workshop has seen of coolers by their names, for wherever one is offered or quoted.</summary>
internal sealed class CoolerMemory
{
    private readonly IReadOnlyDictionary<string, SeenHere> _seen;

    private CoolerMemory(IReadOnlyDictionary<string, SeenHere> seen) => _seen = seen;

    public static async Task<CoolerMemory> OfAsync(RemedosContext context, Guid workshop, CancellationToken cancellation)
    {
        Dictionary<string, SeriesSummary> wear = await context
            .SeriesTotals.AsNoTracking()
            .Where(total => total.WorkshopId == workshop && total.Wear != null)
            .ToDictionaryAsync(total => total.Series, total => total.Wear!, cancellation);
        Dictionary<string, FittedParts> fitted = await context
            .FittedTotals.AsNoTracking()
            .Where(total => total.WorkshopId == workshop && total.Kind == FittedKind.Cooler)
            .ToDictionaryAsync(total => total.Part, total => total.Seen, cancellation);
        Dictionary<string, SeenHere> seen = [];
        foreach (string cooler in wear.Keys.Union(fitted.Keys))
        {
            if (SeenHere.Of(wear.GetValueOrDefault(cooler), fitted.GetValueOrDefault(cooler)) is { } here)
            {
                seen[cooler] = here;
            }
        }

        return new CoolerMemory(seen);
    }

    /// <summary>What was seen of a cooler; null for nothing.</summary>
    public SeenHere? Of(string name) => _seen.GetValueOrDefault(RecordKey.Of(name));
}
