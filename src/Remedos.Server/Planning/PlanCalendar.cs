using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Planning;
using Remedos.Server.Session;

namespace Remedos.Server.Planning;

/// <summary>The days of a plan as they are on the workshop's clock, in minutes from its moment.</summary>
internal sealed class PlanCalendar
{
    /// <summary>So far is planned.</summary>
    public const int Days = 28;

    private readonly Workshop _workshop;
    private readonly DateTimeOffset _now;
    private readonly Dictionary<DateOnly, WorkDay> _different;
    private readonly TimeZoneInfo _zone;

    public PlanCalendar(Workshop workshop, OpeningHours hours, IEnumerable<WorkDay> different, DateTimeOffset now)
    {
        (_workshop, _now, _different) = (workshop, now, different.ToDictionary(day => day.Day));
        _zone = TimeZoneInfo.TryFindSystemTimeZoneById(workshop.TimeZone, out TimeZoneInfo? zone) ? zone : TimeZoneInfo.Utc;
        Today = DateOnly.FromDateTime(WorkshopClock.At(workshop, now).Date);
        All = [.. Enumerable.Range(0, Days).Select(i => DayOf(Today.AddDays(i), hours))];
    }

    public DateOnly Today { get; }

    public IReadOnlyList<DayOfPlan> All { get; }

    /// <summary>Open time from now on; empty where it never opens.</summary>
    public IReadOnlyList<Span> Open => SpansOf(_ => true);

    /// <summary>When somebody is here.</summary>
    public IReadOnlyList<Span> HereOf(Guid person) => SpansOf(day => !day.Away.Contains(person));

    /// <summary>When a bay cannot be used: from midnight to midnight.</summary>
    public IReadOnlyList<Span> OutOf(int bay) =>
        [
            .. All.Where(day => day.BaysOut.Contains(bay))
                .Select(day => new Span(
                    Math.Max(0, MinutesTo(Moment(day.Day, TimeOnly.MinValue))),
                    MinutesTo(Moment(day.Day.AddDays(1), TimeOnly.MinValue))
                )),
        ];

    public double MinutesTo(DateTimeOffset at) => (at - _now).TotalMinutes;

    public DateTimeOffset At(double minutes) => _now.AddMinutes(minutes);

    /// <summary>A time of a day here; one that a change of clocks leaps over is taken for the same long after midnight.</summary>
    public DateTimeOffset Moment(DateOnly day, TimeOnly time)
    {
        DateTime local = day.ToDateTime(time);
        TimeSpan offset = _zone.GetUtcOffset(_zone.IsInvalidTime(local) ? local.AddHours(1) : local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }

    private Span[] SpansOf(Func<DayOfPlan, bool> counts) =>
        [
            .. All.Where(day => day is { From: not null, To: not null } && counts(day))
                .Select(day => new Span(Math.Max(0, MinutesTo(day.From!.Value)), MinutesTo(day.To!.Value)))
                .Where(span => span.From < span.To),
        ];

    private DayOfPlan DayOf(DateOnly day, OpeningHours hours)
    {
        WorkDay? its = _different.GetValueOrDefault(day);
        OpenDay? usual = hours.Days.FirstOrDefault(one => one.Day == (((int)day.DayOfWeek + 6) % 7) + 1);
        (TimeOnly From, TimeOnly To)? open =
            its is { Closed: true } ? null
            : its is { From: { } from, To: { } to } ? (from, to)
            : usual is null ? null
            : (usual.From, usual.To);
        return new DayOfPlan(
            day,
            open is null ? null : Moment(day, open.Value.From),
            open is null ? null : Moment(day, open.Value.To),
            open?.From,
            open?.To,
            its is not { Closed: true } and not { From: not null },
            its?.Away ?? [],
            its?.BaysOut ?? []
        );
    }
}
