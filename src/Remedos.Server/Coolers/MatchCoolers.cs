using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Diagnosis;
using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Repair;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Records;
using Remedos.Server.Repair;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Coolers;

/// <summary>What coolers are held against, in words and as numbers, and the answer.</summary>
/// <param name="Build">The machine, with what would be otherwise already in it.</param>
/// <param name="Measured">What the machine did on the bench where that is not what a sound one would do; null when it is, or was not
/// measured.</param>
/// <param name="Today">Its heat path as measured; null without a run.</param>
/// <param name="Unknown">Parts of it that are not noted, or not among the workshop's.</param>
/// <param name="Measures">Every length that a ruler at the machine answers, with where it is held.</param>
/// <param name="Seen">What this workshop has seen of each, by id; of many it has seen nothing.</param>
/// <param name="MostPriceSharePercent">More of the chip's price the workshop calls too dear; null for no limit.</param>
/// <param name="Quotes">What each that fits costs, put on; by id.</param>
public sealed record CoolerAnswer(
    Build Build,
    string? Measured,
    HeatStaircase? Today,
    IReadOnlyList<string> Unknown,
    IReadOnlyList<School> Schools,
    string School,
    MatchAnswer Match,
    IReadOnlyDictionary<string, Quote> Quotes,
    Decision Decision,
    IReadOnlyList<MeasureRow> Measures,
    IReadOnlyDictionary<string, SeenHere> Seen,
    double? MostPriceSharePercent
);

