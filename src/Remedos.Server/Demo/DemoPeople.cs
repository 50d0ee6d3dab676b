using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Session;

namespace Remedos.Server.Demo;

/// <summary>Who works in the demo; a touch signs each of them in. All have the same PIN, which the page tells.</summary>
internal static class DemoPeople
{
    public const string Pin = "2580";

    private static readonly (string Name, Role Role)[] All =
    [
        ("Ines", Role.Lead),
        ("Odhran", Role.Technician),
        ("Mirela", Role.Technician),
        ("Jory", Role.Reader),
    ];

    /// <summary>Adds who is missing, also to a demo that an earlier version made.</summary>
    public static async Task EnsureAsync(RemedosContext context, Pins pins, DateTimeOffset now, CancellationToken cancellation)
    {
        Workshop workshop = await context.Workshops.OrderBy(one => one.Id).FirstAsync(cancellation);
        List<Person> people = await context
            .People.Where(one => one.WorkshopId == workshop.Id && one.From == null)
            .OrderBy(one => one.Id)
            .ToListAsync(cancellation);
        if (people.Exists(one => one.AccountId is not null))
        {
            return;
        }

        foreach ((string name, Role role) in All)
        {
            Person? person = people.Find(one => one.Name == name);
            if (person is null)
            {
                person = new Person
                {
                    Id = Guid.CreateVersion7(now),
                    WorkshopId = workshop.Id,
                    Name = name,
                };
                context.People.Add(person);
            }

            string login = name.ToLowerInvariant();
            Account account = new()
            {
                Id = Guid.CreateVersion7(now),
                UserName = login,
                NormalizedUserName = login.ToUpperInvariant(),
                SecurityStamp = Guid.NewGuid().ToString(),
                LockoutEnabled = true,
            };
            context.Users.Add(account);
            (person.Role, person.AccountId, person.PinHash) = (role, account.Id, pins.HashOf(person, Pin));
        }

        await context.SaveChangesAsync(cancellation);
    }
}
