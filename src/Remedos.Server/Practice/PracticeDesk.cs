using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Practice;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Practice;
using Remedos.Data.Runs;
using Remedos.Server.Bays;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>Begins a practice case, does what is asked of it, and ends it.</summary>
internal sealed class PracticeDesk(
    PracticeWorkshops places,
    Writes writes,
    WriteDoor door,
    Caller caller,
    JobSheets sheets,
    LiveBays live,
    IDbContextFactory<RemedosContext> contexts,
    IMemoryCache remembered,
    TimeProvider clock
)
{
    private const double UsualSpeed = 60,
        MostSpeed = 120;

    private const string NoCase = "No case is worked here. Open Practice and start one.",
        RunGoesOn = "A run goes on in the bay. Let it end, or stop it first.";

    /// <summary>Puts a drawn machine into the practice bay and its sheet beside it; a case that was still worked is put away.</summary>
    /// <param name="works">Who practises, in the workshop.</param>
    public async Task<Results<Ok<PracticeNow>, ProblemHttpResult>> BeginAsync(
        Who works,
        PracticeCase practice,
        bool alone,
        CancellationToken cancellation
    )
    {
        (Workshop workshop, Person person) = await places.EnsureAsync(works, cancellation);
        Who who = new(workshop, person, works.SignIn);
        ProblemHttpResult? refused = await writes.RunAsync(
            workshop.Id,
            person.Id,
            async write =>
            {
                Workshop locked = await write.WorkshopAsync();
                if (await PracticeTries.OpenAsync(write) is { } left)
                {
                    left.EndedAt = write.Now;
                    await GiveBackAsync(write, left);
                }

                Bay bay = await BayAsync(write);
                Job job = JobOf(practice, workshop.Id, locked.NextJobNumber++, write.Now);
                write.Context.Jobs.Add(job);
                write.Event(job, JobEvents.Created);
                write.Context.PracticeTries.Add(
                    new PracticeTry
                    {
                        Id = Guid.CreateVersion7(write.Now),
                        WorkshopId = workshop.Id,
                        JobId = job.Id,
                        BayId = bay.Id,
                        Level = practice.Level.Number,
                        Seed = practice.Seed,
                        Alone = alone,
                        StartedAt = write.Now,
                        Speed = UsualSpeed,
                        Stand = PracticeStand.Fresh,
                    }
                );
                write.Once(() => live.Tell(bay, []));
                return null;
            },
            null,
            cancellation
        );
        return refused is not null ? refused : TypedResults.Ok((await NowAsync(who, cancellation))!);
    }

    /// <summary>The bay, empty: what stood in it is carried away, and a run that went on lands nowhere.</summary>
    private static async Task<Bay> BayAsync(Write write)
    {
        Guid? there = await write
            .Context.Bays.Where(one => one.WorkshopId == write.WorkshopId)
            .OrderBy(one => one.Number)
            .Select(one => (Guid?)one.Id)
            .FirstOrDefaultAsync(write.Cancellation);
        if (there is { } id && await write.BayAsync(id) is { } bay)
        {
            (bay.Run, bay.Hands, bay.Sender, bay.Note, bay.Stream, bay.Acknowledged) = (null, null, null, null, null, 0);
            return bay;
        }

        Bay fresh = new()
        {
            Id = Guid.CreateVersion7(write.Now),
            WorkshopId = write.WorkshopId,
            Number = 1,
            // Nobody is told it: the machine is driven from within.
            TokenSha256 = BayToken.Sha256(BayToken.New()),
            TokenMadeAt = write.Now,
        };
        write.Context.Bays.Add(fresh);
        return fresh;
    }

    /// <summary>What a machine that comes in is known by: its parts, its age, where it stands, and what its owner says.</summary>
    public static Job JobOf(PracticeCase practice, Guid workshop, int number, DateTimeOffset now)
    {
        Core.Machines.BenchMachine machine = practice.Machine;
        Job job = new()
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = workshop,
            Number = number,
            CreatedAt = now,
            ChangedAt = now,
            Owner = practice.Owner,
            Machine = practice.Row.Name,
            Noticed = practice.Story,
            TemperatureLimitC = machine.Processor.TemperatureLimitC,
            RatedPowerW = machine.Processor.SustainedPowerW,
            CoolerKind = machine.Cooler.Kind,
            BuiltOn = DateOnly.FromDateTime(now.UtcDateTime).AddDays(-(int)((practice.Known.AgeMonths ?? 0) * JobCases.DaysAMonth)),
            Origin = practice.Known.Prebuilt == true ? Job.Complete : Job.SelfBuilt,
            Setting = practice.Known.Setting,
        };
        (job.Parts.Processor, job.Parts.Cooler, job.Parts.Case, job.Parts.Graphics) = (
            machine.Processor.Name,
            machine.Cooler.Name,
            machine.Build.Case?.Name,
            machine.Graphics?.Name
        );
        (job.Parts.FansSteeredBy, job.Parts.RadiatorAt) = (machine.Build.FansFollow, machine.Build.RadiatorAt);
        JobSetups.First(job, now);
        return job;
    }

    /// <summary>The case at hand of a practice workshop; null where there is none.</summary>
    public async Task<PracticeNow?> NowAsync(Who who, CancellationToken cancellation)
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.Workshop = who.Workshop.Id;
        if (who.Workshop.PracticeOf is null || await PracticeTries.NewestAsync(context, who.Workshop.Id, cancellation) is not { } tried)
        {
            return null;
        }

        Bay bay = await context
            .Bays.AsNoTracking()
            .SingleAsync(one => one.WorkshopId == who.Workshop.Id && one.Id == tried.BayId, cancellation);
        PracticeCase practice = PracticeTries.CaseOf(tried);
        PracticeStand stand = tried.Stand;
        return new PracticeNow(
            tried.Id,
            tried.JobId,
            bay.Number,
            tried.Level,
            practice.Level.Title,
            tried.Alone,
            tried.EndedAt is not null,
            tried.Speed,
            stand.Minutes,
            stand.Acts.Sum(act => act.PartsMinor),
            stand.Cooler,
            bay.Run is { State.IsOver: false },
            [.. DiagnosisTables.Evidence.Where(row => Witness.CanTell(practice, row)).Select(row => QuestionOf(row, stand))],
            [
                .. PracticeStand.Repairs.Select(row => new PracticeRepair(
                    row.Id,
                    row.Name,
                    PracticeStand.MinutesOf(practice, row),
                    row.PartsMinor,
                    stand.Acts.Any(act => act.Kind == PracticeDeed.Repair && act.Id == row.Id)
                )),
            ],
            [.. stand.Acts.Select(WordsOf)]
        );
    }

    private static PracticeQuestion QuestionOf(EvidenceRow row, PracticeStand stand)
    {
        PracticeAct? last = stand.Acts.LastOrDefault(act => act.Kind is PracticeDeed.Ask or PracticeDeed.Look && act.Id == row.Id);
        return new PracticeQuestion(
            row.Id,
            Witness.IsOwners(row) ? PracticeDeed.Ask : PracticeDeed.Look,
            row.Title,
            row.How,
            row.Reversible ? row.Minutes : 1,
            last is not null,
            last?.State?.Replace('-', ' '),
            !row.Reversible
        );
    }

    /// <summary>What was done, and what it told.</summary>
    public static string WordsOf(PracticeAct act) =>
        act.Kind switch
        {
            PracticeDeed.Ask or PracticeDeed.Look => $"{act.Title}: {act.State?.Replace('-', ' ') ?? "not known"}",
            PracticeDeed.Run => $"Run: {char.ToLowerInvariant(act.Title[0])}{act.Title[1..]}",
            _ => act.Title,
        };

    /// <summary>Asks, looks or feels; what is told stands on the sheet as whoever asked had noted it.</summary>
    public Task<Results<Ok<PracticeNow>, ProblemHttpResult>> AskAsync(string evidence, CancellationToken cancellation) =>
        ChangeAsync(
            async (write, tried) =>
            {
                (PracticeStand? after, string? problem) = tried.Stand.Asked(PracticeTries.CaseOf(tried), evidence);
                if (after is null)
                {
                    return Refusal.Of(problem!);
                }

                tried.Stand = after;
                if (after.Acts[^1].State is { } state && await write.JobAsync(tried.JobId) is { } job)
                {
                    Note(write, job, JobFields.EvidencePrefix + evidence, state);
                }

                return null;
            },
            cancellation
        );

    /// <summary>Notes a field as a hand would.</summary>
    private static void Note<T>(Write write, Job job, string name, T value)
    {
        JobField field = JobFields.Find(name)!;
        string before = field.Json(job);
        field.TrySet(job, JsonSerializer.SerializeToElement(value), DateOnly.MaxValue);
        if (field.Json(job) is var now && now != before)
        {
            write.Event(job, JobEvents.Field, name, before, now);
        }
    }

    /// <summary>Its machine leaves the bench, solved or not.</summary>
    private static async Task GiveBackAsync(Write write, PracticeTry tried)
    {
        if (await write.JobAsync(tried.JobId) is { } job)
        {
            Note(write, job, "handedOverAt", write.Now);
        }
    }

    /// <summary>Does a repair; the machine is switched off for it.</summary>
    public Task<Results<Ok<PracticeNow>, ProblemHttpResult>> RepairAsync(string repair, CancellationToken cancellation) =>
        ChangeAsync(
            async (write, tried) =>
            {
                if (await write.BayAsync(tried.BayId) is { Run.State.IsOver: false })
                {
                    return Refusal.Conflict(RunGoesOn);
                }

                (PracticeStand? after, string? problem) = tried.Stand.Repaired(PracticeTries.CaseOf(tried), repair);
                tried.Stand = after ?? tried.Stand;
                return problem is null ? null : Refusal.Of(problem);
            },
            cancellation
        );

    /// <summary>How many times faster than real its runs go.</summary>
    public Task<Results<Ok<PracticeNow>, ProblemHttpResult>> SpeedAsync(double speed, CancellationToken cancellation) =>
        ChangeAsync(
            (_, tried) =>
            {
                if (speed is not (>= 1 and <= MostSpeed))
                {
                    return Task.FromResult<ProblemHttpResult?>(Refusal.Of($"Runs go 1 to {MostSpeed:0} times as fast as real ones."));
                }

                tried.Speed = speed;
                return Task.FromResult<ProblemHttpResult?>(null);
            },
            cancellation
        );

    /// <summary>Ends the case: it is scored against the best way, and what it was is told.</summary>
    public async Task<Results<Ok<PracticeNow>, ProblemHttpResult>> EndAsync(string told, CancellationToken cancellation)
    {
        if (Kebab.Parse<Told>(told) is not { } says)
        {
            return Refusal.Of($"The owner is told one of {Kebab.Words<Told>()}.");
        }

        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await PracticeTries.NewestAsync(context, who.Workshop.Id, cancellation) is not { EndedAt: null } open)
        {
            return Refusal.Unknown(NoCase);
        }

        // What takes a moment to reckon is reckoned before anything is held.
        PracticeStand best = BestWay.Of(PracticeTries.CaseOf(open));
        ComparisonResult? compared = (await sheets.FindAsync(open.JobId, cancellation))?.Verdict?.Result;
        PracticeEnding ending = new(
            says,
            compared?.Comparable,
            compared?.Obstacles.FirstOrDefault(one => one.Severity == ObstacleWeight.Blocking)?.Message,
            await SeenAsync(context, who, open.JobId, cancellation)
        );
        return await ChangeAsync(
            async (write, tried) =>
            {
                if (await write.BayAsync(tried.BayId) is { Run.State.IsOver: false })
                {
                    return Refusal.Conflict(RunGoesOn);
                }

                (tried.Ending, tried.EndedAt) = (ending, write.Now);
                await GiveBackAsync(write, tried);
                tried.Score = PracticeScore.Of(PracticeTries.CaseOf(tried), tried.Stand, ending, best, who.Workshop.Currency);
                return null;
            },
            cancellation
        );
    }

    /// <summary>The case as the sheet has it, of the machine as it came in.</summary>
    private async Task<DiagnosisCase?> SeenAsync(RemedosContext context, Who who, Guid id, CancellationToken cancellation)
    {
        if (await context.WholeAsync(who.Workshop.Id, id, cancellation) is not { } job)
        {
            return null;
        }

        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == who.Workshop.Id && run.JobId == id && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(cancellation);
        References references = await References.OfAsync(context, remembered, who.Workshop.Id, cancellation);
        return JobCases.Of(job, runs, references, null, who.Today(clock.GetUtcNow())).Case;
    }

    private async Task<Results<Ok<PracticeNow>, ProblemHttpResult>> ChangeAsync(
        Func<Write, PracticeTry, Task<ProblemHttpResult?>> change,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return who.Workshop.PracticeOf is null
            ? Refusal.Unknown(NoCase)
            : await door.WriteAsync(
                async write => await PracticeTries.OpenAsync(write) is { } tried ? await change(write, tried) : Refusal.Unknown(NoCase),
                async () => (await NowAsync(who, cancellation))!,
                cancellation
            );
    }
}
