using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;

namespace Remedos.Server.People;

/// <summary>
/// Accounts as the framework keeps them, except that a backup gives nobody the second factor: recovery codes are kept as hashes, and a code
/// app's key is encrypted.
/// </summary>
internal sealed class AccountStore(RemedosContext context, IDataProtectionProvider protection, IdentityErrorDescriber errors)
    : UserOnlyStore<Account, RemedosContext, Guid>(context, errors)
{
    private readonly IDataProtector _protector = protection.CreateProtector("remedos.code-app");

    public override Task ReplaceCodesAsync(Account user, IEnumerable<string> recoveryCodes, CancellationToken cancellationToken) =>
        base.ReplaceCodesAsync(user, recoveryCodes.Select(code => Kept(user, code)), cancellationToken);

    public override Task<bool> RedeemCodeAsync(Account user, string code, CancellationToken cancellationToken) =>
        base.RedeemCodeAsync(user, Kept(user, code), cancellationToken);

    public override Task SetAuthenticatorKeyAsync(Account user, string key, CancellationToken cancellationToken) =>
        base.SetAuthenticatorKeyAsync(user, _protector.Protect(key), cancellationToken);

    public override async Task<string?> GetAuthenticatorKeyAsync(Account user, CancellationToken cancellationToken) =>
        await base.GetAuthenticatorKeyAsync(user, cancellationToken) is { } key ? Opened(key) : null;

    /// <summary>
    /// Null for one that was encrypted by a key that is not here any more: recovery codes and a lead's link still lead in.
    /// </summary>
    private string? Opened(string key)
    {
        try
        {
            return _protector.Unprotect(key);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private static string Kept(Account user, string code) => SecretToken.Sha256($"{user.Id}:{code.Trim().ToUpperInvariant()}");
}
