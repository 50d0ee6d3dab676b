using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Rechecks;
using Remedos.Server.Session;

namespace Remedos.Server.Records;

/// <summary>The records as tables that other programs open.</summary>
internal static class RecordsCsv
{
    public static void MapRecordTables(this RouteGroupBuilder records)
    {
        records.MapGet("/series.csv", SeriesCsvAsync).WithName("getSeriesRecordsCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/repairs.csv", RepairsCsvAsync).WithName("getRepairsCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/league.csv", LeagueCsvAsync).WithName("getLeagueCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/parts.csv", PartsCsvAsync).WithName("getFittedPartsCsv").Produces(200, contentType: CsvTable.MediaType);
        records.MapGet("/trials.csv", TrialsCsvAsync).WithName("getTrialsCsv").Produces(200, contentType: CsvTable.MediaType);
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

    private static async Task<FileContentHttpResult> SeriesCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        IEnumerable<SeriesSeen> all = (await SeriesLives.ReadAsync(context, workshop.Id, null, cancellation))
            .GroupBy(one => one.Share.Series, StringComparer.Ordinal)
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
        return CsvTable.Of(columns, await RecordsEndpoints.LeagueAsync(context, workshop.Id, cancellation), "league.csv");
    }

    private static async Task<FileContentHttpResult> PartsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        CsvColumn<PartOfRecord>[] columns =
        [
            new("part", "", row => row.Name),
            new("kind", "", row => Kebab.Of(row.Kind)),
            new("fitted", "", row => row.Fitted),
            new("taken off again", "", row => row.TakenOff),
            new("came back", "", row => row.CameBack),
            new("median until back", "months", row => row.MonthsUntilBack),
        ];
        return CsvTable.Of(columns, await FittedRecords.ListAsync(context, workshop.Id, cancellation), "parts-fitted.csv");
    }

    private static async Task<FileContentHttpResult> TrialsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        CsvColumn<TrialOfRecord>[] columns =
        [
            new("what", "", row => Kebab.Of(row.Kind)),
            new("one", "", row => row.One),
            new("other", "", row => row.Other),
            new("machines", "", row => row.Machines),
            new("from one to other", "°C at 100 W", row => row.Change),
            new("half-width", "°C at 100 W", row => row.HalfWidth),
            new("between machines", "°C at 100 W", row => row.BetweenSd),
            new("half-life", "h", row => row.HalfLifeHours),
        ];
        return CsvTable.Of(columns, await TrialRecords.ListAsync(context, workshop.Id, cancellation), "pastes-and-methods.csv");
    }
}
