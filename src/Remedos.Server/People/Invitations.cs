using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Hosting;

namespace Remedos.Server.People;

/// <summary>Links by which a person makes a way in, or a new one: used once, within two days, and the latest alone.</summary>
internal static class Invitations
{
    public const string Path = "/join";

    private static readonly TimeSpan Holds = TimeSpan.FromDays(2);

    /// <summary>Makes one; those before it are used up.</summary>
    /// <returns>What the link holds, and until when.</returns>
    public static async Task<(string Token, DateTimeOffset Until)> MakeAsync(
        RemedosContext context,
        Person person,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        await VoidAsync(context, person, now, cancellation);
        string token = SecretToken.New();
        Invitation made = new()
        {
            WorkshopId = person.WorkshopId,
            Id = Guid.CreateVersion7(now),
            PersonId = person.Id,
            TokenSha256 = SecretToken.Sha256(token),
            MadeAt = now,
            ExpiresAt = now + Holds,
        };
        context.Invitations.Add(made);
        return (token, made.ExpiresAt);
    }

    public static Task VoidAsync(RemedosContext context, Person person, DateTimeOffset now, CancellationToken cancellation) =>
        context
            .Invitations.Where(one => one.WorkshopId == person.WorkshopId && one.PersonId == person.Id && one.UsedAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.UsedAt, now), cancellation);

    /// <summary>Whose a link is; null for one that is used, late or none.</summary>
    public static async Task<(Invitation Invitation, Person Person, Workshop Workshop)?> FindAsync(
        RemedosContext context,
        string token,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        string hash = SecretToken.Sha256(token);
        var found = await context
            .Invitations.Where(one => one.TokenSha256 == hash && one.UsedAt == null && one.ExpiresAt > now)
            .Join(context.People, one => one.PersonId, one => one.Id, (Invitation, Person) => new { Invitation, Person })
            .Join(
                context.Workshops,
                one => one.Person.WorkshopId,
                one => one.Id,
                (one, Workshop) =>
                    new
                    {
                        one.Invitation,
                        one.Person,
                        Workshop,
                    }
            )
            .SingleOrDefaultAsync(one => one.Person.LeftAt == null, cancellation);
        return found is null ? null : (found.Invitation, found.Person, found.Workshop);
    }
}
