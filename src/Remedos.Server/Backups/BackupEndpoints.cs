using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Data.People;
using Remedos.Server.Hosting;
using Remedos.Server.Session;

namespace Remedos.Server.Backups;

/// <summary>How a workshop's backups stand.</summary>
/// <param name="Folder">Where on the server they go; null where nobody who runs it has named one.</param>
/// <param name="MadeAt">When the last that is whole was made; null before the first.</param>
/// <param name="Problem">Why the last try made none, as a sentence.</param>
/// <param name="NextAt">Null where none is wanted by itself.</param>
public sealed record BackupAnswer(
    string? Folder,
    DateTimeOffset? MadeAt,
    string? FileName,
    long Bytes,
    string? Problem,
    DateTimeOffset? NextAt
);

/// <summary>Backups as the lead sees them, and one at once.</summary>
internal static class BackupEndpoints
{
    public static void AddBackups(this IServiceCollection services)
    {
        services.AddSingleton<MakeBackup>();
        if (!Pages.IsGeneratingDocuments)
        {
            services.AddSingleton<ScheduledBackups>();
            services.AddHostedService(provider => provider.GetRequiredService<ScheduledBackups>());
        }
    }

    public static void MapBackups(this RouteGroupBuilder api)
    {
        RouteGroupBuilder backups = api.MapGroup("/backups").WithTags("settings");
        backups.MapGet("/", GetAsync).WithName("getBackups").ForLeads();
        backups.MapPost("/", MakeAsync).WithName("makeBackup").Heavy().ForLeads();
    }

    private static async Task<Ok<BackupAnswer>> GetAsync(Caller caller, MakeBackup backup, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        BackupStand? stand = await context
            .BackupStands.AsNoTracking()
            .SingleOrDefaultAsync(one => one.WorkshopId == workshop.Id, cancellation);
        return TypedResults.Ok(Of(workshop, stand, backup.Folder));
    }

    private static async Task<Ok<BackupAnswer>> MakeAsync(Caller caller, MakeBackup backup, AccessLog log, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        BackupStand stand = await backup.RunAsync(who.Workshop.Id, ifDue: false, cancellation);
        if (stand.Problem is null)
        {
            await log.WriteAsync(who, AccessKinds.Exported, stand.FileName, cancellation);
        }

        return TypedResults.Ok(Of(who.Workshop, stand, backup.Folder));
    }

    private static BackupAnswer Of(Workshop workshop, BackupStand? stand, string? folder) =>
        new(
            folder,
            stand?.MadeAt,
            stand?.FileName,
            stand?.Bytes ?? 0,
            stand?.Problem,
            stand is null ? null : BackupPlan.Next(workshop, stand)
        );
}
