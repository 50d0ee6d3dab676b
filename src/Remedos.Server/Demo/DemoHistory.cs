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
        string? Contact = null
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
            ["pump-failed"]
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
            ["loop-restricted"]
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
            ["loop-restricted"]
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
            "Radiator cleaned",
            ["dust-blocked-fins"]
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
            Contact: "kite hall, extension 12"
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
            Contact: "counting room"
        ),
    ];

    public static async Task AddAsync(DemoWorkshop.Bench bench, DateTimeOffset now)
    {
        foreach (Visit visit in Visits)
        {
            DateTimeOffset at = now.AddDays(-visit.DaysAgo);
            await bench.AddAsync(
                DemoWorkshop.NewJob(
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
                        job.HandedOverAt = at.AddDays(2);
                        job.RecheckOn = visit.RecheckInDays is { } days ? DateOnly.FromDateTime(now.AddDays(days).UtcDateTime) : null;
                    }
                )
            );
        }
    }
}
