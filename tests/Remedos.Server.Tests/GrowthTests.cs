using System.Collections.Concurrent;
using System.Data.Common;
using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Remedos.Data;
using Remedos.Server.Tests.Api;

namespace Remedos.Server.Tests;

/// <summary>A workshop with many jobs: nothing that a page asks or a save does reads through them.</summary>
public sealed class GrowthTests(GrowthTests.Filled app) : IClassFixture<GrowthTests.Filled>
{
    private const int Jobs = 3_000;

    /// <summary>What one statement may read of a table that grows with the jobs.</summary>
    private const int MostRows = 700;

    /// <summary>Which read everything because that is what they are asked for.</summary>
    private static readonly HashSet<string> Whole = ["getArchive", "getSeriesRecordsCsv", "getAuditCsv"];

    /// <summary>Tables that grow with the jobs.</summary>
    private static readonly HashSet<string> Growing =
    [
        "jobs",
        "setups",
        "mounts",
        "rounds",
        "plans",
        "plan_marks",
        "runs",
        "log_files",
        "imports",
        "job_events",
        "job_photos",
        "papers",
        "report_links",
        "bench_scatters",
        "series_shares",
        "league_shares",
        "repair_shares",
        "fitted_shares",
        "trial_shares",
        "kept_tags",
        "work_items",
    ];

    public sealed class Filled : App
    {
        public Statements Said { get; } = new();

        protected override Dictionary<string, string> Settings => new() { ["Demo"] = "true", ["Fill"] = Jobs.ToString() };

        protected override void Configure(IServiceCollection services) =>
            services.ConfigureDbContext<RemedosContext>(options => options.AddInterceptors(Said));

        public override async ValueTask InitializeAsync()
        {
            await base.InitializeAsync();
            await using RemedosContext context = await ContextAsync();
            // As after years in which each tag was looked at.
            await context.Database.ExecuteSqlAsync(
                $$"""
                INSERT INTO kept_tags (workshop_id, job_id, job_version, revision, day, waits_for, headline, now, work)
                SELECT workshop_id, id, xmin::text::bigint, 0, now()::date, 'done', '{"lead":"","claim":"","rest":""}', '',
                       '{"pieces":[],"asks":false}' FROM jobs
                ON CONFLICT DO NOTHING
                """
            );
            await context.Database.ExecuteSqlAsync($"VACUUM ANALYZE");
        }
    }

    /// <summary>Notes what is said to the database.</summary>
    public sealed class Statements : DbCommandInterceptor
    {
        private ConcurrentDictionary<string, NpgsqlParameter[]> _said = new();

        public ConcurrentDictionary<string, NpgsqlParameter[]> Take() => Interlocked.Exchange(ref _said, new());

        public override InterceptionResult<DbDataReader> ReaderExecuting(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result
        ) => Noted(command, result);

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        ) => ValueTask.FromResult(Noted(command, result));

