using Microsoft.EntityFrameworkCore;
using Remedos.Core.Bays;
using Remedos.Data;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;

namespace Remedos.Server.Bays;

/// <summary>
/// Looks once a second for bays that have changed without any news of it: another server was told, and the line between them is away.
/// </summary>
internal sealed class LookAtBays(IDbContextFactory<RemedosContext> contexts, LiveBays live, TimeProvider clock, ILogger<LookAtBays> log)
    : Recurring(TimeSpan.FromSeconds(1), clock, log)
{
    /// <summary>A page that has missed more asks for it.</summary>
    private const int MostReadings = 600;

    /// <summary>Bays that were ahead of their news when they were looked at last: those may have been on their way.</summary>
    private Dictionary<Guid, long> _ahead = [];

    protected override string WhatFails => "The bays could not be looked at";

    public override async Task RunAsync(CancellationToken cancellation)
    {
        ILookup<Guid, Guid> followed = live.Followed;
        if (followed.Count > 0)
        {
            await LookAsync(followed, cancellation);
        }
    }

    private async Task LookAsync(ILookup<Guid, Guid> followed, CancellationToken cancellation)
    {
        Guid[] workshops = [.. followed.Select(one => one.Key)];
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        var revisions = await context
            .Bays.Where(bay => workshops.Contains(bay.WorkshopId))
            .Select(bay => new { bay.Id, bay.Revision })
            .ToArrayAsync(cancellation);
        long ToldOf(Guid bay) => live.ToldOf(bay)?.Revision ?? -1;
        Guid[] missed =
        [
            .. revisions.Where(bay => _ahead.TryGetValue(bay.Id, out long seen) && seen > ToldOf(bay.Id)).Select(bay => bay.Id),
        ];
        _ahead = revisions.Where(bay => bay.Revision > ToldOf(bay.Id)).ToDictionary(bay => bay.Id, bay => bay.Revision);
        if (missed.Length == 0)
        {
            return;
        }

        foreach (
            Bay bay in await context
                .Bays.AsNoTracking()
                .Where(bay => workshops.Contains(bay.WorkshopId) && missed.Contains(bay.Id))
                .ToListAsync(cancellation)
        )
        {
            ToldOfBay? told = live.ToldOf(bay.Id);
            IReadOnlyList<BayReading> fresh =
                told is not null
                && told.Stream == bay.Stream
                && told.Acknowledged < bay.Acknowledged
                && followed[bay.WorkshopId].Contains(bay.Id)
                    ? await BayReadings
                        .ReadAsync(
                            context,
                            bay.WorkshopId,
                            bay.Id,
                            bay.Recording,
                            Math.Max(told.Acknowledged + 1, bay.Acknowledged - MostReadings),
                            bay.Acknowledged,
                            cancellation
                        )
                        .ToListAsync(cancellation)
                    : [];
            live.TellHere(bay, fresh);
        }
    }
}
