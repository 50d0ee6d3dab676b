using System.Text;
using Microsoft.AspNetCore.Identity;
using Remedos.Data.People;

namespace Remedos.Server.People;

/// <summary>
/// What a password must be, after NIST SP 800-63B-4: long, and not one that is guessed first; of any letters, and never changed for the
/// calendar's sake.
/// </summary>
internal sealed class Passwords : IPasswordValidator<Account>
{
    /// <summary>NIST's least for a password that stands alone.</summary>
    public const int Shortest = 15;

    /// <summary>A bound on the work of one try.</summary>
    public const int Longest = 256;

    /// <summary>Of PBKDF2 with HMAC-SHA-512, as OWASP advises.</summary>
    public const int Iterations = 210_000;

    /// <summary>Of 0 to 4: tries that a guesser would need, 10⁸ and more.</summary>
    private const int LeastScore = 3;

    /// <summary>The estimate grows with the square of the length, and a long one is no worse for what follows.</summary>
    private const int LongestEstimated = 72;

    public static void Set(PasswordOptions options)
    {
        options.RequiredLength = Shortest;
        (options.RequireDigit, options.RequireLowercase, options.RequireUppercase, options.RequireNonAlphanumeric) = (
            false,
            false,
            false,
            false
        );
        options.RequiredUniqueChars = 1;
    }

    /// <summary>The same password however a keyboard composes its letters.</summary>
    public static string Normal(string password) => password.Normalize(NormalizationForm.FormC);

    /// <summary>Why a password cannot be; null where it can.</summary>
    /// <param name="password">As <see cref="Normal"/> gives it.</param>
    /// <param name="known">What a guesser knows: names, the workshop.</param>
    public static string? Problem(string password, params IEnumerable<string> known)
    {
        int letters = password.EnumerateRunes().Count();
        if (letters < Shortest)
        {
            return $"A password has at least {Shortest} letters; four or five words that do not belong together are easy to keep.";
        }

        if (letters > Longest)
        {
            return $"A password has at most {Longest} letters.";
        }

        string[] guessed = [.. known.SelectMany(one => one.Split(' ')).Append("remedos").Where(one => one.Length > 2)];
        string estimated = password.Length > LongestEstimated ? password[..LongestEstimated] : password;
        // A guesser tries one thing over and over; the estimate does not know repeats of more than a letter.
        return Repeats(password) || Zxcvbn.Zxcvbn.MatchPassword(estimated, guessed).Score < LeastScore
            ? "That password would be guessed soon: it is common, or made of names, dates, rows of keys or repeats. Choose another."
            : null;
    }

    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password) =>
        Task.FromResult(
            Problem(password ?? "", user.UserName ?? "") is { } problem
                ? IdentityResult.Failed(new IdentityError { Code = "Password", Description = problem })
                : IdentityResult.Success
        );

    /// <summary>Whether it is one short piece again and again.</summary>
    private static bool Repeats(string password) =>
        Enumerable.Range(1, Shortest / 2).Any(length => password.Select((letter, i) => letter == password[i % length]).All(same => same));
}
