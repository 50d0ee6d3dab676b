using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Bays;
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
        BaySenders senders,
        BayIntake intake,
        RefusedTokens wrongTokens,
        Telemetry telemetry,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        long began = clock.GetTimestamp();
        // The token comes first: whoever has none is sent away before anything of it is read or locked.
        string token = BayToken.Sha256(BayToken.Of(http.Request.Headers.Authorization.ToString()));
        if (await senders.FindAsync(number, token, cancellation) is not var (workshop, bayId))
        {
            await wrongTokens.TellAsync(number, cancellation);
            return BaySenders.Unknown(number);
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

        Taken taken = await intake.TakeAsync(workshop, new Sent(bayId, stream, batch, token), cancellation);
        if (taken.Refused is { } refused)
        {
            if (refused.StatusCode == StatusCodes.Status401Unauthorized)
            {
                senders.Forget(number, token);
                await wrongTokens.TellAsync(number, cancellation);
            }

            return refused;
        }

        telemetry.Ingested(taken.Kept, clock.GetElapsedTime(began));
        return TypedResults.Ok(taken.Answer);
    }
}
