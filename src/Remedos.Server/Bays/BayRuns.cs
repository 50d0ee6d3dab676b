using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Bays;

/// <summary>What a person does with a guided run: start it, go on, hold it, stop it, run it again, and add what was read by hand.</summary>
internal static class BayRuns
{
    private const int MostTimes = 10;

    public static void MapBayRuns(this RouteGroupBuilder bays)
    {
        bays.MapPut("/{id:guid}/run", StartAsync)
            .WithName("startBayRun")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapDelete("/{id:guid}/run", StopAsync).WithName("stopBayRun");
        bays.MapPost("/{id:guid}/run/go-on", GoOnAsync).WithName("goOnWithBayRun");
        bays.MapPut("/{id:guid}/run/hold", HoldAsync).WithName("holdBayRun");
        bays.MapPost("/{id:guid}/run/again", AgainAsync).WithName("repeatBayRun");
        bays.MapPost("/{id:guid}/run/by-hand", ReadByHandAsync)
            .WithName("addHandReading")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StartAsync(
        Guid id,
        StartRun start,
        BayDoor door,
        Caller caller,
        CancellationToken cancellation
    )
    {
        Job? job;
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            Guid workshop = context.Workshop!.Value;
            job = await context
                .Jobs.AsNoTracking()
                .WithSetups()
                .SingleOrDefaultAsync(j => j.WorkshopId == workshop && j.Id == start.JobId, cancellation);
        }

        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        if (
            (start.MountId is { } asked ? JobSetups.OfMount(job, asked) : (JobSetups.Current(job), JobSetups.CurrentMount(job)))
            is not var (setup, mount)
        )
        {
            return Refusal.Unknown("This job has no such setup any more. Choose what is measured.");
        }

        string work = start.Work ?? LoadKind.AllCore;
        bool fixes = start.FanPercents is { Count: > 0 } || start.FanRpm is not null;
        string? wrong =
            RunVariant.All.All(variant => variant.Id != start.Variant)
                ? $"“{start.Variant}” is no way to run a machine; known are "
                    + $"{string.Join(", ", RunVariant.All.Select(variant => variant.Id))}."
            : LoadKind.All.All(kind => kind.Id != work)
                ? $"“{work}” is no kind of load; known are {string.Join(", ", LoadKind.All.Select(kind => kind.Id))}."
            : start.LoadSeconds is not (null or (>= 60 and <= 86_400)) ? "A load lasts from a minute to a day."
            : start.Times is not (null or (>= 1 and <= MostTimes)) ? $"A run is done 1 to {MostTimes} times."
            : fixes && start.Variant != RunVariant.FixedFans ? "Fan speeds go with a run whose fans are fixed."
            : start.FanPercents is { } speeds && (speeds.Count > MostTimes || speeds.Any(speed => !(speed is >= 0 and <= 100)))
                ? $"Fans are fixed at up to {MostTimes} speeds, each between 0 and 100 %."
            : start.FanRpm is not (null or (>= 100 and <= 10_000)) ? "A fan turns 100 to 10000 times a minute."
            : start is { FanRpm: not null, FanPercents.Count: > 0 } ? "Fix the fans in percent or in turns a minute, not in both."
            : null;
        return wrong is not null
            ? Refusal.Of(wrong)
            : await door.ChangeAsync(
                id,
                async (write, bay) =>
                {
                    if (bay.Run is { State.IsOver: false } || bay.Stream is null)
                    {
                        return bay.Stream is null ? "Nothing is connected to this bay yet." : "A run goes on in this bay. Stop it first.";
                    }

                    BayRun run = new(
                        job.Id,
                        mount.Id,
                        start.Variant,
                        start.LoadSeconds,
                        job.TemperatureLimitC,
                        job.RatedPowerW,
                        null,
                        write.PersonId,
                        bay.Recording,
                        bay.Acknowledged + 1,
                        GuidedState.Start,
                        "",
                        null
                    )
                    {
                        On = $"{JobSetups.Name(setup)}, mount {mount.Number}",
                        Work = work,
                        TemperatureUnit = Degrees.Unit,
                        Times = start.Times ?? 1,
                        Following = (start.Times ?? 1) - 1,
                        RemountBetween = start.Remount == true,
                        FanPercent = start.FanPercents is { Count: > 0 } first ? first[0] : null,
                        FanRpm = start.FanRpm,
                        FansToFollow = [.. (start.FanPercents ?? []).Skip(1)],
                    };
                    bay.Run = run.After(GuidedRun.Begin(run.Plan, bay.Sender));
                    await WatchSilence.BeginAsync(write.Context, bay, write.Now, cancellation);
                    write.Event(
                        "bay-run-started",
                        $"{bay.Number}",
                        null,
                        JsonSerializer.Serialize(
                            new
                            {
                                start.JobId,
                                Setup = setup.Number,
                                Mount = mount.Number,
                                start.Variant,
                                work,
                            },
                            RemedosContext.Json
                        )
                    );
                    return null;
                },
                cancellation
            );
    }

