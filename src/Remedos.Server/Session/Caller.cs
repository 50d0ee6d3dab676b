using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Session;

/// <summary>Who asks, and for which workshop.</summary>
public sealed record Who(Workshop Workshop, Person Person)
{
    /// <summary>The day it is where the workshop stands.</summary>
    public DateOnly Today(DateTimeOffset now) => DateOnly.FromDateTime(At(now).Date);

    /// <summary>A moment on the workshop's clock.</summary>
    public DateTimeOffset At(DateTimeOffset moment) => WorkshopClock.At(Workshop, moment);
}

/// <summary>A workshop's own time.</summary>
public static class WorkshopClock
{
    public static bool Knows(string zone) => TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _);

    /// <summary>A zone that this machine does not know is taken for UTC.</summary>
    public static DateTimeOffset At(Workshop workshop, DateTimeOffset moment) =>
        TimeZoneInfo.ConvertTime(
            moment,
            TimeZoneInfo.TryFindSystemTimeZoneById(workshop.TimeZone, out TimeZoneInfo? zone) ? zone : TimeZoneInfo.Utc
        );
}

/// <summary>
/// Whose request this is: the person that the request's claim names. Until people sign in no request has one, and it is the first person of
/// the database. Every
/// handler asks here and nowhere else, and gets a context that sees that workshop alone.
/// </summary>
public sealed class Caller(IDbContextFactory<RemedosContext> contexts, IHttpContextAccessor http)
{
    /// <summary>The claim that holds a person's id.</summary>
    public const string PersonClaim = "remedos-person";

    private Who? _known;

    public async Task<Who> WhoAsync(CancellationToken cancellation)
    {
        if (_known is null)
        {
            await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
            string? claimed = http.HttpContext?.User.FindFirstValue(PersonClaim);
            IQueryable<Person> people = context.People.AsNoTracking();
            people = claimed is null
                ? people.Where(person => person.From == null).OrderBy(person => person.Id).Take(1)
                : people.Where(person => person.Id == Guid.Parse(claimed));
            var found = await people
                .Join(
                    context.Workshops.AsNoTracking(),
                    person => person.WorkshopId,
                    workshop => workshop.Id,
                    (person, workshop) => new { person, workshop }
                )
                .SingleAsync(cancellation);
            _known = new Who(found.workshop, found.person);
        }

        return _known;
    }

    /// <summary>A context that sees the rows of the caller's workshop, and refuses to write any other.</summary>
    public async Task<RemedosContext> OpenAsync(CancellationToken cancellation)
    {
        Who who = await WhoAsync(cancellation);
        RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.Workshop = who.Workshop.Id;
        return context;
    }
}
