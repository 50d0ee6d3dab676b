using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Planning;
using Remedos.Data.Runs;

namespace Remedos.Server.Bundles;

/// <summary>Everything of a workshop but its jobs, as `workshop.json` holds it.</summary>
/// <param name="Columns">What it has said of the columns of logs.</param>
/// <param name="Bays">Numbers as painted on the bench; machines join them anew.</param>
/// <param name="Days">Those on which something is different; null in archives of before.</param>
internal sealed record WorkshopRecord(
    Workshop Workshop,
    IReadOnlyList<PersonRecord> People,
    IReadOnlyList<PartRecord> Parts,
    IReadOnlyList<RememberedRoles> Columns,
    IReadOnlyList<int> Bays,
    IReadOnlyList<EventRecord> Events,
    IReadOnlyList<WorkDay>? Days = null
);

/// <summary>A part with its history.</summary>
internal sealed record PartRecord(
    Guid Id,
    string Kind,
    string Name,
    PartValues Values,
    DateTimeOffset ChangedAt,
    DateTimeOffset? RetiredAt,
    IReadOnlyList<EventRecord> Events
);
