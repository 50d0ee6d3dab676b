using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Rechecks;
using Remedos.Server.Session;

namespace Remedos.Server.Records;

/// <summary>What the workshop remembers.</summary>
/// <param name="Series">Those that wore out most first.</param>
/// <param name="League">The best over its catalogue first.</param>
/// <param name="Repairs">Those that were done most often first.</param>
public sealed record RecordsAnswer(
    IReadOnlyList<SeriesOfRecord> Series,
    IReadOnlyList<CoolerOfRecord> League,
    BenchOfRecord Bench,
    IReadOnlyList<RepairOfRecord> Repairs
);

/// <summary>How a repair goes here.</summary>
/// <param name="Repairs">How often it was done.</param>
/// <param name="Logged">Of how many of them minutes are known.</param>
/// <param name="PlannedMinutes">The mean of those; null where there are none.</param>
/// <param name="TakenMinutes">Likewise, as their steps were ticked.</param>
/// <param name="Judged">Of how many it is known whether they ended the matter.</param>
/// <param name="Solved">Of those, how many did at the first try.</param>
public sealed record RepairOfRecord(
    string Act,
    string Title,
    int Repairs,
    int Logged,
    double? PlannedMinutes,
    double? TakenMinutes,
    int Judged,
    int Solved
);

/// <summary>One repair that a record is made of.</summary>
/// <param name="Solved">Whether it ended the matter; null while that is open.</param>
public sealed record MachineOfRepair(Guid Job, string Tag, int Round, double? PlannedMinutes, double? TakenMinutes, bool? Solved);

/// <summary>How long coolers of a series last here.</summary>
/// <param name="Early">Whether the records show that it fails early.</param>
/// <param name="Causes">Of what, in words: “loop nearly blocked, 5”.</param>
/// <param name="Machines">How many it was seen in.</param>
/// <param name="Failures">In how many of them it had worn out.</param>
public sealed record SeriesOfRecord(string Name, string Sentence, bool Early, IReadOnlyList<string> Causes, int Machines, int Failures);

/// <summary>What a series' record is made of.</summary>
/// <param name="Curve">The share that still works, by age; empty while there are too few for one.</param>
/// <param name="Machines">That it was seen in, the youngest first.</param>
public sealed record SeriesBehind(IReadOnlyList<CurvePoint> Curve, IReadOnlyList<MachineOfRecord> Machines);

/// <summary>A step of the curve.</summary>
/// <param name="Share">That still works beyond it, with its 95 % interval.</param>
public sealed record CurvePoint(double Months, double Share, double Low, double High);

/// <summary>A machine that a record is made of.</summary>
/// <param name="Months">Its cooler's age when it came in.</param>
/// <param name="Failed">Whether the cooler had worn out.</param>
public sealed record MachineOfRecord(Guid Job, string Tag, double Months, bool Failed);

/// <summary>What a cooler did here over what its catalogue says.</summary>
/// <param name="Factor">1 is as the catalogue says; more is worse.</param>
/// <param name="HalfWidth">Half of its 95 % interval.</param>
public sealed record CoolerOfRecord(string Name, int Machines, double Factor, double HalfWidth, string Sentence);

/// <summary>What one machine showed of a cooler.</summary>
/// <param name="Factor">Over its catalogue, before what is known beforehand is reckoned with.</param>
/// <param name="Runs">Of how many runs.</param>
public sealed record MachineOfCooler(Guid Job, string Tag, double Factor, int Runs);

/// <summary>How far this bench's runs scatter though nothing was changed, °C.</summary>
public sealed record BenchOfRecord(double MountC, double WithinC, string Sentence);

/// <summary>The records of the workshop: how long coolers last, what they do, how well this bench repeats itself.</summary>
internal static class RecordsEndpoints
{
    public static void MapRecords(this RouteGroupBuilder api)
    {
        RouteGroupBuilder records = api.MapGroup("/records").WithTags("records");
        records.MapGet("/", GetAsync).WithName("getRecords");
        records.MapGet("/behind", BehindAsync).WithName("getSeriesBehind");
        records.MapGet("/cooler", CoolerAsync).WithName("getCoolerBehind");
        records.MapGet("/series.csv", SeriesCsvAsync).WithName("getSeriesRecordsCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/repair", RepairAsync).WithName("getRepairBehind");
        records.MapGet("/repairs.csv", RepairsCsvAsync).WithName("getRepairsCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/league.csv", LeagueCsvAsync).WithName("getLeagueCsv").Produces(200, contentType: CsvTable.MediaType);
    }

