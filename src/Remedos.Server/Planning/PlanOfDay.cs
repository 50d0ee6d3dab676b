using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.People;
using Remedos.Data.Planning;
using Remedos.Server.Jobs;
using Remedos.Server.Records;

namespace Remedos.Server.Planning;

/// <summary>Puts together what a day is planned from, and says what came of it.</summary>
internal sealed class PlanOfDay(JobTags tags)
{
    /// <summary>Whoever ticked a step so lately is still at it.</summary>
    private static readonly TimeSpan StillAtIt = TimeSpan.FromMinutes(30);

    /// <summary>A delivery is there by noon.</summary>
    private static readonly TimeOnly PartsComeAt = new(12, 0);

    private const string RunEnds = "A run goes on";

    /// <summary>What a run asks of a hand on its way: a panel, a program that is started.</summary>
    private const double HandMinutes = 2;

    /// <summary>What is asked of the database, and by which it is known whether anything has changed.</summary>
    public sealed record Stand(
        Workshop Workshop,
        DateTimeOffset Now,
        IReadOnlyList<Person> People,
        IReadOnlyList<Bay> Bays,
        IReadOnlyList<WorkDay> Days,
        IReadOnlyList<OpenJob> Jobs,
        IReadOnlyDictionary<Guid, Guid> AtIt,
        IReadOnlyDictionary<WorkKind, Spread> Spreads
    )
    {
        /// <summary>Everything that the plan is made from, as a text.</summary>
        public string State =>
            JsonSerializer.Serialize(
                new
                {
                    Now,
                    Workshop = Workshop.Version,
                    People = People.Select(one => new
                    {
                        one.Id,
                        one.Name,
                        one.Role,
                    }),
                    // Readings come all the time: what counts is the stage, and to the minute how long it goes on.
                    Bays = Bays.Select(one => new
                    {
                        one.Number,
                        one.Run?.JobId,
                        one.Run?.State.Stage,
                        Run = one.Run is { State.IsOver: false } run ? RunOf(one, run) : null,
                    }),
                    Days,
                    Jobs = Jobs.Select(one => new
                    {
                        one.Job.Id,
                        one.Job.Version,
                        one.Work,
                        one.Now,
                    }),
                    AtIt,
                    Spreads,
                }
            );
    }

    /// <summary>Reads what stands now, to the minute.</summary>
    public async Task<Stand> ReadAsync(RemedosContext context, Workshop workshop, DateTimeOffset now, CancellationToken cancellation)
    {
        DateTimeOffset minute = new(now.UtcTicks - (now.UtcTicks % TimeSpan.TicksPerMinute), TimeSpan.Zero);
        DateOnly today = DateOnly.FromDateTime(Session.WorkshopClock.At(workshop, minute).Date);
        List<Person> people = await context
            .People.AsNoTracking()
            .Where(one => one.WorkshopId == workshop.Id && one.LeftAt == null && one.From == null && one.Role != Role.Reader)
            .OrderBy(one => one.Id)
            .ToListAsync(cancellation);
        List<Bay> bays = await context
            .Bays.AsNoTracking()
            .Where(bay => bay.WorkshopId == workshop.Id)
            .OrderBy(bay => bay.Number)
            .ToListAsync(cancellation);
        List<WorkDay> days = await context
            .WorkDays.AsNoTracking()
            .Where(day => day.WorkshopId == workshop.Id && day.Day >= today)
            .OrderBy(day => day.Day)
            .ToListAsync(cancellation);
        IReadOnlyList<OpenJob> jobs = await tags.OpenAsync(context, workshop, cancellation);
        Guid[] begun = [.. jobs.Where(one => one.Work.Begun).Select(one => one.Job.Id)];
        DateTimeOffset since = now - StillAtIt;
        var ticks =
            begun.Length == 0
                ? []
                : await context
                    .JobEvents.AsNoTracking()
                    .Where(e =>
                        e.WorkshopId == workshop.Id
                        && begun.Contains(e.JobId)
                        && e.At > since
                        && e.Kind == JobEvents.Field
                        && e.Subject!.StartsWith("plan.")
                    )
                    .Select(e => new
                    {
                        e.JobId,
                        e.PersonId,
                        e.At,
                    })
                    .ToListAsync(cancellation);
        return new Stand(
            workshop,
            minute,
            people,
            bays,
            days,
            jobs,
            // Nobody is at two machines.
            ticks
                .OrderByDescending(tick => tick.At)
                .DistinctBy(tick => tick.JobId)
                .DistinctBy(tick => tick.PersonId)
                .ToDictionary(tick => tick.JobId, tick => tick.PersonId),
            await RepairRecords.SpreadsAsync(context, workshop.Id, cancellation)
        );
    }

