using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Queue;
using Remedos.Data.Runs;
using Remedos.Server.Hosting;
using Remedos.Server.Queue;
using Remedos.Server.Writing;

namespace Remedos.Server.Bundles;

/// <summary>A job that was read from a bundle and looked at.</summary>
/// <param name="Folder">Where it lies in its ZIP.</param>
/// <param name="Json">Its record as it was written.</param>
internal sealed record GivenJob(string Folder, Manifest Manifest, JobRecord Record, byte[] Json);

/// <summary>Reads jobs from a ZIP and puts them into a workshop.</summary>
internal static partial class BundleReader
{
    /// <summary>Reads a job, and sees to it that it can stand.</summary>
    /// <exception cref="BundleException">It cannot be read in.</exception>
    public static async Task<GivenJob> ReadAsync(BundleZip zip, string folder, CancellationToken cancellation)
    {
        Manifest manifest = await zip.ManifestAsync(folder, Manifest.Job, cancellation);
        byte[] json = await zip.RecordAsync(folder, manifest, cancellation);
        JobRecord record = Parsed(json, folder + manifest.Record.Path);
        return JobCheck.Problem(record, manifest) is { } problem
            ? throw new BundleException(problem)
            : new GivenJob(folder, manifest, record, json);
    }

    /// <summary>Adds people that a workshop does not know yet.</summary>
    /// <param name="from">The workshop they work in; null for the one at hand.</param>
    /// <returns>Who each is here, by the id that was given.</returns>
    public static async Task<IReadOnlyDictionary<Guid, Guid>> AddPeopleAsync(Write write, IReadOnlyList<PersonRecord> people, string? from)
    {
        List<Person> known = await write
            .Context.People.Where(person => person.WorkshopId == write.WorkshopId)
            .ToListAsync(write.Cancellation);
        Guid[] ids = [.. people.Select(person => person.Id)];
        HashSet<Guid> taken =
        [
            .. await write
                .Context.People.IgnoreQueryFilters()
                .Where(person => ids.Contains(person.Id))
                .Select(person => person.Id)
                .ToListAsync(write.Cancellation),
        ];
        Dictionary<Guid, Guid> here = [];
        foreach (PersonRecord person in people)
        {
            string? works = person.From ?? from;
            Person? same = known.Find(one => one.Id == person.Id)
                ?? known.Find(one => one.Name == person.Name && one.From == works && works != null);
            if (same is null)
            {
                same = new Person
                {
                    Id = taken.Contains(person.Id) ? Guid.CreateVersion7(write.Now) : person.Id,
                    WorkshopId = write.WorkshopId,
                    Name = person.Name,
                    From = works,
                };
                write.Context.People.Add(same);
                known.Add(same);
            }

            here[person.Id] = same.Id;
        }

        return here;
    }

    /// <summary>Puts a job in.</summary>
    /// <param name="write">The change in hand.</param>
    /// <param name="given">What was looked at.</param>
    /// <param name="number">Its number here; null to keep its own.</param>
    /// <param name="from">The workshop that it comes from; null where it is this one's own, out of an archive.</param>
    /// <param name="people">Who each of its people is here.</param>
    /// <param name="anew">Whether its rows get new ids, since the old ones are here already.</param>
    /// <returns>The job as it stands here.</returns>
    public static async Task<Job> AddAsync(
        Write write,
        GivenJob given,
        int? number,
        string? from,
        IReadOnlyDictionary<Guid, Guid> people,
        bool anew
    )
    {
        Dictionary<Guid, Guid> ids = people.Where(pair => pair.Key != pair.Value).ToDictionary();
        if (anew)
        {
            foreach (Guid id in given.Record.Ids())
            {
                ids[id] = Guid.CreateVersion7(write.Now);
            }
        }

        JobRecord record =
            ids.Count == 0 ? given.Record : Parsed(Encoding.UTF8.GetBytes(Renamed(given.Json, ids)), given.Manifest.Record.Path);
        Job job = record.Job;
        RemedosContext context = write.Context;
        Set(context, job, nameof(Job.Number), number ?? job.Number);
        foreach (object row in Rows(record))
        {
            Set(context, row, nameof(IOfWorkshop.WorkshopId), write.WorkshopId);
            if (row is not (Job or LogFile or RememberedRoles or PlanMark))
            {
                Set(context, row, "JobId", job.Id);
            }
        }

        foreach (Paper paper in record.Papers.Where(paper => paper.From is null && from is not null))
        {
            Set(context, paper, nameof(Paper.From), from);
        }

        context.Add(job);
        context.AddRange(record.Logs);
        context.AddRange(record.Runs);
        context.AddRange(record.Imports);
        context.AddRange(record.Photos);
        context.AddRange(record.Papers);
        context.AddRange(record.Links);
        await AddColumnsAsync(write, record.Columns);
        await context.SaveChangesAsync(write.Cancellation);
        await EventRows.OfJobs.AddAsync(context, write.WorkshopId, job.Id, record.Events, write.Cancellation);
        await QueueAsync(write, record);
        return job;
    }

