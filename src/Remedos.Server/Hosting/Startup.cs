using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Samples;
using Remedos.Server.Demo;
using Remedos.Server.Files;
using Remedos.Server.People;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Hosting;

/// <summary>Why this server does not start, as a sentence.</summary>
public sealed class StartupException(string sentence) : Exception(sentence);

/// <summary>
/// What must be true before the first request: the schema is current, the file store is this database's, and a workshop exists.
/// </summary>
internal static class Startup
{
    /// <summary>Any number, the same for all servers: whoever holds it prepares the database, and the others wait.</summary>
    public const long PreparingLock = 7_304_121;

    public static async Task PrepareAsync(IServiceProvider services, bool demo, CancellationToken cancellation)
    {
        await using RemedosContext context = await services
            .GetRequiredService<IDbContextFactory<RemedosContext>>()
            .CreateDbContextAsync(cancellation);
        IFileStore files = services.GetRequiredService<IFileStore>();
        await context.Database.OpenConnectionAsync(cancellation);
        // However long it takes: another server may be changing the tables, or filling a demo.
        int? usual = context.Database.GetCommandTimeout();
        context.Database.SetCommandTimeout(0);
        await context.Database.ExecuteSqlAsync($"SELECT pg_advisory_lock({PreparingLock})", cancellation);
        context.Database.SetCommandTimeout(usual);
        try
        {
            await MigrateAsync(context, cancellation);
            // The keys are made by one as well: two that begin at once would each sign what the other does not know yet.
            _ = services.GetRequiredService<IDataProtectionProvider>().CreateProtector("startup").Protect([]);
            await RecogniseAsync(context, files, cancellation);
            if (!await context.Workshops.AnyAsync(cancellation))
            {
                await OpenWorkshopAsync(context, services, files, demo, cancellation);
            }

            DateOnly today = DateOnly.FromDateTime(services.GetRequiredService<TimeProvider>().GetUtcNow().UtcDateTime);
            await SampleMonths.EnsureAsync(context, today, cancellation);
            await RememberAsync(context, services, cancellation);
            await OpenDoorAsync(context, services, demo, cancellation);
        }
        finally
        {
            await context.Database.ExecuteSqlAsync($"SELECT pg_advisory_unlock({PreparingLock})", CancellationToken.None);
            await context.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Ends with a sentence; 3 says that starting again would end the same.</summary>
    public static Task RefuseAsync(StartupException why)
    {
        Environment.ExitCode = 3;
        return Console.Error.WriteLineAsync($"remedos: {why.Message}");
    }

    private static async Task MigrateAsync(RemedosContext context, CancellationToken cancellation)
    {
        string[] known = [.. context.Database.GetMigrations()];
        if (
            (await context.Database.GetAppliedMigrationsAsync(cancellation)).FirstOrDefault(applied => !known.Contains(applied)) is
            { } other
        )
        {
            throw new StartupException(
                $"this database was made by another version of Remedos ({other}), which this one cannot read. ./start --fresh makes a "
                    + $"new demo beside it; a workshop’s own is opened by the version that made it."
            );
        }

        await context.Database.MigrateAsync(cancellation);
    }

    /// <summary>
    /// Refuses a store that belongs to another database: its originals would all be missing, and what is added would lie where nobody
    /// looks.
    /// </summary>
    private static async Task RecogniseAsync(RemedosContext context, IFileStore files, CancellationToken cancellation)
    {
        Guid? store;
        try
        {
            store = await files.IdentityAsync(cancellation);
        }
        catch (StoreAwayException away)
        {
            throw new StartupException($"{away.Message} (FileStore, docs/operating.md)");
        }

        Installation? installation = await context.Installations.SingleOrDefaultAsync(cancellation);
        if (installation is null && store is null)
        {
            installation = new Installation { StoreId = Guid.NewGuid() };
            await files.NameAsync(installation.StoreId, cancellation);
            store = installation.StoreId;
            context.Add(installation);
            await context.SaveChangesAsync(cancellation);
        }

        if (installation?.StoreId != store)
        {
            throw new StartupException(
                installation is null
                    ? "the file store belongs to another database; a new workshop begins with an empty one (FileStore, docs/operating.md)."
                : store is null
                    ? "the file store is empty or is not the one that belongs to this database: its disk may not be there, or FileStore "
                        + "may name another folder (docs/operating.md)."
                : "the file store belongs to another database (FileStore, docs/operating.md)."
            );
        }
    }

    /// <summary>What workshops have learnt before their records were kept is reckoned once.</summary>
    private static async Task RememberAsync(RemedosContext context, IServiceProvider services, CancellationToken cancellation)
    {
        List<Guid> without = await context
            .Workshops.Where(workshop => workshop.PracticeOf == null)
            .Where(workshop => !context.RecordStands.Any(stand => stand.WorkshopId == workshop.Id && stand.Revision > 0))
            .Select(workshop => workshop.Id)
            .ToListAsync(cancellation);
        // Other words than those that are kept may be this version's.
        await context
            .RecordStands.Where(stand => stand.Revision > 0)
            .ExecuteUpdateAsync(set => set.SetProperty(stand => stand.Revision, stand => stand.Revision + 1), cancellation);
        foreach (Guid workshop in without)
        {
            await RelearnRecords.AllAsync(
                services.GetRequiredService<IDbContextFactory<RemedosContext>>(),
                services.GetRequiredService<KeepRecords>(),
                workshop,
                services.GetRequiredService<TimeProvider>(),
                cancellation
            );
        }
    }

    /// <summary>Sees to it that somebody can sign in: the demo's people, or a first lead by a link.</summary>
    private static async Task OpenDoorAsync(RemedosContext context, IServiceProvider services, bool demo, CancellationToken cancellation)
    {
        DateTimeOffset now = services.GetRequiredService<TimeProvider>().GetUtcNow();
        if (demo)
        {
            await DemoPeople.EnsureAsync(context, services.GetRequiredService<Pins>(), now, cancellation);
            await DemoPractice.EnsureAsync(context, now, cancellation);
            return;
        }

        IConfiguration configuration = services.GetRequiredService<IConfiguration>();
        if (await FirstLead.InviteAsync(context, configuration.GetValue("LeadLink", false), now, cancellation) is not { } token)
        {
            return;
        }

        string link = $"{PublicAddress.Of(configuration)}{Invitations.Path}#{token}";
        if (configuration.GetValue<string>("LeadLinkFile") is not { Length: > 0 } path)
        {
            await Console.Out.WriteLineAsync($"Nobody can sign in yet. Within two days, open this once: {link}");
            return;
        }

        FileStreamOptions own = new()
        {
            Mode = FileMode.Create,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
        };
        await using StreamWriter file = new(path, own);
        await file.WriteLineAsync(link);
    }

    private static async Task OpenWorkshopAsync(
        RemedosContext context,
        IServiceProvider services,
        IFileStore files,
        bool demo,
        CancellationToken cancellation
    )
    {
        Workshop workshop = new()
        {
            Id = Guid.CreateVersion7(),
            Name = demo ? DemoWorkshop.Name : "My workshop",
            TagPrefix = demo ? "SL" : "WS",
            Currency = "EUR",
            Address = demo ? DemoWorkshop.Address : null,
            Open = demo ? DemoWorkshop.Hours : null,
            NextJobNumber = demo ? DemoWorkshop.FirstJobNumber : 1,
            LabourMinorPerHour = 4800,
            TaxPercent = demo ? 20 : 0,
            TimeZone = TimeZoneInfo.Local.HasIanaId ? TimeZoneInfo.Local.Id : "UTC",
        };
        Person person = new()
        {
            Id = Guid.CreateVersion7(),
            WorkshopId = workshop.Id,
            Name = demo ? "Ines" : "Technician",
        };
        if (demo)
        {
            await DemoWorkshop.LoadAsync(
                context,
                files,
                workshop,
                person,
                services.GetRequiredService<KeepRecords>(),
                services.GetRequiredService<TimeProvider>().GetUtcNow(),
                cancellation
            );
        }
        else
        {
            context.AddRange(workshop, person);
            await context.SaveChangesAsync(cancellation);
        }
    }
}
