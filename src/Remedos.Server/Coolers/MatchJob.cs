using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Matching;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Coolers;

/// <summary>What coolers are held against, in words and as numbers, and the answer.</summary>
/// <param name="Build">The machine, with what would be otherwise already in it.</param>
/// <param name="Measured">What the machine did on the bench where that is not what a sound one would do; null when it is, or was not measured.</param>
/// <param name="Unknown">Parts of it that are not noted, or not among the workshop's.</param>
public sealed record CoolerAnswer(Build Build, string? Measured, IReadOnlyList<string> Unknown, IReadOnlyList<School> Schools, MatchAnswer Match);

/// <summary>Chooses a cooler for a job's machine.</summary>
internal static class MatchJob
{
    public static void MapCoolers(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/coolers", HandleAsync).WithTags("coolers").WithName("matchCoolers").ProducesProblem(StatusCodes.Status404NotFound).ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<Results<Ok<CoolerAnswer>, ProblemHttpResult>> HandleAsync(
        Guid id, string? school, double? roomC, double? hottestRoomC, double? memoryHeightMm, double? sustainedPowerW, double? maxNoiseDba, long? maxPriceMinor, double? caseFanRpm,
        Session.Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Job? job = await context.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == id && j.WorkshopId == workshop.Id, cancellation);
        if (job is null)
        {
            return JobEndpoints.NoSuchJob();
        }

        List<Part> parts = await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop.Id).ToListAsync(cancellation);
        WhatIf what = new(school, roomC, hottestRoomC, memoryHeightMm, sustainedPowerW, maxNoiseDba, maxPriceMinor, caseFanRpm);
        if (JobBuilds.Of(job, parts, what, out string? problem) is not { } build)
        {
            return RunChanges.Refused(problem!);
        }

        IReadOnlyList<CoolerPart> coolers = JobBuilds.CoolersOf(parts);
        if (coolers.Count == 0)
        {
            return RunChanges.Refused("There is no cooler among the workshop’s parts yet.");
        }

        MatchAnswer answer = Matcher.Match(build, coolers);
        // Once it is repaired, what it did before says nothing any more.
        List<Run> runs = string.IsNullOrWhiteSpace(job.Repair.Done) ? await context.Runs.AsNoTracking().Where(r => r.JobId == id && r.Side == "before" && r.RemovedAt == null).OrderBy(r => r.ImportedAt).ToListAsync(cancellation) : [];
        Run? run = runs.LastOrDefault(r => r.Conditions.IsUsual) ?? runs.LastOrDefault(r => r.Conditions is { Panel: null or "closed", PowerCapW: null, Trial: null });
        return TypedResults.Ok(new CoolerAnswer(build, Measured(run?.Analysis, build, answer), Unknown(job, build), School.All, answer));
    }

    /// <summary>A machine that runs hotter than a sound one with this cooler wants a repair first: whatever is wrong would stay with another cooler.</summary>
    private static string? Measured(RunAnalysis? run, Build build, MatchAnswer answer)
    {
        if (run is not { Resistance: { } resistance } || answer.Candidates.FirstOrDefault(one => one.IsCurrent) is not { } current)
        {
            return null;
        }

        double measured = build.RoomC + (resistance.ValueCPerW * build.Processor.SustainedPowerW);
        return measured <= current.TemperatureC.High + BeyondC ? null
            : $"Its last run says {measured:0} °C at {build.Processor.SustainedPowerW:0} W in this room, where a sound {current.Name} should hold {current.TemperatureC.Value:0} °C. Another cooler may suffer the same.";
    }

    /// <summary>Beyond the interval's end by so much nobody blames chance, °C.</summary>
    private const double BeyondC = 4;

    private static string[] Unknown(Job job, Build build)
    {
        (string Name, bool Known, string? Noted)[] all =
        [
            ("processor", build.Processor.InsideResistanceCPerW is not null, job.Parts.Processor), ("board", build.Board is not null, job.Parts.Board), ("memory’s height", build.Memory is not null, job.Parts.Memory),
            ("case", build.Case is not null, job.Parts.Case), ("cooler that is on it", build.CurrentCooler is not null, job.Parts.Cooler),
        ];
        return [.. all.Where(one => !one.Known).Select(one => one.Noted is null ? $"The {one.Name} is not noted." : $"The {one.Name}, “{one.Noted}”, is not among the workshop’s parts with its measures.")];
    }
}
