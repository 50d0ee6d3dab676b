using Microsoft.EntityFrameworkCore;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Records;

/// <summary>What the workshop has seen of coolers by their names, for wherever one is offered or quoted.</summary>
internal sealed class CoolerMemory
{
    private readonly IReadOnlyDictionary<string, SeenHere> _seen;
    private readonly Dictionary<string, string> _before;

    private CoolerMemory(IReadOnlyDictionary<string, SeenHere> seen, Dictionary<string, string> before) =>
        (_seen, _before) = (seen, before);

    /// <summary>All of a workshop.</summary>
    /// <param name="parts">The workshop's: a cooler's own say whose next generation it is.</param>
    public static async Task<CoolerMemory> OfAsync(
        RemedosContext context,
        Guid workshop,
        IEnumerable<Part> parts,
        CancellationToken cancellation
    )
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

        Dictionary<string, string> before = [];
        foreach (Part part in parts)
        {
            if (part.Values.Cooler?.Follows is { } follows)
            {
                before[RecordKey.Of(part.Name)] = follows;
            }
        }

        return new CoolerMemory(seen, before);
    }

    /// <summary>What was seen of a cooler, else of the generation before it; null for nothing.</summary>
    public SeenHere? Of(string name) =>
        _seen.GetValueOrDefault(RecordKey.Of(name))
        ?? (
            _before.GetValueOrDefault(RecordKey.Of(name)) is { } before && _seen.GetValueOrDefault(RecordKey.Of(before)) is { } seen
                ? SeenHere.OfTheOneBefore(before, seen)
                : null
        );
}
