using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Bays;
using Remedos.Server.Hosting;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.People;

/// <summary>How somebody gets in, as that person sees it.</summary>
/// <param name="Person">Whoever works at the device.</param>
/// <param name="Login">The name to sign in by; null where the device was signed in by somebody else: the rest is told on one's own.</param>
/// <param name="RecoveryCodes">How many are left.</param>
public sealed record AccountAnswer(
    string Person,
    bool HasPin,
    string? Login,
    bool HasPassword,
    bool CodeApp,
    int RecoveryCodes,
    IReadOnlyList<PasskeyRow> Passkeys,
    IReadOnlyList<SignInRow> SignIns
);

/// <summary>A passkey.</summary>
/// <param name="Id">As it stands in an address.</param>
public sealed record PasskeyRow(string Id, string Name, DateTimeOffset MadeAt);

/// <summary>A device that is signed in.</summary>
/// <param name="Person">Who works at it.</param>
/// <param name="Here">Whether it is this one.</param>
public sealed record SignInRow(
    Guid Id,
    string Device,
    string Address,
    string Way,
    string Person,
    DateTimeOffset At,
    DateTimeOffset SeenAt,
    bool Here
);

/// <summary>Another password.</summary>
public sealed record NewPassword(string Password);

/// <summary>What a code app takes up.</summary>
/// <param name="Key">To type; the picture to scan holds the same.</param>
public sealed record CodeAppKey(string Key);

/// <summary>A code of the app, to show that it was taken up.</summary>
public sealed record FirstCode(string Code);

/// <summary>Codes for the day when the code app is lost, told once.</summary>
public sealed record RecoveryCodes(IReadOnlyList<string> Codes);

/// <summary>One's own way in: password, code app, passkeys, PIN, devices. What changes it wants the account freshly proved.</summary>
internal static class AccountEndpoints
{
    private const int CodesMade = 10;

    public static void MapAccount(this RouteGroupBuilder api)
    {
        RouteGroupBuilder account = api.MapGroup("/account").WithTags("people").OwnAffair();
        account.MapGet("/", GetAsync).WithName("getAccount");
        account.MapPut("/password", SetPasswordAsync).WithName("setPassword").FreshlyProved().ProducesProblem(422);
        account.MapPut("/pin", SetPinAsync).WithName("setOwnPin").FreshlyProved().ProducesProblem(422);
        account.MapPost("/code-app", BeginCodeAppAsync).WithName("beginCodeApp").FreshlyProved().ProducesProblem(422);
        account.MapGet("/code-app.svg", PictureAsync).WithName("getCodeAppPicture").FreshlyProved().ExcludeFromDescription();
        account.MapPut("/code-app", FinishCodeAppAsync).WithName("finishCodeApp").FreshlyProved().ProducesProblem(422);
        account.MapDelete("/code-app", DropCodeAppAsync).WithName("dropCodeApp").FreshlyProved();
        account.MapPost("/recovery-codes", RenewCodesAsync).WithName("renewRecoveryCodes").FreshlyProved().ProducesProblem(422);
        account.MapDelete("/sign-ins/{signIn:guid}", EndAsync).WithName("endSignIn").ProducesProblem(404);
        account.MapDelete("/sign-ins", EndOthersAsync).WithName("endOtherSignIns");
        account.MapPasskeys();
    }

    private static async Task<Ok<AccountAnswer>> GetAsync(
        Caller caller,
        UserManager<Account> accounts,
        RemedosContext context,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return TypedResults.Ok(await AnswerAsync(who, accounts, context, clock, cancellation));
    }

