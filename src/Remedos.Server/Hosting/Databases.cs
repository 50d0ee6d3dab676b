using Npgsql;

namespace Remedos.Server.Hosting;

/// <summary>How databases are spoken to.</summary>
internal static class Databases
{
    /// <summary>Statements that a connection keeps prepared: those of pages that are looked at, and of bays.</summary>
    private const int Prepared = 50;

    /// <summary>
    /// Pages ask small questions: to compile one takes longer than to answer it, and what an index leads to is read as fast as its
    /// neighbour on any disk of today.
    /// </summary>
    private const string Planned = "-c jit=off -c random_page_cost=1.1";

    /// <summary>
    /// The connection string of a name, with statements prepared and planned for pages unless it says otherwise; null where there is none.
    /// </summary>
    public static string? Connection(IConfiguration configuration, string name)
    {
        if (configuration.GetConnectionString(name) is not { Length: > 0 } given)
        {
            return null;
        }

        // Its ContainsKey says yes to every keyword there is; whether one was given says ShouldSerialize.
        NpgsqlConnectionStringBuilder connection = new(given);
        if (!connection.ShouldSerialize("Max Auto Prepare"))
        {
            connection.MaxAutoPrepare = Prepared;
        }

        if (!connection.ShouldSerialize("Options"))
        {
            connection.Options = Planned;
        }

        return connection.ConnectionString;
    }
}
