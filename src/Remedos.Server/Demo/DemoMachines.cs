using Remedos.Core.Jobs;
using Remedos.Core.Repair;
using Remedos.Data.Jobs;
using static Remedos.Server.Demo.DemoJob;

namespace Remedos.Server.Demo;

/// <summary>Machines at every stage of the work.</summary>
internal static class DemoMachines
{
    public static async Task AddAsync(DemoBench bench, DateTimeOffset now)
    {
        await bench.AddAsync(
            NewJob(
                bench.Next(9),
                "Boat builder, slip 4",
                "slip 4, mornings",
                "Design station, dual-radiator loop, 37 months, closed case under the drawing table",
                "Slows down ten minutes into a render and stays loud afterwards",
                25,
                95,
                180,
                "liquid",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-37),
                        Job.SelfBuilt,
                        "workshop-dust",
                        "Corbel C180",
                        "Ashlar W9",
                        "Dowel Crest 4 × 16",
                        44,
                        "Pantile 220",
                        "Gable Mid",
                        "Rill 240",
                        "two in front on the radiator, one at the rear",
                        "coolant",
                        "front-in"
                    );
                    Seen(
                        job,
                        ("onset", "gradual"),
                        ("stutter-under-load", "yes"),
                        ("fans-always-loud", "yes"),
                        ("noise-gurgling", "no"),
                        ("dust", "light"),
                        ("tube-difference", "one-hot"),
                        ("leak-marks", "no")
                    );
                    job.Repair.Causes = ["loop-restricted"];
                    job.Repair.Found = "One tube hot, one cold; pump turns at its usual speed. The loop hardly flows.";
                    job.Repair.Done =
                        "Loop replaced by a Corvane Ridge 2 dual tower, stand-offs exchanged, fans set to follow the processor";
                    job.Repair.Parts = "Corvane Ridge 2, bracket Q4";
                    job.Repair.Cooler = "Corvane Ridge 2";
                    job.Repair.Minutes = 70;
                    Changed(
                        job,
                        SetupKind.Cooler,
                        now.AddHours(-30),
                        ("cooler", "Corvane Ridge 2"),
                        ("coolerKind", "dual-tower"),
                        ("paste", "Tallow Grey 5"),
                        ("pasteMethod", "thin cross")
                    );
                }
            ),
            new DemoRun(1, "design-station-before.csv", DemoSimulations.StationStarved, 26.1, TimeSpan.FromHours(54), Semicolons: true),
            new DemoRun(2, "design-station-after.csv", DemoSimulations.StationDualTower, 23.5, TimeSpan.FromHours(4))
        );

        await bench.AddAsync(
            NewJob(
                bench.Next(6),
                "Saint Odile choir",
                "choirmaster, evenings",
                "Recording machine, quiet tower, 22 months, stands behind the organ",
                "Fans audible on the recordings since the autumn",
                21.5,
                95,
                65,
                "tower",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-22),
                        Job.SelfBuilt,
                        "home",
                        "Corbel C65",
                        "Quoin B5",
                        "Dowel Flat 2 × 16",
                        31,
                        null,
                        "Gable Hush",
                        "Mullion Hush",
                        "one in front, one at the rear, both slow",
                        "cpu"
                    );
                    Seen(
                        job,
                        ("onset", "gradual"),
                        ("fans-always-loud", "yes"),
                        ("shutdowns", "no"),
                        ("noise-rattling", "no"),
                        ("noise-grinding", "no"),
                        ("dust", "heavy"),
                        ("fan-wrong-way", "no"),
                        ("blade-blocked", "no")
                    );
                    job.Repair.Found = "Fins grey with dust, filter clogged";
                    DemoPlans.Begin(
                        job,
                        new RepairFacts
                        {
                            Acts = ["clean", "remount"],
                            CoolerOff = "tower",
                            Socket = "Q4",
                            HasCard = false,
                            HasClosedRun = true,
                            Fans = ["1 at the front in", "1 at the rear out"],
                            Plugs = ["Fan on CPU."],
                            FirstPowerMaxC = 39,
                        },
                        "loosen-across",
                        now.AddMinutes(-35)
                    );
                }
            ),
            new DemoRun(1, "choir-recorder-before.csv", DemoSimulations.RecorderDusty, 21.4, TimeSpan.FromHours(20))
        );

        await bench.AddAsync(
            NewJob(
                bench.Next(5),
                "Harbour bakery",
                "before six in the morning",
                "Compact till, flat cooler, four years beside the flour bins",
                "Freezes at the Saturday rush",
                29.3,
                90,
                45,
                "down-draught",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-48),
                        Job.Complete,
                        "flour-dust",
                        "Lintel L45",
                        "Stanchion till board",
                        "Dowel Flat 2 × 8",
                        31,
                        null,
                        "Stanchion Till",
                        "Sill box cooler",
                        "one at the rear",
                        "fixed"
                    );
                    Seen(job, ("onset", "gradual"), ("stutter-under-load", "yes"), ("dust", "heavy"), ("noise-grinding", "yes"));
                    job.Repair.Causes = ["dust-blocked-fins"];
                    job.Repair.Found = "Fins felted with flour, fan sluggish";
                    job.Repair.Done = "Fins washed and dried, fan replaced, new paste, fleece over the intake";
                    job.Repair.Parts = "80 mm fan, intake fleece";
                    job.Repair.Minutes = 55;
                    Changed(job, SetupKind.Repair, now.AddHours(-2), ("paste", "Tallow Grey 5"), ("pasteMethod", "one dot"));
                }
            ),
            new DemoRun(
                1,
                "bakery-till-before.csv",
                DemoSimulations.TillFelted,
                29.2,
                TimeSpan.FromHours(28),
                Semicolons: true,
                FanPercent: 80
            )
        );

        await bench.AddAsync(
            NewJob(
                bench.Next(4),
                "Lindqvist Land Survey",
                "office hours",
                "Photogrammetry workstation, dual tower, 9 months",
                "Fast for a minute, then a third slower, every time",
                22,
                100,
                125,
                "dual-tower",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-9),
                        Job.Complete,
                        "office",
                        "Corbel C125",
                        "Ashlar W9",
                        "Dowel Crest 4 × 16",
                        44,
                        "Pantile 220",
                        "Gable Grand",
                        "Corvane Ridge 2",
                        "two in front, one at the rear",
                        "cpu"
                    );
                    Seen(
                        job,
                        ("onset", "since-new"),
                        ("shutdowns", "no"),
                        ("dust", "none"),
                        ("fan-wrong-way", "no"),
                        ("blade-blocked", "no")
                    );
                    job.WaitingFor = "owner";
                }
            ),
            new DemoRun(1, "survey-workstation-before.csv", DemoSimulations.SurveyorBudget, 22.1, TimeSpan.FromHours(30))
        );

        await bench.AddAsync(
            NewJob(
                bench.Next(3),
                "Dune Hill observatory",
                "after dark",
                "Image stacker, tower, 41 months, unheated dome",
                "Hotter every summer, now it stutters",
                24,
                100,
                125,
                "tower",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-41),
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
                    Seen(job, ("onset", "gradual"), ("stutter-under-load", "yes"), ("dust", "light"), ("paste-print", "dried"));
                    job.Repair.Causes = ["paste-aged"];
                    job.Repair.Found = "Paste dried to a crust, print broken in the middle";
                    job.Repair.Done = "Cleaned, new paste, screws tightened across in three rounds";
                    job.Repair.Minutes = 40;
                    Changed(job, SetupKind.Repair, now.AddHours(-3), ("paste", "Tallow Grey 5"), ("pasteMethod", "spread film"));
                }
            ),
            new DemoRun(1, "stacker-before.csv", DemoSimulations.StackerDriedPaste, 24.4, TimeSpan.FromHours(26)),
            new DemoRun(2, "stacker-after.csv", DemoSimulations.StackerNewPaste, 22.8, TimeSpan.FromHours(2))
        );

        await bench.AddAsync(
            NewJob(
                bench.Next(1),
                "Quayside veterinary clinic",
                "ask for the front desk",
                "Compact behind the counter, 15 months, no air on three sides",
                "Switches itself off on warm afternoons",
                23.5,
                95,
                65,
                "tower",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-15),
                        Job.Complete,
                        "cupboard",
                        "Lintel L45",
                        "Stanchion office board",
                        "Dowel Flat 2 × 8",
                        31,
                        null,
                        "Stanchion Slim",
                        "Sill Low 47",
                        "one at the rear",
                        "cpu"
                    );
                    (job.Warranty.PurchasedOn, job.Warranty.Months, job.Warranty.EndedBy) = (
                        DateOnly.FromDateTime(now.AddMonths(-15).UtcDateTime),
                        24,
                        "cooler"
                    );
                    job.Serial = "STS-20771";
                    Seen(
                        job,
                        ("onset", "summer"),
                        ("shutdowns", "yes"),
                        ("stutter-under-load", "no"),
                        ("noise-rattling", "no"),
                        ("noise-grinding", "no")
                    );
                }
            )
        );

        await bench.AddAsync(NewJob(bench.Next(0.2), "Model railway club", null, "Layout server", null, null, null, null, null, _ => { }));

        await bench.AddAsync(
            NewJob(
                bench.Next(40),
                "R. Okonjo, translator",
                "upstairs bell",
                "Bedroom machine, tower, 18 months",
                "Loud at night since it was moved",
                22.5,
                95,
                65,
                "tower",
                job =>
                {
                    job.Repair.Found = "Cooler hung on three of four screws; paste print only a crescent";
                    job.Repair.Done = "Reseated with new paste, all four screws";
                    job.Repair.Minutes = 35;
                    Changed(job, SetupKind.Repair, now.AddDays(-38), ("paste", "Tallow Grey 5"), ("pasteMethod", "one dot"));
                    job.HandedOverAt = now.AddDays(-36);
                    job.RecheckOn = DateOnly.FromDateTime(now.AddDays(140).UtcDateTime);
                }
            ),
            new DemoRun(1, "bedroom-before.csv", DemoSimulations.TranslatorLoose, 22.6, TimeSpan.FromDays(39)),
            new DemoRun(2, "bedroom-after.csv", DemoSimulations.TranslatorSeated, 23.4, TimeSpan.FromDays(37))
        );
        await bench.AddAsync(
            NewJob(
                bench.Next(2),
                "Tern Point pilots",
                "duty phone",
                "Chart workstation, one radiator, 31 months, in the watch room",
                "Fine for some minutes, then the charts crawl; it took months to get this bad",
                23.5,
                95,
                180,
                "liquid",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-31),
                        Job.SelfBuilt,
                        "office",
                        "Corbel C180",
                        "Quoin B7 Plus",
                        "Dowel Crest 2 × 16",
                        44,
                        "Pantile 220",
                        "Gable Mid",
                        "Rill 240",
                        "two in front on the radiator, one at the rear",
                        "coolant",
                        "front-in"
                    );
                    (job.Warranty.PurchasedOn, job.Warranty.Months, job.Warranty.EndedBy) = (
                        DateOnly.FromDateTime(now.AddMonths(-31).UtcDateTime),
                        60,
                        "nothing"
                    );
                    job.DoneBefore = "Fins blown out by the pilots themselves in spring";
                    job.LastDone = "cleaned";
                    Seen(
                        job,
                        ("onset", "gradual"),
                        ("shutdowns", "no"),
                        ("stutter-under-load", "yes"),
                        ("fans-always-loud", "yes"),
                        ("slow-all-the-time", "no"),
                        ("noise-gurgling", "no"),
                        ("blade-blocked", "no")
                    );
                }
            ),
            new DemoRun(1, "chart-workstation-before.csv", DemoSimulations.ChartWorkstation, 23.6, TimeSpan.FromHours(3))
        );
        await bench.AddAsync(
            NewJob(
                bench.Next(1.5),
                "Gull Lane radio",
                "studio line",
                "Mixing desk’s computer, tower, 14 months, new sound-damped front",
                "Loud since the new front, on air and off",
                22,
                100,
                125,
                "tower",
                job =>
                {
                    Made(
                        job,
                        now.AddMonths(-14),
                        Job.SelfBuilt,
                        "office",
                        "Corbel C125",
                        "Quoin B5",
                        "Dowel Flat 2 × 16",
                        31,
                        null,
                        "Gable Mid",
                        "Mullion 120",
                        "one in front behind the new panel, one at the rear",
                        "cpu"
                    );
                    job.DoneBefore = "Front changed for a closed one with damping";
                    job.LastDone = "part-added";
                    Seen(
                        job,
                        ("onset", "after-work-or-move"),
                        ("shutdowns", "no"),
                        ("stutter-under-load", "no"),
                        ("fans-always-loud", "yes"),
                        ("dust", "none"),
                        ("fan-wrong-way", "no"),
                        ("blade-blocked", "no"),
                        ("noise-rattling", "no"),
                        ("noise-grinding", "no")
                    );
                }
            ),
            new DemoRun(1, "mixing-desk-before.csv", DemoSimulations.RadioDesk, 22.1, TimeSpan.FromHours(5))
        );
    }
}
