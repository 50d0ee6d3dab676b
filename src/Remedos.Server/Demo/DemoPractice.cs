using Microsoft.EntityFrameworkCore;
using Remedos.Core.Diagnosis;
using Remedos.Core.Practice;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Data.Jobs;
using Remedos.Data.Practice;
using Remedos.Server.Bays;
using Remedos.Server.Jobs;
using Remedos.Server.Practice;

namespace Remedos.Server.Demo;

/// <summary>What the demo's people have practised so far.</summary>
internal static class DemoPractice
{
    private sealed record Worked(
        string Who,
        int Level,
        int Seed,
        double HoursAgo,
        Func<PracticeCase, PracticeStand, PracticeStand> How,
        bool? Fair,
        bool Alone = false
    );

    private static readonly Worked[] All =
    [
        new("Odhran", 1, 0, 171, (practice, _) => ByHabit(practice), null),
        new("Odhran", 1, 7, 149, AfterAskingAll, true),
        new("Odhran", 2, 23, 53, AfterAskingAll, true),
        new("Ines", 3, 14, 76, (_, best) => best, true, Alone: true),
    ];

    /// <summary>Adds it where nobody has practised yet.</summary>
    public static async Task EnsureAsync(RemedosContext context, DateTimeOffset now, CancellationToken cancellation)
    {
        if (await context.Workshops.AnyAsync(one => one.PracticeOf != null, cancellation))
        {
            return;
        }

        Workshop home = await context.Workshops.OrderBy(one => one.Id).FirstAsync(cancellation);
        foreach (IGrouping<string, Worked> own in All.GroupBy(one => one.Who))
        {
            if (
                await context.People.FirstOrDefaultAsync(one => one.WorkshopId == home.Id && one.Name == own.Key, cancellation) is
                { } person
            )
            {
                Add(context, home, person, [.. own], now);
            }
        }

        await context.SaveChangesAsync(cancellation);
    }

    private static void Add(RemedosContext context, Workshop home, Person works, Worked[] own, DateTimeOffset now)
    {
        (Workshop workshop, Person person) = PracticeWorkshops.Fresh(home, works);
        context.AddRange(workshop, person);
        DemoParts.Add(context, workshop, now);
        Bay bay = new()
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = workshop.Id,
            Number = 1,
            TokenSha256 = BayToken.Sha256(BayToken.New()),
            TokenMadeAt = now,
        };
        context.Add(bay);
        foreach (Worked one in own)
        {
            PracticeCase practice = PracticeCase.Draw(PracticeLevel.Of(one.Level)!, one.Seed);
            PracticeStand best = BestWay.Of(practice),
                done = one.How(practice, best);
            PracticeEnding ending = new(ToldOwner.Truth(practice, done), one.Fair);
            DateTimeOffset at = now.AddHours(-one.HoursAgo);
            Job job = PracticeDesk.JobOf(practice, workshop.Id, workshop.NextJobNumber++, at);
            job.HandedOverAt = at.AddHours(1);
            context.Add(job);
            context.Append(job, person.Id, at, JobEvents.Created);
            context.Add(
                new PracticeTry
                {
                    Id = Guid.CreateVersion7(at),
                    WorkshopId = workshop.Id,
                    JobId = job.Id,
                    BayId = bay.Id,
                    Level = one.Level,
                    Seed = one.Seed,
                    Alone = one.Alone,
                    StartedAt = at,
                    EndedAt = at.AddHours(1),
                    Speed = 60,
                    Stand = done,
                    Ending = ending,
                    Score = PracticeScore.Of(practice, done, ending, best, workshop.Currency),
                }
            );
        }
    }

    /// <summary>Cleaned and seated anew before anything was measured.</summary>
    private static PracticeStand ByHabit(PracticeCase practice) =>
        PracticeStand.Fresh.Repaired(practice, "clean").After!.Repaired(practice, "remount").After!.Ran("usual");

    /// <summary>Every question that there is, then what the best way does.</summary>
    private static PracticeStand AfterAskingAll(PracticeCase practice, PracticeStand best)
    {
        PracticeStand asked = PracticeStand.Fresh.Ran("usual");
        foreach (EvidenceRow row in DiagnosisTables.Evidence.Where(row => Witness.CanTell(practice, row) && row.Reversible))
        {
            asked = asked.Asked(practice, row.Id).After!;
        }

        return new PracticeStand([.. asked.Acts, .. best.Acts.Where(act => act.Kind is PracticeDeed.Hands or PracticeDeed.Repair)]).Ran(
            "usual"
        );
    }
}
