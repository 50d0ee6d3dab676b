using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Server.Files;
using Remedos.Server.Records;

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
        DemoBench bench = new(context, files, workshop, person, now, cancellation);
        await DemoHistory.AddAsync(bench, now);

        await DemoMachines.AddAsync(bench, now);
        await DemoExperiments.AddAsync(bench, now);
        await DemoTurns.AddAsync(bench, now);
        await context.SaveChangesAsync(cancellation);
        await DemoPapers.AddAsync(context, workshop, person, now, cancellation);
        await DemoDay.AddAsync(context, workshop, now, cancellation);
        await records.FollowAsync(context, workshop.Id, now, cancellation);
        await transaction.CommitAsync(cancellation);
    }
}
