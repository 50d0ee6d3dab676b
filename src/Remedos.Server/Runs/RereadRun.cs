using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Runs;

/// <summary>
/// Makes a stored run anew that an older reading made, or whose columns have been overruled since: its analysis and its samples.
/// </summary>
internal sealed class RereadRun(IDbContextFactory<RemedosContext> contexts, Writes writes, RunReader reader) : IWorkHandler
{
    public string Kind => WorkItem.RereadRun;

    public async Task HandleAsync(Lease lease, CancellationToken cancellation)
    {
        (Guid workshop, Guid id) = (lease.Item.WorkshopId, lease.Item.SubjectId);
        RunReading? reading = null;
        await using (RemedosContext context = await contexts.CreateDbContextAsync(cancellation))
        {
            Run? seen = await context.Runs.AsNoTracking().SingleOrDefaultAsync(r => r.WorkshopId == workshop && r.Id == id, cancellation);
            try
            {
                reading = seen is null ? null : await reader.AnalyzeAsync(context, seen, seen.Conditions, null, cancellation);
            }
            catch (OriginalMissingException)
            {
                // What was read of it stands, and it does not count as read anew: it is told as missing, and read once it is back.
            }
        }

        await writes.RunAsync(
            workshop,
            Guid.Empty,
            async write =>
            {
                if (await write.RunAsync(id) is var (_, run))
                {
                    if (reading is null)
                    {
                        run.MissingOriginal = true;
                    }
                    else if (run.Version == reading.Version)
                    {
                        await reading.ApplyAsync(write.Context, run, samplesToo: true, cancellation);
                    }
                    else
                    {
                        // Somebody changed it meanwhile: once more, as it is now.
                        await lease.AgainAtAsync(write.Context, write.Now, cancellation);
                        return null;
                    }
                }

                await lease.EndAsync(write.Context, cancellation);
                return null;
            },
            null,
            cancellation
        );
    }

    /// <summary>The run keeps what was read of it; the item stands in the health report.</summary>
    public Task SetAsideAsync(RemedosContext context, WorkItem item, CancellationToken cancellation) => Task.CompletedTask;
}
