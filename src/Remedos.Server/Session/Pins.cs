using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Session;

/// <summary>PINs: a few figures by which a colleague takes over at a device that is signed in. They open nothing else.</summary>
internal sealed class Pins(IPasswordHasher<Person> hasher, TimeProvider clock)
{
    private const int Shortest = 4,
        Longest = 8,
        MostFailures = 5;

    private static readonly TimeSpan Locked = TimeSpan.FromMinutes(15);

    /// <summary>Why a PIN cannot be; null where it can.</summary>
    public static string? Problem(string pin)
    {
        if (pin.Length is < Shortest or > Longest || !pin.All(char.IsAsciiDigit))
        {
            return $"A PIN has {Shortest} to {Longest} figures.";
        }

        int step = pin[1] - pin[0];
        return step is >= -1 and <= 1 && pin.Zip(pin[1..], (a, b) => b - a).All(each => each == step)
            ? "That PIN is one of the first that anybody tries. Choose another."
            : null;
    }

    public string HashOf(Person person, string pin) => hasher.HashPassword(person, pin);

    /// <summary>Looks at a PIN, and counts those that are wrong.</summary>
    /// <returns>Why it is not taken; null where it is.</returns>
    public async Task<string?> ProblemAsync(RemedosContext context, Person person, string pin, CancellationToken cancellation)
    {
        DateTimeOffset now = clock.GetUtcNow();
        if (person.PinHash is null)
        {
            return $"{person.Name} has no PIN yet. It is set under one’s own name, or by a lead under Workshop, People.";
        }

        IQueryable<Person> its = context.People.Where(one => one.Id == person.Id);
        // Counted before it is looked at: of many tries at once none is free.
        int taken = await its.Where(one => one.PinLockedUntil == null || one.PinLockedUntil <= now)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(one => one.PinFailures, one => one.PinFailures + 1)
                        .SetProperty(
                            one => one.PinLockedUntil,
                            one => one.PinFailures + 1 >= MostFailures ? now + Locked : (DateTimeOffset?)null
                        ),
                cancellation
            );
        if (taken == 0)
        {
            return $"{MostFailures} wrong PINs for {person.Name}: none is taken for a quarter of an hour. The password still works.";
        }

        if (pin.Length > Longest || hasher.VerifyHashedPassword(person, person.PinHash, pin) == PasswordVerificationResult.Failed)
        {
            int wrong = await its.Select(one => one.PinFailures).SingleAsync(cancellation);
            if (wrong >= MostFailures)
            {
                await its.ExecuteUpdateAsync(set => set.SetProperty(one => one.PinFailures, 0), cancellation);
            }

            return $"That is not {person.Name}’s PIN.";
        }

        await its.ExecuteUpdateAsync(
            set => set.SetProperty(one => one.PinFailures, 0).SetProperty(one => one.PinLockedUntil, (DateTimeOffset?)null),
            cancellation
        );
        return null;
    }
}
