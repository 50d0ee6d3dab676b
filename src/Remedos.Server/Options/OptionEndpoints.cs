using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Options;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Rechecks;
using Remedos.Server.Records;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Options;

/// <summary>A choice that was noted once.</summary>
/// <param name="Title">Null where a choice was taken back.</param>
public sealed record ChoiceMade(string? Title, long? TotalMinor, string By, DateTimeOffset At);

/// <summary>All options of a job's machine.</summary>
/// <param name="LimitC">The processor's, °C.</param>
/// <param name="Watts">The processor's rated ones, at which every chip of the answer stands.</param>
/// <param name="RoomC">In which they do, °C.</param>
/// <param name="Chosen">What the owner chose last; null while nobody has.</param>
/// <param name="Choices">All that was chosen, the latest first: a change of mind too.</param>
/// <param name="MostPriceSharePercent">What parts may cost of the chip's price by this workshop's rule; null for none.</param>
public sealed record OptionSheet(
    string? Wish,
    double LimitC,
    double Watts,
    double RoomC,
    string Currency,
    double? MostPriceSharePercent,
    OptionAnswer Options,
    OptionChoice? Chosen,
    IReadOnlyList<ChoiceMade> Choices
);

/// <summary>Everything that could be done to a job's machine, side by side; what is chosen is a field of the job.</summary>
internal static class OptionEndpoints
{
    private const int MostChoices = 20;

    public static void MapOptions(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/options", LookAsync)
            .WithTags("options")
            .WithName("getOptions")
            .Heavy()
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<Results<Ok<OptionSheet>, ProblemHttpResult>> LookAsync(
        Guid id,
        Caller caller,
        JobCases cases,
        IMemoryCache remembered,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Job? job = await context.WholeAsync(workshop.Id, id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        StandingCase standing = await StandingCase.OfAsync(context, remembered, cases, who, job, clock.GetUtcNow(), cancellation);
        (Matched? matched, string? problem) = await MatchCoolers.MatchAsync(
            context,
            remembered,
            workshop,
            MachineNames.Of(job),
            WhatIf.Nothing,
            standing,
            cancellation
        );
        if (matched is null)
        {
            return Refusal.Of(
                problem!.Replace("A cooler is chosen for a processor", "Options are weighed for a processor", StringComparison.Ordinal)
            );
        }

        IReadOnlyList<Part> parts = await PartShelf.OfAsync(context, remembered, workshop.Id, cancellation);
        CoolerMemory memory = await CoolerMemory.OfAsync(context, workshop.Id, parts, cancellation);
        OptionAnswer options = RepairOptions.Of(
            new OptionFacts
            {
                Build = matched.Build,
                Cooler = matched.Cooler,
                Match = matched.Match,
                Diagnosis = standing.Diagnosis,
                Decision = matched.Decision,
                Machine = matched.Steps,
                Rates = matched.Rates,
                Seen = standing.Seen,
                ChangedSince = standing.Diagnosis is null && JobSetups.Current(job).Number > 1,
                Planned = job.AirPlan,
                Warranty = standing.Warranty,
                Today = standing.Today,
                Wish = job.Wish,
                Series = standing.Series,
                Wear = (await SeriesLives.OfAsync(context, job, cancellation))?.Wear,
                SeenHere = memory.Of,
                MostPriceSharePercent = workshop.MostPriceSharePercent,
            }
        );
        return TypedResults.Ok(
            new OptionSheet(
                job.Wish,
                matched.Build.Processor.TemperatureLimitC,
                matched.Build.Processor.SustainedPowerW,
                matched.Build.RoomC,
                workshop.Currency,
                workshop.MostPriceSharePercent,
                options,
                job.Choice,
                await ChoicesAsync(context, job, cancellation)
            )
        );
    }

    private static async Task<IReadOnlyList<ChoiceMade>> ChoicesAsync(RemedosContext context, Job job, CancellationToken cancellation)
    {
        var made = await context
            .JobEvents.AsNoTracking()
            .Where(e => e.WorkshopId == job.WorkshopId && e.JobId == job.Id && e.Kind == JobEvents.Field && e.Subject == "choice")
            .Join(
                context.People,
                e => e.PersonId,
                p => p.Id,
                (e, p) =>
                    new
                    {
                        e.Id,
                        e.At,
                        e.After,
                        p.Name,
                    }
            )
            .OrderByDescending(e => e.Id)
            .Take(MostChoices)
            .ToListAsync(cancellation);
        return
        [
            .. made.Select(one =>
            {
                OptionChoice? choice = System.Text.Json.JsonSerializer.Deserialize<OptionChoice?>(one.After ?? "null", RemedosContext.Json);
                return new ChoiceMade(choice?.Title, choice?.TotalMinor, one.Name, one.At);
            }),
        ];
    }
}
