using System.IO.Compression;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Bundles;

/// <summary>Writes jobs into a ZIP, one at a time, from a context that sees one moment of the database.</summary>
internal sealed class BundleWriter(IFileStore files, RunReader reader, TimeProvider clock)
{
    private const string RecordName = "job.json";

    /// <summary>Writes a job, and at last its manifest.</summary>
    /// <param name="zip">Being written.</param>
    /// <param name="folder">Where in it; empty for all of it, else with a slash behind.</param>
    /// <param name="context">Of the workshop.</param>
    /// <param name="workshop">Whose.</param>
    /// <param name="id">Which job.</param>
    /// <param name="archive">Whether it goes into an archive, which takes links along.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task WriteJobAsync(
        ZipArchive zip,
        string folder,
        RemedosContext context,
        Workshop workshop,
        Guid id,
        bool archive,
        CancellationToken cancellation
    )
    {
        JobRecord record = await RecordAsync(context, workshop, id, archive, cancellation);
        List<FileRecord> kept = [];
        List<string> missing = [];
        foreach ((string path, string sha256) in Paths(record).DistinctBy(file => file.Sha256))
        {
            if (await CopyAsync(zip, folder, path, sha256, cancellation) is { } file)
            {
                kept.Add(file);
            }
            else
            {
                missing.Add(sha256);
            }
        }

        await FinishAsync(zip, folder, Manifest.Job, workshop, (RecordName, BundleJson.Write(record)), kept, missing, [], cancellation);
    }

    /// <summary>Writes the rows and the manifest of a folder.</summary>
    public async Task FinishAsync(
        ZipArchive zip,
        string folder,
        string format,
        Workshop workshop,
        (string Path, byte[] Json) record,
        IReadOnlyList<FileRecord> kept,
        IReadOnlyList<string> missing,
        IReadOnlyList<string> jobs,
        CancellationToken cancellation
    )
    {
        await WriteAsync(zip, folder + record.Path, record.Json, cancellation);
        FileRecord its = new(record.Path, Convert.ToHexStringLower(SHA256.HashData(record.Json)), record.Json.Length);
        Manifest manifest = new(format, Manifest.Current, clock.GetUtcNow(), workshop.Name, its, kept, missing, jobs);
        await WriteAsync(zip, folder + Manifest.Name, BundleJson.Write(manifest), cancellation);
    }

    private async Task<JobRecord> RecordAsync(
        RemedosContext context,
        Workshop workshop,
        Guid id,
        bool archive,
        CancellationToken cancellation
    )
    {
        Guid its = workshop.Id;
        Job job = await context
            .Jobs.AsNoTracking()
            .AsSplitQuery()
            .Include(j => j.Setups)
                .ThenInclude(setup => setup.Mounts)
            .Include(j => j.Rounds)
            .Include(j => j.Plans)
                .ThenInclude(plan => plan.Marks)
            .SingleAsync(j => j.WorkshopId == its && j.Id == id, cancellation);
        List<Run> runs = await context.Runs.AsNoTracking().Where(r => r.WorkshopId == its && r.JobId == id).ToListAsync(cancellation);
        List<Import> imports = await context
            .Imports.AsNoTracking()
            .Where(i => i.WorkshopId == its && i.JobId == id)
            .ToListAsync(cancellation);
        foreach (Import import in imports.Where(import => import.State == Import.Reading))
        {
            (import.State, import.BytesRead) = (Import.Queued, 0);
        }

        Guid[] logIds = [.. runs.Select(r => r.LogFileId), .. imports.Select(i => i.LogFileId)];
        List<LogFile> logs = await context
            .LogFiles.AsNoTracking()
            .Where(f => f.WorkshopId == its && logIds.Contains(f.Id))
            .ToListAsync(cancellation);
        JobRecord record = new(
            JobSheets.Tag(workshop, job.Number),
            job,
            [.. logs.OrderBy(one => one.StoredAt).ThenBy(one => one.Id)],
            [.. runs.OrderBy(one => one.ImportedAt).ThenBy(one => one.Id)],
            [.. imports.OrderBy(one => one.CreatedAt).ThenBy(one => one.Id)],
            [
                .. (await context.JobPhotos.AsNoTracking().Where(p => p.WorkshopId == its && p.JobId == id).ToListAsync(cancellation))
                    .OrderBy(one => one.AddedAt)
                    .ThenBy(one => one.Id),
            ],
            [
                .. (await context.Papers.AsNoTracking().Where(p => p.WorkshopId == its && p.JobId == id).ToListAsync(cancellation))
                    .OrderBy(one => one.MadeAt)
                    .ThenBy(one => one.Id),
            ],
            archive
                ?
                [
                    .. (await context.ReportLinks.AsNoTracking().Where(l => l.WorkshopId == its && l.JobId == id).ToListAsync(cancellation))
                        .OrderBy(one => one.MadeAt)
                        .ThenBy(one => one.Id),
                ]
                : [],
            archive ? [] : await ColumnsAsync(context, its, logs, cancellation),
            EventRows.Of(
                await context
                    .JobEvents.AsNoTracking()
                    .Where(e => e.WorkshopId == its && e.JobId == id)
                    .OrderBy(e => e.Id)
                    .ToListAsync(cancellation)
            ),
            []
        );
        Ordered(job);
        Guid[] named = [.. record.Named().Distinct()];
        return record with
        {
            People = PeopleOf(
                await context.People.AsNoTracking().Where(p => p.WorkshopId == its && named.Contains(p.Id)).ToListAsync(cancellation)
            ),
        };
    }

    /// <summary>In one order, whatever the database likes: the same job is the same text.</summary>
    private static void Ordered(Job job)
    {
        job.Setups.Sort((a, b) => a.Number.CompareTo(b.Number));
        job.Setups.ForEach(setup => setup.Mounts.Sort((a, b) => a.Number.CompareTo(b.Number)));
        job.Rounds.Sort((a, b) => (a.Number, a.Id).CompareTo((b.Number, b.Id)));
        job.Plans.Sort((a, b) => a.Number.CompareTo(b.Number));
        job.Plans.ForEach(plan => plan.Marks.Sort((a, b) => string.CompareOrdinal(a.StepId, b.StepId)));
    }

    public static IReadOnlyList<PersonRecord> PeopleOf(IEnumerable<Person> people) =>
        [.. people.OrderBy(person => person.Id).Select(person => new PersonRecord(person.Id, person.Name, person.From))];

    /// <summary>What was said of the columns of these logs.</summary>
    private async Task<IReadOnlyList<RememberedRoles>> ColumnsAsync(
        RemedosContext context,
        Guid workshop,
        IEnumerable<LogFile> logs,
        CancellationToken cancellation
    )
    {
        List<string> headers = [];
        foreach (string sha256 in logs.Select(log => log.Sha256).Distinct())
        {
            if (
                await files.HasAsync(sha256, cancellation)
                && (await reader.ColumnsAsync(context, workshop, sha256, cancellation))?.HeaderFingerprint is { } header
            )
            {
                headers.Add(header);
            }
        }

        return
        [
            .. (
                await context
                    .RememberedRoles.AsNoTracking()
                    .Where(r => r.WorkshopId == workshop && headers.Contains(r.Fingerprint))
                    .ToListAsync(cancellation)
            ).OrderBy(one => one.Fingerprint, StringComparer.Ordinal),
        ];
    }

    /// <summary>Where each file lies in the ZIP: under a name that says what it is.</summary>
    private static IEnumerable<(string Path, string Sha256)> Paths(JobRecord record) =>
        [
            .. record.Logs.Select((log, i) => ($"logs/{i + 1:00} {Plain(log.Name)}", log.Sha256)),
            .. record.Photos.Select(
                (photo, i) => ($"photos/{i + 1:00} {Plain(Path.GetFileNameWithoutExtension(photo.Name))}.jpg", photo.Sha256)
            ),
            .. record.Photos.Select((photo, i) => ($"photos/small/{i + 1:00}.jpg", photo.ThumbnailSha256)),
            .. record.Links.Select((link, i) => ($"links/{i + 1:00}.pdf", link.PdfSha256)),
        ];

    /// <summary>A name that every system can unpack.</summary>
    private static string Plain(string name) => string.Concat(name.Select(letter => "<>:\"|?*\\/".Contains(letter) ? '_' : letter));

    /// <summary>Copies a file; null where it is not in the store, or is not what it was.</summary>
    public async Task<FileRecord?> CopyAsync(ZipArchive zip, string folder, string path, string sha256, CancellationToken cancellation)
    {
        if (!await files.HasAsync(sha256, cancellation))
        {
            return null;
        }

        await using Stream content = await files.OpenAsync(sha256, cancellation);
        using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        long bytes = 0;
        // Pictures and documents are packed already.
        CompressionLevel level = path.StartsWith("logs/", StringComparison.Ordinal)
            ? CompressionLevel.Fastest
            : CompressionLevel.NoCompression;
        await using (Stream entry = await zip.CreateEntry(folder + path, level).OpenAsync(cancellation))
        {
            byte[] buffer = new byte[1 << 16];
            int read;
            while ((read = await content.ReadAsync(buffer, cancellation)) > 0)
            {
                hash.AppendData(buffer, 0, read);
                bytes += read;
                await entry.WriteAsync(buffer.AsMemory(0, read), cancellation);
            }
        }

        return Convert.ToHexStringLower(hash.GetHashAndReset()) == sha256 ? new FileRecord(path, sha256, bytes) : null;
    }

    private static async Task WriteAsync(ZipArchive zip, string path, byte[] content, CancellationToken cancellation)
    {
        await using Stream entry = await zip.CreateEntry(path, CompressionLevel.Fastest).OpenAsync(cancellation);
        await entry.WriteAsync(content, cancellation);
    }
}