        private InterceptionResult<DbDataReader> Noted(DbCommand command, InterceptionResult<DbDataReader> result)
        {
            _said.TryAdd(
                command.CommandText,
                [.. command.Parameters.Cast<NpgsqlParameter>().Select(parameter => (NpgsqlParameter)parameter.Clone())]
            );
            return result;
        }
    }

    /// <summary>Every address that is read, and the plan of everything that it asks.</summary>
    [Fact]
    public async Task No_address_reads_through_what_grows()
    {
        await using RemedosContext context = await app.ContextAsync();
        Data.Jobs.Job job = await context.Jobs.AsNoTracking().OrderBy(one => one.Number).LastAsync(one => one.HandedOverAt != null);
        Guid run = await context.Runs.Where(one => one.JobId == job.Id).Select(one => one.Id).FirstAsync();
        ApiDescription api = new(await app.GetAsync("/openapi/v1.json"));
        List<string> slow = [];
        int asked = 0;
        foreach (ApiOperation operation in api.Operations.Where(one => one.Method == "GET" && !Whole.Contains(one.Id)))
        {
            string path = operation.Path;
            foreach ((string name, _, _) in operation.Parameters.Where(parameter => parameter.In == "path"))
            {
                string id = path.Contains("/runs/", StringComparison.Ordinal) ? run.ToString() : job.Id.ToString();
                path = path.Replace($"{{{name}}}", name == "id" ? id : "1", StringComparison.Ordinal);
            }

            foreach (string query in Queries(operation, job))
            {
                app.Said.Take();
                using HttpResponseMessage answer = await app.Client.GetAsync(path + query);
                Assert.True(answer.StatusCode != HttpStatusCode.InternalServerError, path + query);
                asked++;
                foreach ((string sql, NpgsqlParameter[] values) in app.Said.Take())
                {
                    slow.AddRange((await ReadsAsync(context, sql, values)).Select(read => $"{path}{query}: {read}\n{sql}"));
                }
            }
        }

        Assert.True(asked >= 50, $"{asked} addresses were asked.");
        Assert.True(slow.Count == 0, string.Join("\n\n", slow.Take(8)));
    }

    private static IEnumerable<string> Queries(ApiOperation operation, Data.Jobs.Job job) =>
        operation.Id switch
        {
            "listJobs" =>
            [
                "",
                $"?after={job.Id}",
                $"?search={Uri.EscapeDataString(job.Serial!)}",
                $"?search=SL-{job.Number}",
                "?search=zzzz",
                "?search=smokehouse%20gull",
            ],
            "getCoolerBehind" => ["?name=Rill%20240"],
            "getPartBehind" => ["?kind=cooler&name=Rill%20240"],
            "getTrialBehind" => ["?kind=paste&one=Chalk%202&other=Tallow%20Grey%205"],
            "getRepairBehind" => ["?act=replace-loop"],
            "getSeriesBehind" => ["?series=Rill%20240"],
            "findOwners" => ["?q=Smokehouse%2C%20Gull%20Row"],
            _ => [""],
        };

    /// <summary>A save and what follows it.</summary>
    [Fact]
    public async Task No_save_reads_through_what_grows()
    {
        await using RemedosContext context = await app.ContextAsync();
        Data.Jobs.Job job = await context.Jobs.AsNoTracking().OrderBy(one => one.Number).LastAsync(one => one.HandedOverAt == null);
        List<string> slow = [];
        JsonElement fields = (await app.GetAsync($"/api/jobs/{job.Id}")).GetProperty("fields");
        app.Said.Take();
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("noticed", "louder"),
                ("serial", "SN0000017"),
                ("owner", "Net mender, Fen Lane"),
                ("cooler", "Rill 240"),
                ("repairCauses", new[] { "pump-failed" }),
            }
        )
        {
            HttpResponseMessage answer = await app.SaveAsync(job.Id.ToString(), field, value, fields.GetProperty(field));
            Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        }

        await app.AddLogAsync(job.Id.ToString(), "before", "log.csv", App.Example("02-paste-before.csv"));
        await app.Client.PostAsync("/api/jobs", null);
        foreach ((string sql, NpgsqlParameter[] values) in app.Said.Take())
        {
            slow.AddRange((await ReadsAsync(context, sql, values)).Select(read => $"{read}\n{sql}"));
        }

        Assert.True(slow.Count == 0, string.Join("\n\n", slow.Take(8)));
    }

    [Fact]
    public async Task The_list_is_read_page_by_page_and_every_machine_is_in_it_once()
    {
        HashSet<string> seen = [];
        string? next = "/api/jobs?search=Smokehouse";
        int pages = 0;
        for (; next is not null; pages++)
        {
            HttpResponseMessage answer = await app.Client.GetAsync(next);
            foreach (JsonElement tag in (await App.ReadAsync(answer)).EnumerateArray())
            {
                Assert.True(seen.Add(tag.Text("id")), $"{tag.Text("tag")} is there twice.");
            }

            next = answer.Headers.TryGetValues("Link", out IEnumerable<string>? link) ? link.Single().Split('<', '>')[1] : null;
        }

        await using RemedosContext context = await app.ContextAsync();
        Assert.Equal(await context.Jobs.CountAsync(job => job.Owner!.StartsWith("Smokehouse")), seen.Count);
        Assert.True(pages > 2);
    }

    /// <summary>Where a plan reads more of a table that grows than a page can show.</summary>
    private static async Task<IReadOnlyList<string>> ReadsAsync(RemedosContext context, string sql, NpgsqlParameter[] values)
    {
        if (!sql.TrimStart().StartsWith("SELECT", StringComparison.OrdinalIgnoreCase))
        {
            return [];
        }

        NpgsqlConnection connection = (NpgsqlConnection)context.Database.GetDbConnection();
        if (connection.State != System.Data.ConnectionState.Open)
        {
            await connection.OpenAsync();
        }

        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        // Of three thousand rows reading all may be as quick: what is asked is whether there is another way when there are more.
        await using NpgsqlCommand noScan = new(
            "SET LOCAL enable_seqscan = off; SET LOCAL enable_hashjoin = off; SET LOCAL enable_mergejoin = off",
            connection,
            transaction
        );
        await noScan.ExecuteNonQueryAsync();
        await using NpgsqlCommand explain = new($"EXPLAIN (ANALYZE, FORMAT JSON) {sql}", connection, transaction);
        foreach (NpgsqlParameter value in values)
        {
            explain.Parameters.Add(value.Clone());
        }

        using JsonDocument plan = JsonDocument.Parse((string)(await explain.ExecuteScalarAsync())!);
        List<string> read = [];
        Walk(plan.RootElement[0].GetProperty("Plan"));
        await transaction.RollbackAsync();
        return read;

        void Walk(JsonElement node)
        {
            double Of(string name) => node.TryGetProperty(name, out JsonElement value) ? value.GetDouble() : 0;
            double rows = (Of("Actual Rows") + Of("Rows Removed by Filter") + Of("Rows Removed by Index Recheck")) * Of("Actual Loops");
            if (node.TryGetProperty("Relation Name", out JsonElement table) && Growing.Contains(table.GetString()!) && rows > MostRows)
            {
                read.Add($"{node.Text("Node Type")} reads {rows:0} rows of {table}");
            }

            foreach (JsonElement child in node.TryGetProperty("Plans", out JsonElement children) ? children.EnumerateArray() : [])
            {
                Walk(child);
            }
        }
    }
}
