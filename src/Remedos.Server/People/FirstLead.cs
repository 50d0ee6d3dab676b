using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;

namespace Remedos.Server.People;

/// <summary>
/// The first one in. Where nobody can sign in yet, or whoever holds this machine asks for it, a link is made for a lead and left in a file
/// that only the server's user reads; ./start shows it in the terminal, and removes the file.
/// </summary>
internal static class FirstLead
{
    /// <summary>Makes the link where one is wanted.</summary>
    /// <param name="anew">Also where leads can sign in: the way back in for one who cannot any more.</param>
    /// <returns>What the link holds; null where none was made.</returns>
    public static async Task<string?> InviteAsync(RemedosContext context, bool anew, DateTimeOffset now, CancellationToken cancellation)
    {
        Person? lead = await context
            .People.Where(one => one.From == null && one.LeftAt == null)
            .OrderByDescending(one => one.Role == Role.Lead)
            .ThenByDescending(one => one.AccountId != null)
            .ThenBy(one => one.Id)
            .FirstOrDefaultAsync(cancellation);
        if (lead is null || (!anew && await context.People.AnyAsync(one => one.AccountId != null && one.LeftAt == null, cancellation)))
        {
            return null;
        }

        lead.Role = Role.Lead;
        // Whoever holds the machine comes in without the telephone that may be lost.
        await context
            .Users.Where(one => one.Id == lead.AccountId)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.TwoFactorEnabled, false), cancellation);
        (string token, _) = await Invitations.MakeAsync(context, lead, now, cancellation);
        await context.SaveChangesAsync(cancellation);
        return token;
    }
}
