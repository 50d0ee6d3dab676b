using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;

namespace Remedos.Server.Session;

/// <summary>What a page needs to know before anything else.</summary>
/// <param name="Token">Goes into the X-Remedos-Token header of every request that changes something.</param>
/// <param name="Me">Who is signed in; null for nobody.</param>
/// <param name="Demo">Whether everybody here is invented, and a touch signs in.</param>
/// <param name="Touch">Whom a touch signs in; empty elsewhere.</param>
/// <param name="Unopened">Whether nobody can sign in yet: the first lead’s link stands in the terminal.</param>
public sealed record SessionAnswer(string Token, MeAnswer? Me, bool Demo, IReadOnlyList<TouchAnswer> Touch, bool Unopened);

/// <summary>Whom a touch signs in.</summary>
public sealed record TouchAnswer(Guid Id, string Name, Role Role);

/// <summary>Who works at this device, and where.</summary>
/// <param name="Id">The person’s.</param>
/// <param name="Role">What the person may do at a device of its own.</param>
/// <param name="Rights">What is allowed here and now.</param>
/// <param name="IsSelf">Whether the person is the one who signed the device in, and not by PIN.</param>
/// <param name="TimeZone">The workshop’s own, by its IANA name: what “today” means.</param>
/// <param name="TemperatureUnit">In which degrees sentences and figures are told; numbers of answers are in °C all the same.</param>
/// <param name="Today">The day it is there.</param>
/// <param name="LargestLogBytes">The largest log that this server takes.</param>
/// <param name="Version">Of this server, and its build.</param>
/// <param name="Workshops">Where the account works.</param>
/// <param name="Practises">Whether this is no workshop but where its person practises.</param>
public sealed record MeAnswer(
    Guid Id,
    string Name,
    Role Role,
    Role Rights,
    bool IsSelf,
    Guid WorkshopId,
    string Workshop,
    string TagPrefix,
    string Currency,
    string TimeZone,
    TemperatureUnit TemperatureUnit,
    DateOnly Today,
    long LargestLogBytes,
    string Version,
    IReadOnlyList<WorkshopChoice> Workshops,
    bool Practises
);

/// <summary>A workshop to work in.</summary>
public sealed record WorkshopChoice(Guid Id, string Name);

internal static class SessionEndpoints
{
    public static void MapSession(this RouteGroupBuilder api) =>
        api.MapGet("/session", GetAsync).WithTags("session").WithName("getSession").AllowAnonymous();

    private static async Task<Ok<SessionAnswer>> GetAsync(
        Caller caller,
        IAntiforgery antiforgery,
        HttpContext http,
        RemedosContext context,
        IConfiguration configuration,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        bool demo = configuration.GetValue("Demo", false);
        string token = antiforgery.GetAndStoreTokens(http).RequestToken!;
        if (caller.Known is { } who)
        {
            Guid account = who.SignIn.AccountId;
            WorkshopChoice[] workshops = await context
                .People.Where(one => one.AccountId == account && one.LeftAt == null)
                .Join(
                    context.Workshops,
                    one => one.WorkshopId,
                    one => one.Id,
                    (_, workshop) => new WorkshopChoice(workshop.Id, workshop.Name)
                )
                .ToArrayAsync(cancellation);
            return TypedResults.Ok(new SessionAnswer(token, MeOf(who, workshops, configuration, clock), demo, [], false));
        }

        TouchAnswer[] touch = demo
            ?
            [
                .. (await context.People.Where(one => one.AccountId != null && one.LeftAt == null).ToArrayAsync(cancellation))
                    .OrderByDescending(one => one.Role)
                    .ThenBy(one => one.Name, StringComparer.Ordinal)
                    .Select(one => new TouchAnswer(one.Id, one.Name, one.Role)),
            ]
            : [];
        bool unopened = !await context.People.AnyAsync(one => one.AccountId != null, cancellation);
        return TypedResults.Ok(new SessionAnswer(token, null, demo, touch, unopened));
    }

    private static MeAnswer MeOf(Who who, WorkshopChoice[] workshops, IConfiguration configuration, TimeProvider clock) =>
        new(
            who.Person.Id,
            who.Person.Name,
            who.Person.Role,
            who.Role,
            who.IsSelf,
            who.Workshop.Id,
            who.Workshop.Name,
            who.Workshop.TagPrefix,
            who.Workshop.Currency,
            who.Workshop.TimeZone,
            who.Workshop.TemperatureUnit,
            who.Today(clock.GetUtcNow()),
            Runs.UploadLimit.Of(configuration),
            $"{Build.Version}, build {Build.Id}",
            workshops,
            who.Workshop.PracticeOf is not null
        );
}
