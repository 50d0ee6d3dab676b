using Remedos.Core.Jobs;
using Remedos.Core.Repair;

namespace Remedos.Server.Demo;

/// <summary>Machines that were here in the years before: what was found out in each, and nothing measured any more.</summary>
internal static class DemoHistory
{
    private sealed record Visit(
        int Number,
        double DaysAgo,
        string Owner,
        string Machine,
        string Noticed,
        string CoolerKind,
        string Cooler,
        int AgeMonths,
        string Found,
        string Done,
        string[] Causes,
        string? Serial = null,
        int? RecheckInDays = null,
        string? Contact = null,
        string? Fits = null,
        string? Paste = null,
        string? Act = null,
        double Pace = 1
    );

    private static readonly Visit[] Visits =
    [
        new(
            311,
            702,
            "Net loft co-operative",
            "Pattern cutter’s desktop, one radiator",
            "Off after minutes",
            "liquid",
            "Rill 240",
            38,
            "Pump stood, one tube hot",
            "Loop replaced by a Mullion 120",
            ["pump-failed"],
            Fits: "Mullion 120",
            Paste: "Tallow Grey 5",
            Act: "replace-loop",
            Pace: 1.25
        ),
        new(
            324,
            610,
            "Harbour master",
            "Tide display, one radiator",
            "Slows in the afternoon",
            "liquid",
            "Rill 240",
            29,
            "Block full of residue",
            "Loop replaced",
            ["loop-restricted"],
            "STS-10442",
            Fits: "Rill 240",
            Paste: "Chalk 2",
            Act: "replace-loop",
            Pace: 1.4
        ),
        new(
            337,
            498,
            "Lamp museum",
            "Scanner station, one radiator",
            "Loud",
            "liquid",
            "Rill 240",
            33,
            "Hardly any flow, pump at speed",
            "Loop replaced by a Corvane Ridge 2",
            ["loop-restricted"],
            Fits: "Corvane Ridge 2",
            Paste: "Tallow Grey 5",
            Act: "replace-loop",
            Pace: 1.1
        ),
        new(
            352,
            391,
            "Pilot boat crew",
            "Plotter, one radiator",
            "Hot since summer",
            "liquid",
            "Rill 240",
            17,
            "Radiator felted",
            "Radiator cleaned, new paste",
            ["dust-blocked-fins"],
            "STS-15210",
            Paste: "Chalk 2",
            Act: "clean",
            Pace: 0.9
        ),
        new(
            368,
            287,
            "Kite school",
            "Video desk, one radiator",
            "Crawls at exports",
            "liquid",
            "Rill 240",
            35,
            "Residue in the block",
            "Loop replaced",
            ["loop-restricted"],
            RecheckInDays: -9,
            Contact: "kite hall, extension 12",
            Fits: "Rill 240",
            Paste: "Tallow Grey 5",
            Act: "replace-loop",
            Pace: 1.2
        ),
        new(
            371,
            268,
            "Quayside veterinary clinic",
            "Compact behind the counter",
            "Fan rattles",
            "tower",
            "Sill Low 47",
            6,
            "A label hung in the blades",
            "Label taken off, fan tried",
            ["fan-failed"],
            "STS-20771"
        ),
        new(
            390,
            120,
            "Saltworks office",
            "Accounts machine, one radiator",
            "Gurgles and slows",
            "liquid",
            "Rill 240",
            44,
            "Liquid a third down, air in the block",
            "Loop replaced by a Mullion Hush",
            ["coolant-lost", "loop-restricted"],
            RecheckInDays: 4,
            Contact: "counting room",
            Fits: "Mullion Hush",
            Paste: "Tallow Grey 5",
            Act: "replace-loop",
            Pace: 1.05
        ),
        new(
            393,
            96,
            "Pilot boat crew",
            "Plotter, one radiator",
            "Hot again",
            "liquid",
            "Rill 240",
            27,
            "Paste dried to a crust",
            "New paste",
            ["paste-aged"],
            "STS-15210",
            Paste: "Tallow Grey 5",
            Act: "remount",
            Pace: 1
        ),
        new(
            396,
            61,
            "Harbour master",
            "Tide display, one radiator",
            "Slows in the afternoon again",
            "liquid",
            "Rill 240",
            47,
            "Residue in the new block as well",
            "Loop replaced by a Mullion 120",
            ["loop-restricted"],
            "STS-10442",
            Fits: "Mullion 120",
            Paste: "Tallow Grey 5",
            Act: "replace-loop",
            Pace: 1.15
        ),
    ];

    public static async Task AddAsync(DemoBench bench, DateTimeOffset now)
    {
        foreach (Visit visit in Visits)
        {
            DateTimeOffset at = now.AddDays(-visit.DaysAgo);
            await bench.AddAsync(
                DemoJob.NewJob(
                    bench.Earlier(visit.Number, visit.DaysAgo),
                    visit.Owner,
                    visit.Contact,
                    visit.Machine,
                    visit.Noticed,
                    null,
                    null,
                    null,
                    visit.CoolerKind,
                    job =>
                    {
                        job.Serial = visit.Serial;
                        job.BuiltOn = DateOnly.FromDateTime(at.AddMonths(-visit.AgeMonths).UtcDateTime);
                        job.Parts.Cooler = visit.Cooler;
                        (job.Repair.Found, job.Repair.Done, job.Repair.Causes) = (visit.Found, visit.Done, visit.Causes);
                        NewCooler? fits =
                            visit.Fits is not { } name ? null
                            : name.StartsWith("Rill", StringComparison.Ordinal) ? new NewCooler(name, "liquid", "top")
                            : new NewCooler(name, "tower");
                        if (visit.Paste is { } paste)
                        {
                            (string, object)[] put = fits is null ? [] : [("cooler", fits.Name), ("coolerKind", fits.Kind)];
                            DemoJob.Changed(job, SetupKind.Repair, at.AddDays(1), [.. put, ("paste", paste), ("pasteMethod", "one dot")]);
                        }

                        if (visit.Act is { } act)
                        {
                            DemoPlans.Through(job, act, fits, visit.Pace, at.AddDays(1));
                        }

                        job.HandedOverAt = at.AddDays(2);
                        job.RecheckOn = visit.RecheckInDays is { } days ? DateOnly.FromDateTime(now.AddDays(days).UtcDateTime) : null;
                    }
                )
            );
        }
    }
}
