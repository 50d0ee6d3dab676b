using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;
using Remedos.Server.Practice;

namespace Remedos.Server.Session;

/// <summary>
/// Keeps sign-ins in the database, so that each can be listed and ended, on whatever server it is asked: the cookie holds nothing but a
/// token.
/// A sign-in holds as long as it is used, and never longer than a week.
/// </summary>
internal sealed class SignInTickets(IDbContextFactory<RemedosContext> contexts, TimeProvider clock) : ITicketStore
{
    /// <summary>A bench that nobody has touched for so long is signed out.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromHours(12);

    /// <summary>However busy it is.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(7);

    /// <summary>How exactly “last seen” is kept.</summary>
    private static readonly TimeSpan Seen = TimeSpan.FromMinutes(1);

    public const string AccountClaim = "account",
        WorkshopClaim = "workshop",
        PersonClaim = "person",
        WayClaim = "way";

    /// <summary>Who signs in, as the ticket to be kept.</summary>
    public static ClaimsPrincipal PrincipalOf(Guid account, Person person, string way) =>
        new(
            new ClaimsIdentity(
                [
                    new(AccountClaim, account.ToString()),
                    new(WorkshopClaim, person.WorkshopId.ToString()),
                    new(PersonClaim, person.Id.ToString()),
                    new(WayClaim, way),
                ],
                CookieAuthenticationDefaults.AuthenticationScheme
            )
        );

    public async Task<string> StoreAsync(AuthenticationTicket ticket, HttpContext httpContext, CancellationToken cancellationToken)
    {
        string token = SecretToken.New();
        Guid Of(string claim) => Guid.Parse(ticket.Principal.FindFirstValue(claim)!);
        DateTimeOffset now = clock.GetUtcNow();
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellationToken);
        context.SignIns.Add(
            new SignIn
            {
                Id = Guid.CreateVersion7(now),
                TokenSha256 = SecretToken.Sha256(token),
                AccountId = Of(AccountClaim),
                WorkshopId = Of(WorkshopClaim),
                PersonId = Of(PersonClaim),
                Way = ticket.Principal.FindFirstValue(WayClaim)!,
                Device = DeviceWords.Of(httpContext.Request.Headers.UserAgent.ToString()),
                Address = AccessLog.AddressOf(httpContext),
                At = now,
                SeenAt = now,
                ProvedAt = now,
            }
        );
        await context.SaveChangesAsync(cancellationToken);
        return token;
    }

    public async Task<AuthenticationTicket?> RetrieveAsync(string key, HttpContext httpContext, CancellationToken cancellationToken)
    {
        DateTimeOffset now = clock.GetUtcNow();
        string hash = SecretToken.Sha256(key);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellationToken);
        var found = await Valid(context, now)
            .Where(one => one.TokenSha256 == hash)
            .Join(context.People, one => one.PersonId, person => person.Id, (SignIn, Person) => new { SignIn, Person })
            .Where(one => one.Person.WorkshopId == one.SignIn.WorkshopId && one.Person.LeftAt == null)
            .Join(
                context.Workshops,
                one => one.Person.WorkshopId,
                one => one.Id,
                (one, Workshop) =>
                    new
                    {
                        one.SignIn,
                        one.Person,
                        Workshop,
                    }
            )
            .AsNoTracking()
            .SingleOrDefaultAsync(cancellationToken);
        if (found is null)
        {
            return null;
        }

        if (now - found.SignIn.SeenAt > Seen)
        {
            await context
                .SignIns.Where(one => one.Id == found.SignIn.Id)
                .ExecuteUpdateAsync(set => set.SetProperty(one => one.SeenAt, now), cancellationToken);
        }

        Who who = await PracticeDoor.WhoAsync(context, httpContext, new Who(found.Workshop, found.Person, found.SignIn), cancellationToken);
        Caller.IsOf(httpContext, who);
        // The id, so that a page's token is of this sign-in and of none after it.
        ClaimsIdentity identity = new(
            [new(ClaimTypes.NameIdentifier, found.SignIn.Id.ToString()), new(WorkshopClaim, who.Workshop.Id.ToString())],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        return new AuthenticationTicket(new ClaimsPrincipal(identity), CookieAuthenticationDefaults.AuthenticationScheme);
    }

    public async Task RemoveAsync(string key, HttpContext httpContext, CancellationToken cancellationToken)
    {
        string hash = SecretToken.Sha256(key);
        DateTimeOffset now = clock.GetUtcNow();
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellationToken);
        await context
            .SignIns.Where(one => one.TokenSha256 == hash && one.EndedAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.EndedAt, now), cancellationToken);
    }

    /// <summary>Those that still hold.</summary>
    public static IQueryable<SignIn> Valid(RemedosContext context, DateTimeOffset now)
    {
        DateTimeOffset seen = now - Idle,
            begun = now - Longest;
        return context.SignIns.Where(one => one.EndedAt == null && one.SeenAt > seen && one.At > begun && one.At <= now.AddMinutes(5));
    }

    // What the framework asks for without saying of which request; it never does here.
    public Task<string> StoreAsync(AuthenticationTicket ticket) => throw new NotSupportedException();

    public Task RenewAsync(string key, AuthenticationTicket ticket) => Task.CompletedTask;

    public Task<AuthenticationTicket?> RetrieveAsync(string key) => throw new NotSupportedException();

    public Task RemoveAsync(string key) => throw new NotSupportedException();
}

/// <summary>What kind of device it is that a browser speaks for.</summary>
internal static class DeviceWords
{
    // What comes first is looked for first: a telephone's browser also says what all of them say.
    private static readonly (string Sign, string Words)[] Kinds =
    [
        ("Tablet", "a tablet"),
        ("Mobi", "a telephone"),
        ("Mozilla", "a computer"),
    ];

    public static string Of(string agent) =>
        Array.Find(Kinds, one => agent.Contains(one.Sign, StringComparison.Ordinal)).Words ?? "a program";
}
