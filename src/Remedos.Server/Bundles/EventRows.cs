using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;

namespace Remedos.Server.Bundles;

/// <summary>A table of changes: how they are written down in a bundle, and how they are put in again in their order.</summary>
/// <param name="Table">Which.</param>
/// <param name="Owner">The column that names what was changed; null for the workshop itself.</param>
internal sealed record EventRows(string Table, string? Owner)
{
    public static readonly EventRows OfJobs = new("job_events", "job_id"),
        OfParts = new("part_events", "part_id"),
        OfWorkshops = new("workshop_events", null);

    /// <summary>Changes of a job, the first first.</summary>
    public static IReadOnlyList<EventRecord> Of(IReadOnlyList<JobEvent> changes)
    {
        Dictionary<long, long> numbers = changes.Index().ToDictionary(one => one.Item.Id, one => one.Index + 1L);
        return
        [
            .. changes.Select(e => new EventRecord(
                numbers[e.Id],
                e.PersonId,
                e.At,
                e.Kind,
                e.Subject,
                Json(e.Before),
                Json(e.After),
                e.Undoes is { } other ? numbers[other] : null
            )),
        ];
    }

    /// <summary>Changes of a part, the first first.</summary>
    public static IReadOnlyList<EventRecord> Of(IEnumerable<PartEvent> changes) =>
        [.. changes.Select((e, i) => new EventRecord(i + 1, e.PersonId, e.At, e.Kind, null, Json(e.Before), Json(e.After), null))];

    /// <summary>Changes of the workshop itself, the first first.</summary>
    public static IReadOnlyList<EventRecord> Of(IEnumerable<WorkshopEvent> changes) =>
        [.. changes.Select((e, i) => new EventRecord(i + 1, e.PersonId, e.At, e.Kind, e.Subject, Json(e.Before), Json(e.After), null))];

    /// <summary>Adds changes within the context's transaction, under numbers that the database gives.</summary>
    /// <param name="owner">What was changed.</param>
    public async Task AddAsync(
        RemedosContext context,
        Guid workshopId,
        Guid? owner,
        IReadOnlyList<EventRecord> changes,
        CancellationToken cancellation
    )
    {
        if (changes.Count == 0)
        {
            return;
        }

        EventRecord[] ordered = [.. changes.OrderBy(change => change.Number)];
        string next = $"SELECT nextval(pg_get_serial_sequence('{Table}', 'id')) AS \"Value\" FROM generate_series(1, {{0}})";
        List<long> ids = await context.Database.SqlQueryRaw<long>(next, ordered.Length).ToListAsync(cancellation);
        Dictionary<long, long> given = ordered.Zip(ids).ToDictionary(pair => pair.First.Number, pair => pair.Second);
        string columns =
            Owner is null ? "subject, "
            : Owner == OfParts.Owner ? "part_id, "
            : "job_id, subject, undoes, ";
        NpgsqlConnection connection = (NpgsqlConnection)context.Database.GetDbConnection();
        await using NpgsqlBinaryImporter rows = await connection.BeginBinaryImportAsync(
            $"COPY {Table} ({columns}workshop_id, id, person_id, at, kind, before, after) FROM STDIN (FORMAT BINARY)",
            cancellation
        );
        foreach (EventRecord change in ordered)
        {
            await rows.StartRowAsync(cancellation);
            if (Owner is not null)
            {
                await rows.WriteAsync(owner!.Value, NpgsqlDbType.Uuid, cancellation);
            }

            if (this != OfParts)
            {
                await TextAsync(change.Subject, NpgsqlDbType.Varchar);
            }

            if (this == OfJobs)
            {
                await (
                    change.Undoes is { } other
                        ? rows.WriteAsync(given[other], NpgsqlDbType.Bigint, cancellation)
                        : rows.WriteNullAsync(cancellation)
                );
            }

            await rows.WriteAsync(workshopId, NpgsqlDbType.Uuid, cancellation);
            await rows.WriteAsync(given[change.Number], NpgsqlDbType.Bigint, cancellation);
            await rows.WriteAsync(change.Person, NpgsqlDbType.Uuid, cancellation);
            await rows.WriteAsync(change.At.ToUniversalTime(), NpgsqlDbType.TimestampTz, cancellation);
            await TextAsync(change.Kind, NpgsqlDbType.Varchar);
            await TextAsync(change.Before?.GetRawText(), NpgsqlDbType.Jsonb);
            await TextAsync(change.After?.GetRawText(), NpgsqlDbType.Jsonb);
        }

        await rows.CompleteAsync(cancellation);

        Task TextAsync(string? text, NpgsqlDbType type) =>
            text is null ? rows.WriteNullAsync(cancellation) : rows.WriteAsync(text, type, cancellation);
    }

    private static JsonElement? Json(string? text) => text is null ? null : JsonSerializer.Deserialize<JsonElement>(text);
}
