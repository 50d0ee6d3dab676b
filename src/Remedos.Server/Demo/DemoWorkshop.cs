using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Logs;
using Remedos.Core.Planning;
using Remedos.Core.Repair;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Records;
using Remedos.Server.Runs;

namespace Remedos.Server.Demo;

/// <summary>An invented workshop with machines at every stage. Its logs come from the simulation and are read like anybody's.</summary>
internal static class DemoWorkshop
{
    public const string Name = "Saltmarsh Lane Repairs",
        Address = "Saltmarsh Lane 4\nHarbour side";
    public const int FirstJobNumber = 412;

    public static OpeningHours Hours { get; } =
        new([
            .. Enumerable.Range(1, 5).Select(day => new OpenDay(day, new TimeOnly(9, 0), new TimeOnly(17, 30))),
            new OpenDay(6, new TimeOnly(10, 0), new TimeOnly(14, 0)),
        ]);

    /// <summary>A run of a demo machine.</summary>
    /// <param name="Setup">Which of its job's setups.</param>
    /// <param name="Mount">Which mount of that.</param>
    /// <param name="Load">In the words of a run's conditions.</param>
    internal sealed record DemoRun(
        int Setup,
        string FileName,
        SimulationRequest OnBench,
        double RoomC,
        TimeSpan Ago,
        bool Semicolons = false,
        double? FanPercent = null,
        int Mount = 1,
        string Load = "all-core",
        int? Bay = null
    )
    {
        public double? PowerCapW { get; init; }

        public double? GpuLimitC { get; init; }
    }

    public static async Task LoadAsync(
        RemedosContext context,
        IFileStore files,
        Workshop workshop,
        Person person,
        KeepRecords records,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        await using IDbContextTransaction transaction = await context.Database.BeginTransactionAsync(cancellation);
        context.AddRange(workshop, person);
        await context.SaveChangesAsync(cancellation);
        DemoParts.Add(context, workshop, now);
        Bench bench = new(context, files, workshop, person, now, cancellation);
        await DemoHistory.AddAsync(bench, now);

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
                        "coolant"
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
                        "coolant"
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
        await DemoExperiments.AddAsync(bench, now);
        await context.SaveChangesAsync(cancellation);
        await DemoPapers.AddAsync(context, workshop, person, now, cancellation);
        await DemoDay.AddAsync(context, workshop, now, cancellation);
        await records.FollowAsync(context, workshop.Id, now, cancellation);
        await transaction.CommitAsync(cancellation);
    }

    /// <summary>What a machine is made of, and how it came about.</summary>
    internal static void Made(
        Job job,
        DateTimeOffset built,
        string origin,
        string setting,
        string processor,
        string board,
        string memory,
        double heightMm,
        string? graphics,
        string @case,
        string cooler,
        string fans,
        string steeredBy
    )
    {
        (job.BuiltOn, job.Origin, job.Setting) = (DateOnly.FromDateTime(built.UtcDateTime), origin, setting);
        (job.Parts.Processor, job.Parts.Board, job.Parts.Memory, job.Parts.MemoryHeightMm, job.Parts.Graphics) = (
            processor,
            board,
            memory,
            heightMm,
            graphics
        );
        (job.Parts.Case, job.Parts.Cooler, job.Parts.Fans, job.Parts.FansSteeredBy) = (@case, cooler, fans, steeredBy);
    }

    internal static void Seen(Job job, params (string Id, string State)[] observed) =>
        job.Observations = [.. observed.Select(one => new EvidenceItem(one.Id, one.State))];

    internal static Job NewJob(
        (Guid WorkshopId, int Number, DateTimeOffset At) place,
        string owner,
        string? contact,
        string machine,
        string? noticed,
        double? roomC,
        double? limitC,
        double? ratedW,
        string? cooler,
        Action<Job> more
    )
    {
        Job job = new()
        {
            Id = Guid.CreateVersion7(place.At),
            WorkshopId = place.WorkshopId,
            Number = place.Number,
            CreatedAt = place.At,
            ChangedAt = place.At,
            Owner = owner,
            Contact = contact,
            Machine = machine,
            Noticed = noticed,
            RoomC = roomC,
            TemperatureLimitC = limitC,
            RatedPowerW = ratedW,
            CoolerKind = cooler,
        };
        JobSetups.First(job, place.At);
        more(job);
        return job;
    }

