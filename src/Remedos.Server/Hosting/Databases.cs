using Npgsql;

namespace Remedos.Server.Hosting;

/// <summary>How databases are spoken to.</summary>
internal static class Databases
{
    /// <summary>Statements that a connection keeps prepared: those of pages that are looked at, and of bays.</summary>
    private const int Prepared = 50;

    /// <summary>The connection string of a name, with statements prepared unless it says otherwise; null where there is none.</summary>
    public static string? Connection(IConfiguration configuration, string name)
    {
        if (configuration.GetConnectionString(name) is not { Length: > 0 } given)
        {
            return null;
        }

        NpgsqlConnectionStringBuilder connection = new(given);
        if (!connection.ContainsKey("Max Auto Prepare"))
        {
            connection.MaxAutoPrepare = Prepared;
        }

        return connection.ConnectionString;
    }
}
