using Remedos.Bench.Sending;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Bench.Probing;

/// <summary>What a probe is told on its command line.</summary>
/// <param name="Hz">Readings a second, 1 to 10.</param>
/// <param name="Root">Where <c>sys</c> and <c>proc</c> are.</param>
/// <param name="Folder">Where readings wait for the server.</param>
/// <param name="LimitC">Where to stop by itself, °C; null for what the kernel and the job say.</param>
internal sealed record ProbeOptions(double Hz, string Root, string Folder, double? LimitC);

/// <summary>Reads the machine, sends what it reads, makes the load that is asked for, and lets go of it when it should.</summary>
internal sealed class Probe(BayLink link, ProbeOptions options, TimeProvider clock, TextWriter says)
{
    private const int MostAtOnce = 2000;

    /// <summary>Well below what the server takes at once, however many sensors a reading has.</summary>
    private const int MostBytesAtOnce = 1_500_000;

    /// <summary>A machine has more threads than this, and a reading does not carry them all.</summary>
    private const int MostOfOneRole = 1024;

    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(250),
        Patience = TimeSpan.FromSeconds(1),
        BetweenSyncs = TimeSpan.FromSeconds(1);

    private readonly Lock _outboxLock = new();
    private readonly SensorTree _tree = new(options.Root);
    private readonly Queue<string> _notes = new();
    private volatile IngestAnswer? _answer;

    /// <summary>Goes on until it is told to stop.</summary>
    /// <returns>Why the server would not have it, as a sentence; null when it was told to stop.</returns>
    public async Task<string?> RunAsync(CancellationToken cancellation)
    {
        Introduce();
        using Outbox outbox = new(options.Folder, Guid.NewGuid().ToString("N")[..12]);
        if (outbox.Waiting > 0)
        {
            says.WriteLine($"{outbox.Waiting} readings of before wait in {options.Folder}; they are sent first.");
        }

        using CancellationTokenSource end = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        Task<string?> sending = SendAsync(outbox, end.Token);
        Task reading = ReadAsync(outbox, end.Token);
        await Task.WhenAny(sending, reading);
        await end.CancelAsync();
        Task[] both = [sending, reading];
        await Task.WhenAny(Task.WhenAll(both), Task.Delay(Patience, CancellationToken.None));
        return sending is { IsCompletedSuccessfully: true, Result: { } refusal } ? refusal
            : Array.Find(both, task => task.IsFaulted)?.Exception?.InnerException is { } fault ? $"It has failed: {fault.Message}"
            : null;
    }

    /// <summary>Says what it found, and what it did not.</summary>
    private void Introduce()
    {
        foreach (IGrouping<ChannelRole, Sensor> role in _tree.Sensors.GroupBy(sensor => sensor.Role))
        {
            says.WriteLine($"  {role.Key.Name(), -26} {role.First().Label}{(role.Count() > 1 ? $" and {role.Count() - 1} more" : "")}");
        }

        foreach (string doubt in _tree.Doubts)
        {
            says.WriteLine(doubt);
        }

        if (_tree.Missing.Count > 0)
        {
            says.WriteLine(
                $"This machine does not show: {string.Join(", ", _tree.Missing.Select(role => role.Name()))}. The probe goes on without."
            );
        }
    }

    private BayHello Hello => new($"{Environment.ProcessorCount} threads", [BayHello.Load], [.. _tree.Missing.Select(role => role.Name())]);

    private async Task ReadAsync(Outbox outbox, CancellationToken cancellation)
    {
        using OwnLoad load = new(Environment.ProcessorCount, clock);
        Guard guard = new(options.LimitC ?? _tree.LimitC);
        await using Watch watch = new(load, guard, clock, Say);
        (long began, double offset, IngestAnswer? heard) = (
            clock.GetTimestamp(),
            outbox.LastSequence == 0 ? 0 : outbox.LastSeconds + (1 / options.Hz),
            null
        );
        (double due, double syncDue, double before) = (0, 0, 0);
        while (!cancellation.IsCancellationRequested)
        {
            double now = clock.GetElapsedTime(began).TotalSeconds;
            watch.Beat();
            Dictionary<BayChannel, double> values = _tree.Read(now).Where(pair => pair.Key.Index < MostOfOneRole).ToDictionary();
            double work = load.TakeWork();
            if (load.IsOn && now > before)
            {
                values[new BayChannel(ChannelRole.Score)] = work / (now - before);
            }

            before = now;
            BayReading reading;
            lock (_outboxLock)
            {
                reading = new BayReading(outbox.LastSequence + 1, Math.Round(offset + now, 3), values);
                Keep(outbox, reading, now >= syncDue);
                syncDue = now >= syncDue ? now + BetweenSyncs.TotalSeconds : syncDue;
            }

            Obey(load, guard, reading, now, ref heard);
            due = NextBeat(due, now, 1 / options.Hz);
            await Task.Delay(TimeSpan.FromSeconds(Math.Max(0, due - clock.GetElapsedTime(began).TotalSeconds)), clock, cancellation);
        }
    }

