using Remedos.Core.Planning;

namespace Remedos.Server.Planning;

/// <summary>What to touch now and next, and when each machine will be ready.</summary>
/// <param name="At">The moment of the plan.</param>
/// <param name="Today">The day on the workshop's calendar.</param>
/// <param name="Problem">Why there is no plan, as a sentence; null where there is one.</param>
/// <param name="Stands">What its intervals stand on.</param>
/// <param name="Hands">Who works here.</param>
/// <param name="Days">The next days, with what is different on them.</param>
/// <param name="Blocks">In the order of their beginning.</param>
/// <param name="Machines">Those that were put first, then by when they will be ready, then those that are not planned.</param>
public sealed record DayPlanAnswer(
    DateTimeOffset At,
    DateOnly Today,
    string? Problem,
    string Stands,
    IReadOnlyList<HandOfPlan> Hands,
    IReadOnlyList<int> Bays,
    IReadOnlyList<DayOfPlan> Days,
    IReadOnlyList<BlockOfPlan> Blocks,
    IReadOnlyList<MachineOfPlan> Machines
);

/// <summary>Somebody who works here.</summary>
/// <param name="Here">Whether at this moment.</param>
public sealed record HandOfPlan(Guid Person, string Name, bool Here);

/// <summary>A day of the plan.</summary>
/// <param name="From">When it opens; null where it is closed.</param>
/// <param name="Opens">The same on the workshop's own clock, as hours are told.</param>
/// <param name="Usual">Whether hours are as on every such day.</param>
public sealed record DayOfPlan(
    DateOnly Day,
    DateTimeOffset? From,
    DateTimeOffset? To,
    TimeOnly? Opens,
    TimeOnly? Closes,
    bool Usual,
    IReadOnlyList<Guid> Away,
    IReadOnlyList<int> BaysOut
);

/// <summary>A piece of work in its place.</summary>
/// <param name="Hand">Who does it; null for nobody.</param>
/// <param name="Bay">Where; null for no bay.</param>
/// <param name="From">When hands begin; HandsTo when they are done; To when nothing of it is left.</param>
/// <param name="Goes">Whether it goes on at this moment.</param>
/// <param name="Waits">Whether a run waits for this hand in its bay.</param>
public sealed record BlockOfPlan(
    Guid Job,
    string Tag,
    WorkKind Kind,
    string Title,
    double HandsMinutes,
    double AloneMinutes,
    Guid? Hand,
    int? Bay,
    DateTimeOffset From,
    DateTimeOffset HandsTo,
    DateTimeOffset To,
    bool Goes,
    bool Waits
);

/// <summary>A machine in the plan.</summary>
/// <param name="ReadyAt">By the plan; null where it does not reach so far, or the machine is not planned.</param>
/// <param name="Early">Nine in ten times it is later than this.</param>
/// <param name="Late">Nine in ten times it is earlier than this; null where that lies beyond the plan.</param>
/// <param name="IsReady">Whether its owner can have it.</param>
/// <param name="IsLate">Whether it will be ready after it is promised.</param>
/// <param name="Why">What makes it late, or why it is not planned; null for neither.</param>
/// <param name="Given">What the plan takes for granted; null for nothing.</param>
/// <param name="HandledBy">Whose it is; null for anyone free.</param>
/// <param name="Rank">Its place among those that were put first; null for as the plan finds best.</param>
public sealed record MachineOfPlan(
    Guid Job,
    string Tag,
    string? Owner,
    string? Machine,
    string Next,
    DateTimeOffset? ReadyAt,
    DateTimeOffset? Early,
    DateTimeOffset? Late,
    DateTimeOffset? PromisedAt,
    bool IsReady,
    bool IsLate,
    string? Why,
    string? Given,
    Guid? HandledBy,
    double? Rank
);

/// <summary>What is different on a day; one of its parts at a time.</summary>
/// <param name="Person">Who is here, or is not.</param>
/// <param name="Bay">Which bay is used, or is not.</param>
/// <param name="Hours">Other hours; their usual ones where neither closed nor hours are told.</param>
public sealed record DayChange(PersonOfDay? Person = null, BayOfDay? Bay = null, HoursOfDay? Hours = null);

/// <summary>Whether somebody is here.</summary>
public sealed record PersonOfDay(Guid Id, bool Here);

/// <summary>Whether a bay is used.</summary>
public sealed record BayOfDay(int Number, bool Used);

/// <summary>When a day is open.</summary>
public sealed record HoursOfDay(bool Closed = false, TimeOnly? From = null, TimeOnly? To = null);
