using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Comparison;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Data.Runs;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Records;

/// <summary>A run of a machine that the records learn from.</summary>
/// <param name="In">Figures that would be others without it, a phrase each.</param>
public sealed record CountedRun(Guid Run, IReadOnlyList<string> In);

/// <summary>
/// Which runs of a machine the records learn from. A run counts in a figure that would be another one without it: so nothing is asked here
/// but what the shares are reckoned by.
/// </summary>
internal static class CountedRuns
{
    private const string Bench = "how well this bench repeats itself";

    public static async Task<Results<Ok<IReadOnlyList<CountedRun>>, ProblemHttpResult>> GetAsync(
        Guid id,
        Caller caller,
        IMemoryCache remembered,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Job? job = await context
            .Jobs.AsNoTracking()
            .Where(one => one.WorkshopId == workshop.Id && one.Id == id)
            .WithSetups()
            .SingleOrDefaultAsync(cancellation);
        if (job is null)
        {
            return Refusal.None("job");
        }

        // What is practised teaches nothing.
        if (workshop.PracticeOf is not null)
        {
            return TypedResults.Ok<IReadOnlyList<CountedRun>>([]);
        }

        Run[] runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == workshop.Id && run.JobId == id && run.RemovedAt == null && run.LeftOut == null)
            .OrderBy(run => run.ImportedAt)
            .ToArrayAsync(cancellation);
        return TypedResults.Ok(Of(job, runs, await PartShelf.OfAsync(context, remembered, workshop.Id, cancellation)));
    }

    /// <summary>Of a machine with its setups, and its runs that stand and were not left out.</summary>
    public static IReadOnlyList<CountedRun> Of(Job job, IReadOnlyList<Run> runs, IReadOnlyList<Part> parts)
    {
        Dictionary<string, object> all = FiguresOf(job, runs, parts);
        return
        [
            .. runs.Select(run =>
                {
                    Dictionary<string, object> without = FiguresOf(job, [.. runs.Where(one => one != run)], parts);
                    return new CountedRun(
                        run.Id,
                        [.. all.Where(figure => !figure.Value.Equals(without.GetValueOrDefault(figure.Key))).Select(figure => figure.Key)]
                    );
                })
                .Where(run => run.In.Count > 0),
        ];
    }

    /// <summary>What a machine gives to each figure, by a phrase for it.</summary>
    private static Dictionary<string, object> FiguresOf(Job job, IReadOnlyList<Run> runs, IReadOnlyList<Part> parts)
    {
        Dictionary<string, object> figures = LeagueRecords
            .Shown(job, runs, parts)
            .ToDictionary(
                cooler => $"{cooler.Value.Name} over its catalogue",
                cooler => (object)(cooler.Value.LogRatio, cooler.Value.Runs)
            );
        foreach (Trial trial in TrialRecords.Shown(job, runs))
        {
            figures[trial.Kind == TrialKind.Settling ? $"how {trial.One} settles" : $"{trial.One} or {trial.Other}"] = trial;
        }

        if (ScatterOfJob.Shown(job, runs) is var scatter && scatter != ShownScatter.Nothing)
        {
            figures[Bench] = scatter;
        }

        return figures;
    }
}
