using System.Data;
using System.IO.Compression;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Server.Bundles;
using Remedos.Server.Files;

namespace Remedos.Server.Backups;

/// <summary>Writes a workshop's archive into the folder for backups; see this folder's README.</summary>
internal sealed class MakeBackup(
    IConfiguration configuration,
    IDbContextFactory<RemedosContext> contexts,
    WriteArchive archive,
    TimeProvider clock,
    ILogger<MakeBackup> log
)
{
    /// <summary>Any number that no other lock here has.</summary>
    private const int Lock = 7_304_123;

    /// <summary>Where backups go; null where nobody has named a folder.</summary>
    public string? Folder { get; } =
        configuration.GetValue<string>("BackupFolder") is { Length: > 0 } folder ? Path.GetFullPath(folder) : null;

    /// <summary>Makes one, unless another server is at it, or has just been.</summary>
    /// <param name="id">Whose.</param>
    /// <param name="ifDue">Whether only where its time has come.</param>
    /// <param name="cancellation">Stops it.</param>
    /// <returns>How its backups stand then.</returns>
    public async Task<BackupStand> RunAsync(Guid id, bool ifDue, CancellationToken cancellation)
    {
        await using RemedosContext seen = await contexts.CreateDbContextAsync(cancellation);
        seen.Workshop = id;
        await seen.Database.OpenConnectionAsync(cancellation);
        bool mine = await seen
            .Database.SqlQuery<bool>($"SELECT pg_try_advisory_lock({Lock}, hashtext({id.ToString()})) AS \"Value\"")
            .SingleAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        BackupStand stand = await seen.BackupStands.AsNoTracking().SingleOrDefaultAsync(one => one.WorkshopId == id, cancellation)
            ?? new BackupStand { WorkshopId = id, TriedAt = now };
        if (!mine)
        {
            return stand;
        }

        try
        {
            Workshop workshop = await seen.Workshops.AsNoTracking().SingleAsync(one => one.Id == id, cancellation);
            if (!ifDue || BackupPlan.Next(workshop, stand) <= now)
            {
                stand.TriedAt = now;
                await TryAsync(seen, workshop, stand, cancellation);
                await KeepAsync(stand);
            }

            return stand;
        }
        finally
        {
            await seen.Database.ExecuteSqlAsync($"SELECT pg_advisory_unlock({Lock}, hashtext({id.ToString()}))", CancellationToken.None);
        }
    }

    private async Task TryAsync(RemedosContext seen, Workshop workshop, BackupStand stand, CancellationToken cancellation)
    {
        string name = BackupPlan.NameOf(workshop, stand.TriedAt);
        try
        {
            string folder = Folder ?? throw new DirectoryNotFoundException();
            (stand.FileName, stand.Bytes) = (name, await WriteAsync(seen, workshop, Path.Combine(folder, name), cancellation));
            (stand.MadeAt, stand.Problem) = (stand.TriedAt, null);
            foreach (
                string over in BackupPlan.Over(workshop, Directory.EnumerateFiles(folder).Select(Path.GetFileName)!, workshop.BackupsKept)
            )
            {
                File.Delete(Path.Combine(folder, over));
            }
        }
        catch (Exception failure) when (!cancellation.IsCancellationRequested)
        {
            log.LogError(failure, "The backup {Name} could not be made", name);
            stand.Problem = failure switch
            {
                DirectoryNotFoundException => Folder is null
                    ? "The server has no folder for backups: whoever runs it sets BackupFolder."
                    : $"The folder {Folder} is not there: its disk may not be mounted.",
                UnauthorizedAccessException => $"The folder {Folder} may not be written to.",
                StoreAwayException => "The file store does not answer.",
                IOException => $"It could not be written into {Folder}: the disk may be full.",
                _ => "It broke off; the server’s log says why.",
            };
        }
    }

    private async Task<long> WriteAsync(RemedosContext seen, Workshop workshop, string path, CancellationToken cancellation)
    {
        string part = $"{path}.part";
        try
        {
            FileStreamOptions own = new()
            {
                Mode = FileMode.Create,
                Access = FileAccess.Write,
                UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
            };
            await using (FileStream file = new(part, own))
            {
                await using IDbContextTransaction moment = await seen.Database.BeginTransactionAsync(
                    IsolationLevel.RepeatableRead,
                    cancellation
                );
                await using (ZipArchive zip = await ZipArchive.CreateAsync(file, ZipArchiveMode.Create, true, null, cancellation))
                {
                    await archive.WriteAsync(zip, seen, workshop, cancellation);
                }

                file.Flush(flushToDisk: true);
            }

            File.Move(part, path, overwrite: true);
            return new FileInfo(path).Length;
        }
        finally
        {
            File.Delete(part);
        }
    }

    private async Task KeepAsync(BackupStand stand)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(CancellationToken.None);
        context.Workshop = stand.WorkshopId;
        BackupStand? kept = await context.BackupStands.SingleOrDefaultAsync(one => one.WorkshopId == stand.WorkshopId);
        if (kept is null)
        {
            context.BackupStands.Add(stand);
        }
        else
        {
            context.Entry(kept).CurrentValues.SetValues(stand);
        }

        await context.SaveChangesAsync();
    }
}
