using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
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
        int number, string stream, HttpContext http, IDbContextFactory<RemedosContext> contexts, Landing landing, TimeProvider clock, CancellationToken cancellation)
    {
        if (stream.Length is 0 or > 64)
        {
            return RunChanges.Refused("“stream” names the recording with 1 to 64 letters.");
        }

        (List<BayReading>? readings, List<string> lines, string? problem) = await ReadAsync(http.Request.Body, cancellation);
        if (readings is null)
        {
            return RunChanges.Refused(problem!);
        }

        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        // Two batches of one bay take turns, on whatever server they arrive.
        Bay? bay = (await context.Bays.FromSql($"SELECT *, xmin FROM bays WHERE number = {number} FOR UPDATE").ToListAsync(cancellation)).FirstOrDefault(b => Believed(b, http.Request.Headers.Authorization.ToString()));
        if (bay is null)
        {
            return TypedResults.Problem($"Bay {number} does not know this token. It stands on the bay’s card.", statusCode: StatusCodes.Status401Unauthorized);
        }

        if (bay.Stream != stream)
        {
            (bay.Stream, bay.Acknowledged) = (stream, 0);
            if (bay.Run is { State.IsOver: false } cut)
            {
                bay.Run = cut with { State = new GuidedState(GuidedState.Stopped, 0, "Stopped: the machine began a new recording."), Says = "Stopped: the machine began a new recording.", SecondsLeft = 0 };
                await landing.LandAsync(context, bay, cancellation);
            }
        }

        int from = 0;
        while (from < readings.Count && readings[from].Sequence <= bay.Acknowledged)
        {
            from++;
        }

        int behind = from;
        while (behind < readings.Count && readings[behind].Sequence == bay.Acknowledged + 1 + (behind - from))
        {
            behind++;
        }

        if (behind > from)
        {
            context.BayBatches.Add(new BayBatch
            {
                WorkshopId = bay.WorkshopId,
                BayId = bay.Id,
                Stream = stream,
                FirstSequence = readings[from].Sequence,
                LastSequence = readings[behind - 1].Sequence,
                Lines = string.Join('\n', lines[from..behind]),
            });
            bay.Acknowledged = readings[behind - 1].Sequence;
        }

        bay.LastSeenAt = clock.GetUtcNow();
        await context.SaveChangesAsync(cancellation);
        if (bay.Run is { State.IsOver: false } run && behind > from)
        {
            Log log = BayReading.ToLog(await BayReadings.ReadAsync(context, bay, stream, run.FromSequence, cancellation));
            GuidedAnswer next = GuidedRun.Next(run.Plan, run.State, log);
            bay.Run = run with { State = next.State, Says = next.Says, SecondsLeft = next.SecondsLeft };
            if (next.State.IsOver)
            {
                await landing.LandAsync(context, bay, cancellation);
            }

            await context.SaveChangesAsync(cancellation);
        }

        if (behind > from && bay.Acknowledged % ReadingsBetweenTidying < behind - from)
        {
            await TidyAsync(context, bay, cancellation);
        }

        await transaction.CommitAsync(cancellation);
        landing.Ring();
        return TypedResults.Ok(new IngestAnswer(bay.Acknowledged, bay.Run?.Order ?? new BenchOrder(0), bay.Run?.State.Stage ?? "none", bay.Run?.Says ?? "No run has been started."));
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

    private static async Task<(List<BayReading>? Readings, List<string> Lines, string? Problem)> ReadAsync(Stream body, CancellationToken cancellation)
    {
        List<BayReading> readings = [];
        List<string> lines = [];
        using StreamReader text = new(body, Encoding.UTF8);
        int number = 0;
        while (await text.ReadLineAsync(cancellation) is { } line)
        {
            number++;
            if (string.IsNullOrWhiteSpace(line))
            {
                continue;
            }

            (BayReading? reading, string? problem) = BayReading.Parse(line);
            if (reading is null)
            {
                return (null, [], $"Line {number}: {problem}");
            }

            readings.Add(reading);
            lines.Add(line.Trim());
        }

        return (readings, lines, null);
    }
}
