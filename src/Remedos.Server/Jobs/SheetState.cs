using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>Everything that a sheet is made from, as a text by which it is known whether it has changed, without making it.</summary>
public sealed class SheetState(Caller caller, PairView view, TimeProvider clock)
{
    /// <summary>The state of a job's sheet for who asks; null where there is no such job.</summary>
    public async Task<string?> OfAsync(Guid id, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Guid workshop = who.Workshop.Id;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        // Runs times imports under way: few enough for one question.
        var state = await context
            .Jobs.AsNoTracking()
            .AsSingleQuery()
            .Where(job => job.WorkshopId == workshop && job.Id == id)
            .Select(job => new
            {
                job.Version,
                job.Serial,
                job.Parts.Cooler,
                Bench = context
                    .RecordStands.Where(stand => stand.WorkshopId == workshop)
                    .Select(stand => new
                    {
                        stand.MountSquares,
                        stand.MountDegrees,
                        stand.WithinSquares,
                        stand.WithinDegrees,
                    })
                    .FirstOrDefault(),
                Settings = context.Workshops.Where(one => one.Id == workshop).Select(one => one.Version).First(),
                People = context
                    .JobEvents.Where(e => e.WorkshopId == workshop && e.JobId == job.Id)
                    .OrderByDescending(e => e.Id)
                    .Take(1)
                    .Join(context.People.Where(p => p.WorkshopId == workshop), e => e.PersonId, p => p.Id, (_, p) => p.Name)
                    .FirstOrDefault(),
                // The same machine and the same owner on other jobs are told on this one.
                Machine = context
                    .Jobs.Where(o => o.WorkshopId == workshop && o.SerialKey == job.SerialKey)
                    .Max(o => (DateTimeOffset?)o.ChangedAt),
                Owner = context
                    .Jobs.Where(o => o.WorkshopId == workshop && o.OwnerKey == job.OwnerKey)
                    .Max(o => (DateTimeOffset?)o.ChangedAt),
                Runs = context
                    .Runs.Where(run => run.WorkshopId == workshop && run.JobId == job.Id)
                    .OrderBy(run => run.Id)
                    .Select(run => run.Version)
                    .ToList(),
                Imports = context
                    .Imports.Where(import => import.WorkshopId == workshop && import.JobId == job.Id && import.State != Import.Done)
                    .OrderBy(import => import.Id)
                    .Select(import => new
                    {
                        import.Id,
                        import.State,
                        import.BytesRead,
                    })
                    .ToList(),
            })
            .SingleOrDefaultAsync(cancellation);
        if (state is null)
        {
            return null;
        }

        ReferenceStand references = await ReferenceStand.OfAsync(context, workshop, cancellation);
        string? series = state.Cooler is null ? null : RecordKey.Of(state.Cooler);
        IReadOnlyDictionary<string, int>? found = series is null
            ? null
            : await context
                .SeriesTotals.Where(total => total.WorkshopId == workshop && total.Series == series)
                .Select(total => total.Causes)
                .SingleOrDefaultAsync(cancellation);
        DateTimeOffset? tagged = JobSheets.NumberOf(who.Workshop, state.Serial) is { } number
            ? await context
                .Jobs.Where(job => job.WorkshopId == workshop && job.Number == number)
                .Select(job => (DateTimeOffset?)job.ChangedAt)
                .SingleOrDefaultAsync(cancellation)
            : null;
        return JsonSerializer.Serialize(
            new
            {
                id,
                state,
                references,
                found,
                tagged,
                Who = who.Person.Id,
                Today = who.Today(clock.GetUtcNow()),
                View = view.Choice,
            }
        );
    }
}
