using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Diagnosis;
using Remedos.Core.HeatPath;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;
using Remedos.Core.Machines;

namespace Remedos.Server.Coolers;

/// <summary>What coolers are held against, in words and as numbers, and the answer.</summary>
/// <param name="Build">The machine, with what would be otherwise already in it.</param>
/// <param name="Measured">What the machine did on the bench where that is not what a sound one would do; null when it is, or was not measured.</param>
/// <param name="Today">Its heat path as measured; null without a run.</param>
/// <param name="Unknown">Parts of it that are not noted, or not among the workshop's.</param>
/// <param name="Quotes">What each that fits costs, put on; by id.</param>
public sealed record CoolerAnswer(
    Build Build, string? Measured, HeatStaircase? Today, IReadOnlyList<string> Unknown, IReadOnlyList<School> Schools, string School, MatchAnswer Match, IReadOnlyDictionary<string, Quote> Quotes, Decision Decision);

/// <summary>Chooses a cooler for a job's machine, or for any machine of known parts.</summary>
internal static class MatchCoolers
{
    public static void MapCoolers(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{id:guid}/coolers", ForJobAsync).WithTags("coolers").WithName("matchCoolers").ProducesProblem(StatusCodes.Status404NotFound).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/coolers", ForPartsAsync).WithTags("coolers").WithName("matchCoolersForParts").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> ForJobAsync(
        Guid id, [AsParameters] WhatIf what, Caller caller, IMemoryCache remembered, JobCases cases, TimeProvider clock, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await context.Jobs.AsNoTracking().WithSetups().SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation) is not { } job)
        {
            return JobEndpoints.NoSuchJob();
        }

        // Once something was changed, what it did before says nothing any more.
        bool repaired = JobSetups.Current(job).Round == job.Round && JobSetups.Current(job).Number > 1;
        List<Run> all = repaired ? [] : await context.Runs.AsNoTracking().Where(r => r.WorkshopId == workshop.Id && r.JobId == id && r.RemovedAt == null).OrderBy(r => r.ImportedAt).ToListAsync(cancellation);
        IReadOnlyList<Run> runs = JobSetups.RunsOf(JobSetups.Diagnosed(job), all);
        SeriesRecord? series = job.Parts.Cooler is { } cooler ? (await JobCases.SeriesAsync(context, workshop.Id, id, cancellation)).GetValueOrDefault(cooler.Trim()) : null;
        DiagnosisCase asked = JobCases.Of(job, runs, series, who.Today(clock.GetUtcNow())).Case;
        RunAnalysis? run = (runs.LastOrDefault(r => r.Conditions.IsUsual) ?? runs.LastOrDefault(r => r.Conditions is { Panel: null or "closed", PowerCapW: null, Trial: null }))?.Analysis;
        return await AnswerAsync(context, remembered, workshop, MachineNames.Of(job), what, run, repaired || asked.Evidence.Count == 0 ? null : cases.Answer(asked), cancellation);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> ForPartsAsync(
        [AsParameters] ChosenParts chosen, [AsParameters] WhatIf what, Caller caller, IMemoryCache remembered, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await AnswerAsync(context, remembered, workshop, chosen.Names, what, null, null, cancellation);
    }

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> AnswerAsync(RemedosContext context, IMemoryCache remembered, Workshop workshop, MachineNames names, WhatIf what, RunAnalysis? run, DiagnosisAnswer? diagnosis, CancellationToken cancellation)
    {
        List<Part> parts = await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop.Id).ToListAsync(cancellation);
        if (Machine.BuildOf(names, parts, what, out string? problem) is not { } build)
        {
            return Refusal.Of(problem!);
        }

        IReadOnlyList<CoolerPart> coolers = await League.CoolersAsync(context, remembered, parts, names.Cooler, cancellation);
        if (coolers.Count == 0)
        {
            return Refusal.Of("There is no cooler among the workshop’s parts yet.");
        }

        School? own = what.School == Machine.OwnSchool || (what.School is null && workshop.Weights is not null) ? workshop.Weights : null;
        MatchAnswer answer = Matcher.Match(build, coolers, own);
        Rates rates = new(workshop.LabourMinorPerHour, workshop.TaxPercent);
        // What its own run says it holds goes before any prediction.
        double? holds = run?.Resistance is { } resistance ? (build.Processor.TemperatureLimitC - build.RoomC) / resistance.ValueCPerW : null;
        return TypedResults.Ok(new CoolerAnswer(
            build, Measured(run, build, answer), run?.Staircase, Machine.Unknown(names, build), workshop.Weights is { } weights ? [weights, .. School.All] : School.All, own?.Id ?? School.Of(build.Wants?.School).Id, answer,
            answer.Candidates.Where(one => one.Fits != false).ToDictionary(one => one.Id, one => Decision.QuoteOf(one, rates), StringComparer.Ordinal), Decision.Of(build, answer, diagnosis, holds, rates)));
    }

    /// <summary>A machine that runs hotter than a sound one with this cooler wants a repair first: whatever is wrong would stay with another cooler.</summary>
    private static string? Measured(RunAnalysis? run, Build build, MatchAnswer answer)
    {
        if (run is not { Resistance: { } resistance } || answer.Candidates.FirstOrDefault(one => one.IsCurrent) is not { } current)
        {
            return null;
        }

        double measured = build.RoomC + (resistance.ValueCPerW * build.Processor.SustainedPowerW);
        return measured <= current.TemperatureC.High + BeyondC ? null
            : $"Its last run says {measured:0} °C at {build.Processor.SustainedPowerW:0} W in this room, where a sound {current.Name} should hold {current.TemperatureC.Value:0} °C. Another cooler may suffer the same.";
    }

    /// <summary>Beyond the interval's end by so much nobody blames chance, °C.</summary>
    private const double BeyondC = 4;
}
