using Remedos.Bench.Sending;
using Remedos.Core.Bays;

namespace Remedos.Bench.Rigs;

/// <summary>A simulated machine in a bay. Idle it lives in real time; while a run goes on, as much faster as the rig was told.</summary>
internal sealed class RiggedBay(BayLink link, SimulatedBay machine, double speed)
{
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(250),
        Patience = TimeSpan.FromSeconds(1);

    private const int MostAtOnce = 2000,
        MostBytes = 1_500_000;

    public async Task RunAsync(CancellationToken cancellation)
    {
        using Outbox outbox = new(null, NewName());
        (double due, bool running, bool greeted, long offset) = (1, false, false, 0);
        List<string> notes = [];
        while (!cancellation.IsCancellationRequested)
        {
            for (; due >= 1; due--)
            {
                BayReading reading = machine.Second();
                outbox.Add(reading with { Sequence = reading.Sequence - offset });
            }

            notes.AddRange(machine.TakeNotes().Select(Wire.Note));
            if (outbox.Waiting > 0)
            {
                string[] told = [.. greeted ? [] : new[] { Wire.Line(machine.Hello) }, .. notes];
                if (
                    (
                        await link.SendAsync(
                            outbox.Stream,
                            string.Join('\n', [.. told, outbox.Oldest(MostAtOnce, MostBytes)]),
                            cancellation
                        )
                    ).Answer
                    is not { } answer
                )
                {
                    await Task.Delay(Patience, cancellation);
                    continue;
                }

                notes.Clear();
                greeted = true;
                if (!outbox.Acknowledge(answer.Acknowledged))
                {
                    // Somebody else has sent to this bay, and what is missing is kept no more: a new recording.
                    offset += outbox.LastSequence;
                    outbox.Restart(NewName());
                    continue;
                }

                running = answer.IsRunning;
                machine.Obey(answer.Order, answer.Hands);
            }

            await Task.Delay(Beat, cancellation);
            due += Beat.TotalSeconds * (running ? speed : 1);
        }
    }

    private static string NewName() => Guid.NewGuid().ToString("N")[..12];
}
