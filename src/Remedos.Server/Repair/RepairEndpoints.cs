using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Money;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Practice;
using Remedos.Server.Records;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Repair;

/// <summary>Something that can be done to a machine.</summary>
/// <param name="Opens">nothing, case or cooler.</param>
public sealed record RepairAct(string Id, string Title, string Opens);

/// <summary>A plan that is under way.</summary>
/// <param name="Marks">By their step.</param>
/// <param name="By">Who ticked it, by step.</param>
/// <param name="FromSetup">What was on the machine.</param>
/// <param name="MadeSetup">What its steps made; null before.</param>
/// <param name="LastEventId">The job's last change that its marks hold.</param>
public sealed record PlanAnswer(
    int Number,
    DateTimeOffset BegunAt,
    RepairPlan Plan,
    IReadOnlyDictionary<string, StepMark> Marks,
    IReadOnlyDictionary<string, string> By,
    PlanProgress Progress,
    int FromSetup,
    int? MadeSetup,
    long LastEventId
);

/// <summary>A job's repair by steps: what could be begun, and what was.</summary>
/// <param name="Acts">All that can be chosen.</param>
/// <param name="Chosen">What is looked at.</param>
/// <param name="Why">Why just that, as a sentence; null where the technician chose.</param>
/// <param name="Problem">Why it cannot be planned; null when it can.</param>
/// <param name="Preview">Its steps, as they would be now.</param>
/// <param name="Current">The one that was begun last in this round; null for none.</param>
public sealed record RepairSheet(
    string Tag,
    string? Owner,
    string? Machine,
    IReadOnlyList<RepairAct> Acts,
    IReadOnlyList<string> Chosen,
    string? Why,
    string? Problem,
    RepairPlan? Preview,
    PlanAnswer? Current
);

/// <summary>Looks at a repair's steps, begins them, lays them aside; a step itself is saved as a field of the job.</summary>
internal static class RepairEndpoints
{
    private const int MostPlans = 40;

