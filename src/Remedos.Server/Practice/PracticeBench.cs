using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Bays;
using Remedos.Core.Practice;
using Remedos.Core.Simulation;
using Remedos.Data;
using Remedos.Data.Practice;
using Remedos.Server.Bays;
using Remedos.Server.Hosting;

namespace Remedos.Server.Practice;

/// <summary>
/// Lets the machines of practice live in their bays, by the same intake as any sender. A machine is driven while somebody practises with
/// it, by one server: whoever holds its row. Where that server ends, another begins it anew, like a machine that was switched off.
/// </summary>
internal sealed class PracticeBench(
    IDbContextFactory<RemedosContext> contexts,
    BayIntake intake,
    LiveBays live,
    TimeProvider clock,
    ILogger<PracticeBench> log
) : Recurring(TimeSpan.FromSeconds(1), clock, log)
{
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(200),
        Held = TimeSpan.FromSeconds(5),
        WantedFor = TimeSpan.FromMinutes(10);

    private readonly Guid _me = Guid.NewGuid();
    private readonly TimeProvider _clock = clock;
    private readonly ConcurrentDictionary<Guid, DateTimeOffset> _wanted = new();
    private readonly ConcurrentDictionary<Guid, Task> _driven = new();

    protected override string WhatFails => "The practice machines could not be looked after";

    /// <summary>Somebody practises in a workshop.</summary>
    public void Want(Guid workshop) => _wanted[workshop] = _clock.GetUtcNow();

    public override async Task RunAsync(CancellationToken cancellation)
    {
        DateTimeOffset now = _clock.GetUtcNow();
        foreach (IGrouping<Guid, Guid> followed in live.Followed.Where(one => _wanted.ContainsKey(one.Key)))
        {
            _wanted[followed.Key] = now;
        }

        foreach ((Guid workshop, DateTimeOffset since) in _wanted)
        {
            if (now - since > WantedFor)
            {
                _wanted.TryRemove(workshop, out _);
            }
        }

        foreach ((Guid workshop, Task drive) in _driven)
        {
            if (drive.IsCompleted)
            {
                _driven.TryRemove(workshop, out _);
            }
        }

        if (_wanted.Keys.Any(workshop => !_driven.ContainsKey(workshop)))
        {
            await TakeAsync(cancellation);
        }
    }

    /// <summary>Takes the machines that nobody drives.</summary>
    private async Task TakeAsync(CancellationToken cancellation)
    {
        Guid[] wanted = [.. _wanted.Keys.Where(workshop => !_driven.ContainsKey(workshop))];
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        foreach (
            PracticeTry tried in await context
                .PracticeTries.AsNoTracking()
                .Where(one => wanted.Contains(one.WorkshopId) && one.EndedAt == null)
                .ToListAsync(cancellation)
        )
        {
            if (await HoldAsync(context, tried, cancellation))
            {
                _driven[tried.WorkshopId] = Task.Run(() => DriveAsync(tried, cancellation), CancellationToken.None);
            }
        }
    }

    /// <summary>Holds a machine for some more seconds; false where another server does.</summary>
    private async Task<bool> HoldAsync(RemedosContext context, PracticeTry tried, CancellationToken cancellation)
    {
        DateTimeOffset now = _clock.GetUtcNow();
        return await context
                .PracticeTries.Where(one => one.WorkshopId == tried.WorkshopId && one.Id == tried.Id && one.EndedAt == null)
                .Where(one => one.DrivenBy == _me || one.DrivenUntil == null || one.DrivenUntil < now)
                .ExecuteUpdateAsync(
                    set => set.SetProperty(one => one.DrivenBy, _me).SetProperty(one => one.DrivenUntil, now + Held),
                    cancellation
                ) == 1;
    }

    private Task<RemedosContext> OpenAsync(CancellationToken cancellation) => contexts.CreateDbContextAsync(cancellation);

    private async Task DriveAsync(PracticeTry tried, CancellationToken cancellation)
    {
        try
        {
            await new Machine(this, tried, intake).LiveAsync(cancellation);
        }
        catch (OperationCanceledException) when (cancellation.IsCancellationRequested)
        {
            // The server ends.
        }
        catch (Exception failure)
        {
            // It is taken again within seconds.
            log.LogWarning(ProblemSentences.IsAway(failure) ? null : failure, "A practice machine stopped: {Why}", failure.Message);
        }
    }

    /// <summary>One machine in its bay. Idle it lives in real time; while a run goes on, as much faster as was asked.</summary>
    private sealed class Machine(PracticeBench bench, PracticeTry tried, BayIntake intake)
    {
        private readonly PracticeCase _case = PracticeTries.CaseOf(tried);
        private string _stream = NewName();
        private long _offset;
        private bool _greeted;

        public async Task LiveAsync(CancellationToken cancellation)
        {
            (SimulatedBay machine, double due, bool running) = (await FreshAsync(cancellation), 1, false);
            DateTimeOffset held = bench._clock.GetUtcNow();
            while (bench._wanted.ContainsKey(tried.WorkshopId))
            {
                await using RemedosContext context = await bench.OpenAsync(cancellation);
                if (bench._clock.GetUtcNow() - held > Held / 3)
                {
                    if (!await bench.HoldAsync(context, tried, cancellation))
                    {
                        return;
                    }

                    held = bench._clock.GetUtcNow();
                }

                var now = await context
                    .PracticeTries.AsNoTracking()
                    .Where(one => one.WorkshopId == tried.WorkshopId && one.Id == tried.Id && one.EndedAt == null)
                    .Select(one => new { one.Speed, one.Stand })
                    .SingleOrDefaultAsync(cancellation);
                if (now is null)
                {
                    return;
                }

                machine.Mend(now.Stand.Cured);
                running = await SendAsync(machine, (int)due, cancellation) ?? running;
                due -= Math.Floor(due);
                await Task.Delay(Beat, bench._clock, cancellation);
                due += Beat.TotalSeconds * (running ? now.Speed : 1);
            }
        }

        /// <summary>The machine as hands have left it.</summary>
        private async Task<SimulatedBay> FreshAsync(CancellationToken cancellation)
        {
            await using RemedosContext context = await bench.OpenAsync(cancellation);
            BenchHands? hands = await context
                .Bays.Where(one => one.WorkshopId == tried.WorkshopId && one.Id == tried.BayId)
                .Select(one => one.Hands)
                .SingleAsync(cancellation);
            IReadOnlyList<string> cured = (
                await context
                    .PracticeTries.Where(one => one.WorkshopId == tried.WorkshopId && one.Id == tried.Id)
                    .Select(one => one.Stand)
                    .SingleAsync(cancellation)
            ).Cured;
            return new SimulatedBay(
                _case.Row,
                _case.Faults.Where(fault => fault.Key != FeltFaults.TooSmall && !cured.Contains(fault.Key)).ToDictionary(),
                _case.Seed,
                hands
            );
        }

        /// <summary>Sends some seconds of its life; whether a run goes on, and null where nothing was sent.</summary>
        private async Task<bool?> SendAsync(SimulatedBay machine, int seconds, CancellationToken cancellation)
        {
            List<BayReading> readings = [];
            for (int second = 0; second < seconds; second++)
            {
                BayReading reading = machine.Second();
                readings.Add(reading with { Sequence = reading.Sequence - _offset });
            }

            if (readings.Count == 0)
            {
                return null;
            }

            Batch batch = new(
                readings,
                [.. readings.Select(BayLine.Of)],
                _greeted ? null : machine.Hello,
                machine.TakeNotes().LastOrDefault(),
                [],
                null
            );
            if (
                (await intake.TakeAsync(tried.WorkshopId, new Sent(tried.BayId, _stream, batch, null), cancellation)).Answer
                is not { } answer
            )
            {
                return null;
            }

            _greeted = true;
            if (answer.Acknowledged < readings[^1].Sequence)
            {
                // The bay was emptied meanwhile, or somebody else has sent to it: a new recording.
                (_stream, _offset, _greeted) = (NewName(), _offset + readings[^1].Sequence, false);
            }

            machine.Obey(answer.Order, answer.Hands);
            return Kebab.Parse<GuidedStage>(answer.Stage) is GuidedStage.Idle or GuidedStage.Load or GuidedStage.CoolDown;
        }

        private static string NewName() => Guid.NewGuid().ToString("N")[..12];
    }
}