    /// <summary>The next setup of a job, like the one that is on it but for some fields.</summary>
    internal static Setup Changed(Job job, string kind, DateTimeOffset mountedAt, params (string Field, object Value)[] difference)
    {
        Setup setup = JobSetups.Add(job, kind, JobSetups.Current(job).Number, mountedAt, mountedAt);
        foreach ((string field, object value) in difference)
        {
            string name = $"setup.{setup.Number}.{field}";
            if (JobFields.Find(name)!.TrySet(job, JsonSerializer.SerializeToElement(value), DateOnly.MaxValue) is { } problem)
            {
                throw new InvalidOperationException($"{name}: {problem}");
            }
        }

        return setup;
    }

    /// <summary>Where the demo's rows go.</summary>
    internal sealed class Bench(
        RemedosContext context,
        IFileStore files,
        Workshop workshop,
        Person person,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        public (Guid WorkshopId, int Number, DateTimeOffset At) Next(double daysAgo) =>
            (workshop.Id, workshop.NextJobNumber++, now.AddDays(-daysAgo));

        /// <summary>A place before the first number that is counted up from.</summary>
        public (Guid WorkshopId, int Number, DateTimeOffset At) Earlier(int number, double daysAgo) =>
            (workshop.Id, number, now.AddDays(-daysAgo));

        public Task AddAsync(Job job, params DemoRun[] runs) => AddAsync(job, _ => [], runs);

        public async Task AddAsync(Job job, Func<Job, Round[]> rounds, params DemoRun[] runs)
        {
            context.Jobs.Add(job);
            context.Rounds.AddRange(rounds(job));
            context.Append(job, person.Id, job.CreatedAt, JobEvents.Created);
            await context.SaveChangesAsync(cancellation);
            foreach (DemoRun run in runs)
            {
                await AddRunAsync(job, run);
            }
        }

        /// <summary>The same log as loggers of other countries write it: semicolons, decimal commas, date and time of day.</summary>
        private static string WithSemicolons(string log, DateTimeOffset startedAt)
        {
            StringBuilder text = new();
            foreach (string line in log.Split('\n', StringSplitOptions.RemoveEmptyEntries))
            {
                string[] cells = line.Split(',');
                text.Append(
                        text.Length == 0
                            ? "Date;Time"
                            : startedAt
                                .AddSeconds(double.Parse(cells[0], CultureInfo.InvariantCulture))
                                .ToString("dd.MM.yyyy;HH:mm:ss,f", CultureInfo.InvariantCulture)
                    )
                    .Append(';')
                    .AppendJoin(';', cells.Skip(1).Select(cell => cell.Replace('.', ',')))
                    .Append('\n');
            }

            return text.ToString();
        }

        private async Task AddRunAsync(Job job, DemoRun demo)
        {
            DateTimeOffset at = now - demo.Ago;
            int seed = (job.Number * 10) + (demo.Setup > 1 ? demo.Setup - 1 : 0) + (100 * (demo.Mount - 1)) + (int)demo.Ago.TotalHours;
            string text = SimulatedRun
                .Of(demo.OnBench.Resolve(out string? problem) ?? throw new InvalidOperationException(problem), demo.OnBench, seed)
                .LogCsv();
            text = demo.Semicolons ? WithSemicolons(text, at.AddMinutes(-37)) : text;
            byte[] bytes = Encoding.UTF8.GetBytes(text);
            (string sha256, long length) = await files.SaveAsync(new MemoryStream(bytes), bytes.Length, cancellation);
            Log log = LogReader.Read(new MemoryStream(bytes)).Log!;
            Setup setup = job.Setups.Single(one => one.Number == demo.Setup);
            Mount mount = setup.Mounts.Single(one => one.Number == demo.Mount);
            RunConditions told = new(
                demo.Load,
                "closed",
                demo.FanPercent is null ? "auto" : "fixed",
                demo.FanPercent,
                demo.PowerCapW,
                AmbientC: demo.RoomC
            )
            {
                GpuTemperatureLimitC = demo.GpuLimitC,
            };
            RunConditions conditions = AddLog.StartingConditions(job, setup, mount, told, at);
            LogFile file = new()
            {
                Id = Guid.CreateVersion7(at),
                WorkshopId = workshop.Id,
                Name = demo.FileName,
                Sha256 = sha256,
                Bytes = length,
                Bay = demo.Bay,
                StoredAt = at,
            };
            context.Add(file);
            await RunStore.AddAsync(
                context,
                job,
                file.Id,
                mount.Id,
                conditions,
                [],
                ReadRun.Of(log, conditions),
                person.Id,
                at,
                cancellation
            );
        }
    }
}
