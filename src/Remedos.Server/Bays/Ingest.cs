using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>
/// Takes readings of a machine under test: lines of JSON, numbered from 1. Those that are here already are passed over, those after a gap are left for the sender
/// to send again from the number acknowledged, so none is lost or doubled whatever the network does. Each answer carries what the machine is to do.
/// </summary>
internal static class Ingest
{
    /// <summary>An hour at one a second.</summary>
    private const int ReadingsKept = 3600;

    private const int ReadingsBetweenTidying = 600;

    public const int LargestBatchBytes = 4_000_000;

    public static async Task<Results<Ok<IngestAnswer>, ProblemHttpResult>> HandleAsync(
        int number, string stream, HttpContext http, IDbContextFactory<RemedosContext> contexts, BayLogs logs, Landing landing, LiveBays live, TimeProvider clock, CancellationToken cancellation)
    {
        if (stream.Length is 0 or > 64)
        {
            return RunChanges.Refused("“stream” names the recording with 1 to 64 letters.");
        }

        Batch batch = await Batch.ReadAsync(http.Request.Body, cancellation);
        if (batch.Problem is { } problem)
        {
            return RunChanges.Refused(problem);
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        // Two batches of one bay take turns, on whatever server they arrive.
        Bay? bay = (await context.Bays.FromSql($"SELECT *, xmin FROM bays WHERE number = {number} FOR UPDATE").ToListAsync(cancellation)).FirstOrDefault(b => Believed(b, http.Request.Headers.Authorization.ToString()));
        if (bay is null)
        {
            return TypedResults.Problem($"Bay {number} does not know this token. It stands on the bay’s card.", statusCode: StatusCodes.Status401Unauthorized);
        }

        if (bay.Stream != stream && bay.Run is { State.IsOver: false } && clock.GetUtcNow() - bay.LastSeenAt < BayAnswer.OnlineFor)
        {
            return TypedResults.Problem($"A run goes on in bay {number}, and another sender speaks for it. Is this the right bay? It is free once the other has been silent for {BayAnswer.OnlineFor.TotalSeconds:0} s.", statusCode: StatusCodes.Status409Conflict);
        }

        if (bay.Stream != stream)
        {
            (bay.Stream, bay.Acknowledged) = (stream, 0);
            if (bay.Run is { State.IsOver: false } cut)
            {
                const string why = "Stopped: the machine began a new recording.";
                bay.Run = cut.After(new GuidedAnswer(new GuidedState(GuidedState.Stopped, 0, why), new BenchOrder(0), why, 0));
                await landing.LandAsync(context, bay, null, cancellation);
            }
        }

        bay.LastSeenAt = clock.GetUtcNow();
        bay.Sender = batch.Hello ?? bay.Sender;
        bay.Note = batch.Note ?? bay.Note;
        IReadOnlyList<BayReading> fresh = Take(context, bay, batch);
        try
        {
            if (fresh.Count > 0 && bay.Run is { State.IsOver: false } run)
            {
                BayLog log = await logs.WithAsync(context, bay, run, fresh, cancellation);
                bay.Run = run.After(GuidedRun.Next(run.Plan, run.State, log));
                if (bay.Run.State.IsOver)
                {
                    logs.Forget(bay.Id);
                    await landing.LandAsync(context, bay, log, cancellation);
                }
            }

            await context.SaveChangesAsync(cancellation);
            if (fresh.Count > 0 && bay.Acknowledged % ReadingsBetweenTidying < fresh.Count)
            {
                await TidyAsync(context, bay, cancellation);
            }

            await transaction.CommitAsync(cancellation);
        }
        catch
        {
            logs.Forget(bay.Id);
            throw;
        }

        landing.Ring();
        live.Tell(bay, fresh);
        return TypedResults.Ok(new IngestAnswer(
            bay.Acknowledged, bay.Run?.Order ?? new BenchOrder(0), bay.Run is { State.IsOver: false } going ? going.LimitC : null, bay.Sender?.Simulated == true ? bay.Hands : null,
            bay.Run?.State.Stage ?? "none", bay.Run?.Says ?? "No run has been started.", batch.LeftOut));
    }

    /// <summary>Adds to the bay what follows what is there; what is there already is passed over, what comes after a gap is not taken.</summary>
    private static IReadOnlyList<BayReading> Take(RemedosContext context, Bay bay, Batch batch)
    {
        int from = 0;
        while (from < batch.Readings.Count && batch.Readings[from].Sequence <= bay.Acknowledged)
        {
            from++;
        }

        int behind = from;
        while (behind < batch.Readings.Count && batch.Readings[behind].Sequence == bay.Acknowledged + 1 + (behind - from))
        {
            behind++;
        }

        if (behind > from)
        {
            context.BayBatches.Add(new BayBatch
            {
                WorkshopId = bay.WorkshopId,
                BayId = bay.Id,
                Stream = bay.Stream!,
                FirstSequence = batch.Readings[from].Sequence,
                LastSequence = batch.Readings[behind - 1].Sequence,
                Lines = string.Join('\n', batch.Lines.Skip(from).Take(behind - from)),
            });
            bay.Acknowledged = batch.Readings[behind - 1].Sequence;
        }

        return [.. batch.Readings.Skip(from).Take(behind - from)];
    }

    /// <summary>Drops what is older than the picture of a bay and no run's: a run that is over has its log in the file store.</summary>
    private static Task<int> TidyAsync(RemedosContext context, Bay bay, CancellationToken cancellation)
    {
        long keepFrom = bay.Run is { State.IsOver: false } run ? Math.Min(run.FromSequence, bay.Acknowledged - ReadingsKept) : bay.Acknowledged - ReadingsKept;
        return context.BayBatches.Where(b => b.WorkshopId == bay.WorkshopId && b.BayId == bay.Id && (b.Stream != bay.Stream || b.LastSequence < keepFrom)).ExecuteDeleteAsync(cancellation);
    }

    private static bool Believed(Bay bay, string authorization) =>
        authorization.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase)
        && CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(authorization[7..].Trim()), Encoding.UTF8.GetBytes(bay.Token));
}
