using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>The kinds of event, and how one is appended.</summary>
internal static class JobEvents
{
    public const string Created = "created", Field = "field", RunAdded = "run-added", RunRemoved = "run-removed", RunRestored = "run-restored", Conditions = "conditions", LoadEdges = "load-edges", Marks = "marks", PhotoAdded = "photo-added", PhotoRemoved = "photo-removed", PhotoRestored = "photo-restored", PhotoKind = "photo-kind", Role = "role", ImportRole = "import-role";

    public static void Append(this RemedosContext context, Job job, Guid personId, DateTimeOffset at, string kind, string? subject = null, string? before = null, string? after = null)
    {
        context.JobEvents.Add(new JobEvent { WorkshopId = job.WorkshopId, JobId = job.Id, PersonId = personId, At = at, Kind = kind, Subject = subject, Before = before, After = after });
        job.ChangedAt = at;
    }

    /// <summary>
    /// Saves a change of which the job only takes the time. Somebody who saves a field of the same job in between is no conflict: the job is
    /// read anew and touched again. Any other conflict is thrown on.
    /// </summary>
    public static async Task SaveTouchingJobAsync(this RemedosContext context, Job job, CancellationToken cancellation)
    {
        DateTimeOffset at = job.ChangedAt;
        while (true)
        {
            try
            {
                await context.SaveChangesAsync(cancellation);
                return;
            }
            catch (DbUpdateConcurrencyException conflict) when (conflict.Entries.All(entry => entry.Entity is Job or RepairNote or MachineParts or WarrantyNote))
            {
                // Notes, parts and warranty stand in the job's row.
                foreach (Microsoft.EntityFrameworkCore.ChangeTracking.EntityEntry entry in conflict.Entries)
                {
                    await entry.ReloadAsync(cancellation);
                }

                job.ChangedAt = at;
            }
        }
    }
}