    /// <summary>
    /// The next beat of the clock, whatever this one took, s; after a hitch a new beat, so that no two readings share a moment.
    /// </summary>
    internal static double NextBeat(double due, double now, double interval) =>
        due + (interval / 2) > now ? due + interval : now + interval;

    private void Keep(Outbox outbox, BayReading reading, bool sync)
    {
        try
        {
            outbox.Add(reading);
            if (sync)
            {
                outbox.Sync();
            }
        }
        catch (IOException failure)
        {
            // It waits in memory all the same.
            says.WriteLine($"Readings cannot be kept in {options.Folder}: {failure.Message}");
        }
    }

    private void Obey(OwnLoad load, Guard guard, BayReading reading, double now, ref IngestAnswer? heard)
    {
        IngestAnswer? answer = _answer;
        if (answer is not null && !ReferenceEquals(answer, heard))
        {
            guard.Heard(now, answer.Order.Load > 0);
            heard = answer;
        }

        if (load.IsOn && guard.Look(now, reading.ChipC, reading.Of(ChannelRole.CpuPower), answer?.LimitC) is { } why)
        {
            Say(why);
        }

        double share = guard.Tripped is null ? answer?.Order.Load ?? 0 : 0;
        load.Set(share, answer?.Order.Work ?? LoadKind.AllCore);
        if (share == 0)
        {
            guard.Rest();
        }
    }

    /// <summary>Says it here and on the bench.</summary>
    private void Say(string why)
    {
        says.WriteLine(why);
        lock (_notes)
        {
            _notes.Enqueue(Wire.Note(why));
        }
    }

    private async Task<string?> SendAsync(Outbox outbox, CancellationToken cancellation)
    {
        (bool greeted, string said, bool away) = (false, "", false);
        while (!cancellation.IsCancellationRequested)
        {
            string stream,
                lines;
            string[] notes;
            lock (_outboxLock)
            {
                (stream, lines) = (outbox.Stream, outbox.Oldest(MostAtOnce, MostBytesAtOnce));
            }

            lock (_notes)
            {
                notes = [.. _notes];
            }

            string[] told = [.. greeted ? [] : new[] { Wire.Line(Hello) }, .. notes];
            (IngestAnswer? answer, string? refusal, string? wait) = await link.SendAsync(
                stream,
                string.Join('\n', [.. told, lines]),
                cancellation
            );
            if (refusal is not null)
            {
                return refusal;
            }

            if (answer is null)
            {
                if (!away)
                {
                    says.WriteLine($"{wait ?? "The server does not answer."} Readings are kept meanwhile.");
                }

                away = true;
                await Task.Delay(Patience, clock, cancellation);
                continue;
            }

            (greeted, away) = (true, false);
            lock (_notes)
            {
                for (int i = 0; i < notes.Length; i++)
                {
                    _notes.Dequeue();
                }
            }

            lock (_outboxLock)
            {
                if (!outbox.Acknowledge(answer.Acknowledged))
                {
                    says.WriteLine("Somebody else has sent to this bay: a new recording begins.");
                    outbox.Restart(Guid.NewGuid().ToString("N")[..12]);
                }
            }

            _answer = answer;
            if (answer.Says != said)
            {
                says.WriteLine(said = answer.Says);
            }

            foreach (string sentence in answer.LeftOut ?? [])
            {
                says.WriteLine(sentence);
            }

            await Task.Delay(Beat, clock, cancellation);
        }

        return null;
    }
}
