using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using Remedos.Data;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Writing;

/// <summary>Runs changes, each in a transaction of its own; see this folder's README.</summary>
internal sealed class Writes(IDbContextFactory<RemedosContext> contexts, KeepRecords records, TimeProvider clock)
{
    private const int Tries = 5;

    /// <summary>Runs a change for a workshop.</summary>
    /// <param name="workshopId">Whose rows.</param>
    /// <param name="personId">Who did it.</param>
    /// <param name="change">Changes rows; answers with a problem to leave all as it was. It may be called again, on the rows as they are
    /// then.</param>
    /// <param name="outcome">Told how far it came; null where nobody asks.</param>
    /// <param name="cancellation">Stops it before it is committed.</param>
    /// <returns>The problem; null when it was done.</returns>
    public async Task<ProblemHttpResult?> RunAsync(
        Guid workshopId,
        Guid personId,
        Func<Write, Task<ProblemHttpResult?>> change,
        Outcome? outcome,
        CancellationToken cancellation
    )
    {
        for (int attempt = 1; ; attempt++)
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
            context.Workshop = workshopId;
            // A change that fails is begun anew as a whole: savepoints within it would only be asked for.
            context.Database.AutoSavepointsEnabled = false;
            await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
            Write write = new(context, workshopId, personId, clock.GetUtcNow(), cancellation);
            try
            {
                if (await change(write) is { } problem)
                {
                    return problem;
                }

                await context.SaveChangesAsync(cancellation);
                await records.FollowAsync(context, workshopId, write.Now, cancellation);
                outcome?.IsCommitting();
                await transaction.CommitAsync(CancellationToken.None);
                outcome?.IsCommitted();
            }
            catch (Exception failure) when (attempt < Tries && IsRace(failure))
            {
                outcome?.IsUntouched();
                await Task.Delay(Random.Shared.Next(5, 20) * attempt, cancellation);
                continue;
            }

            write.Tell();
            return null;
        }
    }

    private static bool IsRace(Exception failure) =>
        failure switch
        {
            DbUpdateConcurrencyException => true,
            PostgresException postgres => postgres.SqlState
                is PostgresErrorCodes.SerializationFailure
                    or PostgresErrorCodes.DeadlockDetected
                    or PostgresErrorCodes.UniqueViolation
                    // A statement that was prepared before a migration of another server; it is prepared anew.
                    or PostgresErrorCodes.FeatureNotSupported,
            DbUpdateException or InvalidOperationException when failure.InnerException is { } inner => IsRace(inner),
            _ => false,
        };
}

/// <summary>The one door for what a caller changes.</summary>
internal sealed class WriteDoor(Writes writes, Caller caller, Outcome outcome)
{
    /// <summary>Changes, and answers once it is committed.</summary>
    public async Task<Results<Ok<T>, ProblemHttpResult>> WriteAsync<T>(
        Func<Write, Task<ProblemHttpResult?>> change,
        Func<Task<T>> answer,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return await writes.RunAsync(who.Workshop.Id, who.Person.Id, change, outcome, cancellation) is { } problem
            ? problem
            : TypedResults.Ok(await answer());
    }
}
