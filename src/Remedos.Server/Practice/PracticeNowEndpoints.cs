using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>The case at hand, asked and worked from its own pages.</summary>
internal static class PracticeNowEndpoints
{
    public static void MapPracticeNow(this RouteGroupBuilder practice)
    {
        RouteGroupBuilder now = practice.MapGroup("/now");
        now.MapGet("/", NowAsync).WithName("getPracticeNow").ProducesProblem(StatusCodes.Status404NotFound);
        now.MapPost("/ask", AskAsync).WithName("askPractice").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        now.MapPost("/repair", RepairAsync).WithName("repairPractice").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        now.MapPut("/speed", SpeedAsync).WithName("setPracticeSpeed").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        now.MapPost("/end", EndAsync).WithName("endPractice").Heavy().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<PracticeNow>, ProblemHttpResult>> NowAsync(
        Caller caller,
        PracticeDesk desk,
        CancellationToken cancellation
    ) =>
        await desk.NowAsync(await caller.WhoAsync(cancellation), cancellation) is { } now
            ? TypedResults.Ok(now)
            : Refusal.Unknown("No case is worked here. Open Practice and start one.");

    private static Task<Results<Ok<PracticeNow>, ProblemHttpResult>> AskAsync(
        AskPractice ask,
        PracticeDesk desk,
        CancellationToken cancellation
    ) => desk.AskAsync(ask.Evidence, cancellation);

    private static Task<Results<Ok<PracticeNow>, ProblemHttpResult>> RepairAsync(
        RepairPractice repair,
        PracticeDesk desk,
        CancellationToken cancellation
    ) => desk.RepairAsync(repair.Repair, cancellation);

    private static Task<Results<Ok<PracticeNow>, ProblemHttpResult>> SpeedAsync(
        PracticeSpeed speed,
        PracticeDesk desk,
        CancellationToken cancellation
    ) => desk.SpeedAsync(speed.Speed, cancellation);

    private static Task<Results<Ok<PracticeNow>, ProblemHttpResult>> EndAsync(
        EndPractice end,
        PracticeDesk desk,
        CancellationToken cancellation
    ) => desk.EndAsync(end.Told, cancellation);
}
