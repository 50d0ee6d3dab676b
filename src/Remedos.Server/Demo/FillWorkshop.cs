using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Server.Records;

namespace Remedos.Server.Demo;

/// <summary>
/// Makes a workshop as large as decades make it: copies of the demo's machines with other owners, ages, serial numbers and finds, spread
/// over ten years. The rows are copied by the database itself; what is kept of them is reckoned as for any change.
/// </summary>
internal static class FillWorkshop
{
    private const int RunsAJob = 17,
        EventsAJob = 12,
        StillOpen = 40,
        AtOnce = 5_000,
        FirstNumber = 1_000;

    private static readonly string[] Trades =
    [
        "Sail maker",
        "Net mender",
        "Rope walk",
        "Chandler",
        "Ferry office",
        "Smokehouse",
        "Harbour band",
        "Tide school",
        "Map drawer",
        "Lamp keeper",
        "Boat builder",
        "Salt works",
        "Reed cutter",
        "Dye house",
        "Glass house",
        "Bell foundry",
        "Seed store",
        "Wool shed",
    ];

    private static readonly string[] Places =
    [
        "Fen Lane",
        "Quay End",
        "Mill Steps",
        "Gull Row",
        "Heron Court",
        "Long Dyke",
        "Sluice Road",
        "Old Slip",
        "North Bank",
        "Weir House",
        "Sand Street",
        "Cooper Yard",
        "Tern Alley",
        "Bridge Foot",
        "Marsh Gate",
    ];

    /// <summary>Fills the first workshop.</summary>
    /// <param name="services">Of a server that has started.</param>
    /// <param name="jobs">How many.</param>
    /// <param name="log">Told how far it is.</param>
    /// <param name="cancellation">Stops it between two steps.</param>
    public static async Task RunAsync(IServiceProvider services, int jobs, Action<string> log, CancellationToken cancellation)
    {
        IDbContextFactory<RemedosContext> contexts = services.GetRequiredService<IDbContextFactory<RemedosContext>>();
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.Database.SetCommandTimeout(TimeSpan.FromMinutes(30));
        Workshop workshop = await context.Workshops.OrderBy(one => one.Id).FirstAsync(cancellation);
        if (await context.Jobs.AnyAsync(job => job.WorkshopId == workshop.Id && job.Number > FirstNumber, cancellation))
        {
            log("it is filled already");
            return;
        }

        await context.Database.OpenConnectionAsync(cancellation);
        await PlanAsync(context, workshop.Id, jobs, cancellation);
        await ExecuteAsync(context, "ANALYZE fill", [], cancellation);
        for (int from = 1; from <= jobs; from += AtOnce)
        {
            int to = Math.Min(jobs, from + AtOnce - 1);
            foreach (Copy copy in Copies)
            {
                await ExecuteAsync(context, await StatementAsync(context, copy, cancellation), [workshop.Id, from, to], cancellation);
            }

            log(string.Create(CultureInfo.InvariantCulture, $"{to} of {jobs} jobs"));
        }

        await ExecuteAsync(
            context,
            "UPDATE workshops SET next_job_number = greatest(next_job_number, {1}) WHERE id = {0}",
            [workshop.Id, FirstNumber + jobs + 1],
            cancellation
        );
        await ExecuteAsync(context, "VACUUM ANALYZE", [], cancellation);
        log("reckoning the records");
        await RelearnRecords.AllAsync(
            contexts,
            services.GetRequiredService<KeepRecords>(),
            workshop.Id,
            services.GetRequiredService<TimeProvider>(),
            cancellation
        );
        await ExecuteAsync(context, "VACUUM ANALYZE", [], cancellation);
    }

    /// <summary>What each copy is made from, and by how much its times are earlier; the last of them are in the workshop now.</summary>
    private static Task<int> PlanAsync(RemedosContext context, Guid workshop, int jobs, CancellationToken cancellation) =>
        ExecuteAsync(
            context,
            $$"""
            CREATE TEMP TABLE fill AS
            WITH models AS (
                SELECT j.id, j.created_at, row_number() OVER (ORDER BY j.number) - 1 AS at, count(*) OVER () AS of,
                       greatest(1, ceil({{RunsAJob}}::numeric / greatest(1, (SELECT count(*) FROM runs r WHERE r.workshop_id = j.workshop_id
                           AND r.job_id = j.id AND r.removed_at IS NULL))))::int AS times
                FROM jobs j WHERE j.workshop_id = {0}
            ), coolers AS (
                SELECT name, row_number() OVER (ORDER BY name) - 1 AS at, count(*) OVER () AS of
                FROM parts WHERE workshop_id = {0} AND kind = 'cooler'
            )
            SELECT n, m.id AS model, m.times, m.created_at - (now() - ({1} - n) * interval '3650 days' / {1}) AS earlier,
                   n > {1} - {{StillOpen}} AS open,
                   c.name || CASE WHEN n / 7 % 4 = 0 THEN '' ELSE ' series ' || n / 7 % 4 END AS cooler,
                   '{{{string.Join(',', DiagnosisTables.Causes.Select(cause => cause.Id))}}}'::text[] AS causes
            FROM generate_series(1, {1}) n
            JOIN models m ON m.at = n % m.of
            JOIN coolers c ON c.at = n / 3 % c.of
            """,
            [workshop, jobs],
            cancellation
        );

