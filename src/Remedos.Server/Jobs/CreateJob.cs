using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>A new machine comes in: its number at once, its fields as they are typed.</summary>
internal static class CreateJob
{
    public static async Task<Ok<JobSheet>> HandleAsync(Bench bench, IDbContextFactory<RemedosContext> contexts, JobSheets sheets, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job job = await AddAsync(context, workshop.Id, person.Id, clock.GetUtcNow(), cancellation);
        return TypedResults.Ok((await sheets.FindAsync(job.Id, cancellation))!);
    }

    /// <summary>Adds an empty job under the workshop's next number; the counter's row lock keeps two at once apart.</summary>
    public static async Task<Job> AddAsync(RemedosContext context, Guid workshopId, Guid personId, DateTimeOffset now, CancellationToken cancellation)
    {
        await using Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        int number = (await context.Database.SqlQuery<int>($"UPDATE workshops SET next_job_number = next_job_number + 1 WHERE id = {workshopId} RETURNING next_job_number - 1 AS \"Value\"").ToListAsync(cancellation)).Single();
        Job job = new() { Id = Guid.CreateVersion7(now), WorkshopId = workshopId, Number = number, CreatedAt = now, ChangedAt = now };
        context.Jobs.Add(job);
        context.Append(job, personId, now, JobEvents.Created);
        await context.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
        return job;
    }
}
