using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Learning;
using Remedos.Data;
using Remedos.Data.Records;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Rechecks;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Records;

/// <summary>The records of the workshop: how long coolers last, what they do, how well this bench repeats itself.</summary>
internal static class RecordsEndpoints
{
    /// <summary>Of more machines than this the latest are listed.</summary>
    internal const int MostBehind = 500;

    public static void MapRecords(this RouteGroupBuilder api)
    {
        RouteGroupBuilder records = api.MapGroup("/records").WithTags("records");
        records.MapGet("/", GetAsync).WithName("getRecords");
        api.MapGet("/jobs/{id:guid}/counted", CountedRuns.GetAsync)
            .WithTags("records")
            .WithName("listCountedRuns")
            .ProducesProblem(StatusCodes.Status404NotFound);
        records.MapGet("/behind", BehindAsync).WithName("getSeriesBehind");
        records.MapGet("/cooler", CoolerAsync).WithName("getCoolerBehind");
        records.MapGet("/repair", RepairAsync).WithName("getRepairBehind");
        records.MapGet("/bench", BenchAsync).WithName("getBenchBehind");
        records.MapGet("/part", PartAsync).WithName("getPartBehind");
        records.MapGet("/trial", TrialAsync).WithName("getTrialBehind");
        records.MapRecordTables();
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
                new BenchOfRecord(
                    bench.MountC,
                    bench.WithinC,
                    bench.MountDegrees - Repeatability.Prior.MountDegrees,
                    bench.WithinDegrees - Repeatability.Prior.WithinDegrees,
                    Words(bench)
                ),
                await RepairRecords.ListAsync(context, workshop.Id, cancellation),
                await FittedRecords.ListAsync(context, workshop.Id, cancellation),
                await TrialRecords.ListAsync(context, workshop.Id, cancellation)
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
        SeriesTotal? total = await context
            .SeriesTotals.AsNoTracking()
            .SingleOrDefaultAsync(one => one.WorkshopId == workshop.Id && one.Series == key, cancellation);
        // The newest, and what came before of the same machines.
        SeriesSeen? seen = SeriesLives.Of(
            await SeriesLives.ReadAsync(
                context,
                workshop.Id,
                context
                    .SeriesShares.Where(share => share.WorkshopId == workshop.Id && share.Series == key)
                    .OrderByDescending(share => share.Number)
                    .Take(2 * MostBehind),
                cancellation
            )
        );
        return TypedResults.Ok(
            new SeriesBehind(
                total?.Wear is { IsEnough: true }
                    ? [.. Survival.OfAges(total.Ages).Steps.Select(step => new CurvePoint(step.Months, step.Share, step.Low, step.High))]
                    : [],
                [
                    .. (seen?.Machines ?? [])
                        .OrderByDescending(machine => machine.Number)
                        .Take(MostBehind)
                        .OrderBy(machine => machine.Months)
                        .Select(machine => new MachineOfRecord(
                            machine.Job,
                            JobSheets.Tag(workshop, machine.Number),
                            machine.Months,
                            machine.Failed
                        )),
                ]
            )
        );
    }

    private static async Task<Ok<CoolerBehind>> CoolerAsync(string name, Caller caller, ReadReplica replica, CancellationToken cancellation)
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

    private static async Task<Results<Ok<IReadOnlyList<MachineOfPart>>, ProblemHttpResult>> PartAsync(
        string kind,
        string name,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        if (Kebab.Parse<FittedKind>(kind) is not { } of)
        {
            return Refusal.Of($"There is no kind of part “{kind}”: {Kebab.Words<FittedKind>()}.");
        }

        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return TypedResults.Ok(await FittedRecords.BehindAsync(context, workshop, of, name, cancellation));
    }

    private static async Task<Results<Ok<IReadOnlyList<MachineOfTrial>>, ProblemHttpResult>> TrialAsync(
        string kind,
        string one,
        string other,
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        if (Kebab.Parse<TrialKind>(kind) is not { } of)
        {
            return Refusal.Of($"There is no kind of trial “{kind}”: {Kebab.Words<TrialKind>()}.");
        }

        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return TypedResults.Ok(await TrialRecords.BehindAsync(context, workshop, of, one, other, cancellation));
    }

    private static string TitleOf(string cause) => DiagnosisTables.CauseOf(cause).Title;

    internal static async Task<IReadOnlyList<CoolerOfRecord>> LeagueAsync(
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

    private static async Task<Ok<IReadOnlyList<MachineOfBench>>> BenchAsync(
        Caller caller,
        ReadReplica replica,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenToReadAsync(replica, cancellation);
        return TypedResults.Ok(await ScatterOfJob.BehindAsync(context, workshop, cancellation));
    }

    private static string Words(Repeatability bench)
    {
        double remounts = bench.MountDegrees - Repeatability.Prior.MountDegrees,
            repeats = bench.WithinDegrees - Repeatability.Prior.WithinDegrees;
        string stands =
            remounts + repeats > 0
                ? $"Learnt here from {Times(remounts, "re-mount")} and {Times(repeats, "repeat")}, beside an average bench’s, "
                    + $"which counts as {Repeatability.Prior.MountDegrees:0} and {Repeatability.Prior.WithinDegrees:0}."
                : "That is an average bench: nothing was repeated here yet.";
        return $"A cooler that is put on again stands {Degrees.By(bench.MountC, "0.0")} away, a run that is made again "
            + $"{Degrees.By(bench.WithinC, "0.0")} "
            + $"(standard deviations). {stands}";
    }

    private static string Times(double count, string what) => count == 1 ? $"one {what}" : $"{count:0} {what}s";
}
