using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core;
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

    private static Task<FileContentHttpResult> RepairsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation) =>
        TableAsync<RepairOfRecord>(
            "repairs.csv",
            [
                new("repair", "", row => row.Title),
                new("done", "", row => row.Repairs),
                new("logged", "", row => row.Logged),
                new("planned", "min", row => row.PlannedMinutes),
                new("taken", "min", row => row.TakenMinutes),
                new("judged", "", row => row.Judged),
                new("right first time", "", row => row.Solved),
            ],
            async (context, workshop) => await RepairRecords.ListAsync(context, workshop.Id, cancellation),
            caller,
            replica,
            cancellation
        );

    private static Task<FileContentHttpResult> SeriesCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation) =>
        TableAsync<(string Series, string Tag, SeenMachine Machine)>(
            "series.csv",
            [
                new("series", "", row => row.Series),
                new("job", "", row => row.Tag),
                new("age", "months", row => Math.Round(row.Machine.Months, 2)),
                new("worn out", "yes or no", row => row.Machine.Failed),
            ],
            async (context, workshop) =>
                (
                    await SeriesLives.ReadAsync(
                        context,
                        workshop.Id,
                        context.SeriesShares.Where(share => share.WorkshopId == workshop.Id),
                        cancellation
                    )
                )
                    .GroupBy(one => one.Share.Series, StringComparer.Ordinal)
                    .Select(series => SeriesLives.Of([.. series]))
                    .OfType<SeriesSeen>()
                    .OrderByDescending(series => series.Wear.Life.Failures)
                    .ThenBy(series => series.Wear.Name, StringComparer.Ordinal)
                    .SelectMany(series =>
                        series.Machines.Select(machine => (series.Wear.Name, JobSheets.Tag(workshop, machine.Number), machine))
                    ),
            caller,
            replica,
            cancellation
        );

    private static Task<FileContentHttpResult> LeagueCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation) =>
        TableAsync<CoolerOfRecord>(
            "league.csv",
            [
                new("cooler", "", row => row.Name),
                new("machines", "", row => row.Machines),
                new("over its catalogue", "ratio of resistances", row => row.Factor),
                new("half-width", "ratio of resistances", row => row.HalfWidth),
            ],
            async (context, workshop) => await RecordsEndpoints.LeagueAsync(context, workshop.Id, cancellation),
            caller,
            replica,
            cancellation
        );

    private static Task<FileContentHttpResult> PartsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation) =>
        TableAsync<PartOfRecord>(
            "parts-fitted.csv",
            [
                new("part", "", row => row.Name),
                new("kind", "", row => Kebab.Of(row.Kind)),
                new("fitted", "", row => row.Fitted),
                new("taken off again", "", row => row.TakenOff),
                new("came back", "", row => row.CameBack),
                new("median until back", "months", row => row.MonthsUntilBack),
            ],
            async (context, workshop) => await FittedRecords.ListAsync(context, workshop.Id, cancellation),
            caller,
            replica,
            cancellation
        );

    private static Task<FileContentHttpResult> TrialsCsvAsync(Caller caller, ReadReplica replica, CancellationToken cancellation) =>
        TableAsync<TrialOfRecord>(
            "pastes-and-methods.csv",
            [
                new("what", "", row => Kebab.Of(row.Kind)),
                new("one", "", row => row.One),
                new("other", "", row => row.Other),
                new("machines", "", row => row.Machines),
                new("from one to other", "°C at 100 W", row => row.Change),
                new("half-width", "°C at 100 W", row => row.HalfWidth),
                new("between machines", "°C at 100 W", row => row.BetweenSd),
                new("half-life", "h", row => row.HalfLifeHours),
            ],
            async (context, workshop) => await TrialRecords.ListAsync(context, workshop.Id, cancellation),
            caller,
            replica,
            cancellation
        );

    private static async Task<FileContentHttpResult> TableAsync<T>(
        string name,
        CsvColumn<T>[] columns,
        Func<RemedosContext, Workshop, Task<IEnumerable<T>>> rows,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return CsvTable.Of(columns, await rows(context, workshop), name);
    }
}
