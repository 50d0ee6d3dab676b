using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>The last stretch of what a bay was sent, for its picture.</summary>
public sealed record BayTrace(long FromSequence, double[] Seconds, IReadOnlyDictionary<string, float?[]> Channels);

internal static class BayEndpoints
{
    public static void AddBays(this IServiceCollection services) => services.AddSingleton<Landing>();

    public static void MapBays(this RouteGroupBuilder api)
    {
        RouteGroupBuilder bays = api.MapGroup("/bays").WithTags("bays");
        bays.MapPost("/{number:int}/readings", Ingest.HandleAsync).WithName("sendReadings").WithMetadata(new RequestSizeLimitAttribute(Ingest.LargestBatchBytes))
            .ProducesProblem(StatusCodes.Status401Unauthorized).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapGet("/", ListAsync).WithName("listBays");
        bays.MapGet("/variants", () => TypedResults.Ok(RunVariant.All)).WithName("listVariants");
        bays.MapPost("/", AddAsync).WithName("addBay");
        bays.MapGet("/{id:guid}/readings", TraceAsync).WithName("getBayReadings");
        bays.MapPut("/{id:guid}/run", StartAsync).WithName("startBayRun").ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapDelete("/{id:guid}/run", StopAsync).WithName("stopBayRun");
    }

    private static ProblemHttpResult NoSuchBay() => TypedResults.Problem("There is no such bay.", statusCode: StatusCodes.Status404NotFound);

    private static async Task<Ok<BayAnswer[]>> ListAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        List<Bay> bays = await context.Bays.AsNoTracking().Where(b => b.WorkshopId == workshop.Id).OrderBy(b => b.Number).ToListAsync(cancellation);
        return TypedResults.Ok(bays.Select(bay => BayAnswer.Of(bay, clock.GetUtcNow())).ToArray());
    }

    private static async Task<Ok<BayAnswer>> AddAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        int last = await context.Bays.Where(b => b.WorkshopId == workshop.Id).MaxAsync(b => (int?)b.Number, cancellation) ?? 0;
        Bay bay = new() { Id = Guid.CreateVersion7(clock.GetUtcNow()), WorkshopId = workshop.Id, Number = last + 1, Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)) };
        context.Bays.Add(bay);
        await context.SaveChangesAsync(cancellation);
        return TypedResults.Ok(BayAnswer.Of(bay, clock.GetUtcNow()));
    }

    /// <summary>The readings after a number, at most the last so many.</summary>
    private static async Task<Results<Ok<BayTrace>, ProblemHttpResult>> TraceAsync(Guid id, long? after, int? most, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await FindAsync(context, id, bench, cancellation) is not { } bay)
        {
            return NoSuchBay();
        }

        long from = Math.Max((after ?? 0) + 1, bay.Acknowledged - Math.Clamp(most ?? 1800, 1, 20_000) + 1);
        IReadOnlyList<BayReading> readings = await BayReadings.ReadAsync(context, bay, bay.Stream, from, cancellation);
        ChannelRole[] roles = [.. readings.SelectMany(reading => reading.Values.Keys).Distinct()];
        return TypedResults.Ok(new BayTrace(
            readings.Count == 0 ? from : readings[0].Sequence,
            [.. readings.Select(reading => reading.Seconds)],
            roles.ToDictionary(role => role.Name(), role => readings.Select(reading => reading.Values.TryGetValue(role, out double value) ? (float?)value : null).ToArray())));
    }

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StartAsync(Guid id, StartRun start, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, Person person) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Bay? bay = await context.Bays.SingleOrDefaultAsync(b => b.Id == id && b.WorkshopId == workshop.Id, cancellation);
        Job? job = await context.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == start.JobId && j.WorkshopId == workshop.Id, cancellation);
        string? wrong = start.Side is not ("before" or "after") ? "A run is either a before or an after run."
            : RunVariant.All.All(variant => variant.Id != start.Variant) ? $"“{start.Variant}” is no way to run a machine; known are {string.Join(", ", RunVariant.All.Select(variant => variant.Id))}."
            : start.LoadSeconds is not (null or (>= 60 and <= 86_400)) ? "A load lasts from a minute to a day."
            : bay?.Run is { State.IsOver: false } ? "A run goes on in this bay. Stop it first."
            : bay is { Stream: null } ? "Nothing is connected to this bay yet."
            : null;
        if (bay is null || job is null || wrong is not null)
        {
            return bay is null ? NoSuchBay() : job is null ? JobEndpoints.NoSuchJob() : RunChanges.Refused(wrong!);
        }

        return await SaveAsync(context, bay, () => bay.Run = new BayRun(job.Id, start.Side, start.Variant, start.LoadSeconds, job.TemperatureLimitC, job.RatedPowerW, job.RoomC, person.Id, bay.Stream!, bay.Acknowledged + 1, GuidedState.Start, "Idle, until a minute has been seen.", null), clock, cancellation);
    }

    /// <summary>Stops the run; what was recorded lands on its job all the same.</summary>
    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> StopAsync(Guid id, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, Landing landing, TimeProvider clock, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await FindAsync(context, id, bench, cancellation) is not { } bay)
        {
            return NoSuchBay();
        }

        bool stoppedHere = false;
        Results<Ok<BayAnswer>, ProblemHttpResult> answer = await SaveAsync(context, bay, Stop, clock, cancellation);
        if (stoppedHere)
        {
            await landing.LandAsync(context, bay, cancellation);
            await context.SaveChangesAsync(cancellation);
        }

        landing.Ring();
        return answer;

        void Stop()
        {
            stoppedHere = bay.Run is { State.IsOver: false };
            if (bay.Run is { State.IsOver: false } run)
            {
                GuidedAnswer stopped = GuidedRun.Stop(run.Plan, run.State.SinceSeconds);
                bay.Run = run with { State = stopped.State, Says = stopped.Says, SecondsLeft = 0 };
            }
        }
    }

    /// <summary>Changes a bay on top of whatever readings that come in between have changed.</summary>
    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> SaveAsync(RemedosContext context, Bay bay, Action change, TimeProvider clock, CancellationToken cancellation)
    {
        while (true)
        {
            change();
            try
            {
                await context.SaveChangesAsync(cancellation);
                return TypedResults.Ok(BayAnswer.Of(bay, clock.GetUtcNow()));
            }
            catch (DbUpdateConcurrencyException conflict)
            {
                foreach (Microsoft.EntityFrameworkCore.ChangeTracking.EntityEntry entry in conflict.Entries)
                {
                    await entry.ReloadAsync(cancellation);
                }
            }
        }
    }

    private static async Task<Bay?> FindAsync(RemedosContext context, Guid id, Session.Bench bench, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        return await context.Bays.SingleOrDefaultAsync(b => b.Id == id && b.WorkshopId == workshop.Id, cancellation);
    }
}
