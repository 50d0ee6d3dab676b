using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Records;

namespace Remedos.Server.Coolers;

/// <summary>The workshop's coolers with what its own bench has learnt of them.</summary>
internal static class League
{
    /// <summary>All coolers whose values are known; with those that are retired only if one is on the machine.</summary>
    /// <param name="context">To read by.</param>
    /// <param name="parts">All of the workshop's.</param>
    /// <param name="current">The cooler that is on the machine at hand.</param>
    /// <param name="workshop">Whose.</param>
    /// <param name="cancellation">Stops it.</param>
    public static async Task<IReadOnlyList<CoolerPart>> CoolersAsync(
        RemedosContext context,
        IReadOnlyList<Part> parts,
        string? current,
        Guid workshop,
        CancellationToken cancellation
    )
    {
        IReadOnlyDictionary<string, LeagueEntry> learnt = await LeagueRecords.LearntAsync(context, workshop, cancellation);
        return
        [
            .. parts
                .Where(part =>
                    part.Kind == PartKind.Cooler
                    && part.Values.Cooler is not null
                    && (part.RetiredAt is null || string.Equals(part.Name, current?.Trim(), StringComparison.OrdinalIgnoreCase))
                )
                .Select(part =>
                    CoolerLeague.Apply(
                        part.Values.Cooler! with
                        {
                            Id = part.Id.ToString(),
                            Name = part.Name,
                        },
                        learnt.GetValueOrDefault(part.Name)
                    )
                ),
        ];
    }
}
