using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>A new machine comes in: its number at once, its fields as they are typed.</summary>
internal static class CreateJob
{
    public static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> HandleAsync(
        WriteDoor door,
        JobSheets sheets,
        CancellationToken cancellation
    )
    {
        Guid id = Guid.Empty;
        return await door.WriteAsync(
            async write =>
            {
                // The workshop's row is locked, so two at once get numbers of their own.
                Workshop workshop = await write.WorkshopAsync();
                Job job = new()
                {
                    Id = Guid.CreateVersion7(write.Now),
                    WorkshopId = workshop.Id,
                    Number = workshop.NextJobNumber++,
                    CreatedAt = write.Now,
                    ChangedAt = write.Now,
                };
                id = job.Id;
                JobSetups.First(job, write.Now);
                write.Context.Jobs.Add(job);
                write.Event(job, JobEvents.Created);
                return null;
            },
            async () => (await sheets.FindAsync(id, cancellation))!,
            cancellation
        );
    }
}