    /// <summary>Plans.</summary>
    public static DayPlanAnswer Of(Stand stand)
    {
        OpeningHours hours = stand.Workshop.Open ?? new OpeningHours([]);
        PlanCalendar calendar = new(stand.Workshop, hours, stand.Days, stand.Now);
        IReadOnlyList<Span> open = calendar.Open;
        PlanHand[] hands = [.. stand.People.Select(one => new PlanHand(Key(one.Id), calendar.HereOf(one.Id)))];
        string? problem =
            stand.Workshop.Open is null ? "Say first when the workshop is open: without its hours nothing can be planned."
            : open.Count == 0 ? "The workshop is closed for the next four weeks."
            : Array.TrueForAll(hands, hand => hand.Here.Count == 0) ? "Nobody is here in the next four weeks."
            : null;
        PlanJob?[] planned = [.. stand.Jobs.Select(job => problem is null ? JobOf(stand, calendar, job) : null)];
        DayPlan? plan = problem is null
            ? DayPlanner.Plan(
                new PlanRequest(
                    open,
                    hands,
                    [.. stand.Bays.Select(bay => new PlanBay(bay.Number, OutOf(stand, calendar, bay)))],
                    [.. planned.OfType<PlanJob>()]
                )
                {
                    Spreads = stand.Spreads,
                }
            )
            : null;
        Dictionary<string, MachinePlan> machines = plan?.Machines.ToDictionary(one => one.Job) ?? [];
        Dictionary<string, PlanJob> asked = planned.OfType<PlanJob>().ToDictionary(one => one.Id);
        Dictionary<string, string> names = stand.Jobs.ToDictionary(
            one => Key(one.Job.Id),
            one => JobSheets.Tag(stand.Workshop, one.Job.Number)
        );
        return new DayPlanAnswer(
            stand.Now,
            calendar.Today,
            problem,
            PlanWords.Stands(stand.Spreads),
            [.. stand.People.Select(one => new HandOfPlan(one.Id, one.Name, calendar.HereOf(one.Id) is [{ From: 0 }, ..]))],
            [.. stand.Bays.Select(bay => bay.Number)],
            calendar.All,
            [
                .. (plan?.Blocks ?? [])
                    .Where(block => block.From < calendar.MinutesTo(calendar.Moment(calendar.Today.AddDays(7), default)))
                    .Select(block => BlockOf(calendar, block, asked[block.Job], machines[block.Job], names[block.Job])),
            ],
            [
                .. stand
                    .Jobs.Select(job => MachineOf(stand, calendar, job, machines.GetValueOrDefault(Key(job.Job.Id))))
                    .OrderBy(one => one.ReadyAt is null && one.Rank is null)
                    .ThenBy(one => one.Rank ?? double.PositiveInfinity)
                    .ThenBy(one => one.ReadyAt ?? DateTimeOffset.MaxValue)
                    .ThenBy(one => one.Tag, StringComparer.Ordinal),
            ]
        );
    }

    /// <summary>A machine as it is planned; null where nobody knows when it goes on.</summary>
    private static PlanJob? JobOf(Stand stand, PlanCalendar calendar, OpenJob one)
    {
        (Job job, WorkLeft work) = (one.Job, one.Work);
        Bay? bay = RunningFor(stand, job.Id);
        // What is held up or done may stand in a bay all the same; what follows its run nobody knows.
        bool goesOn = HoldOf(one, calendar) is null;
        if (bay is null && (!goesOn || work.Pieces.Count == 0))
        {
            return null;
        }

        double notBefore =
            work.Hold == WorkHold.Part && job.PartExpectedOn is { } day
                ? Math.Max(0, calendar.MinutesTo(calendar.Moment(day, PartsComeAt)))
                : 0;
        PlanJob its = new(
            Key(job.Id),
            goesOn ? work.PiecesAt(stand.Now) : [],
            notBefore,
            job.PromisedAt is { } promised ? calendar.MinutesTo(promised) : null,
            job.HandledBy is { } who ? Key(who) : null,
            job.PlanRank
        );
        if (bay is { Run: { } goes })
        {
            return its with
            {
                Pieces = [RunOf(bay, goes), .. its.Pieces is [{ Kind: WorkKind.Run }, ..] ? its.Pieces.Skip(1) : its.Pieces],
                RunsIn = bay.Number,
                Rank = goes.State.WaitsForHand ? double.NegativeInfinity : its.Rank,
            };
        }

        return stand.AtIt.TryGetValue(job.Id, out Guid person) ? its with { UnderHandsOf = Key(person) } : its;
    }