    internal static async Task<AccountAnswer> AnswerAsync(
        Who who,
        UserManager<Account> accounts,
        RemedosContext context,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        bool pin = await context.People.AnyAsync(one => one.Id == who.Person.Id && one.PinHash != null, cancellation);
        if (!who.IsSelf)
        {
            return new AccountAnswer(who.Person.Name, pin, null, false, false, 0, [], []);
        }

        Account account = await OfAsync(who, accounts);
        SignInRow[] signIns = await SignInTickets
            .Valid(context, clock.GetUtcNow())
            .Where(one => one.AccountId == account.Id)
            .OrderByDescending(one => one.SeenAt)
            .Join(
                context.People,
                one => one.PersonId,
                one => one.Id,
                (one, person) =>
                    new SignInRow(one.Id, one.Device, one.Address, one.Way, person.Name, one.At, one.SeenAt, one.Id == who.SignIn.Id)
            )
            .ToArrayAsync(cancellation);
        return new AccountAnswer(
            who.Person.Name,
            pin,
            account.UserName,
            account.PasswordHash is not null,
            account.TwoFactorEnabled,
            account.TwoFactorEnabled ? await accounts.CountRecoveryCodesAsync(account) : 0,
            [.. (await accounts.GetPasskeysAsync(account)).Select(Passkeys.RowOf)],
            signIns
        );
    }

    internal static async Task<Account> OfAsync(Who who, UserManager<Account> accounts) =>
        (await accounts.FindByIdAsync(who.SignIn.AccountId.ToString()))!;

