using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.People;

/// <summary>What a link holds.</summary>
public sealed record JoinLink(string Token);

/// <summary>Whom a link is for.</summary>
/// <param name="Login">The name by which this person signs in already; null for nobody who has a way in.</param>
public sealed record JoinAnswer(string Name, string Workshop, Role Role, string? Login, int ShortestPassword);

/// <summary>The way in that somebody makes.</summary>
/// <param name="Login">The name to sign in by.</param>
public sealed record Joining(string Token, string Login, string Password);

/// <summary>Where somebody works now, too.</summary>
public sealed record JoinedAnswer(Guid Workshop);

/// <summary>What somebody does who was given a link: choose a name and a password, and be in.</summary>
internal static class JoinEndpoints
{
    public static void MapJoin(this RouteGroupBuilder api)
    {
        api.MapPost("/join/account", JoinAsMyselfAsync)
            .WithTags("people")
            .WithName("joinWithAccount")
            .RequireRateLimiting(SignInLimit.Policy)
            .OwnAffair()
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status409Conflict);
        RouteGroupBuilder join = api.MapGroup("/join").WithTags("people").AllowAnonymous().RequireRateLimiting(SignInLimit.Policy);
        join.MapPost("/look", LookAsync).WithName("lookAtInvitation").ProducesProblem(StatusCodes.Status404NotFound);
        join.MapPost("/", JoinAsync)
            .WithName("join")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <summary>For somebody who works elsewhere already and is signed in: the same account leads into this workshop too.</summary>
    private static async Task<Results<Ok<JoinedAnswer>, ProblemHttpResult>> JoinAsMyselfAsync(
        JoinLink link,
        Caller caller,
        RemedosContext context,
        AccessLog log,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        if (!who.IsSelf)
        {
            return Refusal.Conflict("Someone else has signed this device in. Sign out, and in as yourself, then open the link again.");
        }

        if (await Invitations.FindAsync(context, link.Token, now, cancellation) is not var (invitation, person, workshop))
        {
            return NoLink();
        }

        Guid account = who.SignIn.AccountId;
        if (
            person.AccountId is not null
            || await context.People.AnyAsync(one => one.WorkshopId == workshop.Id && one.AccountId == account, cancellation)
        )
        {
            return Refusal.Conflict(
                person.AccountId == account || person.AccountId is null
                    ? $"You work at {workshop.Name} already."
                    : $"{person.Name} has a way in already, which this link renews: sign out, and open it again."
            );
        }

        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        if (!await TakeAsync(context, invitation, now, cancellation))
        {
            return NoLink();
        }

        person.AccountId = account;
        await context.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
        await log.WriteAsync(workshop.Id, person.Id, AccessKinds.WayInChanged, "an account of another workshop", cancellation);
        return TypedResults.Ok(new JoinedAnswer(workshop.Id));
    }

    /// <summary>Takes a link, which is used by one alone, however many open it at once.</summary>
    private static async Task<bool> TakeAsync(
        RemedosContext context,
        Invitation invitation,
        DateTimeOffset now,
        CancellationToken cancellation
    ) =>
        await context
            .Invitations.Where(one => one.WorkshopId == invitation.WorkshopId && one.Id == invitation.Id && one.UsedAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.UsedAt, now), cancellation) == 1;

    private static async Task<Results<Ok<JoinAnswer>, ProblemHttpResult>> LookAsync(
        JoinLink link,
        RemedosContext context,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        if (await Invitations.FindAsync(context, link.Token, clock.GetUtcNow(), cancellation) is not var (_, person, workshop))
        {
            return NoLink();
        }

        string? login = await context
            .Users.Where(one => one.Id == person.AccountId)
            .Select(one => one.UserName)
            .SingleOrDefaultAsync(cancellation);
        return TypedResults.Ok(new JoinAnswer(person.Name, workshop.Name, person.Role, login, Passwords.Shortest));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> JoinAsync(
        Joining joining,
        Caller caller,
        RemedosContext context,
        UserManager<Account> accounts,
        SignInDesk desk,
        AccessLog log,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        if (caller.Known is { } other)
        {
            return Refusal.Conflict($"{other.Person.Name} is signed in on this device. Sign out first, then open the link again.");
        }

        DateTimeOffset now = clock.GetUtcNow();
        if (await Invitations.FindAsync(context, joining.Token, now, cancellation) is not var (invitation, person, workshop))
        {
            return NoLink();
        }

        string password = Passwords.Normal(joining.Password);
        if (Passwords.Problem(password, joining.Login, person.Name, workshop.Name) is { } weak)
        {
            return Refusal.Of(weak, "password");
        }

        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        if (!await TakeAsync(context, invitation, now, cancellation))
        {
            return NoLink();
        }

        Account? account = person.AccountId is { } known ? await accounts.FindByIdAsync(known.ToString()) : null;
        if (account is null)
        {
            account = new Account { Id = Guid.CreateVersion7(now), UserName = joining.Login.Trim().ToLowerInvariant() };
            if (Problem(await accounts.CreateAsync(account, password)) is { } wrong)
            {
                return wrong;
            }

            person.AccountId = account.Id;
            await context.SaveChangesAsync(cancellation);
        }
        else
        {
            // A new link is for whoever has lost the way in: it renews the password, ends every sign-in, and leaves the second factor.
            await accounts.RemovePasswordAsync(account);
            if (Problem(await accounts.AddPasswordAsync(account, password)) is { } wrong)
            {
                return wrong;
            }

            await accounts.SetLockoutEndDateAsync(account, null);
            await accounts.ResetAccessFailedCountAsync(account);
            await AccountEndpoints.EndSignInsAsync(context, account.Id, null, now, cancellation);
        }

        await transaction.CommitAsync(cancellation);
        await log.WriteAsync(workshop.Id, person.Id, AccessKinds.WayInChanged, "password by a link", cancellation);
        if (account.TwoFactorEnabled)
        {
            return TypedResults.NoContent();
        }

        return await desk.BeginAsync(account, "invitation", workshop.Id, cancellation) is { } problem ? problem : TypedResults.NoContent();
    }

    /// <summary>The framework's refusal as one of ours.</summary>
    private static ProblemHttpResult? Problem(IdentityResult result) =>
        result.Succeeded ? null
        : result.Errors.Any(one => one.Code is "DuplicateUserName" or "ConcurrencyFailure")
            ? Refusal.Of("Somebody signs in by that name already. Choose another.", "login")
        : result.Errors.Any(one => one.Code == "InvalidUserName")
            ? Refusal.Of("A name to sign in by has letters a to z, figures and . - _ @ +, without spaces.", "login")
        : Refusal.Of(string.Join(' ', result.Errors.Select(one => one.Description)), "password");

    private static ProblemHttpResult NoLink() =>
        Refusal.Unknown("This link was used, has expired, or was replaced by a newer one. A lead makes a new one under Workshop, People.");
}
