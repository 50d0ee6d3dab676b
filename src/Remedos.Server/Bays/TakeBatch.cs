using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Queue;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>
/// What a bay's sender has sent, taken into the bay, whose row is locked: readings are numbered from 1; those that are here already are
/// passed over, those after a gap are left for the sender to send again from the number acknowledged, so none is lost or doubled
/// whatever the network does. Each answer carries what the machine is to do.
/// </summary>
internal sealed class TakeBatch(BayLogs logs, LiveBays live, QueueBell bell)
{
    /// <summary>An hour at one a second.</summary>
    private const int ReadingsKept = 3600;

    private const int ReadingsBetweenTidying = 600,
        ReadingsApart = 10;

    /// <summary>Takes it; a refusal leaves the bay as it was.</summary>
    /// <param name="write">The change in hand.</param>
    /// <param name="bay">The bay, locked.</param>
    /// <param name="sent">What came.</param>
    public async Task<Taken> IntoAsync(Write write, Bay bay, Sent sent)
    {
        Batch batch = sent.Batch;
        if (sent.Token is not null && bay.TokenSha256 != sent.Token)
        {
            return new Taken(BaySenders.Unknown(bay.Number));
        }

        if (await BeginStreamAsync(write, bay, sent.Stream) is { } taken)
        {
            return new Taken(taken);
        }

        bay.LastSeenAt = write.Now;
        bay.Sender = batch.Hello ?? bay.Sender;
        bay.Note = batch.Note ?? bay.Note;
        IReadOnlyList<BayReading> fresh = Take(write.Context, bay, batch);
        if (fresh.Count > 0 && bay.Run is { State.IsOver: false } run)
        {
            await MoveOnAsync(write, bay, run, fresh);
        }

        if (fresh.Count > 0 && IsTimeToTidy(bay, fresh.Count))
        {
            await TidyAsync(write, bay);
        }

        write.Once(() => live.Tell(bay, fresh));
        return new Taken(
            new IngestAnswer(
                bay.Acknowledged,
                bay.Run?.Order ?? new BenchOrder(0),
                bay.Run is { State.IsOver: false } going ? going.LimitC : null,
                bay.Sender?.Simulated == true ? bay.Hands : null,
                bay.Run is { } last ? Kebab.Of(last.State.Stage) : "none",
                bay.Run?.Says ?? "No run has been started.",
                batch.LeftOut
            ),
            fresh.Count
        );
    }

    /// <summary>
    /// Another name of the stream is a new recording; a run that it cuts lands as it is. Refused while another sender is heard in a run.
    /// </summary>
    private static async Task<ProblemHttpResult?> BeginStreamAsync(Write write, Bay bay, string stream)
    {
        if (bay.Stream == stream)
        {
            return null;
        }

        if (bay.Run is { State.IsOver: false } && write.Now - bay.LastSeenAt < BayAnswer.OnlineFor)
        {
            return Refusal.Conflict(
                $"A run goes on in bay {bay.Number}, and another sender speaks for it. Is this the right bay? It is free once the other "
                    + $"has been silent for {BayAnswer.OnlineFor.TotalSeconds:0} s."
            );
        }

        if (bay.Run is { State.IsOver: false } cut)
        {
            const string why = "Stopped: the machine began a new recording.";
            bay.Run = cut.After(new GuidedAnswer(new GuidedState(GuidedStage.Stopped, 0, why), new BenchOrder(0), why, 0));
            await LandRun.BeginAsync(write.Context, bay, bay.Acknowledged, write.Now, write.Cancellation);
        }

        (bay.Stream, bay.Recording, bay.Acknowledged) = (stream, bay.Recording + 1, 0);
        return null;
    }

    /// <summary>Lets the run decide what comes next. The order never waits for the log: that lands from the queue.</summary>
    private async Task MoveOnAsync(Write write, Bay bay, BayRun run, IReadOnlyList<BayReading> fresh)
    {
        BayLog log = await logs.WithAsync(write.Context, bay, run, fresh, write.Cancellation);
        Degrees.TellIn(run.TemperatureUnit);
        bay.Run = run.After(GuidedRun.Next(run.Plan, run.State, log)) with
        {
            ElapsedSeconds = log.DurationSeconds,
            LastChipC = fresh.Select(reading => reading.ChipC).LastOrDefault(chip => chip is not null) ?? run.LastChipC,
        };
        if (bay.Run.State.IsOver)
        {
            logs.Forget(bay.Id);
            await LandRun.BeginAsync(write.Context, bay, bay.Acknowledged, write.Now, write.Cancellation);
            write.Once(bell.Ring);
        }
    }

    /// <summary>
    /// Adds to the bay what follows what is there; what is there already is passed over, what comes after a gap is not taken.
    /// </summary>
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
            context.BayBatches.Add(
                new BayBatch
                {
                    WorkshopId = bay.WorkshopId,
                    BayId = bay.Id,
                    Recording = bay.Recording,
                    FirstSequence = batch.Readings[from].Sequence,
                    LastSequence = batch.Readings[behind - 1].Sequence,
                    Lines = string.Join('\n', batch.Lines.Skip(from).Take(behind - from)),
                }
            );
            bay.Acknowledged = batch.Readings[behind - 1].Sequence;
        }

        return [.. batch.Readings.Skip(from).Take(behind - from)];
    }

    /// <summary>Bays that were begun together tidy one after the other, not all in one change.</summary>
    private static bool IsTimeToTidy(Bay bay, int fresh) =>
        (bay.Acknowledged + ((long)ReadingsApart * bay.Number)) % ReadingsBetweenTidying < fresh;

    /// <summary>Drops what is older than the picture of a bay and no run's that goes on or has still to land.</summary>
    private static async Task TidyAsync(Write write, Bay bay)
    {
        if (await write.Context.WorkItems.AnyAsync(i => i.WorkshopId == bay.WorkshopId && i.Kind == WorkItem.LandRun, write.Cancellation))
        {
            return;
        }

        long keepFrom = bay.Run is { State.IsOver: false } run
            ? Math.Min(run.FromSequence, bay.Acknowledged - ReadingsKept)
            : bay.Acknowledged - ReadingsKept;
        // Each by the key alone: in one question all that is kept of an hour's run would be read.
        IQueryable<BayBatch> its = write.Context.BayBatches.Where(b => b.WorkshopId == bay.WorkshopId && b.BayId == bay.Id);
        await its.Where(b => b.Recording < bay.Recording).ExecuteDeleteAsync(write.Cancellation);
        await its.Where(b => b.Recording == bay.Recording && b.FirstSequence < keepFrom && b.LastSequence < keepFrom)
            .ExecuteDeleteAsync(write.Cancellation);
    }
}
