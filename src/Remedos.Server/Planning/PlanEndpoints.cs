using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Data;
using Remedos.Data.Planning;
using Remedos.Server.Hosting;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Planning;

/// <summary>The plan of the day, and what is different on a day.</summary>
internal static class PlanEndpoints
{
    /// <summary>Several pages look at the same plan.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(2);

    public static void AddPlanning(this IServiceCollection services) => services.AddScoped<PlanOfDay>();

    public static void MapPlanning(this RouteGroupBuilder api)
    {
        RouteGroupBuilder plan = api.MapGroup("/plan").WithTags("planning");
        plan.MapGet("/", GetAsync).WithName("getDayPlan");
        plan.MapPatch("/days/{day}", ChangeDayAsync).WithName("changeWorkDay").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Results<Ok<DayPlanAnswer>, StatusCodeHttpResult>> GetAsync(
        HttpContext http,
        Caller caller,
        PlanOfDay plans,
        IMemoryCache remembered,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        PlanOfDay.Stand stand = await plans.ReadAsync(context, workshop, clock.GetUtcNow(), cancellation);
        string state = stand.State;
        return EntityTag.IsKnown(http, state)
            ? EntityTag.NotModified
            : TypedResults.Ok(remembered.GetOrCreate((typeof(DayPlanAnswer), workshop.Id, state, Degrees.Unit), entry =>
                {
                    entry.AbsoluteExpirationRelativeToNow = Kept;
                    return PlanOfDay.Of(stand);
                })!);
    }

    private static async Task<Results<Ok<DayPlanAnswer>, ProblemHttpResult>> ChangeDayAsync(
        DateOnly day,
        DayChange change,
        WriteDoor door,
        Caller caller,
        PlanOfDay plans,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        return await door.WriteAsync(
            async write =>
            {
                DateOnly today = who.Today(write.Now);
                if (day < today || day >= today.AddDays(PlanCalendar.Days))
                {
                    return Refusal.Of($"Days from today to {today.AddDays(PlanCalendar.Days - 1):d MMMM} can be changed.");
                }

                // The workshop's lock guards its days: two who change one at once make one row.
                _ = await write.WorkshopAsync();
                WorkDay? its = await write.Context.WorkDays.FindAsync([write.WorkshopId, day], write.Cancellation);
                if (its is null)
                {
                    write.Context.WorkDays.Add(its = new WorkDay { WorkshopId = write.WorkshopId, Day = day });
                }

                string before = WordsOf(its);
                if (await ProblemAsync(write, its, change) is { } problem)
                {
                    return problem;
                }

                write.Event("work-day", $"{day:yyyy-MM-dd}", before, WordsOf(its));
                return null;
            },
            async () =>
            {
                await using RemedosContext context = await caller.OpenAsync(cancellation);
                return PlanOfDay.Of(await plans.ReadAsync(context, who.Workshop, clock.GetUtcNow(), cancellation));
            },
            cancellation
        );
    }

    private static async Task<ProblemHttpResult?> ProblemAsync(Write write, WorkDay its, DayChange change)
    {
        switch (change)
        {
            case { Person: { } person, Bay: null, Hours: null }:
                if (
                    !await write.Context.People.AnyAsync(one =>
                        one.WorkshopId == write.WorkshopId && one.Id == person.Id && one.LeftAt == null
                    )
                )
                {
                    return Refusal.Of("Nobody of that id works here.");
                }

                its.Away.Remove(person.Id);
                if (!person.Here)
                {
                    its.Away.Add(person.Id);
                }

                return null;
            case { Bay: { } bay, Person: null, Hours: null }:
                if (!await write.Context.Bays.AnyAsync(one => one.WorkshopId == write.WorkshopId && one.Number == bay.Number))
                {
                    return Refusal.Of($"There is no bay {bay.Number}.");
                }

                its.BaysOut.Remove(bay.Number);
                if (!bay.Used)
                {
                    its.BaysOut.Add(bay.Number);
                }

                return null;
            case { Hours: { } hours, Person: null, Bay: null }:
                if (hours.Closed ? hours.From is not null || hours.To is not null : (hours.From is null) != (hours.To is null))
                {
                    return Refusal.Of("A day is closed, or open from one time to another, or as usual.");
                }

                if (hours is { From: { } from, To: { } to } && from >= to)
                {
                    return Refusal.Of($"It closes at {to:HH\\:mm}, which is not after {from:HH\\:mm}.");
                }

                (its.Closed, its.From, its.To) = (hours.Closed, hours.From, hours.To);
                return null;
            default:
                return Refusal.Of("One thing of a day is changed at a time: somebody, a bay, or its hours.");
        }
    }

    private static string WordsOf(WorkDay day) =>
        JsonSerializer.Serialize(
            new
            {
                day.Away,
                day.BaysOut,
                day.Closed,
                day.From,
                day.To,
            },
            RemedosContext.Json
        );
}
