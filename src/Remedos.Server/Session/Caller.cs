using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;

namespace Remedos.Server.Session;

/// <summary>Who asks, for which workshop, and by which sign-in.</summary>
public sealed record Who(Workshop Workshop, Person Person, SignIn SignIn)
{
    /// <summary>
    /// What is allowed now: a lead who came by PIN on a device that others use too has a technician’s rights until the account is proved.
    /// </summary>
    public Role Role => Person.Role == Role.Lead && !IsSelf ? Role.Technician : Person.Role;

    /// <summary>Whether the person at work is the one who signed this device in, and proved it.</summary>
    public bool IsSelf => Person.AccountId == SignIn.AccountId && !SignIn.ByPin;

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
/// Whose request this is, as its sign-in says (<see cref="SignInTickets"/>). Every handler asks here and nowhere else, and gets a context
/// that
/// sees that workshop alone.
/// </summary>
public sealed class Caller(IDbContextFactory<RemedosContext> contexts, IHttpContextAccessor http)
{
    /// <summary>Whoever is signed in; null for nobody.</summary>
    public Who? Known => http.HttpContext is { } context ? Of(context) : null;

    /// <summary>Whoever is signed in; behind an address that wants a sign-in there is always somebody.</summary>
    public Task<Who> WhoAsync(CancellationToken cancellation) =>
        cancellation.IsCancellationRequested
            ? Task.FromCanceled<Who>(cancellation)
            : Task.FromResult(Known ?? throw new InvalidOperationException("Nobody is signed in, and this address does not ask for it."));

    /// <summary>A context that sees the rows of the caller's workshop, and refuses to write any other.</summary>
    public async Task<RemedosContext> OpenAsync(CancellationToken cancellation)
    {
        Who who = await WhoAsync(cancellation);
        RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        context.Workshop = who.Workshop.Id;
        return context;
    }

    /// <summary>The same for what is only read and may be a moment old: from the replica, where there is one.</summary>
    internal async Task<RemedosContext> OpenToReadAsync(ReadReplica replica, CancellationToken cancellation)
    {
        Who who = await WhoAsync(cancellation);
        RemedosContext context = await replica.OpenAsync(cancellation);
        context.Workshop = who.Workshop.Id;
        return context;
    }

    internal static Who? Of(HttpContext http) => http.Items[typeof(Who)] as Who;

    internal static void IsOf(HttpContext http, Who who) => http.Items[typeof(Who)] = who;
}
