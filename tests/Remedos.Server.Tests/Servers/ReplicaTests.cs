using Microsoft.EntityFrameworkCore;
using Npgsql;
using Remedos.Data;

namespace Remedos.Server.Tests.Servers;

/// <summary>Records are read from a replica where one is named, and from the first server while it is away.</summary>
public sealed class ReplicaTests(ReplicaTests.WithReplica app) : IClassFixture<ReplicaTests.WithReplica>
{
    /// <summary>A demo whose records are also kept, as they were once, in a database that stands for the replica.</summary>
    public sealed class WithReplica : App
    {
        public string Replica => $"{Database}_replica";

        protected override Dictionary<string, string> Settings =>
            new() { ["ConnectionStrings:RemedosReplica"] = $"{Server};Database={Replica}" };

        public override async ValueTask DisposeAsync()
        {
            NpgsqlConnection.ClearAllPools();
            await AdminAsync($"DROP DATABASE IF EXISTS {Replica} WITH (FORCE)");
            await base.DisposeAsync();
        }
    }

    private static readonly string[] Paths =
    [
        "/api/records",
        "/api/records/league.csv",
        "/api/records/series.csv",
        "/api/records/behind?series=Rill%20240",
        "/api/records/cooler?name=Rill%20240",
    ];

    /// <summary>A template wants to be alone; what runs beside the tests may come back between the two commands.</summary>
    private async Task CopyAsync()
    {
        for (int tries = 1; ; tries++)
        {
            NpgsqlConnection.ClearAllPools();
            await app.AdminAsync($"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{app.Database}'");
            try
            {
                await app.AdminAsync($"CREATE DATABASE {app.Replica} TEMPLATE {app.Database}");
                return;
            }
            catch (PostgresException busy) when (busy.SqlState == PostgresErrorCodes.ObjectInUse && tries < 10) { }
        }
    }

    [Fact]
    public async Task Records_come_from_the_replica_and_from_the_first_server_while_it_is_away()
    {
        // It is not there yet.
        await AllAnswerAsync();

        // As the first server was a moment ago: without the scatter that it has seen since.
        await CopyAsync();
        await app.StartAsync();
        double before = await ScatterAsync();
        await using (RemedosContext context = await app.ContextAsync())
        {
            await context.RecordStands.ExecuteUpdateAsync(set =>
                set.SetProperty(stand => stand.WithinSquares, 10_000.0).SetProperty(stand => stand.WithinDegrees, 100)
            );
        }

        await AllAnswerAsync();
        Assert.Equal(before, await ScatterAsync());

        // It goes while connections to it stand open.
        await app.AdminAsync($"ALTER DATABASE {app.Replica} ALLOW_CONNECTIONS false");
        await app.AdminAsync($"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{app.Replica}'");
        await AllAnswerAsync();
        Assert.True(await ScatterAsync() > before + 0.5);
    }

    private async Task AllAnswerAsync()
    {
        foreach (string path in Paths)
        {
            HttpResponseMessage answer = await app.Client.GetAsync(path);
            Assert.True(answer.IsSuccessStatusCode, $"{path}: {await answer.Content.ReadAsStringAsync()}");
        }
    }

    private async Task<double> ScatterAsync() =>
        (await app.GetAsync("/api/records")).GetProperty("bench").GetProperty("withinC").GetDouble();
}