    public static void MapRepair(this RouteGroupBuilder api)
    {
        RouteGroupBuilder repair = api.MapGroup("/jobs/{id:guid}").WithTags("repair");
        repair.MapGet("/repair", LookAsync).WithName("getRepair").ProducesProblem(StatusCodes.Status404NotFound);
        repair
            .MapPost("/plans", BeginAsync)
            .WithName("beginPlan")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        repair.MapDelete("/plans/{number:int}", LayAsideAsync).WithName("layPlanAside").ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Results<Ok<RepairSheet>, ProblemHttpResult>> LookAsync(
        Guid id,
        string[]? act,
        bool? liquidMetal,
        bool? noBoot,
        Caller caller,
        JobCases cases,
        IMemoryCache remembered,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        long last = await JobHistory.LastAsync(context, who.Workshop.Id, id, cancellation);
        Job? job = await context.WholeAsync(who.Workshop.Id, id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        PlanAsked asked = new(act is { Length: > 0 } ? act : null, liquidMetal == true, noBoot == true);
        (RepairFacts facts, string? why) = await FactsAsync(context, remembered, cases, who, job, asked, clock.GetUtcNow(), cancellation);
        string? problem = ProblemOf(job, facts);
        return TypedResults.Ok(
            new RepairSheet(
                JobSheets.Tag(who.Workshop, job.Number),
                job.Owner,
                job.Machine,
                [.. RepairRow.All.Where(row => CanBe(row.Id, facts)).Select(row => new RepairAct(row.Id, row.Name, row.Opening))],
                facts.Acts,
                why,
                problem,
                problem is null ? RepairPlanner.Of(facts) : null,
                JobPlans.Current(job) is { } plan ? await AnswerAsync(context, plan, last, cancellation) : null
            )
        );
    }

    /// <summary>Whether a machine has what is repaired so; what is chosen is shown in any case.</summary>
    private static bool CanBe(string act, RepairFacts facts) =>
        facts.Acts.Contains(act)
        || act switch
        {
            RepairRow.ReplaceLoop => facts.CoolerOff is null or "liquid",
            "card" => facts.HasCard != false,
            "replace-fan" => facts.CoolerOff != "passive",
            _ => true,
        };

    /// <summary>What speaks against planning it; a cooler by name that the workshop does not have any more is told apart.</summary>
    private static string? ProblemOf(Job job, RepairFacts facts) =>
        facts.Acts.Count == 0 && RepairFactsOf.RouteOf(job) == DecisionRoute.Leave
            ? "The owner chose to leave it as it is: there is nothing to plan. Choose what is to be done if that has changed."
        : facts.Acts.Any(RepairRow.IsAnotherCooler) && facts.CoolerOn is null && job.Repair.Cooler is { } name
            ? $"“{name}” is not among the workshop’s coolers (any more): add it to the parts with its kind, or choose another."
        : RepairPlanner.Problem(facts);

    private static async Task<(RepairFacts Facts, string? Why)> FactsAsync(
        RemedosContext context,
        IMemoryCache remembered,
        JobCases cases,
        Who who,
        Job job,
        PlanAsked asked,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Guid workshop = who.Workshop.Id;
        DateOnly today = who.Today(now);
        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == workshop && run.JobId == job.Id && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(cancellation);
        References references = await References.OfAsync(context, remembered, workshop, cancellation);
        string? cooler = MachineNames.Of(job).Cooler;
        IReadOnlyList<CoolerPart> coolers = references.Coolers(cooler);
        bool proof = await context.JobPhotos.AnyAsync(
            photo => photo.WorkshopId == workshop && photo.JobId == job.Id && photo.Kind == JobPhoto.Proof && photo.RemovedAt == null,
            cancellation
        );
        IReadOnlyList<string> acts;
        string? why = null;
        if (asked.Acts is { } chosen)
        {
            acts = chosen;
        }
        else
        {
            SeriesRecord? series = await SeriesRecords.WithoutAsync(context, job, cancellation);
            DiagnosisCase asking = JobCases.Of(job, runs, references, series, today).Case;
            bool silent = asking.Evidence.Count == 0 || await PracticeTries.IsAloneAsync(context, who.Workshop, job.Id, cancellation);
            DiagnosisStand? stand = silent ? null : DiagnosisStand.Of(cases.Answer(asking));
            acts = RepairFactsOf.Proposed(job, stand);
            why =
                job.Choice?.Act is not null || RepairFactsOf.RouteOf(job) is DecisionRoute.Cooler or DecisionRoute.Cap
                    ? "As the owner chose."
                : job.Repair.Causes.Count > 0 ? "For what was found."
                : acts.Count > 0 ? $"{stand!.Conclusion}."
                : null;
        }

        return acts.FirstOrDefault(act => RepairRow.All.All(row => row.Id != act)) is not null
            ? (new RepairFacts { Acts = acts }, why)
            : (
                RepairFactsOf.Of(
                    job,
                    asked,
                    [.. acts.Distinct(StringComparer.Ordinal)],
                    references.Parts,
                    coolers,
                    runs,
                    JobSheets.WarrantyOf(job, proof),
                    today
                ) with
                {
                    PastesHere = await TrialRecords.PastesAsync(context, workshop, cancellation),
                },
                why
            );
    }

    private static async Task<PlanAnswer> AnswerAsync(RemedosContext context, Plan plan, long last, CancellationToken cancellation)
    {
        string prefix = $"plan.{plan.Number}.";
        var ticks = await context
            .JobEvents.AsNoTracking()
            .Where(e =>
                e.WorkshopId == plan.WorkshopId && e.JobId == plan.JobId && e.Kind == JobEvents.Field && e.Subject!.StartsWith(prefix)
            )
            .Join(
                context.People,
                e => e.PersonId,
                p => p.Id,
                (e, p) =>
                    new
                    {
                        e.Id,
                        e.Subject,
                        p.Name,
                    }
            )
            .OrderBy(one => one.Id)
            .ToListAsync(cancellation);
        return new PlanAnswer(
            plan.Number,
            plan.BegunAt,
            plan.Composed,
            plan.Standing,
            ticks
                .GroupBy(one => one.Subject![prefix.Length..])
                .ToDictionary(step => step.Key, step => step.Last().Name, StringComparer.Ordinal),
            plan.Progress,
            plan.FromSetup,
            plan.MadeSetup,
            last
        );
    }

    private static async Task<Results<Ok<JobSheet>, ProblemHttpResult>> BeginAsync(
        Guid id,
        PlanAsked asked,
        JobDoor door,
        Caller caller,
        JobCases cases,
        IMemoryCache remembered,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return await door.ChangeAsync(
            id,
            async (write, job) =>
            {
                await write
                    .Context.Rounds.Where(round => round.WorkshopId == job.WorkshopId && round.JobId == job.Id)
                    .LoadAsync(cancellation);
                if (JobPlans.Current(job) is { Progress.UnderHands: true } open)
                {
                    return Refusal.Conflict(
                        $"“{open.Composed.Title}” is under way, at step {open.Progress.Number} of {open.Progress.Count}: go on "
                            + "with it, or set it aside first."
                    );
                }

                if (job.HandedOverAt is not null)
                {
                    return Refusal.Conflict("It has been handed over; take that back first.");
                }

                if (job.Plans.Count >= MostPlans)
                {
                    return Refusal.Of($"A job holds up to {MostPlans} plans.");
                }

                (RepairFacts facts, _) = await FactsAsync(write.Context, remembered, cases, who, job, asked, write.Now, cancellation);
                if (ProblemOf(job, facts) is { } problem)
                {
                    return Refusal.Of(problem);
                }

                Setup standing = JobSetups.Current(job);
                Plan plan = new()
                {
                    Id = Guid.CreateVersion7(write.Now),
                    WorkshopId = job.WorkshopId,
                    JobId = job.Id,
                    Number = job.Plans.Select(one => one.Number).DefaultIfEmpty(0).Max() + 1,
                    Round = job.Round,
                    Facts = facts,
                    Composed = RepairPlanner.Of(facts),
                    FromSetup = standing.Number,
                    FromMount = JobSetups.Standing(standing)[^1].Number,
                    BegunAt = write.Now,
                };
                job.Plans.Add(plan);
                write.Event(job, JobEvents.PlanBegun, plan.Id.ToString());
                return null;
            },
            cancellation
        );
    }

    private static Task<Results<Ok<JobSheet>, ProblemHttpResult>> LayAsideAsync(
        Guid id,
        int number,
        JobDoor door,
        CancellationToken cancellation
    ) =>
        door.ChangeAsync(
            id,
            (write, job) =>
            {
                if (JobPlans.Of(job, number) is not { } plan)
                {
                    return Refusal.Unknown($"This job has no plan {number}.");
                }

                plan.RemovedAt = write.Now;
                write.Event(job, JobEvents.PlanLaidAside, plan.Id.ToString());
                return null;
            },
            cancellation
        );
}
