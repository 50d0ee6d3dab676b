using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Tests.Servers;

/// <summary>The tables can be spread over several database servers by workshop, by the statements that deploy/citus.sql holds.</summary>
public sealed partial class SpreadTests(App app) : IClassFixture<App>
{
    private sealed record Key(string Name, string Table, string[] Columns, string? To, string[]? ToColumns);

    [GeneratedRegex(@"create_(distributed|reference)_table\('(\w+)'(?:, '(\w+)')?\)")]
    private static partial Regex Statement();

    /// <summary>
    /// Table by table in the order of the statements: the column that it is spread by, null for one that stands everywhere.
    /// </summary>
    private static List<(string Table, string? By)> Statements() =>
        [
            .. Statement()
                .Matches(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Deploy", "citus.sql")))
                .Select(one => (one.Groups[2].Value, one.Groups[1].Value == "distributed" ? one.Groups[3].Value : null)),
        ];

    [Fact]
    public async Task Every_table_is_spread_or_stands_everywhere()
    {
        await using RemedosContext context = await app.ContextAsync();
        List<string> tables = await context
            .Database.SqlQuery<string>(
                $"""
                SELECT relname::text AS "Value" FROM pg_class
                WHERE relkind IN ('r', 'p') AND NOT relispartition AND relnamespace = 'public'::regnamespace
                  AND relname <> '__EFMigrationsHistory'
                """
            )
            .ToListAsync();
        Assert.Equal(tables.Order(), Statements().Select(one => one.Table).Order());
    }

    [Fact]
    public async Task Every_key_of_a_table_that_is_spread_holds_the_column_that_it_is_spread_by()
    {
        List<(string Table, string? By)> statements = Statements();
        Dictionary<string, string?> by = statements.ToDictionary(one => one.Table, one => one.By);
        List<string> order = [.. statements.Select(one => one.Table)];
        await using RemedosContext context = await app.ContextAsync();
        List<Key> unique = await context
            .Database.SqlQuery<Key>(
                $"""
                SELECT i.relname::text AS name, t.relname::text AS table, NULL::text AS to, NULL::text[] AS to_columns,
                  (SELECT array_agg(a.attname::text) FROM pg_attribute a WHERE a.attrelid = t.oid AND a.attnum = ANY (x.indkey)) AS columns
                FROM pg_index x JOIN pg_class i ON i.oid = x.indexrelid JOIN pg_class t ON t.oid = x.indrelid
                WHERE x.indisunique AND t.relnamespace = 'public'::regnamespace AND NOT t.relispartition
                  AND t.relname <> '__EFMigrationsHistory'
                """
            )
            .ToListAsync();
        Assert.True(unique.Count > 40);
        foreach (Key key in unique.Where(key => by[key.Table] is not null))
        {
            Assert.True(key.Columns.Contains(by[key.Table]), $"{key.Name} of {key.Table} is unique without {by[key.Table]}");
        }

        List<Key> foreign = await context
            .Database.SqlQuery<Key>(
                $"""
                SELECT c.conname::text AS name, t.relname::text AS table, f.relname::text AS to,
                  (SELECT array_agg(a.attname::text ORDER BY k.at) FROM unnest(c.conkey) WITH ORDINALITY k (num, at)
                    JOIN pg_attribute a ON a.attrelid = t.oid AND a.attnum = k.num) AS columns,
                  (SELECT array_agg(a.attname::text ORDER BY k.at) FROM unnest(c.confkey) WITH ORDINALITY k (num, at)
                    JOIN pg_attribute a ON a.attrelid = f.oid AND a.attnum = k.num) AS to_columns
                FROM pg_constraint c JOIN pg_class t ON t.oid = c.conrelid JOIN pg_class f ON f.oid = c.confrelid
                WHERE c.contype = 'f' AND NOT t.relispartition
                """
            )
            .ToListAsync();
        Assert.True(foreign.Count > 40);
        foreach (Key key in foreign)
        {
            string what = $"{key.Name} leads from {key.Table} to {key.To}";
            Assert.True(key.Table == key.To || order.IndexOf(key.To!) < order.IndexOf(key.Table), $"{what}, which is spread later");
            if (by[key.To!] is { } theirs)
            {
                Assert.True(by[key.Table] is not null, $"{what}, which does not stand everywhere");
                int at = Array.IndexOf(key.Columns, by[key.Table]);
                Assert.True(at >= 0 && key.ToColumns![at] == theirs, $"{what} without the workshop");
            }
        }
    }
}