    /// <summary>What the database refuses of rows is the bundle's fault.</summary>
    public static async Task<T> OfBundleAsync<T>(Func<Task<T>> put)
    {
        try
        {
            return await put();
        }
        catch (DbUpdateException refused) when (refused.InnerException is PostgresException { SqlState: ['2', '2' or '3', ..] } why)
        {
            throw new BundleException(Words(why));
        }
        catch (PostgresException why) when (why.SqlState is ['2', '2' or '3', ..])
        {
            throw new BundleException(Words(why));
        }

        static string Words(PostgresException why) =>
            why.SqlState switch
            {
                PostgresErrorCodes.UniqueViolation => $"cannot be read in: two of its {Table(why)} are the same, or one is here already.",
                PostgresErrorCodes.ForeignKeyViolation =>
                    $"cannot be read in: one of its {Table(why)} points at something that is not in it.",
                _ => $"cannot be read in: a value in its {Table(why)} is out of bounds.",
            };

        static string Table(PostgresException why) => why.TableName is { Length: > 0 } table ? table.Replace('_', ' ') : "rows";
    }

    private static JobRecord Parsed(byte[] json, string path)
    {
        JobRecord record = BundleJson.Read<JobRecord>(json, path);
        using JsonDocument document = JsonDocument.Parse(json);
        return WireJson.HoldsNull(document.RootElement)
            ? throw new BundleException($"cannot be read: a list in {path} has a gap.")
            : record;
    }

    /// <summary>Every id that has another name here, wherever it stands: in rows, histories and choices.</summary>
    private static string Renamed(byte[] json, Dictionary<Guid, Guid> ids) =>
        AnyId()
            .Replace(Encoding.UTF8.GetString(json), found =>
                ids.TryGetValue(Guid.Parse(found.Value), out Guid other) ? $"{other}" : found.Value
            );

    [GeneratedRegex("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")]
    private static partial Regex AnyId();

    private static IEnumerable<object> Rows(JobRecord record) =>
        [
            record.Job,
            .. record.Job.Setups,
            .. record.Mounts(),
            .. record.Job.Rounds,
            .. record.Job.Plans,
            .. record.Job.Plans.SelectMany(plan => plan.Marks),
            .. record.Logs,
            .. record.Runs,
            .. record.Imports,
            .. record.Photos,
            .. record.Papers,
            .. record.Links,
        ];

    /// <summary>Sets what a row is born with.</summary>
    private static void Set(RemedosContext context, object row, string property, object? value) =>
        context.Entry(row).Property(property).CurrentValue = value;

    /// <summary>What was said of columns; what this workshop has said itself stands.</summary>
    private static async Task AddColumnsAsync(Write write, IReadOnlyList<RememberedRoles> columns)
    {
        foreach (RememberedRoles one in columns)
        {
            if (
                !await write.Context.RememberedRoles.AnyAsync(
                    known => known.WorkshopId == write.WorkshopId && known.Fingerprint == one.Fingerprint,
                    write.Cancellation
                )
            )
            {
                Set(write.Context, one, nameof(IOfWorkshop.WorkshopId), write.WorkshopId);
                write.Context.RememberedRoles.Add(one);
            }
        }
    }

    /// <summary>Has originals read again for what is drawn of them, and logs that were on their way go on.</summary>
    private static async Task QueueAsync(Write write, JobRecord record)
    {
        Dictionary<Guid, long> bytes = record.Logs.ToDictionary(log => log.Id, log => log.Bytes);
        IEnumerable<(string Kind, Guid Id, Guid Log)> work =
        [
            .. record.Runs.Select(run => (WorkItem.RereadRun, run.Id, run.LogFileId)),
            .. record
                .Imports.Where(import => import.State == Import.Queued)
                .Select(import => (WorkItem.ImportLog, import.Id, import.LogFileId)),
        ];
        foreach ((string kind, Guid id, Guid log) in work)
        {
            await WorkQueue.AddAsync(write.Context, write.WorkshopId, kind, id, write.Now, null, bytes[log], null, write.Cancellation);
        }
    }
}
