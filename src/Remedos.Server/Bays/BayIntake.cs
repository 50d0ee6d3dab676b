using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>A batch on its way into a bay.</summary>
/// <param name="Stream">The sender's name of its recording.</param>
/// <param name="Token">The hash of what the sender showed; null where nobody has to show anything.</param>
internal sealed record Sent(Guid BayId, string Stream, Batch Batch, string? Token)
{
    /// <summary>What came of it, once it is committed.</summary>
    public TaskCompletionSource<Taken> Came { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
}

/// <summary>What came of a batch: an answer, with how many readings it has added, or a refusal.</summary>
internal sealed record Taken(IngestAnswer? Answer, ProblemHttpResult? Refused, int Kept)
{
    public Taken(IngestAnswer answer, int kept)
        : this(answer, null, kept) { }

    public Taken(ProblemHttpResult refused)
        : this(null, refused, 0) { }
}

/// <summary>
/// Takes what bays are sent, and answers once it is committed. What arrives while a change of the same workshop is being committed goes
/// together into the next one: a lone bay never waits, and sixty cost little more than a few.
/// </summary>
internal sealed class BayIntake(Writes writes, TakeBatch take, BayLogs logs)
{
    /// <summary>Of one change; a sender that was away sends much at once.</summary>
    private const int MostLettersTogether = 4_000_000;

    private readonly ConcurrentDictionary<Guid, Line> _lines = new();

    /// <summary>What waits in a workshop, in its order.</summary>
    private sealed class Line
    {
        public List<Sent> Waiting { get; } = [];

        public bool IsServed { get; set; }
    }

    /// <summary>Takes a batch into a bay of a workshop. Who gives up waiting does not take it back.</summary>
    public Task<Taken> TakeAsync(Guid workshop, Sent sent, CancellationToken cancellation)
    {
        Line line = _lines.GetOrAdd(workshop, _ => new Line());
        lock (line)
        {
            line.Waiting.Add(sent);
            if (!line.IsServed)
            {
                line.IsServed = true;
                // Of nobody's request: it serves those that come meanwhile too.
                using (ExecutionContext.SuppressFlow())
                {
                    _ = Task.Run(() => ServeAsync(workshop, line), CancellationToken.None);
                }
            }
        }

        return sent.Came.Task.WaitAsync(cancellation);
    }

    private async Task ServeAsync(Guid workshop, Line line)
    {
        while (Next(line) is { Count: > 0 } together)
        {
            await TogetherAsync(workshop, together);
        }
    }

    /// <summary>Those that go together, of each bay one; none where nobody waits any more.</summary>
    private static List<Sent> Next(Line line)
    {
        lock (line)
        {
            List<Sent> together = [];
            HashSet<Guid> bays = [];
            long letters = 0;
            foreach (Sent sent in line.Waiting)
            {
                letters += sent.Batch.Letters;
                if (together.Count > 0 && letters > MostLettersTogether)
                {
                    break;
                }

                if (bays.Add(sent.BayId))
                {
                    together.Add(sent);
                }
            }

            line.Waiting.RemoveAll(together.Contains);
            line.IsServed = together.Count > 0;
            return together;
        }
    }

    private async Task TogetherAsync(Guid workshop, List<Sent> together)
    {
        Dictionary<Sent, Taken> taken = [];
        try
        {
            await writes.RunAsync(
                workshop,
                Guid.Empty,
                async write =>
                {
                    taken.Clear();
                    // Two batches of one bay take turns, on whatever server they arrive.
                    Dictionary<Guid, Bay> bays = (await write.BaysAsync([.. together.Select(sent => sent.BayId)])).ToDictionary(bay =>
                        bay.Id
                    );
                    foreach (Sent sent in together)
                    {
                        taken[sent] = bays.TryGetValue(sent.BayId, out Bay? bay)
                            ? await take.IntoAsync(write, bay, sent)
                            : new Taken(Refusal.Unknown("This bay is not on the bench any more."));
                    }

                    return null;
                },
                null,
                CancellationToken.None
            );
        }
        catch (Exception failure)
        {
            together.ForEach(sent => logs.Forget(sent.BayId));
            if (together.Count == 1 || ProblemSentences.IsAway(failure))
            {
                together.ForEach(sent => sent.Came.SetException(failure));
                return;
            }

            // One bay's fault is not its neighbours'.
            foreach (Sent sent in together)
            {
                await TogetherAsync(workshop, [sent]);
            }

            return;
        }

        together.ForEach(sent => sent.Came.SetResult(taken[sent]));
    }
}
