using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Coolers;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Airflow;

/// <summary>A machine whose air is looked at.</summary>
/// <param name="Cooler">The one that is on it; null while it is not known.</param>
/// <param name="Places">Where the case takes fans.</param>
/// <param name="Start">The plan of the machine as it is.</param>
/// <param name="Kept">The plan that was made of it; null for none.</param>
/// <param name="Curves">The usual curve of each source.</param>
public sealed record AirSheet(
    Build Build,
    CoolerPart? Cooler,
    IReadOnlyList<FanPlace> Places,
    AirPlan Start,
    AirPlan? Kept,
    IReadOnlyList<string> Unknown,
    IReadOnlyDictionary<string, Steering> Curves
);

/// <summary>A machine and a plan to be looked at.</summary>
/// <param name="Load">Of <see cref="AirLoad"/>; null for both.</param>
public sealed record AirAsked(Build Build, CoolerPart? Cooler, AirPlan Plan, string? Load = null)
{
    public string? Problem() =>
        Build?.Processor is null || Plan is null
            ? "build and plan: both are needed."
            : Build.Problem()
                ?? (Cooler is { } cooler ? (cooler with { Id = "asked" }).Problem() : null)
                ?? Plan.Problem()
                ?? (Load is null || AirLoad.All.Contains(Load) ? null : $"load: “{Load}” is none of {string.Join(", ", AirLoad.All)}.");
}

/// <summary>What a plan does.</summary>
/// <param name="Known">From what the processor's temperature is known; null without a cooler.</param>
public sealed record AirLook(
    AirAnswer Air,
    ExpectedTop? Known,
    IReadOnlyList<AirFinding> Findings,
    IReadOnlyList<Clearance> Clearances,
    IReadOnlyList<HeaderLoad> Headers
);

/// <summary>A curve that is sought.</summary>
/// <param name="Source">What the header shall follow.</param>
public sealed record SteeringAsked(
    Build Build,
    CoolerPart? Cooler,
    AirPlan Plan,
    string Header,
    string Source,
    double LimitC,
    double? NoiseDba
);

/// <summary>The air of a case: what a plan does is only computed; what is kept is a field of the job.</summary>
internal static class AirEndpoints
{
    public static void MapAir(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{id:guid}/air", ForJobAsync)
            .WithTags("air")
            .WithName("getAir")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        RouteGroupBuilder air = api.MapGroup("/air").WithTags("air");
        air.MapGet("/", ForPartsAsync).WithName("getAirOfParts").Heavy().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        air.MapPost("/look", Look).WithName("lookAtAir").Heavy().ChangesNothing().ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        air.MapPost("/comparisons", Compare)
            .WithName("compareAir")
            .Heavy()
            .ChangesNothing()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        air.MapPost("/steering", Steer)
            .WithName("steerAir")
            .Heavy()
            .ChangesNothing()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<AirSheet>, ProblemHttpResult>> ForJobAsync(
        Guid id,
        Caller caller,
        IMemoryCache remembered,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Job? job = await context.WholeAsync(workshop.Id, id, cancellation);
        return job is null
            ? JobEndpoints.NoSuchJob()
            : await AnswerAsync(context, remembered, workshop, MachineNames.Of(job), job.AirPlan, cancellation);
    }

    private static async Task<Results<Ok<AirSheet>, ProblemHttpResult>> ForPartsAsync(
        [AsParameters] ChosenParts chosen,
        Caller caller,
        IMemoryCache remembered,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await AnswerAsync(context, remembered, workshop, chosen.Names, null, cancellation);
    }

    private static async Task<Results<Ok<AirSheet>, ProblemHttpResult>> AnswerAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Workshop workshop,
        MachineNames names,
        AirPlan? kept,
        CancellationToken cancellation
    )
    {
        References references = await References.OfAsync(context, remembered, workshop.Id, cancellation);
        if (Machine.BuildOf(names, references.Parts, WhatIf.Nothing, out string? problem) is not { } build)
        {
            return Refusal.Of(
                problem!.Replace("A cooler is chosen for a processor", "The air is computed for a processor", StringComparison.Ordinal)
            );
        }

        CoolerPart? cooler = Machine.CoolerOf(build, references.Coolers(names.Cooler));
        return TypedResults.Ok(
            new AirSheet(
                build,
                cooler,
                AirPlanner.PlacesOf(build.Case),
                AirPlanner.Start(build, cooler),
                kept,
                [.. Machine.Unknown(names, build), .. build.Contradictions()],
                Steering.Sources.ToDictionary(source => source, source => AirPlanner.SteeringOf(source)!, StringComparer.Ordinal)
            )
        );
    }

    private static Results<Ok<AirLook>, ProblemHttpResult> Look(AirAsked asked)
    {
        if (asked.Problem() is { } problem)
        {
            return Refusal.Of(problem);
        }

        AirSolver solver = new(asked.Build, asked.Cooler, asked.Plan);
        string load = asked.Load ?? AirLoad.Both;
        return TypedResults.Ok(
            new AirLook(
                solver.Solve(load),
                solver.KnownFrom(load),
                AirPlanner.Findings(asked.Build, asked.Cooler, asked.Plan),
                AirPlanner.Clearances(asked.Build, asked.Cooler, asked.Plan),
                HeaderDesk.Of(asked.Cooler, asked.Plan)
            )
        );
    }

    private static Results<Ok<IReadOnlyList<AirQuestion>>, ProblemHttpResult> Compare(AirAsked asked) =>
        asked.Problem() is { } problem ? Refusal.Of(problem) : TypedResults.Ok(AirComparison.Of(asked.Build, asked.Cooler, asked.Plan));

    private static Results<Ok<SteeringAdvice>, ProblemHttpResult> Steer(SteeringAsked asked)
    {
        if (new AirAsked(asked.Build, asked.Cooler, asked.Plan).Problem() is { } problem)
        {
            return Refusal.Of(problem);
        }

        int header = asked.Plan.Headers.ToList().FindIndex(one => one.Name == asked.Header);
        return header < 0 ? Refusal.Of($"header: there is no header “{asked.Header}”.")
            : !Steering.Sources.Contains(asked.Source)
                ? Refusal.Of($"source: “{asked.Source}” is none of {string.Join(", ", Steering.Sources)}.")
            : asked.LimitC is not (>= 30 and <= 130) ? Refusal.Of($"limitC: {asked.LimitC:0} is outside 30 to 130 °C.")
            : asked.NoiseDba is not (null or (>= 5 and <= 100)) ? Refusal.Of($"noiseDba: {asked.NoiseDba:0} is outside 5 to 100 dB(A).")
            : TypedResults.Ok(SteeringPlan.Of(asked.Build, asked.Cooler, asked.Plan, header, asked.Source, asked.LimitC, asked.NoiseDba));
    }
}
