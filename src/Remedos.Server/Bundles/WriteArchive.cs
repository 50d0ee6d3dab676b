using System.IO.Compression;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Parts;

namespace Remedos.Server.Bundles;

/// <summary>Writes a whole workshop as one ZIP, one job in memory at a time.</summary>
internal sealed class WriteArchive(BundleWriter writer)
{
    private const string RecordName = "workshop.json",
        LogoName = "logo.jpg";

    /// <summary>Writes it.</summary>
    /// <param name="zip">Empty.</param>
    /// <param name="seen">In a transaction of one moment.</param>
    /// <param name="workshop">Whose.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task WriteAsync(ZipArchive zip, RemedosContext seen, Workshop workshop, CancellationToken cancellation)
    {
        var jobs = await seen
            .Jobs.Where(job => job.WorkshopId == workshop.Id)
            .OrderBy(job => job.Number)
            .Select(job => new { job.Id, job.Number })
            .ToListAsync(cancellation);
        List<string> folders = [];
        foreach (var job in jobs)
        {
            folders.Add($"jobs/{job.Number:0000}/");
            await writer.WriteJobAsync(zip, folders[^1], seen, workshop, job.Id, archive: true, cancellation);
        }

        WorkshopRecord record = await RecordAsync(seen, workshop.Id, cancellation);
        FileRecord? logo = record.Workshop.LogoSha256 is { } sha256
            ? await writer.CopyAsync(zip, "", LogoName, sha256, cancellation)
            : null;
        await writer.FinishAsync(
            zip,
            "",
            Manifest.Workshop,
            workshop,
            (RecordName, BundleJson.Write(record)),
            logo is null ? [] : [logo],
            logo is null && record.Workshop.LogoSha256 is { } gone ? [gone] : [],
            folders,
            cancellation
        );
    }

    private static async Task<WorkshopRecord> RecordAsync(RemedosContext context, Guid workshop, CancellationToken cancellation)
    {
        List<PartEvent> changes = await context
            .PartEvents.AsNoTracking()
            .Where(e => e.WorkshopId == workshop)
            .OrderBy(e => e.Id)
            .ToListAsync(cancellation);
        ILookup<Guid, PartEvent> ofPart = changes.ToLookup(change => change.PartId);
        return new WorkshopRecord(
            await context.Workshops.AsNoTracking().SingleAsync(w => w.Id == workshop, cancellation),
            BundleWriter.PeopleOf(await context.People.AsNoTracking().Where(p => p.WorkshopId == workshop).ToListAsync(cancellation)),
            [
                .. (await context.Parts.AsNoTracking().Where(p => p.WorkshopId == workshop).ToListAsync(cancellation))
                    .OrderBy(part => part.Id)
                    .Select(part => new PartRecord(
                        part.Id,
                        part.Kind,
                        part.Name,
                        part.Values,
                        part.ChangedAt,
                        part.RetiredAt,
                        EventRows.Of(ofPart[part.Id])
                    )),
            ],
            [
                .. (await context.RememberedRoles.AsNoTracking().Where(r => r.WorkshopId == workshop).ToListAsync(cancellation)).OrderBy(
                    one => one.Fingerprint,
                    StringComparer.Ordinal
                ),
            ],
            await context.Bays.Where(b => b.WorkshopId == workshop).OrderBy(b => b.Number).Select(b => b.Number).ToListAsync(cancellation),
            EventRows.Of(
                await context
                    .WorkshopEvents.AsNoTracking()
                    .Where(e => e.WorkshopId == workshop)
                    .OrderBy(e => e.Id)
                    .ToListAsync(cancellation)
            ),
            await context.WorkDays.AsNoTracking().Where(day => day.WorkshopId == workshop).OrderBy(day => day.Day).ToListAsync(cancellation)
        );
    }
}
