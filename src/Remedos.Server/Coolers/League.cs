using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Jobs;

namespace Remedos.Server.Coolers;

/// <summary>The workshop's coolers with what its own bench has learnt of them.</summary>
internal static class League
{
    /// <summary>All coolers whose values are known; with those that are retired only if one is on the machine.</summary>
    /// <param name="current">The cooler that is on the machine at hand.</param>
    public static async Task<IReadOnlyList<CoolerPart>> CoolersAsync(
        RemedosContext context,
        IMemoryCache remembered,
        IReadOnlyList<Part> parts,
        string? current,
        CancellationToken cancellation
    )
    {
        IReadOnlyDictionary<string, LeagueEntry> learnt = await LearntAsync(context, remembered, parts, cancellation);
        return
        [
            .. parts
                .Where(part =>
                    part.Kind == PartKind.Cooler
                    && part.Values.Cooler is not null
                    && (part.RetiredAt is null || string.Equals(part.Name, current?.Trim(), StringComparison.OrdinalIgnoreCase))
                )
                .Select(part =>
                    CoolerLeague.Apply(
                        part.Values.Cooler! with
                        {
                            Id = part.Id.ToString(),
                            Name = part.Name,
                        },
                        learnt.GetValueOrDefault(part.Name)
                    )
                ),
        ];
    }

    /// <summary>
    /// What was learnt, by the cooler's name: from usual runs after a repair, for there the machine is sound. Remembered until a run, a
    /// part or a machine that was worked on has changed.
    /// </summary>
    public static async Task<IReadOnlyDictionary<string, LeagueEntry>> LearntAsync(
        RemedosContext context,
        IMemoryCache remembered,
        IReadOnlyList<Part> parts,
        CancellationToken cancellation
    )
    {
        Guid workshop = parts.Count > 0 ? parts[0].WorkshopId : Guid.Empty;
        var stand = await context
            .Workshops.Where(w => w.Id == workshop)
            .Select(w => new
            {
                // Only machines that were worked on tell anything: what is typed into any other leaves it as it is.
                Jobs = context
                    .Jobs.Where(job => job.WorkshopId == workshop && job.Setups.Any(setup => setup.Number > 1))
                    .Max(job => (DateTimeOffset?)job.ChangedAt),
                Runs = context.Runs.Count(run => run.WorkshopId == workshop && run.RemovedAt == null),
            })
            .FirstOrDefaultAsync(cancellation);
        return (
            await remembered.GetOrCreateAsync(
                $"league {workshop} {stand?.Jobs:O} {stand?.Runs} {parts.Count} "
                    + $"{parts.Select(part => part.ChangedAt).DefaultIfEmpty().Max():O}",
                entry =>
                {
                    entry.SlidingExpiration = TimeSpan.FromMinutes(10);
                    return FromRunsAsync(context, workshop, parts, cancellation);
                }
            )
        )!;
    }

    private static async Task<IReadOnlyDictionary<string, LeagueEntry>> FromRunsAsync(
        RemedosContext context,
        Guid workshop,
        IReadOnlyList<Part> parts,
        CancellationToken cancellation
    )
    {
        // Runs of a machine that was worked on: on its first setup it came in with a complaint.
        var after = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == workshop && run.RemovedAt == null)
            .Join(
                context.Mounts.Where(mount => mount.WorkshopId == workshop),
                run => run.MountId,
                mount => mount.Id,
                (run, mount) => new { run, mount.SetupId }
            )
            .Join(
                context.Setups.Where(setup =>
                    setup.WorkshopId == workshop && setup.Number > 1 && setup.FailedWhy == null && setup.RemovedAt == null
                ),
                pair => pair.SetupId,
                setup => setup.Id,
                (pair, setup) => new { Run = pair.run, setup.Number }
            )
            .ToListAsync(cancellation);
        Guid[] ids = [.. after.Select(pair => pair.Run.JobId).Distinct()];
        Dictionary<Guid, Job> jobs = await context
            .Jobs.AsNoTracking()
            .WithSetups()
            .Where(job => job.WorkshopId == workshop && ids.Contains(job.Id))
            .ToDictionaryAsync(job => job.Id, cancellation);
        List<(string Cooler, LeagueRun Run)> runs = [];
        foreach (var pair in after.Where(pair => pair.Run.Conditions.IsUsual && pair.Run.Analysis.ThermalLimit is null))
        {
            Job job = jobs[pair.Run.JobId];
            string? name = JobSetups.Effective(job, job.Setups.Find(setup => setup.Number == pair.Number)!).Cooler;
            if (
                Machine.Find(parts, PartKind.Cooler, name)?.Values.Cooler is { } cooler
                && Machine.BuildOf(MachineNames.Of(job) with { Cooler = name }, parts, WhatIf.Nothing, out _) is { } build
            )
            {
                runs.Add((name!.Trim(), new LeagueRun(job.Id, build, cooler with { Id = "measured" }, pair.Run.Analysis)));
            }
        }

        return runs.GroupBy(run => run.Cooler, run => run.Run, StringComparer.OrdinalIgnoreCase)
            .Select(cooler => (cooler.Key, Entry: CoolerLeague.Of(cooler)))
            .Where(pair => pair.Entry is not null)
            .ToDictionary(pair => pair.Key, pair => pair.Entry!, StringComparer.OrdinalIgnoreCase);
    }
}
