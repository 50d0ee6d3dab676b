using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Bays;
using Remedos.Core.Machines;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;
using Remedos.Server.Queue;
using Remedos.Server.Session;
using Remedos.Server.Writing;

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
        services.AddSingleton<IWorkHandler, LandRun>();
        services.AddSingleton<IWorkHandler, WatchSilence>();
        services.AddSingleton<BayLogs>();
        services.AddSingleton<TakeBatch>();
        services.AddSingleton<BayIntake>();
        services.AddSingleton<NewsLine>();
        services.AddSingleton<LiveBays>();
        services.AddHostedService(provider => provider.GetRequiredService<LiveBays>());
        services.AddScoped<BayDoor>();
        services.AddRateLimiter(Flood.Limit);
        services.AddHostedService(provider => provider.GetRequiredService<NewsLine>());
        services.AddHostedService<LookAtBays>();
        services.AddHostedService<EndedSignIns>();
        services.AddSingleton<RefusedTokens>();
        services.AddSingleton<BaySenders>();
    }

    public static void MapBays(this RouteGroupBuilder api)
    {
        RouteGroupBuilder bays = api.MapGroup("/bays").WithTags("bays");
        bays.MapPost("/{number:int}/readings", Ingest.HandleAsync)
            .WithName("sendReadings")
            .WithMetadata(new RequestSizeLimitAttribute(Ingest.LargestBatchBytes), new SenderTokenAttribute())
            .AllowAnonymous()
            .RequireRateLimiting(Flood.Policy)
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);
        bays.MapGet("/", ListAsync).WithName("listBays");
        bays.MapGet("/choices", () =>
                TypedResults.Ok(
                    new BayChoices(
                        RunVariant.All,
                        LoadKind.All,
                        [.. MachineLibrary.Coolers.Select(cooler => new BayCooler(cooler.Id, cooler.Part.Name))]
                    )
                )
            )
            .WithName("listBayChoices");
        bays.MapPost("/", AddAsync).WithName("addBay");
        bays.MapGet("/{id:guid}/readings", TraceAsync).WithName("getBayReadings");
        bays.MapGet("/{id:guid}/code.svg", CodeAsync).WithName("getBayCode").ExcludeFromDescription();
        bays.MapPost("/{id:guid}/token", MakeTokenAsync).WithName("makeBayToken");
        bays.MapPut("/{id:guid}/hands", SetHandsAsync).WithName("setBayHands").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        bays.MapBayRuns();
    }

    private static async Task<Ok<BayAnswer[]>> ListAsync(Caller caller, TimeProvider clock, CancellationToken cancellation)
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Guid workshop = context.Workshop!.Value;
        List<Bay> bays = await context
            .Bays.AsNoTracking()
            .Where(b => b.WorkshopId == workshop)
            .OrderBy(b => b.Number)
            .ToListAsync(cancellation);
        return TypedResults.Ok(bays.Select(bay => BayAnswer.Of(bay, clock.GetUtcNow())).ToArray());
    }

    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> AddAsync(
        WriteDoor door,
        LiveBays live,
        CancellationToken cancellation
    )
    {
        BayAnswer? answer = null;
        return await door.WriteAsync(
            async write =>
            {
                // The workshop's row is locked: two that add a bay at once take turns, so that each gets a number of its own.
                Workshop workshop = await write.WorkshopAsync();
                int last = await write.Context.Bays.Where(b => b.WorkshopId == workshop.Id).MaxAsync(b => (int?)b.Number, cancellation)
                    ?? 0;
                Bay bay = new()
                {
                    Id = Guid.CreateVersion7(write.Now),
                    WorkshopId = workshop.Id,
                    Number = last + 1,
                    TokenSha256 = BayToken.Sha256(BayToken.New()),
                    TokenMadeAt = write.Now,
                };
                write.Context.Bays.Add(bay);
                write.Event("bay-added", $"{bay.Number}");
                write.Once(() =>
                {
                    answer = BayAnswer.Of(bay, write.Now);
                    live.Tell(bay, []);
                });
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation
        );
    }

    /// <summary>Makes a new token for what stands in the bay. It is shown this once, and the one before is not believed any more.</summary>
    private static async Task<Results<Ok<BayTokenAnswer>, ProblemHttpResult>> MakeTokenAsync(
        Guid id,
        BayDoor door,
        PublicAddress address,
        HttpRequest request,
        CancellationToken cancellation
    )
    {
        string token = BayToken.New();
        int number = 0;
        Results<Ok<BayAnswer>, ProblemHttpResult> made = await door.ChangeAsync(
            id,
            (write, bay) =>
            {
                (bay.TokenSha256, bay.TokenMadeAt) = (BayToken.Sha256(token), write.Now);
                number = bay.Number;
                write.Event("bay-token", $"{bay.Number}");
                return Task.FromResult<string?>(null);
            },
            cancellation
        );
        return made.Result is ProblemHttpResult problem
            ? problem
            : TypedResults.Ok(new BayTokenAnswer(number, token, address.For(request), address.IsElsewhere(request)));
    }

    /// <summary>The readings after a number, at most the last so many.</summary>
    private static async Task<Results<Ok<BayTrace>, ProblemHttpResult>> TraceAsync(
        Guid id,
        long? after,
        int? most,
        BayDoor door,
        Caller caller,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await door.FindAsync(context, id, cancellation) is not { } bay)
        {
            return BayDoor.NoSuchBay();
        }

        long from = Math.Max((after ?? 0) + 1, bay.Acknowledged - Math.Clamp(most ?? 3600, 1, 100_000) + 1);
        return TypedResults.Ok(
            BayTrace.Of(
                await BayReadings
                    .ReadAsync(context, bay.WorkshopId, bay.Id, bay.Recording, from, null, cancellation)
                    .ToListAsync(cancellation),
                from
            )
        );
    }

    /// <summary>The bay's page as a picture that a telephone or a scanner reads, for its card. It holds no secret.</summary>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> CodeAsync(
        Guid id,
        HttpRequest request,
        BayDoor door,
        PublicAddress address,
        Caller caller,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await door.FindAsync(context, id, cancellation) is { } bay
            ? QrPicture.Of($"{address.For(request)}/bench/{bay.Number}")
            : BayDoor.NoSuchBay();
    }

    /// <summary>Hands on a simulated machine.</summary>
    private static async Task<Results<Ok<BayAnswer>, ProblemHttpResult>> SetHandsAsync(
        Guid id,
        BenchHands hands,
        BayDoor door,
        CancellationToken cancellation
    )
    {
        string? wrong =
            hands.RoomC is not (null or (>= -20 and <= 60))
                ? $"A room has between {Degrees.At(-20)} and {Degrees.At(60)}, not {Degrees.Point(hands.RoomC!.Value):0.#}."
            : hands.Cooler is { } cooler && cooler != BenchHands.Lifted && MachineLibrary.Coolers.All(one => one.Id != cooler)
                ? $"There is no cooler “{cooler}” on this bench."
            : hands.Instruments?.FirstOrDefault(one => !BenchHands.AllInstruments.Contains(one)) is { } unknown
                ? $"There is no instrument “{unknown}”; there are {string.Join(", ", BenchHands.AllInstruments)}."
            : null;
        return wrong is not null
            ? Refusal.Of(wrong)
            : await door.ChangeAsync(
                id,
                bay =>
                {
                    if (bay.Sender?.Simulated != true)
                    {
                        return "A real machine stands in this bay: use real hands.";
                    }

                    bay.Hands = hands;
                    return null;
                },
                cancellation
            );
    }
}
