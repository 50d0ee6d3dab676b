using System.Text.Json;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;

namespace Remedos.Server.Bundles;

/// <summary>Everything of a job, as `job.json` holds it.</summary>
/// <param name="Tag">As it stood on the machine.</param>
/// <param name="Job">With its setups, mounts, rounds and plans.</param>
/// <param name="Logs">Originals; the manifest says where each lies.</param>
/// <param name="Imports">Logs on their way, and those that failed.</param>
/// <param name="Links">To the owner's page; only in an archive, since they lead to the server that made them.</param>
/// <param name="Columns">What the workshop has said of the columns of these logs.</param>
/// <param name="People">Who is named in the rest.</param>
internal sealed record JobRecord(
    string Tag,
    Job Job,
    IReadOnlyList<LogFile> Logs,
    IReadOnlyList<Run> Runs,
    IReadOnlyList<Import> Imports,
    IReadOnlyList<JobPhoto> Photos,
    IReadOnlyList<Paper> Papers,
    IReadOnlyList<ReportLink> Links,
    IReadOnlyList<RememberedRoles> Columns,
    IReadOnlyList<EventRecord> Events,
    IReadOnlyList<PersonRecord> People
)
{
    /// <summary>Every row's own id, but for people.</summary>
    public IEnumerable<Guid> Ids() =>
        [
            Job.Id,
            .. Job.Setups.Select(one => one.Id),
            .. Mounts().Select(one => one.Id),
            .. Job.Rounds.Select(one => one.Id),
            .. Job.Plans.Select(one => one.Id),
            .. Logs.Select(one => one.Id),
            .. Runs.Select(one => one.Id),
            .. Imports.Select(one => one.Id),
            .. Photos.Select(one => one.Id),
            .. Papers.Select(one => one.Id),
            .. Links.Select(one => one.Id),
        ];

    public IEnumerable<Mount> Mounts() => Job.Setups.SelectMany(setup => setup.Mounts);

    /// <summary>Hashes of the files it needs.</summary>
    public IEnumerable<string> Files() =>
        [
            .. Logs.Select(log => log.Sha256),
            .. Photos.SelectMany(photo => new[] { photo.Sha256, photo.ThumbnailSha256 }),
            .. Links.Select(link => link.PdfSha256),
        ];

    /// <summary>People that it names.</summary>
    public IEnumerable<Guid> Named() =>
        [
            .. Events.Select(change => change.Person),
            .. Imports.Select(import => import.PersonId),
            .. Photos.Select(photo => photo.PersonId),
            .. Papers.Select(paper => paper.PersonId),
            .. Links.Select(link => link.PersonId),
        ];
}

/// <summary>One change, in the words of the history.</summary>
/// <param name="Number">Counted from 1 in what it is a change of.</param>
/// <param name="Undoes">The number of the change that it takes back or puts back.</param>
internal sealed record EventRecord(
    long Number,
    Guid Person,
    DateTimeOffset At,
    string Kind,
    string? Subject,
    JsonElement? Before,
    JsonElement? After,
    long? Undoes
);

/// <summary>Somebody who did something.</summary>
/// <param name="From">The workshop they work in, where it is not the one that made this.</param>
internal sealed record PersonRecord(Guid Id, string Name, string? From);
