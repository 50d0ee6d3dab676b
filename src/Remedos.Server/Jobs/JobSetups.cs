using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;

namespace Remedos.Server.Jobs;

/// <summary>A job's setups and mounts: which stand, what each is, and which is on the machine now.</summary>
internal static class JobSetups
{
    /// <summary>The first setup, and its mount, of a machine that has come in.</summary>
    public static Setup First(Job job, DateTimeOffset now) => Add(job, SetupKind.AsItCame, like: null, mountedAt: null, now);

    /// <summary>Makes the next setup with its first mount.</summary>
    public static Setup Add(Job job, string kind, int? like, DateTimeOffset? mountedAt, DateTimeOffset now)
    {
        int number = job.Setups.Select(setup => setup.Number).DefaultIfEmpty(0).Max() + 1;
        Setup setup = new()
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = job.WorkshopId,
            JobId = job.Id,
            Number = number,
            Round = job.Round,
            Kind = kind,
            LikeNumber = like,
            CreatedAt = now,
        };
        job.Setups.Add(setup);
        AddMount(setup, mountedAt, now);
        return setup;
    }

    /// <summary>Puts the cooler of a setup on once more.</summary>
    public static Mount AddMount(Setup setup, DateTimeOffset? mountedAt, DateTimeOffset now)
    {
        Mount mount = new()
        {
            Id = Guid.CreateVersion7(now),
            WorkshopId = setup.WorkshopId,
            JobId = setup.JobId,
            SetupId = setup.Id,
            Number = setup.Mounts.Select(one => one.Number).DefaultIfEmpty(0).Max() + 1,
            MountedAt = mountedAt,
            CreatedAt = now,
        };
        setup.Mounts.Add(mount);
        return mount;
    }

    /// <summary>In the order of their numbers, those that were taken away left out.</summary>
    public static IReadOnlyList<Setup> Standing(Job job) =>
        [.. job.Setups.Where(setup => setup.RemovedAt is null).OrderBy(setup => setup.Number)];

    public static IReadOnlyList<Mount> Standing(Setup setup) =>
        [.. setup.Mounts.Where(mount => mount.RemovedAt is null).OrderBy(mount => mount.Number)];

    /// <summary>What is on the machine now: the last setup that was not given up.</summary>
    public static Setup Current(Job job) =>
        Standing(job) is var all && all.LastOrDefault(setup => setup.FailedWhy is null) is { } current ? current : all[0];

    public static Mount CurrentMount(Job job) => Standing(Current(job))[^1];

    /// <summary>The setup of a mount with the mount; null when the job has no such.</summary>
    public static (Setup Setup, Mount Mount)? OfMount(Job job, Guid mountId)
    {
        foreach (Setup setup in Standing(job))
        {
            if (Standing(setup).FirstOrDefault(mount => mount.Id == mountId) is { } mount)
            {
                return (setup, mount);
            }
        }

        return null;
    }

    /// <summary>All that a setup is, with what it has from the setups that it is like.</summary>
    public static SetupDifference Effective(Job job, Setup setup)
    {
        SetupDifference own = setup.Difference;
        if (setup.LikeNumber is { } number && job.Setups.Find(one => one.Number == number) is { } like)
        {
            return own.Over(Effective(job, like));
        }

        return own.Over(new SetupDifference { Cooler = job.Parts.Cooler, CoolerKind = job.CoolerKind });
    }

    /// <summary>The cooler that is on it now.</summary>
    public static SetupDifference Now(Job job) => Effective(job, Current(job));

    /// <summary>The setup that brought what is on the machine now; null where it came with the machine.</summary>
    /// <param name="what">Of a setup's difference.</param>
    public static Setup? BroughtBy(Job job, Func<SetupDifference, string?> what)
    {
        Setup? setup = Current(job);
        while (setup is { Number: > 1 } && what(setup.Difference) is null)
        {
            setup = job.Setups.Find(one => one.Number == setup.LikeNumber);
        }

        return setup is { Number: > 1 } ? setup : null;
    }

    /// <summary>“Setup 3 Corvane Ridge 2”.</summary>
    public static string Name(Setup setup) => $"Setup {setup.Number} {SetupKind.Title(setup.Kind, setup.Difference)}";

    /// <summary>Setups as the rules see them.</summary>
    /// <param name="job">With its setups.</param>
    /// <param name="runs">All of the job's, in the order they came; each with what the rules see of it.</param>
    public static IReadOnlyList<SetupFacts> Facts(Job job, IReadOnlyList<(Run Run, ConditionedRun Seen)> runs) =>
        [
            .. Standing(job)
                .Select(setup =>
                {
                    IReadOnlyList<Mount> mounts = Standing(setup);
                    HashSet<Guid> ids = [.. mounts.Select(mount => mount.Id)];
                    return new SetupFacts(
                        setup.Number,
                        SetupKind.Title(setup.Kind, setup.Difference),
                        setup.Round,
                        setup.Kind,
                        [.. runs.Where(pair => pair.Run.RemovedAt is null && ids.Contains(pair.Run.MountId)).Select(pair => pair.Seen)]
                    )
                    {
                        FailedWhy = setup.FailedWhy,
                        Print = mounts.LastOrDefault(mount => mount.Print is not null)?.Print,
                        MountedAt =
                            setup.Number == 1 && mounts.Count == 1
                                ? null
                                : mounts.LastOrDefault(mount => mount.MountedAt is not null)?.MountedAt,
                        PriceMinor = setup.PriceMinor,
                    };
                }),
        ];

    /// <summary>Runs as the rules see them.</summary>
    public static IReadOnlyList<(Run Run, ConditionedRun Seen)> Seen(IEnumerable<Run> runs) =>
        [.. runs.Select(run => (run, new ConditionedRun(run.Analysis, run.Conditions, run.MountId.ToString())))];

    /// <summary>The setup in which the present round found the machine: its runs are evidence of what is wrong.</summary>
    public static Setup Diagnosed(Job job) =>
        Standing(job) is var all && all.LastOrDefault(setup => setup.Round < job.Round && setup.FailedWhy is null) is { } found
            ? found
            : all[0];

    public static IReadOnlyList<Run> RunsOf(Setup setup, IEnumerable<Run> runs) =>
        [.. runs.Where(run => setup.Mounts.Exists(mount => mount.Id == run.MountId))];
}
