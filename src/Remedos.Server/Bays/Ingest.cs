using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>
/// Takes readings of a machine under test as they are sent: who sends is known by the token, and what is sent are lines of JSON.
/// </summary>
internal static class Ingest
{
    public const int LargestBatchBytes = 4_000_000;

    public static async Task<Results<Ok<IngestAnswer>, ProblemHttpResult>> HandleAsync(
        int number,
        string stream,
        HttpContext http,
        IDbContextFactory<RemedosContext> contexts,
        BayIntake intake,
        RefusedTokens wrongTokens,
        Telemetry telemetry,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        long began = clock.GetTimestamp();
        // The token comes first: whoever has none is sent away before anything of it is read or locked.
        string token = BayToken.Of(http.Request.Headers.Authorization.ToString());
        (Guid Workshop, Guid Bay)? sender = await SenderAsync(contexts, number, token, clock.GetUtcNow(), cancellation);
        if (sender is not var (workshop, bayId))
        {
            await wrongTokens.TellAsync(number, cancellation);
            return TypedResults.Problem(
                $"Bay {number} does not know this token, or it has run out. A new one is made on the bay’s card.",
                statusCode: StatusCodes.Status401Unauthorized
            );
        }

        stream = BayLine.Clean(stream);
        if (stream.Length is 0 or > 64)
        {
            return Refusal.Of("“stream” names the recording with 1 to 64 letters.");
        }

        Batch batch = await Batch.ReadAsync(http.Request.Body, cancellation);
        if (batch.Problem is { } problem)
        {
            return Refusal.Of(problem);
        }

        Results<Ok<IngestAnswer>, ProblemHttpResult> answer = await intake.TakeAsync(workshop, bayId, stream, batch, cancellation);
        if (answer.Result is Ok<IngestAnswer>)
        {
            telemetry.Ingested(intake.Kept, clock.GetElapsedTime(began));
        }

        return answer;
    }

    private static async Task<(Guid, Guid)?> SenderAsync(
        IDbContextFactory<RemedosContext> contexts,
        int number,
        string token,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        string hash = BayToken.Sha256(token);
        DateTimeOffset used = now - BayToken.Unused,
            made = now - BayToken.Longest;
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        var bay = await context
            .Bays.AsNoTracking()
            .Where(b => b.TokenSha256 == hash && b.Number == number)
            .Where(b => b.TokenMadeAt > made && (b.TokenMadeAt > used || b.LastSeenAt > used))
            .Select(b => new { b.WorkshopId, b.Id })
            .SingleOrDefaultAsync(cancellation);
        return bay is null ? null : (bay.WorkshopId, bay.Id);
    }
}
