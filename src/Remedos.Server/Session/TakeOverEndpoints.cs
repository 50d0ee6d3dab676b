using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Bays;
using Remedos.Server.Writing;

namespace Remedos.Server.Session;

/// <summary>Somebody who may take over at a device that is signed in.</summary>
/// <param name="HasPin">Without one nobody takes over as this person.</param>
public sealed record Colleague(Guid Id, string Name, Role Role, bool HasPin);

/// <summary>Who takes over, by PIN.</summary>
public sealed record TakingOver(Guid Person, string Pin);

/// <summary>The account of this sign-in, proved once more.</summary>
/// <param name="Code">Of the code app, where the account has one.</param>
public sealed record Proof(string Password, string? Code);

/// <summary>Where the account wants to work.</summary>
public sealed record OtherWorkshop(Guid Workshop);

/// <summary>
/// Changes who works at a device that is signed in: a colleague by PIN, so that the log says who did what; whoever signed it in by proving
/// the
/// account; and the account in another of its workshops.
/// </summary>
internal static class TakeOverEndpoints
{
    public static void MapTakeOver(this RouteGroupBuilder api)
    {
        RouteGroupBuilder session = api.MapGroup("/session").WithTags("session");
        session.MapGet("/colleagues", ColleaguesAsync).WithName("listColleagues");
        session
            .MapPost("/person", TakeOverAsync)
            .WithName("takeOverByPin")
            .OwnAffair()
            .RequireRateLimiting(SignInLimit.Policy)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        session
            .MapPost("/proof", ProveAsync)
            .WithName("proveAgain")
            .OwnAffair()
            .RequireRateLimiting(SignInLimit.Policy)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        session
            .MapPost("/workshop", ChangeWorkshopAsync)
            .WithName("changeWorkshop")
            .OwnAffair()
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static async Task<Ok<Colleague[]>> ColleaguesAsync(Caller caller, CancellationToken cancellation)
    {
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return TypedResults.Ok(
            await context
                .People.Where(one => one.From == null && one.LeftAt == null)
                .OrderBy(one => one.Name)
                .Select(one => new Colleague(one.Id, one.Name, one.Role, one.PinHash != null))
                .ToArrayAsync(cancellation)
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeOverAsync(
        TakingOver taking,
        Caller caller,
        Pins pins,
        AccessLog log,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Person? person = await context
            .People.AsNoTracking()
            .SingleOrDefaultAsync(one => one.Id == taking.Person && one.From == null && one.LeftAt == null, cancellation);
        if (person is null)
        {
            return Refusal.None("person");
        }

        if (await pins.ProblemAsync(context, person, taking.Pin, cancellation) is { } sentence)
        {
            await log.WriteAsync(who.Workshop.Id, person.Id, AccessKinds.PinRefused, who.SignIn.Device, cancellation);
            return Refusal.Of(sentence, "pin");
        }

        await context
            .SignIns.Where(one => one.Id == who.SignIn.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.PersonId, person.Id).SetProperty(one => one.ByPin, true), cancellation);
        await log.WriteAsync(who.Workshop.Id, person.Id, AccessKinds.TookOver, who.SignIn.Device, cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> ProveAsync(
        Proof proof,
        Caller caller,
        SignInDesk desk,
        UserManager<Account> accounts,
        IConfiguration configuration,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Account account = (await accounts.FindByIdAsync(who.SignIn.AccountId.ToString()))!;
        // In the demo a touch is all that there is.
        bool touched = configuration.GetValue("Demo", false) && account.PasswordHash is null;
        if (!touched)
        {
            (_, ProblemHttpResult? problem) = await desk.ProveAsync(account.UserName!, proof.Password, proof.Code, cancellation);
            if (problem is not null)
            {
                return problem.ProblemDetails.Type == "needs-code"
                    ? TypedResults.Problem(problem.ProblemDetails.Detail, statusCode: 422, type: "needs-code")
                    : Refusal.Of(
                        "That is not the password of whoever signed this device in. After ten wrong tries "
                            + "none is taken for a quarter of an hour.",
                        "password"
                    );
            }
        }

        await desk.ProvedAsync(who, cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> ChangeWorkshopAsync(
        OtherWorkshop other,
        Caller caller,
        SignInDesk desk,
        RemedosContext context,
        AccessLog log,
        LiveBays live,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Person? person = (await desk.WorksAsync(who.SignIn.AccountId, cancellation)).FirstOrDefault(one =>
            one.WorkshopId == other.Workshop
        );
        if (person is null || !who.IsSelf)
        {
            return Refusal.None("workshop");
        }

        await context
            .SignIns.Where(one => one.Id == who.SignIn.Id)
            .ExecuteUpdateAsync(
                set => set.SetProperty(one => one.WorkshopId, person.WorkshopId).SetProperty(one => one.PersonId, person.Id),
                cancellation
            );
        // Its other tabs follow the bays of the workshop before.
        live.Drop(who.SignIn.Id);
        await log.WriteAsync(person.WorkshopId, person.Id, AccessKinds.SignedIn, "another workshop", cancellation);
        return TypedResults.NoContent();
    }
}
