using Microsoft.EntityFrameworkCore;
using Remedos.Data.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>A cooler is put on before what is measured on it.</summary>
internal static class MountDates
{
    private const string Field = ".mountedAt";

    /// <summary>
    /// Why a mount cannot have the date that a field was given, as a sentence; null when it can, or the field is another.
    /// </summary>
    public static async Task<string?> ProblemAsync(Write write, Job job, string field)
    {
        if (!field.EndsWith(Field, StringComparison.Ordinal) || !field.StartsWith("mount.", StringComparison.Ordinal))
        {
            return null;
        }

        foreach (
            Mount mount in job
                .Setups.SelectMany(setup => setup.Mounts)
                .Where(mount => mount.MountedAt is not null && write.Context.Entry(mount).Property(one => one.MountedAt).IsModified)
        )
        {
            // It changed in memory only: the run that was made first decides.
            var first = await write
                .Context.Runs.AsNoTracking()
                .Where(run => run.WorkshopId == job.WorkshopId && run.MountId == mount.Id && run.RemovedAt == null)
                .OrderBy(run => run.ImportedAt)
                .Select(run => new { run.ImportedAt })
                .FirstOrDefaultAsync(write.Cancellation);
            if (first is not null && mount.MountedAt > first.ImportedAt)
            {
                return $"A run was made on this mount by {first.ImportedAt:d MMMM yyyy, HH:mm} (UTC): it cannot have been put on later.";
            }
        }

        return null;
    }
}
