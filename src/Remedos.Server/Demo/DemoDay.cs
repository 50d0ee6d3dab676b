using Microsoft.EntityFrameworkCore;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Planning;
using Remedos.Server.Planning;

namespace Remedos.Server.Demo;

/// <summary>What was promised in the demo, and hours for today: whoever opens it on a Sunday night sees a day at work as well.</summary>
internal static class DemoDay
{
    private static readonly TimeSpan Before = TimeSpan.FromHours(1),
        Long = TimeSpan.FromHours(8.5);

    public static async Task AddAsync(RemedosContext context, Workshop workshop, DateTimeOffset now, CancellationToken cancellation)
    {
        PlanCalendar usual = new(workshop, workshop.Open!, [], now);
        DayOfPlan today = usual.All[0];
        if (today.From is not { } from || today.To is not { } to || now < from || to - now < Long / 2)
        {
            DateTime here = Session.WorkshopClock.At(workshop, now).DateTime;
            DateTime opens = here.Date.AddHours(Math.Floor((here - Before).TimeOfDay.TotalHours)) is var at && at <= here ? at : here.Date,
                latest = here.Date.AddDays(1).AddMinutes(-1),
                closes = opens + Long < latest ? opens + Long : latest;
            context.WorkDays.Add(
                new WorkDay
                {
                    WorkshopId = workshop.Id,
                    Day = usual.Today,
                    From = TimeOnly.FromDateTime(opens),
                    To = TimeOnly.FromDateTime(closes),
                }
            );
            await context.SaveChangesAsync(cancellation);
        }

        PlanCalendar days = new(
            workshop,
            workshop.Open!,
            await context.WorkDays.Where(day => day.WorkshopId == workshop.Id).ToListAsync(cancellation),
            now
        );
        DateTimeOffset[] closing = [.. days.All.Select(day => day.To).OfType<DateTimeOffset>().Where(at => at > now)];
        List<Job> open = await context
            .Jobs.Where(job => job.WorkshopId == workshop.Id && job.HandedOverAt == null && job.WaitingFor == null)
            .OrderBy(job => job.Number)
            .ToListAsync(cancellation);
        OpenTime hours = new(days.Open);
        for (int i = 0; i < open.Count; i++)
        {
            // Every third is promised for tonight or tomorrow, one sooner than its work allows.
            open[i].PromisedAt = (i % 6) switch
            {
                0 => closing[0],
                2 => now.AddMinutes(hours.After(0, 60)),
                3 => closing[1],
                5 => closing[2],
                _ => null,
            };
        }

        await context.SaveChangesAsync(cancellation);
    }
}
