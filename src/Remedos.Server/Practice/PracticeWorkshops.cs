using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Demo;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Practice;

/// <summary>
/// Where somebody practises: a workshop of its own, with the invented parts of the simulated machines, one person and one bay. That it is
/// another workshop is what keeps practice out of jobs, records and the league.
/// </summary>
internal sealed class PracticeWorkshops(IDbContextFactory<RemedosContext> contexts, TimeProvider clock)
{
    /// <summary>The practice workshop of whoever works here; made where there is none.</summary>
    public async Task<(Workshop Workshop, Person Person)> EnsureAsync(Who works, CancellationToken cancellation)
    {
        await using (RemedosContext context = await contexts.CreateDbContextAsync(cancellation))
        {
            if (await PracticeDoor.FindAsync(context, works, cancellation) is { } there)
            {
                return there;
            }
        }

        await using RemedosContext fresh = await contexts.CreateDbContextAsync(cancellation);
        await using var transaction = await fresh.Database.BeginTransactionAsync(cancellation);
        // The workshop's row is locked: two that begin at once take turns.
        Write home = new(fresh, works.Workshop.Id, works.Person.Id, clock.GetUtcNow(), cancellation);
        await home.WorkshopAsync();
        if (await PracticeDoor.FindAsync(fresh, works, cancellation) is { } made)
        {
            return made;
        }

        (Workshop workshop, Person person) = Fresh(works.Workshop, works.Person);
        fresh.AddRange(workshop, person);
        DemoParts.Add(fresh, workshop, home.Now);
        await fresh.SaveChangesAsync(cancellation);
        await transaction.CommitAsync(cancellation);
        return (workshop, person);
    }

    /// <summary>A practice workshop and its only person, yet to be kept.</summary>
    public static (Workshop Workshop, Person Person) Fresh(Workshop home, Person works)
    {
        Workshop workshop = new()
        {
            Id = Guid.CreateVersion7(),
            Name = $"Practice of {works.Name}",
            TagPrefix = "P",
            Currency = home.Currency,
            NextJobNumber = 1,
            LabourMinorPerHour = home.LabourMinorPerHour,
            TaxPercent = home.TaxPercent,
            TimeZone = home.TimeZone,
            PaperSize = home.PaperSize,
            TemperatureUnit = home.TemperatureUnit,
            PracticeOf = home.Id,
            PracticeFor = works.Id,
        };
        // Whoever practises has an account elsewhere, and no way in here but through the workshop’s own door.
        return (
            workshop,
            new Person
            {
                Id = Guid.CreateVersion7(),
                WorkshopId = workshop.Id,
                Name = works.Name,
                From = home.Name,
                Role = Role.Technician,
            }
        );
    }
}
