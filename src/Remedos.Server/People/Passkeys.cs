using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;
using Remedos.Data.People;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.People;

/// <summary>A passkey as the browser made it.</summary>
/// <param name="Name">By which its owner knows it.</param>
public sealed record NewPasskey(string Credential, string Name);

/// <summary>Passkeys: a device's own lock instead of a password. The platform's packages make and check them.</summary>
internal static class Passkeys
{
    private const int Most = 20,
        LongestName = 60;

    public static void MapPasskeys(this RouteGroupBuilder account)
    {
        account.MapPost("/passkeys/challenge", ChallengeAsync).WithName("beginPasskey").FreshlyProved();
        account.MapPost("/passkeys", AddAsync).WithName("addPasskey").FreshlyProved().ProducesProblem(422);
        account.MapDelete("/passkeys/{passkey}", RemoveAsync).WithName("removePasskey").FreshlyProved().ProducesProblem(404);
    }

    public static PasskeyRow RowOf(UserPasskeyInfo passkey) =>
        new(WebEncoders.Base64UrlEncode(passkey.CredentialId), passkey.Name ?? "Passkey", passkey.CreatedAt);

    private static async Task<ContentHttpResult> ChallengeAsync(
        Caller caller,
        UserManager<Account> accounts,
        SignInManager<Account> signIns,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Account account = await AccountEndpoints.OfAsync(who, accounts);
        return TypedResults.Text(
            await signIns.MakePasskeyCreationOptionsAsync(
                new PasskeyUserEntity
                {
                    Id = account.Id.ToString(),
                    Name = account.UserName!,
                    DisplayName = who.Person.Name,
                }
            ),
            "application/json"
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> AddAsync(
        NewPasskey made,
        Caller caller,
        UserManager<Account> accounts,
        SignInManager<Account> signIns,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        Account account = await AccountEndpoints.OfAsync(await caller.WhoAsync(cancellation), accounts);
        if ((await accounts.GetPasskeysAsync(account)).Count >= Most)
        {
            return Refusal.Of($"{Most} passkeys are kept. Take one away first.");
        }

        PasskeyAttestationResult? result = null;
        try
        {
            result = await signIns.PerformPasskeyAttestationAsync(made.Credential);
        }
        catch (Exception failure) when (failure is InvalidOperationException or ArgumentException or JsonException)
        {
            // No challenge is open on this device, for it was answered before or ran out; or what was sent is no passkey.
        }

        if (result is not { Succeeded: true } || result.UserEntity.Id != account.Id.ToString())
        {
            return Refusal.Of("The passkey was not made, or took too long. Try it once more.");
        }

        string name = Core.Bays.BayLine.Clean(made.Name).Trim();
        result.Passkey.Name = name.Length switch
        {
            0 => "Passkey",
            > LongestName => name[..LongestName],
            _ => name,
        };
        if (!(await accounts.AddOrUpdatePasskeyAsync(account, result.Passkey)).Succeeded)
        {
            return Refusal.Of("The passkey could not be kept. Try it once more.");
        }

        await desk.TellAsync(account, AccessKinds.WayInChanged, "passkey", cancellation);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> RemoveAsync(
        string passkey,
        Caller caller,
        UserManager<Account> accounts,
        SignInDesk desk,
        CancellationToken cancellation
    )
    {
        Account account = await AccountEndpoints.OfAsync(await caller.WhoAsync(cancellation), accounts);
        UserPasskeyInfo? found = (await accounts.GetPasskeysAsync(account)).FirstOrDefault(one => RowOf(one).Id == passkey);
        if (found is null)
        {
            return Refusal.None("passkey");
        }

        await accounts.RemovePasskeyAsync(account, found.CredentialId);
        await desk.TellAsync(account, AccessKinds.WayInChanged, "passkey taken away", cancellation);
        return TypedResults.NoContent();
    }
}
