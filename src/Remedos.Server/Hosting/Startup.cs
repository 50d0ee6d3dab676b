using Microsoft.EntityFrameworkCore;
using Remedos.Core.Comparison;
using Remedos.Data;
using Remedos.Server.Demo;

namespace Remedos.Server.Hosting;

/// <summary>What must be true before the first request: the schema is current and a workshop exists.</summary>
internal static class Startup
{
    public static async Task PrepareAsync(IServiceProvider services, bool demo, CancellationToken cancellation)
    {
        await using RemedosContext context = await services.GetRequiredService<IDbContextFactory<RemedosContext>>().CreateDbContextAsync(cancellation);
        await context.Database.MigrateAsync(cancellation);
        if (await context.Workshops.AnyAsync(cancellation))
        {
            return;
        }

        Workshop workshop = new()
        {
            Id = Guid.CreateVersion7(),
            Name = demo ? DemoWorkshop.Name : "My workshop",
            TagPrefix = demo ? "SL" : "WS",
            Currency = "EUR",
            NextJobNumber = demo ? DemoWorkshop.FirstJobNumber : 1,
            RepeatabilityC = Comparer.DefaultRepeatabilityC,
            LabourMinorPerHour = 4800,
            TaxPercent = demo ? 20 : 0,
        };
        Person person = new() { Id = Guid.CreateVersion7(), WorkshopId = workshop.Id, Name = demo ? "Ines" : "Technician" };
        if (demo)
        {
            await DemoWorkshop.LoadAsync(context, services.GetRequiredService<Runs.FileStore>(), workshop, person, services.GetRequiredService<TimeProvider>().GetUtcNow(), cancellation);
        }
        else
        {
            context.AddRange(workshop, person);
            await context.SaveChangesAsync(cancellation);
        }
    }
}
