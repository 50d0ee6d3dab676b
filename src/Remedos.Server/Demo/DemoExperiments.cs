using Remedos.Core.Jobs;
using Remedos.Core.Simulation;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Demo;

/// <summary>Demo jobs that are trials: a series of coolers, and pastes that settle.</summary>
internal static class DemoExperiments
{
    private static readonly SimulationStep[] FixedFans = [new(240, 0, 60), new(1080, 1, 60), new(240, 0, 60)];

    public static async Task AddAsync(DemoBench bench, DateTimeOffset now)
    {
        await CoolersAsync(bench, now);
        await PastesAsync(bench, now);
    }

    /// <summary>A machine of the library under a load, as it is or with other parts and faults.</summary>
    internal static SimulationRequest On(
        string machine,
        SimulationStep[] steps,
        double roomC,
        string? cooler = null,
        string? fan = null,
        string? caseFans = null,
        params (string Id, double Severity)[] faults
    ) =>
        new(
            steps,
            machine,
            Cooler: cooler,
            CoolerFan: fan,
            CaseFans: caseFans,
            RoomC: roomC,
            Faults: faults.ToDictionary(fault => fault.Id, fault => fault.Severity)
        );

    /// <summary>Paste and contact of a mount as it should be.</summary>
    private const double SeatedCPerW = 0.04;