    private static async Task<Ok<RecordsAnswer>> GetAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        Repeatability bench = await ScatterOfJob.OfWorkshopAsync(context, workshop.Id, but: null, cancellation);
        return TypedResults.Ok(
            new RecordsAnswer(
                await SeriesAsync(context, workshop.Id, cancellation),
                await LeagueAsync(context, workshop.Id, cancellation),
                new BenchOfRecord(bench.MountC, bench.WithinC, Words(bench)),
                await RepairRecords.ListAsync(context, workshop.Id, cancellation)
            )
        );
    }

    private static async Task<IReadOnlyList<SeriesOfRecord>> SeriesAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    ) =>
        [
            .. (
                await context
                    .SeriesTotals.AsNoTracking()
                    .Where(total => total.WorkshopId == workshop && total.Wear != null)
                    .Select(total => total.Wear!)
                    .ToListAsync(cancellation)
            )
                .OrderByDescending(wear => wear.Failures)
                .ThenBy(wear => wear.Name, StringComparer.Ordinal)
                .Select(wear => new SeriesOfRecord(
                    wear.Name,
                    wear.Sentence,
                    wear.FailsEarly,
                    [.. wear.Causes.Select(cause => $"{TitleOf(cause.Key)}, {cause.Value}")],
                    wear.Units,
                    wear.Failures
                )),
        ];

    private static async Task<Ok<SeriesBehind>> BehindAsync(
        string series,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        string key = RecordKey.Of(series);
        SeriesSeen? seen = SeriesLives.Of(
            await context
                .SeriesShares.AsNoTracking()
                .Where(share => share.WorkshopId == workshop.Id && share.Series == key)
                .ToListAsync(cancellation)
        );
        return TypedResults.Ok(
            new SeriesBehind(
                seen?.Wear is { IsEnough: true } wear
                    ? [.. wear.Life.Steps.Select(step => new CurvePoint(step.Months, step.Share, step.Low, step.High))]
                    : [],
                [
                    .. (seen?.Machines ?? []).Select(machine => new MachineOfRecord(
                        machine.Job,
                        JobSheets.Tag(workshop, machine.Number),
                        machine.Months,
                        machine.Failed
                    )),
                ]
            )
        );
    }

    private static async Task<Ok<IReadOnlyList<MachineOfCooler>>> CoolerAsync(
        string name,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return TypedResults.Ok(await LeagueRecords.BehindAsync(context, workshop, name, cancellation));
    }

    private static async Task<Ok<IReadOnlyList<MachineOfRepair>>> RepairAsync(
        string act,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return TypedResults.Ok(await RepairRecords.BehindAsync(context, workshop, act, cancellation));
    }

    private static async Task<FileContentHttpResult> RepairsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        CsvColumn<RepairOfRecord>[] columns =
        [
            new("repair", "", row => row.Title),
            new("done", "", row => row.Repairs),
            new("logged", "", row => row.Logged),
            new("planned", "min", row => row.PlannedMinutes),
            new("taken", "min", row => row.TakenMinutes),
            new("judged", "", row => row.Judged),
            new("right first time", "", row => row.Solved),
        ];
        return CsvTable.Of(columns, await RepairRecords.ListAsync(context, workshop.Id, cancellation), "repairs.csv");
    }

    private static string TitleOf(string cause) => DiagnosisTables.CauseOf(cause).Title;

    private static async Task<IReadOnlyList<CoolerOfRecord>> LeagueAsync(
        RemedosContext context,
        Guid workshop,
        CancellationToken cancellation
    ) =>
        [
            .. (await LeagueRecords.LearntAsync(context, workshop, cancellation))
                .Select(pair => new CoolerOfRecord(
                    pair.Key,
                    pair.Value.Machines,
                    pair.Value.Factor,
                    pair.Value.HalfWidthShare * pair.Value.Factor,
                    pair.Value.Sentence
                ))
                .OrderBy(cooler => cooler.Factor),
        ];

    private static string Words(Repeatability bench)
    {
        bool own = bench.MountDegrees + bench.WithinDegrees > Repeatability.Prior.MountDegrees + Repeatability.Prior.WithinDegrees;
        return $"A cooler that is put on again stands {bench.MountC:0.0} °C away, a run that is made again {bench.WithinC:0.0} °C "
            + $"(standard deviations{(own ? "" : ", as an average bench: nothing was repeated here yet")}).";
    }

    private static async Task<FileContentHttpResult> SeriesCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        IEnumerable<SeriesSeen> all = (
            await context.SeriesShares.AsNoTracking().Where(share => share.WorkshopId == workshop.Id).ToListAsync(cancellation)
        )
            .GroupBy(share => share.Series, StringComparer.Ordinal)
            .Select(series => SeriesLives.Of([.. series]))
            .OfType<SeriesSeen>()
            .OrderByDescending(series => series.Wear.Life.Failures)
            .ThenBy(series => series.Wear.Name, StringComparer.Ordinal);
        CsvColumn<(SeriesSeen Series, SeenMachine Machine)>[] columns =
        [
            new("series", "", row => row.Series.Wear.Name),
            new("job", "", row => JobSheets.Tag(workshop, row.Machine.Number)),
            new("age", "months", row => Math.Round(row.Machine.Months, 2)),
            new("worn out", "yes or no", row => row.Machine.Failed),
        ];
        return CsvTable.Of(columns, all.SelectMany(series => series.Machines.Select(machine => (series, machine))), "series.csv");
    }

    private static async Task<FileContentHttpResult> LeagueCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        CsvColumn<CoolerOfRecord>[] columns =
        [
            new("cooler", "", row => row.Name),
            new("machines", "", row => row.Machines),
            new("over its catalogue", "ratio of resistances", row => row.Factor),
            new("half-width", "ratio of resistances", row => row.HalfWidth),
        ];
        return CsvTable.Of(columns, await LeagueAsync(context, workshop.Id, cancellation), "league.csv");
    }
}
