using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Server.Hosting;

namespace Remedos.Server.Backups;

/// <summary>Looks every minute whose backup is due, and has it made.</summary>
internal sealed class ScheduledBackups(
    IDbContextFactory<RemedosContext> contexts,
    MakeBackup backup,
    TimeProvider clock,
    ILogger<ScheduledBackups> log
) : Recurring(TimeSpan.FromMinutes(1), clock, log)
{
    private readonly TimeProvider _clock = clock;
    private readonly ILogger<ScheduledBackups> _log = log;

    protected override string WhatFails => "Whether a backup is due could not be asked";

    /// <summary>Makes what is due.</summary>
    public override async Task RunAsync(CancellationToken cancellation)
    {
        DateTimeOffset now = _clock.GetUtcNow();
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        var wanted = await context
            .Workshops.AsNoTracking()
            .Where(workshop => workshop.BackupAt != null)
            .Select(workshop => new
            {
                Workshop = workshop,
                Stand = context.BackupStands.SingleOrDefault(one => one.WorkshopId == workshop.Id),
            })
            .ToListAsync(cancellation);
        foreach (var one in wanted)
        {
            if (one.Stand is null)
            {
                // From now on it is wanted: the first is made when its time has come.
                await context.Database.ExecuteSqlAsync(
                    $"INSERT INTO backup_stands (workshop_id, tried_at, bytes) VALUES ({one.Workshop.Id}, {now}, 0) ON CONFLICT DO NOTHING",
                    cancellation
                );
            }
            else if (BackupPlan.Next(one.Workshop, one.Stand) <= now)
            {
                BackupStand stand = await backup.RunAsync(one.Workshop.Id, ifDue: true, cancellation);
                _log.LogInformation("Backup {Name}: {How}", stand.FileName, stand.Problem ?? "made");
            }
        }
    }
}