    /// <summary>
    /// Stops the run: the machine is let go at once, and nothing follows. What was recorded lands on its job from the queue.
    /// </summary>
    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StopAsync(
        Guid id,
        BayDoor door,
        BayLogs logs,
        QueueBell bell,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            async (write, bay) =>
            {
                if (bay.Run is { State.IsOver: false } run)
                {
                    bay.Run = run.After(GuidedRun.Stop(run.Plan, run.State, run.ElapsedSeconds));
                    await LandRun.BeginAsync(write.Context, bay, bay.Acknowledged, write.Now, cancellation);
                    write.Event("bay-run-stopped", $"{bay.Number}");
                    write.Once(() =>
                    {
                        logs.Forget(bay.Id);
                        bell.Ring();
                    });
                }

                return null;
            },
            cancellation
        );

    /// <summary>A hand has done what the run waited for.</summary>
    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> GoOnAsync(Guid id, BayDoor door, CancellationToken cancellation) =>
        door.ChangeAsync(
            id,
            bay =>
            {
                if (bay.Run is { State.WaitsForHand: true } run)
                {
                    bay.Run = run.After(GuidedRun.GoOn(run.Plan, run.State, run.ElapsedSeconds));
                }

                return null;
            },
            cancellation
        );

    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> HoldAsync(
        Guid id,
        HoldRun hold,
        BayDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            bay =>
            {
                if (bay.Run is not { State.IsOver: false } run)
                {
                    return "No run goes on in this bay.";
                }

                bay.Run = run with { State = run.State with { Held = hold.Held } };
                return null;
            },
            cancellation
        );

    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> AgainAsync(Guid id, BayDoor door, CancellationToken cancellation) =>
        door.ChangeAsync(
            id,
            async (write, bay) =>
            {
                if (bay.Run is not { State.IsOver: true } run || bay.Stream is null)
                {
                    return bay.Run is null ? "No run has been done in this bay yet." : "A run goes on in this bay. Stop it first.";
                }

                bay.Run = run.Again(bay.Recording, bay.Acknowledged + 1, bay.Sender);
                await WatchSilence.BeginAsync(write.Context, bay, write.Now, cancellation);
                return null;
            },
            cancellation
        );

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ReadByHandAsync(
        Guid id,
        ReadByHand read,
        BayDoor door,
        CancellationToken cancellation
    )
    {
        string? wrong =
            read.RoomC is not (null or (>= -20 and <= 60))
                ? $"A room has between {Degrees.At(-20)} and {Degrees.At(60)}, not {Degrees.Point(read.RoomC!.Value):0.#}."
            : read.TubeOutC is not (null or (>= 0 and <= 120)) || read.TubeReturnC is not (null or (>= 0 and <= 120))
                ? $"A tube has between {Degrees.At(0)} and {Degrees.At(120)}."
            : read.TubeOutC is null != read.TubeReturnC is null
                ? "Read both tubes, one after the other: it is their difference that tells the flow."
            : read.SoundDba is not (null or (>= 10 and <= 120)) ? "A machine is between 10 and 120 dB(A) loud."
            : null;
        return wrong is not null
            ? Refusal.Of(wrong)
            : await door.ChangeAsync(
                id,
                bay =>
                {
                    if (bay.Run is not { State.IsOver: false } run)
                    {
                        return "No run goes on in this bay that it could be added to.";
                    }

                    Dictionary<ChannelRole, double> values = [];
                    void Add(ChannelRole role, double? value)
                    {
                        if (value is { } there)
                        {
                            values[role] = there;
                        }
                    }

                    Add(ChannelRole.TubeOutTemperature, read.TubeOutC);
                    Add(ChannelRole.TubeReturnTemperature, read.TubeReturnC);
                    Add(ChannelRole.SoundLevel, read.SoundDba);
                    bay.Run = run with
                    {
                        AmbientC = read.RoomC ?? run.AmbientC,
                        ByHand = values.Count == 0 ? run.ByHand : [.. run.ByHand, new HandReading(run.ElapsedSeconds, values)],
                    };
                    return null;
                },
                cancellation
            );
    }
}
