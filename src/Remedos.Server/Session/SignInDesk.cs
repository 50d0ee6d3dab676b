using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;
using Remedos.Server.People;
using Remedos.Server.Writing;

namespace Remedos.Server.Session;

/// <summary>Looks at what somebody shows, and signs a device in.</summary>
internal sealed class SignInDesk(
    UserManager<Account> accounts,
    SignInManager<Account> signIns,
    IPasswordHasher<Account> hasher,
    RemedosContext context,
    IHttpContextAccessor http,
    AccessLog log,
    TimeProvider clock
)
{
    /// <summary>More than the codes that hold at one time.</summary>
    private const int CodesRemembered = 8;

    private const int CodeDigits = 6;

    /// <summary>What a name that is not known is compared with, so that it takes as long as one that is.</summary>
    private static readonly Lazy<string> Nobody = new(() => new PasswordHasher<Account>().HashPassword(new Account(), SecretToken.New()));

    /// <summary>Said alike of a wrong name, a wrong password and too many tries: none of them is given away.</summary>
    private const string DoNotFit =
        "That name and password do not match. After ten wrong tries none is taken for a quarter of an hour; a lead can make a new "
        + "link for you under Workshop, People.";

    private HttpContext Request => http.HttpContext!;

    /// <summary>Whose name and password, and code where one is wanted, these are.</summary>
    public async Task<(Account? Account, ProblemHttpResult? Problem)> ProveAsync(
        string name,
        string password,
        string? code,
        CancellationToken cancellation
    )
    {
        Account? account = await accounts.FindByNameAsync(name.Trim());
        string shown = password.Length > Passwords.Longest * 2 ? "" : Passwords.Normal(password);
        if (account is null)
        {
            hasher.VerifyHashedPassword(new Account(), Nobody.Value, shown);
            return (null, DoesNotFit());
        }

        if (!(await signIns.CheckPasswordSignInAsync(account, shown, lockoutOnFailure: true)).Succeeded)
        {
            await TellAsync(account, AccessKinds.SignInRefused, "password", cancellation);
            return (null, DoesNotFit());
        }

        if (account.TwoFactorEnabled)
        {
            if (string.IsNullOrWhiteSpace(code))
            {
                return (
                    null,
                    TypedResults.Problem(
                        "Now the code that your code app shows, or one of your recovery codes.",
                        statusCode: StatusCodes.Status401Unauthorized,
                        type: "needs-code"
                    )
                );
            }

            if (!await IsCodeAsync(account, code))
            {
                await accounts.AccessFailedAsync(account);
                await TellAsync(account, AccessKinds.SignInRefused, "code", cancellation);
                return (
                    null,
                    TypedResults.Problem(
                        "That code is not right, or was used before. Wait for the next one; the clock of the code app may be wrong.",
                        statusCode: StatusCodes.Status401Unauthorized,
                        type: "needs-code"
                    )
                );
            }

            await accounts.ResetAccessFailedCountAsync(account);
        }

        return (account, null);
    }

    /// <summary>Whether a code of the code app holds now and was never taken before, or a recovery code is one of those left.</summary>
    public async Task<bool> IsCodeAsync(Account account, string code)
    {
        string figures = new([.. code.Where(char.IsAsciiDigit)]);
        if (figures.Length != CodeDigits || code.Any(char.IsAsciiLetter))
        {
            return (await accounts.RedeemTwoFactorRecoveryCodeAsync(account, code)).Succeeded;
        }

        string hash = SecretToken.Sha256($"{account.Id}:{figures}");
        if (
            account.UsedCodes.Contains(hash)
            || !await accounts.VerifyTwoFactorTokenAsync(account, TokenOptions.DefaultAuthenticatorProvider, figures)
        )
        {
            return false;
        }

        account.UsedCodes = [hash, .. account.UsedCodes.Take(CodesRemembered - 1)];
        // Two who show the same code at once: the account's stamp lets one through.
        return (await accounts.UpdateAsync(account)).Succeeded;
    }

    /// <summary>Whose passkey it is that answers the challenge.</summary>
    public async Task<Account?> OfPasskeyAsync(string credential)
    {
        PasskeyAssertionResult<Account> shown;
        try
        {
            shown = await signIns.PerformPasskeyAssertionAsync(credential);
        }
        catch (Exception failure) when (failure is InvalidOperationException or ArgumentException or JsonException)
        {
            // No challenge is open on this device, for it was answered before or ran out; or what was sent is no passkey's answer.
            return null;
        }

        if (!shown.Succeeded || await accounts.IsLockedOutAsync(shown.User))
        {
            return null;
        }

        return (await accounts.AddOrUpdatePasskeyAsync(shown.User, shown.Passkey)).Succeeded ? shown.User : null;
    }

    /// <summary>Signs this device in.</summary>
    /// <param name="workshop">Where; null for where the account was last.</param>
    /// <returns>The problem; null when it is done.</returns>
    public async Task<ProblemHttpResult?> BeginAsync(Account account, string way, Guid? workshop, CancellationToken cancellation)
    {
        // A sign-in is never turned into another one: each begins with a token of its own.
        if (Request.Items[typeof(Who)] is Who other)
        {
            return Refusal.Conflict($"{other.Person.Name} is signed in on this device. Sign out first.");
        }

        Person[] works = await WorksAsync(account.Id, cancellation);
        Guid? last = workshop
            ?? await context
                .SignIns.Where(one => one.AccountId == account.Id)
                .OrderByDescending(one => one.At)
                .Select(one => (Guid?)one.WorkshopId)
                .FirstOrDefaultAsync(cancellation);
        Person? person = works.FirstOrDefault(one => one.WorkshopId == last) ?? works.FirstOrDefault();
        if (person is null)
        {
            return TypedResults.Problem(
                "You work in no workshop here any more; a lead can add you again.",
                statusCode: StatusCodes.Status401Unauthorized,
                type: "signed-out"
            );
        }

        ClaimsPrincipal principal = SignInTickets.PrincipalOf(account.Id, person, way);
        await Request.SignInAsync(
            CookieAuthenticationDefaults.AuthenticationScheme,
            principal,
            new AuthenticationProperties { IsPersistent = true }
        );
        await log.WriteAsync(person.WorkshopId, person.Id, AccessKinds.SignedIn, way, cancellation);
        return null;
    }

    /// <summary>Ends the sign-in that this device has.</summary>
    public Task LeaveAsync() => Request.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);

    /// <summary>Notes that the account of this sign-in was proved anew; whoever worked at it, it is the account's own person now.</summary>
    public async Task ProvedAsync(Who who, CancellationToken cancellation)
    {
        DateTimeOffset now = clock.GetUtcNow();
        Person self = (await WorksAsync(who.SignIn.AccountId, cancellation)).Single(one => one.WorkshopId == who.Workshop.Id);
        await context
            .SignIns.Where(one => one.Id == who.SignIn.Id)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(one => one.ProvedAt, now)
                        .SetProperty(one => one.ByPin, false)
                        .SetProperty(one => one.PersonId, self.Id),
                cancellation
            );
    }

    /// <summary>Where an account works.</summary>
    public Task<Person[]> WorksAsync(Guid account, CancellationToken cancellation) =>
        context
            .People.AsNoTracking()
            .Where(one => one.AccountId == account && one.LeftAt == null)
            .OrderBy(one => one.Id)
            .ToArrayAsync(cancellation);

    /// <summary>Tells it in every workshop that the account works in.</summary>
    public async Task TellAsync(Account account, string kind, string? subject, CancellationToken cancellation)
    {
        foreach (Person person in await WorksAsync(account.Id, cancellation))
        {
            await log.WriteAsync(person.WorkshopId, person.Id, kind, subject, cancellation);
        }
    }

    private static ProblemHttpResult DoesNotFit() =>
        TypedResults.Problem(DoNotFit, statusCode: StatusCodes.Status401Unauthorized, type: "refused");
}
