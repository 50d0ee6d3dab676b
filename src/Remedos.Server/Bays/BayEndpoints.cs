using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Bays;
using Remedos.Core.Machines;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;
using Remedos.Server.Runs;

namespace Remedos.Server.Bays;

/// <summary>What a bay can be asked to do, and what hands can mount on a simulated machine.</summary>
public sealed record BayChoices(IReadOnlyList<RunVariant> Variants, IReadOnlyList<LoadKind> Loads, IReadOnlyList<BayCooler> Coolers);

/// <summary>A cooler that stands ready beside the simulated rig.</summary>
public sealed record BayCooler(string Id, string Name);

internal static class BayEndpoints
{
    public static void AddBays(this IServiceCollection services)
    {
        services.AddSignalR();
        services.AddSingleton<Landing>();
        services.AddSingleton<BayLogs>();
        services.AddSingleton<LiveBays>();
        services.AddHostedService(provider => provider.GetRequiredService<LiveBays>());
        services.AddScoped<BayDesk>();
        services.AddRateLimiter(Flood.Limit);
    }

    public static void MapBays(this RouteGroupBuilder api)
    {
        RouteGroupBuilder bays = api.MapGroup("/bays").WithTags("bays");
        bays.MapPost("/{number:int}/readings", Ingest.HandleAsync).WithName("sendReadings").WithMetadata(new RequestSizeLimitAttribute(Ingest.LargestBatchBytes)).RequireRateLimiting(Flood.Policy)
            .ProducesProblem(StatusCodes.Status401Unauthorized).ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity).ProducesProblem(StatusCodes.Status429TooManyRequests);
        bays.MapGet("/", ListAsync).WithName("listBays");
        bays.MapGet("/choices", () => TypedResults.Ok(new BayChoices(RunVariant.All, LoadKind.All, [.. MachineLibrary.Coolers.Select(cooler => new BayCooler(cooler.Id, cooler.Name))]))).WithName("listBayChoices");
        bays.MapPost("/", AddAsync).WithName("addBay");
        bays.MapGet("/{id:guid}/readings", TraceAsync).WithName("getBayReadings");
        bays.MapGet("/{id:guid}/join.svg", JoinAsync).WithName("getBayJoinCode").ExcludeFromDescription();
        bays.MapPut("/{id:guid}/hands", SetHandsAsync).WithName("setBayHands").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapBayRuns();
    }

    private static async Task<Ok<BayAnswer[]>> ListAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        List<Bay> bays = await context.Bays.AsNoTracking().Where(b => b.WorkshopId == workshop.Id).OrderBy(b => b.Number).ToListAsync(cancellation);
        return TypedResults.Ok(bays.Select(bay => BayAnswer.Of(bay, clock.GetUtcNow())).ToArray());
    }

    private static async Task<Ok<BayAnswer>> AddAsync(Session.Bench bench, IDbContextFactory<RemedosContext> contexts, LiveBays live, TimeProvider clock, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        // Two that add a bay at once take turns, so that each gets a number of its own.
        await context.Database.ExecuteSqlAsync($"SELECT 1 FROM workshops WHERE id = {workshop.Id} FOR UPDATE", cancellation);
        int last = await context.Bays.Where(b => b.WorkshopId == workshop.Id).MaxAsync(b => (int?)b.Number, cancellation) ?? 0;
        Bay bay = new() { Id = Guid.CreateVersion7(clock.GetUtcNow()), WorkshopId = workshop.Id, Number = last + 1, Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)) };
        context.Bays.Add(bay);
        await context.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
        live.Tell(bay, []);
        return TypedResults.Ok(BayAnswer.Of(bay, clock.GetUtcNow()));
    }

    /// <summary>The readings after a number, at most the last so many.</summary>
    private static async Task<Results<Ok<BayTrace>, ProblemHttpResult>> TraceAsync(Guid id, long? after, int? most, BayDesk desk, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if (await desk.FindAsync(context, id, cancellation) is not { } bay)
        {
            return BayDesk.NoSuchBay();
        }

        long from = Math.Max((after ?? 0) + 1, bay.Acknowledged - Math.Clamp(most ?? 3600, 1, 100_000) + 1);
        return TypedResults.Ok(BayTrace.Of(await BayReadings.ReadAsync(context, bay, bay.Stream, from, cancellation), from));
    }

    /// <summary>The bay's address and token in one link, as a picture that a telephone or a scanner reads.</summary>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> JoinAsync(Guid id, HttpRequest request, BayDesk desk, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        return await desk.FindAsync(context, id, cancellation) is not { } bay ? BayDesk.NoSuchBay() : QrPicture.Of($"{request.Scheme}://{request.Host}/bays/{bay.Number}#{bay.Token}");
    }

    /// <summary>Hands on a simulated machine.</summary>
    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> SetHandsAsync(Guid id, BenchHands hands, BayDesk desk, CancellationToken cancellation)
    {
        string? wrong = hands.RoomC is not (null or (>= -20 and <= 60)) ? $"A room has between −20 and 60 °C, not {hands.RoomC}."
            : hands.Cooler is { } cooler && cooler != BenchHands.Lifted && MachineLibrary.Coolers.All(one => one.Id != cooler) ? $"There is no cooler “{cooler}” on this bench."
            : hands.Instruments?.FirstOrDefault(one => !BenchHands.AllInstruments.Contains(one)) is { } unknown ? $"There is no instrument “{unknown}”; there are {string.Join(", ", BenchHands.AllInstruments)}."
            : null;
        return wrong is not null ? RunChanges.Refused(wrong) : await desk.ChangeAsync(id, bay =>
        {
            if (bay.Sender?.Simulated != true)
            {
                return "A real machine stands in this bay: use real hands.";
            }

            bay.Hands = hands;
            return null;
        }, cancellation);
    }
}
