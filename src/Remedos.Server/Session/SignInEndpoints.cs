using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Bays;
using Remedos.Server.Writing;

namespace Remedos.Server.Session;

/// <summary>What somebody types to sign in.</summary>
/// <param name="Code">Of the code app, or a recovery code; null until it is asked for.</param>
public sealed record NameAndPassword(string Name, string Password, string? Code);

/// <summary>A passkey's answer, as the browser gives it.</summary>
public sealed record PasskeyAnswer(string Credential);

/// <summary>Whom a touch in the demo means.</summary>
public sealed record Touch(Guid Person);

/// <summary>Ways in, and the way out.</summary>
internal static class SignInEndpoints
{
    public static void MapSignIn(this RouteGroupBuilder api)
    {
        RouteGroupBuilder ways = api.MapGroup("/sign-in").WithTags("session").AllowAnonymous().RequireRateLimiting(SignInLimit.Policy);
        ways.MapPost("/", ByPasswordAsync).WithName("signIn").ProducesProblem(StatusCodes.Status401Unauthorized);
        ways.MapPost("/passkey/challenge", ChallengeAsync).WithName("challengePasskey");
        ways.MapPost("/passkey", ByPasskeyAsync).WithName("signInByPasskey").ProducesProblem(StatusCodes.Status401Unauthorized);
        ways.MapPost("/touch", ByTouchAsync).WithName("signInByTouch").ProducesProblem(StatusCodes.Status404NotFound);
        api.MapPost("/sign-out", SignOutAsync).WithTags("session").WithName("signOut").OwnAffair();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> ByPasswordAsync(
        NameAndPassword shown,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        (Account? account, ProblemHttpResult? problem) = await desk.ProveAsync(shown.Name, shown.Password, shown.Code, cancellation);
        problem ??= await desk.BeginAsync(account!, "password", null, cancellation);
        return problem is null ? TypedResults.NoContent() : problem;
    }

    private static async Task<ContentHttpResult> ChallengeAsync(SignInManager<Account> signIns) =>
        TypedResults.Text(await signIns.MakePasskeyRequestOptionsAsync(null), "application/json");

    private static async Task<Results<NoContent, ProblemHttpResult>> ByPasskeyAsync(
        PasskeyAnswer answer,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        ProblemHttpResult? problem = await desk.OfPasskeyAsync(answer.Credential) is { } account
            ? await desk.BeginAsync(account, "passkey", null, cancellation)
            : TypedResults.Problem(
                "That passkey is not known here. Sign in by name and password; under your name you can add a passkey.",
                statusCode: StatusCodes.Status401Unauthorized,
                type: "refused"
            );
        return problem is null ? TypedResults.NoContent() : problem;
    }

    /// <summary>In the demo alone: everybody in it is invented.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> ByTouchAsync(
        Touch touch,
        SignInDesk desk,
        RemedosContext context,
        IConfiguration configuration,
        CancellationToken cancellation
    )
    {
        if (!configuration.GetValue("Demo", false))
        {
            return Refusal.Unknown("Only the demo signs people in by a touch.");
        }

        var found = await context
            .People.AsNoTracking()
            .Where(one => one.Id == touch.Person && one.LeftAt == null)
            .Join(context.Users, one => one.AccountId, one => one.Id, (person, account) => new { person.WorkshopId, Account = account })
            .SingleOrDefaultAsync(cancellation);
        if (found is null)
        {
            return Refusal.None("person");
        }

        return await desk.BeginAsync(found.Account, "touch", found.WorkshopId, cancellation) is { } problem
            ? problem
            : TypedResults.NoContent();
    }

    private static async Task<NoContent> SignOutAsync(
        Caller caller,
        SignInDesk desk,
        AccessLog log,
        LiveBays live,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await desk.LeaveAsync();
        live.Drop(who.SignIn.Id);
        await log.WriteAsync(who, AccessKinds.SignedOut, null, cancellation);
        return TypedResults.NoContent();
    }
}
