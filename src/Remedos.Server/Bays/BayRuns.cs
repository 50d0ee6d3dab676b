using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>What a person does with a guided run: start it, go on, hold it, stop it, run it again, and add what was read by hand.</summary>
internal static class BayRuns
{
    private const int MostTimes = 10;

    public static void MapBayRuns(this RouteGroupBuilder bays)
    {
        bays.MapPut("/{id:guid}/run", StartAsync).WithName("startBayRun").ProducesProblem(StatusCodes.Status404NotFound).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapDelete("/{id:guid}/run", StopAsync).WithName("stopBayRun");
        bays.MapPost("/{id:guid}/run/go-on", GoOnAsync).WithName("goOnWithBayRun");
        bays.MapPut("/{id:guid}/run/hold", HoldAsync).WithName("holdBayRun");
        bays.MapPost("/{id:guid}/run/again", AgainAsync).WithName("repeatBayRun");
        bays.MapPost("/{id:guid}/run/by-hand", ReadByHandAsync).WithName("addHandReading").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StartAsync(Guid id, StartRun start, BayDesk desk, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await context.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == start.JobId && j.WorkshopId == workshop.Id, cancellation) is not { } job)
        {
            return JobEndpoints.NoSuchJob();
        }

        string work = start.Work ?? LoadKind.AllCore;
        string? wrong = start.Side is not ("before" or "after") ? "A run is either a before or an after run."
            : RunVariant.All.All(variant => variant.Id != start.Variant) ? $"“{start.Variant}” is no way to run a machine; known are {string.Join(", ", RunVariant.All.Select(variant => variant.Id))}."
            : LoadKind.All.All(kind => kind.Id != work) ? $"“{work}” is no kind of load; known are {string.Join(", ", LoadKind.All.Select(kind => kind.Id))}."
            : start.LoadSeconds is not (null or (>= 60 and <= 86_400)) ? "A load lasts from a minute to a day."
            : start.Times is not (null or (>= 1 and <= MostTimes)) ? $"A run is done 1 to {MostTimes} times."
            : null;
        return wrong is not null ? RunChanges.Refused(wrong) : await desk.ChangeAsync(id, bay =>
        {
            if (bay.Run is { State.IsOver: false } || bay.Stream is null)
            {
                return bay.Stream is null ? "Nothing is connected to this bay yet." : "A run goes on in this bay. Stop it first.";
            }

            BayRun run = new(job.Id, start.Side, start.Variant, start.LoadSeconds, job.TemperatureLimitC, job.RatedPowerW, job.RoomC, person.Id, bay.Stream, bay.Acknowledged + 1, GuidedState.Start, "", null)
            {
                Work = work,
                Following = (start.Times ?? 1) - 1,
            };
            bay.Run = run.After(GuidedRun.Begin(run.Plan, bay.Sender));
            return null;
        }, cancellation);
    }

    /// <summary>Stops the run; what was recorded lands on its job all the same, and nothing follows.</summary>
    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StopAsync(Guid id, BayDesk desk, Landing landing, CancellationToken cancellation)
    {
        Results<Ok<BayAnswer>, ProblemHttpResult> answer = await desk.ChangeAsync(id, async (context, bay) =>
        {
            context.ChangeTracker.Entries().Where(entry => entry.State == EntityState.Added).ToList().ForEach(entry => entry.State = EntityState.Detached);
            if (bay.Run is { State.IsOver: false } run)
            {
                BayLog log = await LogOf(context, bay, run, cancellation);
                bay.Run = run.After(GuidedRun.Stop(run.Plan, run.State, log.DurationSeconds));
                await landing.LandAsync(context, bay, log, cancellation);
            }

            return null;
        }, cancellation);
        landing.Ring();
        return answer;
    }

    /// <summary>A hand has done what the run waited for.</summary>
    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> GoOnAsync(Guid id, BayDesk desk, CancellationToken cancellation) => desk.ChangeAsync(id, async (context, bay) =>
    {
        if (bay.Run is { State.WaitsForHand: true } run)
        {
            bay.Run = run.After(GuidedRun.GoOn(run.Plan, run.State, (await LogOf(context, bay, run, cancellation)).DurationSeconds));
        }

        return null;
    }, cancellation);

    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> HoldAsync(Guid id, HoldRun hold, BayDesk desk, CancellationToken cancellation) => desk.ChangeAsync(id, bay =>
    {
        if (bay.Run is not { State.IsOver: false } run)
        {
            return "No run goes on in this bay.";
        }

        bay.Run = run with { State = run.State with { Held = hold.Held } };
        return null;
    }, cancellation);

    private static Task<Results<Ok<BayAnswer>, ProblemHttpResult>> AgainAsync(Guid id, BayDesk desk, CancellationToken cancellation) => desk.ChangeAsync(id, bay =>
    {
        if (bay.Run is not { State.IsOver: true } run || bay.Stream is null)
        {
            return bay.Run is null ? "No run has been done in this bay yet." : "A run goes on in this bay. Stop it first.";
        }

        bay.Run = run.Again(bay.Stream, bay.Acknowledged + 1, bay.Sender);
        return null;
    }, cancellation);

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> ReadByHandAsync(Guid id, ReadByHand read, BayDesk desk, CancellationToken cancellation)
    {
        string? wrong = read.RoomC is not (null or (>= -20 and <= 60)) ? $"A room has between −20 and 60 °C, not {read.RoomC}."
            : read.TubeOutC is not (null or (>= 0 and <= 120)) || read.TubeReturnC is not (null or (>= 0 and <= 120)) ? "A tube has between 0 and 120 °C."
            : read.TubeOutC is null != read.TubeReturnC is null ? "Read both tubes, one after the other: it is their difference that tells the flow."
            : read.SoundDba is not (null or (>= 10 and <= 120)) ? "A machine is between 10 and 120 dB(A) loud."
            : null;
        return wrong is not null ? RunChanges.Refused(wrong) : await desk.ChangeAsync(id, async (context, bay) =>
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
            double now = values.Count == 0 ? 0 : (await LogOf(context, bay, run, cancellation)).DurationSeconds;
            bay.Run = run with { AmbientC = read.RoomC ?? run.AmbientC, ByHand = values.Count == 0 ? run.ByHand : [.. run.ByHand, new HandReading(now, values)] };
            return null;
        }, cancellation);
    }

    private static async Task<BayLog> LogOf(RemedosContext context, Bay bay, BayRun run, CancellationToken cancellation) =>
        BayLog.Of(await BayReadings.ReadAsync(context, bay, run.Stream, run.FromSequence, cancellation));
}
