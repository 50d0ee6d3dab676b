using System.Globalization;
using Microsoft.EntityFrameworkCore;

namespace Remedos.Data.Samples;

/// <summary>
/// Samples lie by the month of their run. A run's id begins with its moment (UUID version 7, RFC 9562), so that a range of ids is a month
/// and every query that names its run reads one part. Runs with other ids, and months that nobody has made a part for, lie in the part for
/// the
/// rest.
/// </summary>
public static class SampleMonths
{
    private static readonly string[] Tables = ["sample_chunks", "time_chunks"];

    /// <summary>Any number, the same for all servers: whoever holds it makes parts.</summary>
    private const long Lock = 7_304_131;

    /// <summary>Months ahead for which parts stand ready, so that a server that runs on never writes into the rest.</summary>
    private const int Ahead = 3;

    /// <summary>A month is moved out of the rest if it has so many runs: parts of a few rows cost more than they gain.</summary>
    private const int FewestRuns = 20;

    /// <summary>Makes the parts of this and the next months, and of the months that have gathered in the rest.</summary>
    /// <returns>The months for which a part was made.</returns>
    public static async Task<IReadOnlyList<DateOnly>> EnsureAsync(RemedosContext context, DateOnly today, CancellationToken cancellation)
    {
        DateOnly first = new(today.Year, today.Month, 1);
        List<DateOnly> made = [];
        foreach (
            DateOnly month in Enumerable.Range(0, Ahead + 1).Select(first.AddMonths).Union(await InRestAsync(context, today, cancellation))
        )
        {
            await using var transaction = await context.Database.BeginTransactionAsync(cancellation);
            await context.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock({Lock})", cancellation);
            if (!await IsThereAsync(context, PartOf(Tables[0], month), cancellation))
            {
                foreach (string table in Tables)
                {
                    await MakeAsync(context, table, month, cancellation);
                }

                made.Add(month);
            }

            await transaction.CommitAsync(cancellation);
        }

        return made;
    }

    /// <summary>The smallest id that a run of a month can have.</summary>
    internal static Guid FirstId(DateOnly month)
    {
        Guid id = Guid.CreateVersion7(new DateTimeOffset(month.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero));
        byte[] bytes = id.ToByteArray(bigEndian: true);
        // Behind its 48 bits of milliseconds, and its version, nothing is smaller than zeros.
        (bytes[6], bytes[7]) = (0x70, 0);
        bytes.AsSpan(8).Clear();
        return new Guid(bytes, bigEndian: true);
    }

    private static string PartOf(string table, DateOnly month) =>
        string.Create(CultureInfo.InvariantCulture, $"{table}_{month.Year:0000}_{month.Month:00}");

    private static async Task<bool> IsThereAsync(RemedosContext context, string part, CancellationToken cancellation) =>
        await context.Database.SqlQuery<bool>($"SELECT to_regclass({part}) IS NOT NULL AS \"Value\"").SingleAsync(cancellation);

    private static async Task MakeAsync(RemedosContext context, string table, DateOnly month, CancellationToken cancellation)
    {
        string part = PartOf(table, month),
            within = $"run_id >= '{FirstId(month)}' AND run_id < '{FirstId(month.AddMonths(1))}'";
        // A part that is filled first and put in its place then keeps nobody waiting who reads or writes another month.
        await RunAsync(context, $"CREATE TABLE {part} (LIKE {table} INCLUDING DEFAULTS INCLUDING STORAGE)", cancellation);
        await RunAsync(
            context,
            $"WITH moved AS (DELETE FROM {table}_rest WHERE {within} RETURNING *) INSERT INTO {part} SELECT * FROM moved",
            cancellation
        );
        await RunAsync(
            context,
            $"ALTER TABLE {table} ATTACH PARTITION {part} FOR VALUES FROM ('{FirstId(month)}') TO ('{FirstId(month.AddMonths(1))}')",
            cancellation
        );
    }

    /// <summary>Months of which the rest has enough runs.</summary>
    private static async Task<IReadOnlyList<DateOnly>> InRestAsync(RemedosContext context, DateOnly today, CancellationToken cancellation)
    {
        List<Guid> runs = await context
            .Database.SqlQuery<Guid>($"SELECT DISTINCT run_id AS \"Value\" FROM time_chunks_rest")
            .ToListAsync(cancellation);
        return
        [
            .. runs.Where(run => run.Version == 7)
                .Select(run => Convert.ToInt64(run.ToString("N")[..12], 16))
                // A bundle may bring any id: one of the future waits in the rest.
                .Where(moment => moment < new DateTimeOffset(today.ToDateTime(TimeOnly.MaxValue), TimeSpan.Zero).ToUnixTimeMilliseconds())
                .Select(DateTimeOffset.FromUnixTimeMilliseconds)
                .Select(at => new DateOnly(at.Year, at.Month, 1))
                .GroupBy(month => month)
                .Where(month => month.Count() >= FewestRuns)
                .Select(month => month.Key)
                .Order(),
        ];
    }

    private static Task<int> RunAsync(RemedosContext context, string sql, CancellationToken cancellation) =>
        // Put together from table names, months and ids that are made here.
        context.Database.ExecuteSqlRawAsync(sql, cancellation);
}
