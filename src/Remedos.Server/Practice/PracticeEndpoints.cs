using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Practice;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Data.Practice;
using Remedos.Server.Hosting;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>The practice place: levels, one's own results, cases to begin and to give away.</summary>
internal static class PracticeEndpoints
{
    private const int MostTries = 200;

    public static void AddPractice(this IServiceCollection services)
    {
        services.AddSingleton<PracticeWorkshops>();
        services.AddScoped<PracticeDesk>();
        services.AddSingleton<PracticeBench>();
        if (!Pages.IsGeneratingDocuments)
        {
            services.AddHostedService(provider => provider.GetRequiredService<PracticeBench>());
        }
    }

    public static void MapPractice(this RouteGroupBuilder api)
    {
        RouteGroupBuilder practice = api.MapGroup("/practice").WithTags("practice");
        practice.MapGet("/", GetAsync).WithName("getPractice");
        practice.MapPost("/", BeginAsync).WithName("beginPractice").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        practice.MapGet("/{id:guid}", DebriefAsync).WithName("getPracticeDebrief").Heavy().ProducesProblem(StatusCodes.Status404NotFound);
        practice.MapGet("/{id:guid}/case", CaseAsync).WithName("getPracticeCase").ProducesProblem(StatusCodes.Status404NotFound);
        practice.MapPracticeNow();
    }

    private static async Task<Ok<PracticeAnswer>> GetAsync(
        Caller caller,
        IDbContextFactory<RemedosContext> contexts,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        return TypedResults.Ok(
            new PracticeAnswer(
                [.. PracticeLevel.All.Select(level => new PracticeLevelAnswer(level.Number, level.Title, level.What))],
                [.. (await TriesAsync(context, who, null, cancellation)).Select(one => one.Answer)]
            )
        );
    }

    [OwnAffair]
    private static async Task<Results<Ok<PracticeNow>, ProblemHttpResult>> BeginAsync(
        BeginPractice begin,
        Caller caller,
        PracticeDesk desk,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        string? problem;
        PracticeCase? practice = begin.File is { } file
            ? PracticeFile.Read(file, out problem)
            : PracticeFile.Drawn(begin.Level ?? 1, begin.Seed ?? Random.Shared.Next(PracticeFile.LargestSeed), out problem);
        return practice is null ? Refusal.Of(problem!) : await desk.BeginAsync(who, practice, begin.Alone, cancellation);
    }

    /// <summary>A case that was ended, of one's own, or for a lead of anybody here.</summary>
    private static async Task<Results<Ok<PracticeDebrief>, ProblemHttpResult>> DebriefAsync(
        Guid id,
        Caller caller,
        IDbContextFactory<RemedosContext> contexts,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        if ((await TriesAsync(context, who, id, cancellation)) is not [var (tried, answer)])
        {
            return Refusal.None("practice case");
        }

        if (tried.Score is not { } score)
        {
            return Refusal.Conflict("This case was not ended: only then is told what it was.");
        }

        PracticeCase practice = PracticeTries.CaseOf(tried);
        return TypedResults.Ok(
            new PracticeDebrief(
                answer,
                practice.Level.Title,
                practice.Row.Name,
                practice.Owner,
                practice.Story,
                score,
                Debrief.Of(practice, tried.Stand, tried.Ending?.Seen),
                [.. tried.Stand.Acts.Select(PracticeDesk.WordsOf)],
                [.. score.Best.Acts.Select(PracticeDesk.WordsOf)]
            )
        );
    }

    /// <summary>The case as a file, to give to somebody; it does not say what is wrong.</summary>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CaseAsync(
        Guid id,
        Caller caller,
        IDbContextFactory<RemedosContext> contexts,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        return (await TriesAsync(context, who, id, cancellation)) is [var (tried, _)]
            ? TypedResults.File(
                JsonSerializer.SerializeToUtf8Bytes(PracticeFile.Of(PracticeTries.CaseOf(tried)), RemedosContext.Json),
                "application/json",
                $"practice-{tried.Level}-{tried.Seed}.json"
            )
            : Refusal.None("practice case");
    }

    /// <summary>Cases of the one who asks, or of everybody in the workshop for a lead.</summary>
    private static async Task<(PracticeTry Try, PracticeTryAnswer Answer)[]> TriesAsync(
        RemedosContext context,
        Who who,
        Guid? id,
        CancellationToken cancellation
    )
    {
        Guid home = who.Workshop.PracticeOf ?? who.Workshop.Id,
            mine = who.Workshop.PracticeFor ?? who.Person.Id;
        bool all = who.Workshop.PracticeOf is null && who.Role == Role.Lead;
        var found = await context
            .PracticeTries.AsNoTracking()
            .Where(one => id == null || one.Id == id)
            .Join(
                context.Workshops.Where(one => one.PracticeOf == home && (all || one.PracticeFor == mine)),
                one => one.WorkshopId,
                one => one.Id,
                (Try, Workshop) => new { Try, Workshop.PracticeFor }
            )
            .OrderByDescending(one => one.Try.StartedAt)
            .Take(MostTries)
            .ToListAsync(cancellation);
        Dictionary<Guid, string> names = await context
            .People.Where(person => person.WorkshopId == home)
            .ToDictionaryAsync(person => person.Id, person => person.Name, cancellation);
        return
        [
            .. found.Select(one =>
                (
                    one.Try,
                    new PracticeTryAnswer(
                        one.Try.Id,
                        one.Try.JobId,
                        names[one.PracticeFor!.Value],
                        one.PracticeFor == mine,
                        one.Try.Level,
                        one.Try.Seed,
                        one.Try.Alone,
                        one.Try.StartedAt,
                        one.Try.EndedAt,
                        one.Try.Score?.Points,
                        one.Try.Stand.Minutes
                    )
                )
            ),
        ];
    }
}