/// <summary>Chooses a cooler for a job's machine, or for any machine of known parts.</summary>
internal static class MatchCoolers
{
    public static void MapCoolers(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{id:guid}/coolers", ForJobAsync)
            .WithTags("coolers")
            .WithName("matchCoolers")
            .Heavy()
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/coolers", ForPartsAsync)
            .WithTags("coolers")
            .WithName("matchCoolersForParts")
            .Heavy()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> ForJobAsync(
        Guid id,
        [AsParameters] WhatIf what,
        Caller caller,
        IMemoryCache remembered,
        JobCases cases,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await context.WholeAsync(workshop.Id, id, cancellation) is not { } job)
        {
            return JobEndpoints.NoSuchJob();
        }

        StandingCase standing = await StandingCase.OfAsync(context, remembered, cases, who, job, clock.GetUtcNow(), cancellation);
        return await AnswerAsync(context, remembered, workshop, MachineNames.Of(job), what, standing, cancellation);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> ForPartsAsync(
        [AsParameters] ChosenParts chosen,
        [AsParameters] WhatIf what,
        Caller caller,
        IMemoryCache remembered,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await AnswerAsync(context, remembered, workshop, chosen.Names, what, null, cancellation);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> AnswerAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Workshop workshop,
        MachineNames names,
        WhatIf what,
        StandingCase? standing,
        CancellationToken cancellation
    )
    {
        (Matched? matched, string? problem) = await MatchAsync(context, remembered, workshop, names, what, standing, cancellation);
        if (matched is null)
        {
            return Refusal.Of(problem!);
        }

        DiagnosisStand? stand = standing?.Diagnosis is { } diagnosis ? DiagnosisStand.Of(diagnosis) : null;
        HeatStaircase? stairs = standing?.Seen is { } seen ? HeatStaircase.Of(seen.Run, seen.Conditions, seen.Expected) : null;
        MatchAnswer answer = matched.Match;
        IReadOnlyList<Part> parts = await PartShelf.OfAsync(context, remembered, workshop.Id, cancellation);
        CoolerMemory memory = await CoolerMemory.OfAsync(context, workshop.Id, parts, cancellation);
        return TypedResults.Ok(
            new CoolerAnswer(
                matched.Build,
                stand is { IsSound: true, IsSure: true } ? null : Measured(standing?.Seen, answer),
                stairs is null ? null : stand?.Beside(stairs) ?? stairs,
                Machine.Unknown(names, matched.Build),
                workshop.Weights is { } weights ? [weights, .. School.All] : School.All,
                matched.Own?.Id ?? School.Of(matched.Build.Wants?.School).Id,
                answer,
                answer
                    .Candidates.Where(one => one.Fits != false)
                    .ToDictionary(one => one.Id, one => Decision.QuoteOf(one, matched.Steps, matched.Rates), StringComparer.Ordinal),
                matched.Decision,
                MeasureRow.All,
                answer
                    .Candidates.Select(one => (one.Id, Seen: memory.Of(one.Name)))
                    .Where(one => one.Seen is not null)
                    .ToDictionary(one => one.Id, one => one.Seen!, StringComparer.Ordinal),
                workshop.MostPriceSharePercent
            )
        );
    }

    /// <summary>A machine held against the workshop's coolers, and which way is advised; a sentence where it cannot be.</summary>
    internal static async Task<(Matched? Matched, string? Problem)> MatchAsync(
        RemedosContext context,
        IMemoryCache remembered,
        Workshop workshop,
        MachineNames names,
        WhatIf what,
        StandingCase? standing,
        CancellationToken cancellation
    )
    {
        References references = await References.OfAsync(context, remembered, workshop.Id, cancellation);
        if (Machine.BuildOf(names, references.Parts, what, out string? problem) is not { } build)
        {
            return (null, problem);
        }

        IReadOnlyList<CoolerPart> coolers = references.Coolers(names.Cooler);
        if (coolers.Count == 0)
        {
            return (null, "There is no cooler among the workshop’s parts yet.");
        }

        CoolerPart? current = Machine.CoolerOf(build, coolers);
        // A cooler that is itself at fault is nothing to be kept: what the new setup will do is asked of any that fits, its like among
        // them.
        if (
            standing?.Diagnosis is { } diagnosis
            && DiagnosisStand.Of(diagnosis) is { Certainty: not null, Lead.Repair: RepairRow.ReplaceLoop }
        )
        {
            build = build with { CurrentCooler = null };
        }

        School? own = what.School == Machine.OwnSchool || (what.School is null && workshop.Weights is not null) ? workshop.Weights : null;
        MatchAnswer answer = Matcher.Match(build, coolers, own);
        Rates rates = new(workshop.LabourMinorPerHour, workshop.TaxPercent);
        RepairFacts steps = RepairFactsOf.MachineOf(
            build.Processor,
            build.Board,
            build.Case,
            standing?.CoolerKind ?? current?.Kind,
            standing?.Warranty,
            standing?.Today ?? default
        );
        // What its own run says it holds goes before any prediction.
        double? holds = standing?.Seen?.HoldsW(build.Processor.TemperatureLimitC, build.RoomC, build.Processor.SustainedPowerW);
        return (
            new Matched(
                build,
                current,
                own,
                answer,
                rates,
                steps,
                holds,
                Decision.Of(build, answer, standing?.Diagnosis, holds, steps, rates, standing?.Seen?.Held)
            ),
            null
        );
    }

    /// <summary>
    /// What its run says where that is beyond doubt more than a sound machine would have shown; null when it is not, or nothing is expected
    /// of its own parts.
    /// </summary>
    private static string? Measured(SeenRun? seen, MatchAnswer answer)
    {
        if (
            seen
                is not {
                    RiseC: { } rise,
                    Expected: { Reference.ByParts: true, State.RiseC: var sound },
                    Run: { AmbientC: { } room, Load.SustainedPowerW: { } watts }
                }
            || answer.Candidates.FirstOrDefault(one => one.IsCurrent) is not { } current
            || sound.Z(rise, seen.RiseHalfC) < BeyondZ
            || rise - sound.Value < BeyondC
        )
        {
            return null;
        }

        string stood = seen.Run.Load.Settled == false ? "was on its way to" : "stood at";
        return $"Its own run {stood} {Degrees.At(room + rise)} with {watts:0} W, where a sound {current.Name} stands at "
            + $"{Degrees.At(room + sound.Value)}.";
    }

    /// <summary>Beyond this nobody blames chance, standard deviations and °C.</summary>
    private const double BeyondZ = 2,
        BeyondC = 4;
}