    /// <summary>Four coolers on one machine, fans fixed, two mounts each: which is worth its money and its noise?</summary>
    private static Task CoolersAsync(DemoBench bench, DateTimeOffset now)
    {
        DemoRun Run(int setup, int mount, string name, string? cooler, double seat, double room, double daysAgo) =>
            new(
                setup,
                $"{name}-mount-{mount}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                FanPercent: 60,
                Mount: mount,
                OnBench: On("image-stacker", FixedFans, room, cooler) with
                {
                    // No mount is quite like the one before.
                    Values = new Dictionary<string, double> { ["cooler.pasteCPerW"] = SeatedCPerW + (0.3 * seat) },
                }
            );
        return bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(12),
                "Ebb Street film club",
                "Tuesdays",
                "Cutting desk, tower, 8 months; wants to know which cooler is worth buying",
                "Loud while rendering",
                22,
                95,
                125,
                "tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-8),
                        Job.SelfBuilt,
                        "home",
                        "Corbel C125",
                        "Quoin B7 Plus",
                        "Dowel Flat 2 × 16",
                        31,
                        null,
                        "Gable Mid",
                        "Mullion 120",
                        "one in front, one at the rear",
                        "cpu"
                    );
                    job.Wish = "quiet";
                    job.DecisionRoute = "cooler";
                    DemoJob.Seen(job, ("onset", "since-new"), ("fans-always-loud", "yes"), ("shutdowns", "no"), ("dust", "none"));
                    JobSetups.AddMount(job.Setups[0], now.AddDays(-10), now.AddDays(-10));
                    foreach (
                        (string cooler, string kind, long price, double days) in new[]
                        {
                            ("Mullion Hush", "tower", 5900L, 9.0),
                            ("Corvane Ridge 2", "dual-tower", 8900L, 8.0),
                            ("Rill 240", "liquid", 11900L, 7.0),
                        }
                    )
                    {
                        Setup setup = DemoJob.Changed(
                            job,
                            SetupKind.Cooler,
                            now.AddDays(-days),
                            ("cooler", cooler),
                            ("coolerKind", kind),
                            ("priceMinor", price),
                            ("paste", "Tallow Grey 5")
                        );
                        JobSetups.AddMount(setup, now.AddDays(-days + 0.5), now.AddDays(-days + 0.5));
                    }
                }
            ),
            Run(1, 1, "as-it-came", null, 0.02, 21.8, 11),
            Run(1, 2, "as-it-came", null, 0.05, 22.4, 9.9),
            Run(2, 1, "mullion-hush", "tower-quiet", 0.03, 22.1, 8.9),
            Run(2, 2, "mullion-hush", "tower-quiet", 0.0, 22.6, 8.4),
            Run(3, 1, "corvane-ridge-2", "dual-tower", 0.04, 21.9, 7.9),
            Run(3, 2, "corvane-ridge-2", "dual-tower", 0.01, 22.3, 7.4),
            Run(4, 1, "rill-240", "liquid-240", 0.02, 22.0, 6.9),
            Run(4, 2, "rill-240", "liquid-240", 0.05, 22.5, 6.4)
        );
    }

    /// <summary>Two pastes on one cooler, each run again over days: how far does it settle?</summary>
    private static async Task PastesAsync(DemoBench bench, DateTimeOffset now)
    {
        DemoRun Run(int setup, string name, double paste, double room, double daysAgo) =>
            new(
                setup,
                $"{name}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                FanPercent: 60,
                Bay: 2,
                OnBench: On("home-tower", FixedFans, room, faults: ("paste-aged", paste))
            );
        await bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(15),
                "Lamp museum",
                "scanner room",
                "Scanner station, tower, 30 months",
                "Warmer than it was",
                21,
                95,
                65,
                "tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-30),
                        Job.SelfBuilt,
                        "office",
                        "Corbel C65",
                        "Quoin B5",
                        "Dowel Flat 2 × 8",
                        31,
                        null,
                        "Gable Mid",
                        "Mullion 120",
                        "one in front, one at the rear",
                        "cpu"
                    );
                    DemoJob.Seen(job, ("onset", "gradual"), ("dust", "light"), ("paste-print", "dried"));
                    job.Repair.Found = "Paste dried out";
                    job.Repair.Done = "Cleaned, two pastes tried";
                    DemoJob.Changed(job, SetupKind.Paste, now.AddDays(-13), ("paste", "Chalk 2"), ("pasteMethod", "one dot"));
                    DemoJob.Changed(job, SetupKind.Paste, now.AddDays(-6), ("paste", "Tallow Grey 5"), ("pasteMethod", "one dot"));
                }
            ),
            Run(1, "museum-as-it-came", 0.55, 21.2, 14),
            Run(2, "museum-chalk-hour", 0.22, 21.0, 12.9),
            Run(2, "museum-chalk-day", 0.15, 21.4, 12),
            Run(2, "museum-chalk-week", 0.12, 21.1, 6.5),
            Run(3, "museum-tallow-hour", 0.10, 21.3, 5.9),
            Run(3, "museum-tallow-day", 0.04, 20.9, 5),
            Run(3, "museum-tallow-days", 0.02, 21.2, 2)
        );
        DemoRun Day(int setup, string name, double paste, double room, double daysAgo) =>
            Run(setup, name, paste, room, daysAgo) with
            {
                OnBench = On("image-stacker", FixedFans, room, faults: ("paste-aged", paste)),
            };
        await bench.AddAsync(
            DemoJob.NewJob(
                bench.Earlier(398, 45),
                "Reed cutters",
                null,
                "Map printing machine, tower, three years",
                "Fans loud by noon",
                21.5,
                95,
                125,
                "tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-38),
                        Job.SelfBuilt,
                        "office",
                        "Corbel C125",
                        "Quoin B7 Plus",
                        "Dowel Flat 2 × 16",
                        31,
                        null,
                        "Gable Mid",
                        "Mullion 120",
                        "one in front, one at the rear",
                        "cpu"
                    );
                    (job.Repair.Found, job.Repair.Done, job.Repair.Causes) = (
                        "Paste dried out",
                        "Two pastes and two ways to put them on tried",
                        ["paste-aged"]
                    );
                    DemoJob.Changed(job, SetupKind.Paste, now.AddDays(-44), ("paste", "Chalk 2"), ("pasteMethod", "one dot"));
                    DemoJob.Changed(job, SetupKind.Paste, now.AddDays(-42), ("paste", "Tallow Grey 5"), ("pasteMethod", "one dot"));
                    DemoJob.Changed(job, SetupKind.Paste, now.AddDays(-40), ("pasteMethod", "spread film"));
                    job.HandedOverAt = now.AddDays(-38);
                }
            ),
            Day(1, "maps-as-it-came", 0.5, 21.4, 44.5),
            Day(2, "maps-chalk", 0.14, 21.2, 42.8),
            Day(3, "maps-tallow", 0.03, 21.6, 40.8),
            Day(4, "maps-tallow-film", 0.02, 21.3, 38.8)
        );
    }
}
