using Microsoft.EntityFrameworkCore;
using Npgsql;
using Remedos.Data;

namespace Remedos.Server.Hosting;

/// <summary>
/// Contexts for what is only read and may be a moment old: of a replica, where a second connection string names one, and of the first
/// server
/// where there is none or it is away.
/// </summary>
internal sealed class ReadReplica
{
    public const string Name = "RemedosReplica";

    /// <summary>One that is away is left alone for so long: nobody waits for it twice.</summary>
    private static readonly TimeSpan LeftAlone = TimeSpan.FromSeconds(10);

    private readonly DbContextOptions<RemedosContext>? _options;
    private readonly IDbContextFactory<RemedosContext> _first;
    private readonly TimeProvider _clock;
    private readonly ILogger<ReadReplica> _log;
    private DateTimeOffset _awayUntil;

    public ReadReplica(IConfiguration configuration, IDbContextFactory<RemedosContext> first, TimeProvider clock, ILogger<ReadReplica> log)
    {
        (_first, _clock, _log) = (first, clock, log);
        _options = Databases.Connection(configuration, Name) is { } connection
            ? new DbContextOptionsBuilder<RemedosContext>().UseNpgsql(connection).UseSnakeCaseNamingConvention().Options
            : null;
    }

    /// <summary>A context of the replica if it answers, or of the first server.</summary>
    public async Task<RemedosContext> OpenAsync(CancellationToken cancellation)
    {
        if (_options is null || _clock.GetUtcNow() < _awayUntil)
        {
            return await _first.CreateDbContextAsync(cancellation);
        }

        RemedosContext replica = new(_options);
        try
        {
            // Asked here: of a connection that stood open while the replica went, only its first question tells.
            await replica.Database.OpenConnectionAsync(cancellation);
            await replica.Database.ExecuteSqlAsync($"SELECT 1", cancellation);
            return replica;
        }
        catch (Exception failure) when (failure is not OperationCanceledException)
        {
            _log.LogWarning("The replica does not answer, so the first server is asked: {Why}", failure.Message);
            _awayUntil = _clock.GetUtcNow() + LeftAlone;
            NpgsqlConnection.ClearPool((NpgsqlConnection)replica.Database.GetDbConnection());
            await replica.DisposeAsync();
            return await _first.CreateDbContextAsync(cancellation);
        }
    }
}
