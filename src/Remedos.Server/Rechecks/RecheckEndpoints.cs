using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Handover;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Rechecks;

/// <summary>A machine that should come back.</summary>
/// <param name="Days">Until then; below 0 it is overdue.</param>
public sealed record MachineDue(Guid Id, string Tag, string? Owner, string? Contact, string? Machine, DateOnly On, int Days);

/// <summary>When machines should be looked at again: proposed, as a calendar file, and as a list of those that are due.</summary>
internal static class RecheckEndpoints
{
    private const int DueWithinDays = 14,
        LapsedAfterDays = 90,
        Most = 100;

    public static void MapRechecks(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/due", DueAsync).WithTags("rechecks").WithName("listMachinesDue");
        api.MapGet("/jobs/{id:guid}/recheck", ProposeAsync)
            .WithTags("rechecks")
            .WithName("proposeRechecks")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapGet("/jobs/{id:guid}/recheck.ics", CalendarAsync)
            .WithTags("rechecks")
            .WithName("getRecheckCalendar")
            .Produces(StatusCodes.Status200OK, contentType: Calendars)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private const string Calendars = "text/calendar";

    /// <summary>
    /// Those that went out and should come back within two weeks, or should have within the last three months; one that has come
    /// back since is not due.
    /// </summary>
    private static async Task<Ok<MachineDue[]>> DueAsync(Caller caller, TimeProvider clock, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        DateOnly today = who.Today(clock.GetUtcNow()),
            until = today.AddDays(DueWithinDays),
            since = today.AddDays(-LapsedAfterDays);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        var due = await context
            .Jobs.AsNoTracking()
            .Where(job => job.WorkshopId == workshop.Id && job.HandedOverAt != null && job.RecheckOn >= since && job.RecheckOn <= until)
            .Where(job =>
                string.IsNullOrEmpty(job.SerialKey)
                || !context.Jobs.Any(later =>
                    later.WorkshopId == job.WorkshopId && later.Number > job.Number && later.SerialKey == job.SerialKey
                )
            )
            .OrderBy(job => job.RecheckOn)
            .Take(Most)
            .Select(job => new
            {
                job.Id,
                job.Number,
                job.Owner,
                job.Contact,
                job.Machine,
                On = job.RecheckOn!.Value,
            })
            .ToListAsync(cancellation);
        return TypedResults.Ok(
            due.Select(job => new MachineDue(
                    job.Id,
                    JobSheets.Tag(workshop, job.Number),
                    job.Owner,
                    job.Contact,
                    job.Machine,
                    job.On,
                    job.On.DayNumber - today.DayNumber
                ))
                .ToArray()
        );
    }

    private static async Task<Results<Ok<IReadOnlyList<RecheckProposal>>, ProblemHttpResult>> ProposeAsync(
        Guid id,
        Caller caller,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await context.WholeAsync(who.Workshop.Id, id, cancellation) is not { } job)
        {
            return JobEndpoints.NoSuchJob();
        }

        Setup now = JobSetups.Current(job);
        DateTimeOffset? mounted =
            now.Number == 1 && now.Mounts.Count(mount => mount.RemovedAt is null) < 2 ? null : JobSetups.Standing(now)[^1].MountedAt;
        return TypedResults.Ok(
            Recheck.Of(
                new RecheckFacts(
                    who.Today(clock.GetUtcNow()),
                    job.Setting,
                    JobSetups.Now(job).CoolerKind,
                    mounted is { } at ? DateOnly.FromDateTime(WorkshopClock.At(who.Workshop, at).Date) : null,
                    job.BuiltOn
                )
                {
                    Series = await SeriesLives.OfAsync(context, job, cancellation),
                }
            )
        );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CalendarAsync(
        Guid id,
        Caller caller,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (
            await context.Jobs.AsNoTracking().SingleOrDefaultAsync(job => job.WorkshopId == workshop.Id && job.Id == id, cancellation)
            is not { } job
        )
        {
            return JobEndpoints.NoSuchJob();
        }

        if (job.RecheckOn is not { } on)
        {
            return Refusal.Of("No recheck date is set: set one first.");
        }

        string tag = JobSheets.Tag(workshop, job.Number),
            machine = string.IsNullOrWhiteSpace(job.Machine) ? tag : job.Machine.Trim();
        Calendar calendar = new() { Method = "PUBLISH", ProductId = "-//Remedos//Recheck//EN" };
        calendar.Events.Add(
            new CalendarEvent
            {
                // The same appointment however often it is fetched: a calendar moves it and makes no second one.
                Uid = $"{id}@remedos",
                Summary = $"Recheck of {machine} at {workshop.Name}",
                Description = $"Please bring it back to be looked at again ({tag}).",
                Location = workshop.Address?.Replace("\n", ", ", StringComparison.Ordinal),
                Start = new CalDateTime(on),
                End = new CalDateTime(on.AddDays(1)),
                DtStamp = new CalDateTime(clock.GetUtcNow().UtcDateTime),
            }
        );
        return TypedResults.File(
            Encoding.UTF8.GetBytes(new CalendarSerializer().SerializeToString(calendar)!),
            Calendars,
            $"{tag} recheck.ics"
        );
    }
}