    /// <summary>How a table is copied.</summary>
    /// <param name="Job">Its column that says whose a row is.</param>
    /// <param name="Times">Whether its rows are copied until a job has its runs.</param>
    /// <param name="Only">Which rows; null for all.</param>
    /// <param name="Otherwise">Columns that are not what they were copied from.</param>
    private sealed record Copy(
        string Table,
        string Job,
        IReadOnlyDictionary<string, string> Otherwise,
        bool Times = false,
        string? Only = null
    );

    private static readonly Dictionary<string, string> Nothing = [];

    private static readonly Copy[] Copies =
    [
        new(
            "jobs",
            "id",
            new Dictionary<string, string>
            {
                ["number"] = $"{FirstNumber} + f.n",
                ["owner"] = $"{Pick(Trades, "f.n / 5")} || ', ' || {Pick(Places, "f.n / 90")}",
                ["contact"] = "'0555 ' || lpad((f.n / 5)::text, 6, '0')",
                ["machine"] = "coalesce(t.machine, 'Machine') || ' ' || f.n / 3",
                ["serial"] = "'SN' || lpad((f.n / 3)::text, 7, '0')",
                ["parts_cooler"] = "f.cooler",
                ["built_on"] = "(t.created_at - f.earlier)::date - (200 + f.n * 37 % 1900)",
                ["handed_over_at"] =
                    "CASE WHEN f.open THEN NULL ELSE coalesce(t.handed_over_at, t.created_at + interval '3 days') - f.earlier END",
                ["changed_at"] =
                    "CASE WHEN f.open THEN t.changed_at ELSE coalesce(t.handed_over_at, t.created_at + interval '3 days') END - f.earlier",
                ["recheck_on"] = "CASE WHEN f.open THEN NULL ELSE (t.created_at - f.earlier)::date + 180 END",
                ["repair_causes"] =
                    "CASE WHEN f.open OR f.n % 10 < 3 THEN t.repair_causes "
                    + "ELSE jsonb_build_array(f.causes[1 + (f.n * 7) % array_length(f.causes, 1)]) END",
            }
        ),
        new("setups", "job_id", Nothing),
        new("mounts", "job_id", Nothing),
        new("rounds", "job_id", Nothing),
        new(
            "log_files",
            "job",
            new Dictionary<string, string> { ["sha256"] = "md5(t.sha256 || f.n || '.' || r) || md5(r || '.' || f.n || t.sha256)" },
            Times: true
        ),
        new("runs", "job_id", Nothing, Times: true, Only: "t.removed_at IS NULL"),
        new(
            "job_events",
            "job_id",
            new Dictionary<string, string> { ["undoes"] = "NULL" },
            Only: $"(SELECT count(*) FROM job_events e WHERE e.job_id = t.job_id AND e.id < t.id) < {EventsAJob}"
        ),
    ];

    private static string Pick(string[] words, string by) =>
        $"('{{{string.Join(',', words.Select(word => $"\"{word}\""))}}}'::text[])[1 + ({by}) % {words.Length}]";

    private static async Task<string> StatementAsync(RemedosContext context, Copy copy, CancellationToken cancellation)
    {
        List<Column> columns = await context
            .Database.SqlQuery<Column>(
                $"""
                SELECT column_name AS name, data_type AS type FROM information_schema.columns
                WHERE table_schema = current_schema() AND table_name = {copy.Table} AND is_generated = 'NEVER' AND is_identity = 'NO'
                ORDER BY ordinal_position
                """
            )
            .ToListAsync(cancellation);
        string again = copy.Times ? " || '.' || r" : "";
        IEnumerable<string> values = columns.Select(column =>
            copy.Otherwise.TryGetValue(column.Name, out string? other) ? other
            : column is { Name: "workshop_id" or "person_id" } ? $"t.{column.Name}"
            : column.Type == "uuid" ? $"md5(t.{column.Name} || '.' || f.n{(IsOnce(copy, column.Name) ? "" : again)})::uuid"
            : column.Type.StartsWith("timestamp", StringComparison.Ordinal) ? $"t.{column.Name} - f.earlier"
            : $"t.{column.Name}"
        );
        string source =
            copy.Table == "log_files"
                ? "(SELECT DISTINCT l.*, u.job_id AS job FROM log_files l JOIN runs u "
                    + "ON u.workshop_id = l.workshop_id AND u.log_file_id = l.id "
                    + "WHERE u.workshop_id = {0} AND u.job_id IN (SELECT model FROM fill))"
                : copy.Table;
        return $$"""
            INSERT INTO {{copy.Table}} ({{string.Join(", ", columns.Select(column => column.Name))}})
            SELECT {{string.Join(", ", values)}}
            FROM fill f JOIN {{source}} t ON t.workshop_id = {0} AND t.{{copy.Job}} = f.model
            {{(copy.Times ? "CROSS JOIN LATERAL generate_series(1, f.times) r" : "")}}
            WHERE f.n BETWEEN {1} AND {2}{{(copy.Only is null ? "" : $" AND {copy.Only}")}}
            """;
    }

    /// <summary>Whether what a column names is there once for a job, however often its rows are copied.</summary>
    private static bool IsOnce(Copy copy, string column) =>
        column is "job_id" or "mount_id" or "setup_id" || (copy.Job == "id" && column == "id");

    private static Task<int> ExecuteAsync(RemedosContext context, string sql, object[] values, CancellationToken cancellation) =>
        // Only what is written here is put together; what comes from outside is a parameter.
        context.Database.ExecuteSqlRawAsync(
            values.Length == 0 ? sql : sql.Replace("'{", "'{{", StringComparison.Ordinal).Replace("}'", "}}'", StringComparison.Ordinal),
            values,
            cancellation
        );

    private sealed record Column(string Name, string Type);
}