    private static Bay? RunningFor(Stand stand, Guid job) =>
        stand.Bays.FirstOrDefault(bay => bay.Run is { State.IsOver: false } run && run.JobId == job);

    /// <summary>What is left of a run that goes on; what it will change is not known, and what follows is as if it had been made.</summary>
    private static WorkPiece RunOf(Bay bay, BayRun goes)
    {
        double left = Math.Ceiling(RunTime.Left(goes.State, goes.LoadSeconds, goes.SecondsLeft, goes.Following) / 60);
        return goes.State.WaitsForHand
            ? new WorkPiece(WorkKind.Run, $"Bay {bay.Number}: {goes.Says.TrimEnd('.')}", HandMinutes, left, Bay: true)
            : new WorkPiece(WorkKind.Run, RunEnds, 0, left, Bay: true);
    }

    /// <summary>When a bay cannot be used: as the day says, and while a run goes on in it that is not in the plan.</summary>
    private static IReadOnlyList<Span> OutOf(Stand stand, PlanCalendar calendar, Bay bay) =>
        bay.Run is { State.IsOver: false } run && (RunningFor(stand, run.JobId) != bay || stand.Jobs.All(one => one.Job.Id != run.JobId))
            ? [new Span(0, RunOf(bay, run).AloneMinutes), .. calendar.OutOf(bay.Number)]
            : calendar.OutOf(bay.Number);

    private static string? HoldOf(OpenJob one, PlanCalendar calendar) =>
        one.Work.Hold switch
        {
            null => null,
            WorkHold.Part when one.Job.PartExpectedOn is { } day => day < calendar.Today
                ? $"Its part was expected on {day:d MMMM}: ask where it is."
                : null,
            { } hold => PlanWords.Held(hold),
        };

    private static BlockOfPlan BlockOf(PlanCalendar calendar, PlanBlock block, PlanJob asked, MachinePlan machine, string tag)
    {
        // What was left out stands in no block.
        WorkPiece piece = asked.Pieces.Where(one => !machine.LeftOut.Contains(one)).ElementAt(block.Piece);
        return new BlockOfPlan(
            Guid.Parse(block.Job),
            tag,
            piece.Kind,
            piece.Title,
            piece.HandsMinutes,
            piece.AloneMinutes,
            block.Hand is null ? null : Guid.Parse(block.Hand),
            block.Bay,
            calendar.At(block.From),
            calendar.At(block.HandsTo),
            calendar.At(block.To),
            block.From <= 0 && block.Piece == 0 && (asked.RunsIn is not null ? block.Hand is null : asked.UnderHandsOf == block.Hand),
            asked.RunsIn is not null && block.Piece == 0 && block.Hand is not null
        );
    }

    private static MachineOfPlan MachineOf(Stand stand, PlanCalendar calendar, OpenJob one, MachinePlan? plan)
    {
        Job job = one.Job;
        string? held = HoldOf(one, calendar);
        // The end of a run says nothing of a machine that waits for somebody outside.
        MachinePlan? known = held is null ? plan : null;
        DateTimeOffset? At(double? minutes) => minutes is { } value ? calendar.At(value) : null;
        string? who = job.HandledBy is { } id ? stand.People.FirstOrDefault(person => person.Id == id)?.Name : null;
        return new MachineOfPlan(
            job.Id,
            JobSheets.Tag(stand.Workshop, job.Number),
            job.Owner,
            job.Machine,
            one.Now,
            At(known?.ReadyAt),
            At(known?.Early),
            At(known?.Late),
            job.PromisedAt,
            plan is null && one.Work is { Pieces.Count: 0, Hold: null },
            known is { LateByMinutes: > 0 },
            held ?? (known?.Reason is { } reason ? PlanWords.Late(reason, who) : null),
            known is null ? null : PlanWords.Given(one.Work.Asks, known.LeftOut),
            who is null ? null : job.HandledBy,
            job.PlanRank
        );
    }

    private static string Key(Guid id) => id.ToString();
}

/// <summary>A machine in the workshop with what is left to do on it.</summary>
/// <param name="Now">The title of its Now card.</param>
internal sealed record OpenJob(Job Job, WorkLeft Work, string Now);
