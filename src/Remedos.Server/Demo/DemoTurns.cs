using Remedos.Core.Jobs;
using Remedos.Core.Simulation;
using Remedos.Data.Jobs;

namespace Remedos.Server.Demo;

/// <summary>
/// Demo jobs that take a turn of their own: a repair in two rounds, a card, a machine made quiet, one whose power is capped.
/// </summary>
internal static class DemoTurns
{
    private static readonly SimulationStep[] OwnFans = [new(240, 0), new(1080, 1), new(240, 0)];

    public static async Task AddAsync(DemoBench bench, DateTimeOffset now)
    {
        await TwoRoundsAsync(bench, now);
        await CardAsync(bench, now);
        await QuietAsync(bench, now);
        await CappedAsync(bench, now);
    }

    /// <summary>The first repair sat badly; the second round found it.</summary>
    private static Task TwoRoundsAsync(DemoBench bench, DateTimeOffset now)
    {
        DemoRun Run(int setup, string name, (string, double)[] faults, double room, double daysAgo) =>
            new(
                setup,
                $"{name}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                OnBench: DemoExperiments.On("image-stacker", OwnFans, room, faults: faults)
            );
        return bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(4.5),
                "Tide table printers",
                "back door",
                "Typesetting machine, tower, four years",
                "Slows down with long documents",
                22,
                95,
                125,
                "tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-49),
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
                    DemoJob.Seen(job, ("onset", "gradual"), ("stutter-under-load", "yes"), ("dust", "light"));
                    Setup first = DemoJob.Changed(
                        job,
                        SetupKind.Repair,
                        now.AddDays(-3.4),
                        ("paste", "Tallow Grey 5"),
                        ("pasteMethod", "one dot"),
                        ("failedWhy", "Sat on one side: a stand-off was still the old board’s")
                    );
                    first.Mounts[0].Print = "ring-or-spot";
                    job.Round = 2;
                    DemoJob.Changed(
                        job,
                        SetupKind.Repair,
                        now.AddDays(-2.2),
                        ("paste", "Tallow Grey 5"),
                        ("pasteMethod", "spread film"),
                        ("mountingKit", "stand-offs for this board")
                    );
                    (job.Repair.Found, job.Repair.Done, job.Repair.Minutes) = (
                        "One stand-off a millimetre too high: the cooler stood on it",
                        "Right stand-offs, new paste, tightened across in three rounds",
                        35
                    );
                    job.Repair.Causes = ["poor-contact"];
                }
            ),
            job =>
                [
                    new Round
                    {
                        Id = Guid.CreateVersion7(now.AddDays(-2.5)),
                        WorkshopId = job.WorkshopId,
                        JobId = job.Id,
                        Number = 1,
                        Reason = RoundReason.BadPrint,
                        Verdict = "Worse: it throttles earlier than before.",
                        ClosedAt = now.AddDays(-2.5),
                        Note = new RoundNote(
                            "Paste dried to a crust",
                            "Cleaned, new paste",
                            null,
                            40,
                            ["paste-aged"],
                            null,
                            null,
                            job.Observations
                        ),
                    },
                ],
            Run(1, "typesetting-as-it-came", [("paste-aged", 0.6)], 22.1, 4),
            Run(2, "typesetting-first-repair", [("poor-contact", 0.75)], 21.8, 3),
            Run(3, "typesetting-second-repair", [], 22.4, 2)
        );
    }

    /// <summary>The graphics card is the patient.</summary>
    private static Task CardAsync(DemoBench bench, DateTimeOffset now)
    {
        SimulationStep[] both = [new(240, 0), new(1200, 0.35, GraphicsLoad: 1), new(300, 0)];
        DemoRun Run(int setup, string name, double fault, double room, double daysAgo) =>
            new(
                setup,
                $"{name}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                OnBench: DemoExperiments.On("render-dual-tower", both, room, faults: ("gpu-cooling", fault)) with
                {
                    Values = fault > 0 ? new Dictionary<string, double> { ["graphics.insideCPerW"] = 0.045 } : null,
                },
                Load: "game-like"
            )
            {
                GpuLimitC = 90,
            };
        return bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(5.5),
                "Kite school",
                "weekends",
                "Flight simulator, dual tower, large card, three years",
                "The picture stutters after ten minutes, the card roars",
                23,
                95,
                180,
                "dual-tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-36),
                        Job.SelfBuilt,
                        "home",
                        "Corbel C180",
                        "Ashlar W9",
                        "Dowel Crest 4 × 16",
                        44,
                        "Pantile 320",
                        "Gable Grand",
                        "Corvane Ridge 2",
                        "three in front, one at the rear",
                        "cpu-gpu"
                    );
                    DemoJob.Seen(job, ("onset", "gradual"), ("stutter-under-load", "yes"), ("dust", "light"));
                    (job.Repair.Found, job.Repair.Done, job.Repair.Minutes) = (
                        "The card’s paste had dried out",
                        "Card taken apart, new paste and pads of 1.5 mm, fans oiled",
                        65
                    );
                    job.Repair.Causes = ["gpu-cooling"];
                    DemoJob.Changed(job, SetupKind.Card, now.AddDays(-1.2), ("cardPaste", "Tallow Grey 5, pads 1.5 mm"));
                }
            ),
            Run(1, "simulator-as-it-came", 0.3, 23.2, 5),
            Run(2, "simulator-new-paste", 0, 22.8, 1)
        );
    }

    /// <summary>Made quiet: the chip is warmer, far from its limit, and the owner gets what was asked for.</summary>
    private static Task QuietAsync(DemoBench bench, DateTimeOffset now)
    {
        DemoRun Run(int setup, string name, string fan, double room, double daysAgo) =>
            new(
                setup,
                $"{name}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                OnBench: DemoExperiments.On("home-tower", OwnFans, room, fan: fan, caseFans: setup == 1 ? "full" : "slow")
            );
        return bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(6.5),
                "Net loft poet",
                "evenings",
                "Writing machine, tower, 20 months",
                "Roars as soon as it is switched on",
                21.5,
                95,
                65,
                "tower",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-20),
                        Job.SelfBuilt,
                        "home",
                        "Corbel C65",
                        "Quoin B5",
                        "Dowel Flat 2 × 8",
                        31,
                        null,
                        "Gable Mid",
                        "Mullion 120",
                        "one in front, one at the rear",
                        "board"
                    );
                    job.Wish = "quiet";
                    DemoJob.Seen(job, ("onset", "since-new"), ("fans-always-loud", "yes"), ("dust", "none"));
                    (job.Repair.Found, job.Repair.Done, job.Repair.Minutes) = (
                        "All fans on headers that nothing steers",
                        "Fans re-plugged and set to follow the processor, flat and late",
                        25
                    );
                    job.Repair.Causes = ["fan-control"];
                    DemoJob.Changed(job, SetupKind.Fans, now.AddDays(-2), ("steering", "fans follow the processor, flat and late"));
                }
            ),
            Run(1, "poet-as-it-came", "full", 21.4, 6),
            Run(2, "poet-quiet", "quiet", 21.7, 1.9)
        );
    }

    /// <summary>
    /// Its power capped by the owner's choice: compared at the cap on both sides, which tells the cooling apart from the throttle.
    /// </summary>
    private static Task CappedAsync(DemoBench bench, DateTimeOffset now)
    {
        SimulationStep[] capped = [new(240, 0, PowerCapW: 75), new(1080, 1, PowerCapW: 75), new(240, 0, PowerCapW: 75)];
        DemoRun Run(int setup, string name, bool cap, double dust, double room, double daysAgo) =>
            new(
                setup,
                $"{name}.csv",
                RoomC: room,
                Ago: TimeSpan.FromDays(daysAgo),
                OnBench: DemoExperiments.On("box-cooler-chiplet", cap ? capped : OwnFans, room, faults: ("dust-blocked-fins", dust))
            )
            {
                PowerCapW = cap ? 75 : 0,
            };
        return bench.AddAsync(
            DemoJob.NewJob(
                bench.Next(3.5),
                "Saltworks office",
                "before noon",
                "Accounts machine under its box cooler, two years",
                "At its limit in every spreadsheet",
                22,
                95,
                105,
                "down-draught",
                job =>
                {
                    DemoJob.Made(
                        job,
                        now.AddMonths(-25),
                        Job.Complete,
                        "office",
                        "Lintel L105",
                        "Stanchion office board",
                        "Dowel Flat 2 × 8",
                        31,
                        null,
                        "Gable Mid",
                        "Sill box cooler",
                        "one at the rear",
                        "cpu"
                    );
                    job.Wish = "cheap";
                    job.DecisionRoute = "cap";
                    DemoJob.Seen(job, ("onset", "gradual"), ("stutter-under-load", "yes"), ("dust", "heavy"));
                    (job.Repair.Found, job.Repair.Done, job.Repair.Minutes) = (
                        "Fins half full of dust; too small for the chip even when clean",
                        "Cleaned, power capped at 75 W in the firmware",
                        20
                    );
                    DemoJob.Changed(job, SetupKind.Setting, now.AddDays(-2), ("settings", "power capped at 75 W, cleaned"));
                }
            ),
            Run(1, "accounts-as-it-came", false, 0.6, 22.2, 3.2),
            Run(1, "accounts-as-it-came-capped", true, 0.6, 22.0, 3.1),
            Run(2, "accounts-cleaned-capped", true, 0.05, 22.5, 1.8)
        );
    }
}