    private static async Task<Results<NoContent, ProblemHttpResult>> SetPasswordAsync(
        NewPassword change,
        Caller caller,
        UserManager<Account> accounts,
        SignInDesk desk,
        RemedosContext context,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Account account = await OfAsync(who, accounts);
        string password = Passwords.Normal(change.Password);
        if (Passwords.Problem(password, account.UserName!, who.Person.Name, who.Workshop.Name) is { } weak)
        {
            return Refusal.Of(weak, "password");
        }

        // Together or not at all: an account without any password would be shut.
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        await accounts.RemovePasswordAsync(account);
        IdentityResult set = await accounts.AddPasswordAsync(account, password);
        if (!set.Succeeded)
        {
            return Refusal.Of(string.Join(' ', set.Errors.Select(one => one.Description)), "password");
        }

        // Whoever knew the one before is out.
        await EndSignInsAsync(context, account.Id, who.SignIn.Id, clock.GetUtcNow(), cancellation);
        await transaction.CommitAsync(cancellation);
        await desk.TellAsync(account, AccessKinds.WayInChanged, "password", cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<AccountAnswer>, ProblemHttpResult>> SetPinAsync(
        NewPin pin,
        Caller caller,
        Pins pins,
        WriteDoor door,
        UserManager<Account> accounts,
        RemedosContext context,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return await door.WriteAsync(
            async write =>
                PeopleEndpoints.SetPin(
                    write,
                    await write.Context.People.SingleAsync(one => one.Id == who.Person.Id, cancellation),
                    pin.Pin,
                    pins
                ),
            () => AnswerAsync(who, accounts, context, clock, cancellation),
            cancellation
        );
    }

    private static async Task<Results<Ok<CodeAppKey>, ProblemHttpResult>> BeginCodeAppAsync(
        Caller caller,
        UserManager<Account> accounts,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Account account = await OfAsync(who, accounts);
        // The key of one that is in use is not shown again: whoever wants another drops that first.
        if (account.TwoFactorEnabled)
        {
            return Refusal.Of("A code app is in use. Ask for no code first, then set up another.");
        }

        await accounts.ResetAuthenticatorKeyAsync(account);
        return TypedResults.Ok(new CodeAppKey((await accounts.GetAuthenticatorKeyAsync(account))!));
    }

    /// <summary>The key as a picture to scan, until it was taken up.</summary>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> PictureAsync(
        Caller caller,
        UserManager<Account> accounts,
        CancellationToken cancellation
    )
    {
        Account account = await OfAsync(await caller.WhoAsync(cancellation), accounts);
        if (account.TwoFactorEnabled || await accounts.GetAuthenticatorKeyAsync(account) is not { } key)
        {
            return Refusal.None("key");
        }

        string name = UrlEncoder.Default.Encode(account.UserName!);
        return QrPicture.Of($"otpauth://totp/Remedos:{name}?secret={key}&issuer=Remedos&digits=6");
    }

    private static async Task<Results<Ok<RecoveryCodes>, ProblemHttpResult>> FinishCodeAppAsync(
        FirstCode first,
        Caller caller,
        UserManager<Account> accounts,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        Account account = await OfAsync(await caller.WhoAsync(cancellation), accounts);
        if (account.PasswordHash is null)
        {
            return Refusal.Of("A code is asked for beside a password. Set a password first.", "code");
        }

        if (first.Code.Length > 20 || !await desk.IsCodeAsync(account, first.Code))
        {
            return Refusal.Of("That code is not right. Scan the picture again, and type the code that is shown now.", "code");
        }

        await accounts.SetTwoFactorEnabledAsync(account, true);
        await desk.TellAsync(account, AccessKinds.WayInChanged, "code app", cancellation);
        return TypedResults.Ok(await NewCodesAsync(account, accounts));
    }

    private static async Task<NoContent> DropCodeAppAsync(
        Caller caller,
        UserManager<Account> accounts,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        Account account = await OfAsync(await caller.WhoAsync(cancellation), accounts);
        await accounts.SetTwoFactorEnabledAsync(account, false);
        await accounts.ResetAuthenticatorKeyAsync(account);
        await desk.TellAsync(account, AccessKinds.WayInChanged, "code app taken away", cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<RecoveryCodes>, ProblemHttpResult>> RenewCodesAsync(
        Caller caller,
        UserManager<Account> accounts,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        Account account = await OfAsync(await caller.WhoAsync(cancellation), accounts);
        if (!account.TwoFactorEnabled)
        {
            return Refusal.Of("Recovery codes stand in for a code app, and there is none yet.");
        }

        await desk.TellAsync(account, AccessKinds.WayInChanged, "recovery codes", cancellation);
        return TypedResults.Ok(await NewCodesAsync(account, accounts));
    }

    private static async Task<RecoveryCodes> NewCodesAsync(Account account, UserManager<Account> accounts) =>
        new([.. (await accounts.GenerateNewTwoFactorRecoveryCodesAsync(account, CodesMade))!]);

    private static async Task<Results<NoContent, ProblemHttpResult>> EndAsync(
        Guid signIn,
        Caller caller,
        RemedosContext context,
        AccessLog log,
        LiveBays live,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        DateTimeOffset now = clock.GetUtcNow();
        int ended = who.IsSelf
            ? await context
                .SignIns.Where(one => one.Id == signIn && one.AccountId == who.SignIn.AccountId && one.EndedAt == null)
                .ExecuteUpdateAsync(set => set.SetProperty(one => one.EndedAt, now), cancellation)
            : 0;
        if (ended == 0)
        {
            return Refusal.None("sign-in");
        }

        live.Drop(signIn);
        await log.WriteAsync(who, AccessKinds.SignInEnded, null, cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> EndOthersAsync(
        Caller caller,
        RemedosContext context,
        AccessLog log,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        if (who.IsSelf)
        {
            await EndSignInsAsync(context, who.SignIn.AccountId, who.SignIn.Id, clock.GetUtcNow(), cancellation);
            await log.WriteAsync(who, AccessKinds.SignInEnded, "all other devices", cancellation);
        }

        return TypedResults.NoContent();
    }

    /// <summary>Ends an account's sign-ins.</summary>
    /// <param name="except">The one that stays; null for none.</param>
    internal static Task<int> EndSignInsAsync(
        RemedosContext context,
        Guid account,
        Guid? except,
        DateTimeOffset now,
        CancellationToken cancellation
    ) =>
        context
            .SignIns.Where(one => one.AccountId == account && one.EndedAt == null && one.Id != except)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.EndedAt, now), cancellation);
}
