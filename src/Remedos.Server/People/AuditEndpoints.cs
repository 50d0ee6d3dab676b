using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.People;

/// <summary>One thing that somebody did, or that happened.</summary>
/// <param name="Of">access, workshop, jobs or parts.</param>
/// <param name="Person">Null where nobody is known.</param>
/// <param name="What">In words.</param>
/// <param name="Subject">What it was about: a tag, a part, a setting, a bay.</param>
/// <param name="JobId">The job, where it is one.</param>
/// <param name="Address">Where it came from, of who came and went.</param>
public sealed record AuditEntry(
    DateTimeOffset At,
    string Of,
    string? Person,
    string What,
    string? Subject,
    Guid? JobId,
    string? Before,
    string? After,
    string? Address
);

/// <summary>The latest first.</summary>
/// <param name="Before">Ask for what was before this moment; null at the end.</param>
public sealed record AuditPage(IReadOnlyList<AuditEntry> Entries, DateTimeOffset? Before);

/// <summary>Who did what, in all of the workshop; a lead reads it.</summary>
internal static class AuditEndpoints
{
    private const int Page = 60,
        MostOfAFile = 20_000;

    private const string Access = "access",
        OfWorkshop = "workshop",
        OfJobs = "jobs",
        OfParts = "parts";

    public static void MapAudit(this RouteGroupBuilder api)
    {
        RouteGroupBuilder audit = api.MapGroup("/audit").WithTags("people").ForLeads();
        audit.MapGet("/", PageAsync).WithName("getAudit");
        audit.MapGet("/audit.csv", CsvAsync).WithName("getAuditCsv").Produces(200, contentType: CsvTable.MediaType);
    }

    private static async Task<Ok<AuditPage>> PageAsync(
        string? of,
        Guid? person,
        DateTimeOffset? before,
        Caller caller,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        (List<AuditEntry> entries, bool more) = await EntriesAsync(context, who.Workshop, of, person, before, Page, cancellation);
        return TypedResults.Ok(new AuditPage(entries, more ? entries[^1].At : null));
    }

    private static async Task<FileContentHttpResult> CsvAsync(
        string? of,
        Guid? person,
        Caller caller,
        AccessLog log,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        (List<AuditEntry> entries, _) = await EntriesAsync(context, who.Workshop, of, person, null, MostOfAFile, cancellation);
        await log.WriteAsync(who, AccessKinds.Exported, "the log", cancellation);
        CsvColumn<AuditEntry>[] columns =
        [
            new("at", "UTC", one => one.At),
            new("of", "", one => one.Of),
            new("person", "", one => one.Person),
            new("what", "", one => one.What),
            new("subject", "", one => one.Subject),
            new("before", "", one => one.Before),
            new("after", "", one => one.After),
            new("address", "", one => one.Address),
        ];
        return CsvTable.Of(columns, entries, "log.csv");
    }

    /// <summary>The latest so many before a moment, and whatever happened in the same moment as the last of them.</summary>
    private static async Task<(List<AuditEntry> Entries, bool More)> EntriesAsync(
        RemedosContext context,
        Workshop workshop,
        string? of,
        Guid? person,
        DateTimeOffset? before,
        int most,
        CancellationToken cancellation
    )
    {
        Guid id = workshop.Id;
        DateTimeOffset end = before ?? DateTimeOffset.MaxValue;
        bool Wants(string kind) => of is null || of == kind;
        IQueryable<AccessEvent> access = context.AccessEvents.Where(e =>
            e.WorkshopId == id && e.At < end && (person == null || e.PersonId == person)
        );
        IQueryable<WorkshopEvent> settings = context.WorkshopEvents.Where(e =>
            e.WorkshopId == id && e.At < end && (person == null || e.PersonId == person)
        );
        IQueryable<Data.Jobs.JobEvent> jobs = context.JobEvents.Where(e =>
            e.WorkshopId == id && e.At < end && (person == null || e.PersonId == person)
        );
        IQueryable<Data.Parts.PartEvent> parts = context.PartEvents.Where(e =>
            e.WorkshopId == id && e.At < end && (person == null || e.PersonId == person)
        );

        // First where the page ends, then all that is on it: many events of one change share a moment, and none is cut off.
        List<DateTimeOffset> moments = [];
        async Task AddAsync(string kind, IQueryable<DateTimeOffset> all)
        {
            if (Wants(kind))
            {
                moments.AddRange(await all.OrderByDescending(at => at).Take(most + 1).ToListAsync(cancellation));
            }
        }

        await AddAsync(Access, access.Select(e => e.At));
        await AddAsync(OfWorkshop, settings.Select(e => e.At));
        await AddAsync(OfJobs, jobs.Select(e => e.At));
        await AddAsync(OfParts, parts.Select(e => e.At));
        moments = [.. moments.OrderDescending()];
        if (moments.Count == 0)
        {
            return ([], false);
        }

        DateTimeOffset begin = moments[Math.Min(most, moments.Count) - 1];
        Dictionary<Guid, string> names = await context
            .People.Where(one => one.WorkshopId == id)
            .ToDictionaryAsync(one => one.Id, one => one.Name, cancellation);
        string? Name(Guid? who) => who is { } known ? names.GetValueOrDefault(known) : null;
        List<AuditEntry> entries = [];
        if (Wants(Access))
        {
            entries.AddRange(
                (await access.Where(e => e.At >= begin).OrderByDescending(e => e.Id).ToListAsync(cancellation)).Select(e => new AuditEntry(
                    e.At,
                    Access,
                    Name(e.PersonId),
                    AuditWords.OfAccess(e.Kind),
                    e.Subject,
                    null,
                    null,
                    null,
                    e.Address
                ))
            );
        }

        if (Wants(OfWorkshop))
        {
            entries.AddRange(
                (await settings.Where(e => e.At >= begin).OrderByDescending(e => e.Id).ToListAsync(cancellation)).Select(
                    e => new AuditEntry(
                        e.At,
                        OfWorkshop,
                        Name(e.PersonId),
                        AuditWords.OfWorkshop(e.Kind),
                        e.Subject,
                        null,
                        AuditWords.Shown(e.Before),
                        AuditWords.Shown(e.After),
                        null
                    )
                )
            );
        }

        if (Wants(OfJobs))
        {
            entries.AddRange(
                (
                    await jobs.Where(e => e.At >= begin)
                        .OrderByDescending(e => e.Id)
                        .Join(context.Jobs, e => e.JobId, job => job.Id, (e, job) => new { Event = e, job.Number })
                        .ToListAsync(cancellation)
                ).Select(one => new AuditEntry(
                    one.Event.At,
                    OfJobs,
                    Name(one.Event.PersonId),
                    one.Event.Undoes is null
                        ? JobHistory.Words(one.Event.Kind, one.Event.Subject)
                        : $"taken back or put back: {JobHistory.Words(one.Event.Kind, one.Event.Subject)}",
                    JobSheets.Tag(workshop, one.Number),
                    one.Event.JobId,
                    JobHistory.Shown(one.Event, one.Event.Before),
                    JobHistory.Shown(one.Event, one.Event.After),
                    null
                ))
            );
        }

        if (Wants(OfParts))
        {
            entries.AddRange(
                (
                    await parts
                        .Where(e => e.At >= begin)
                        .OrderByDescending(e => e.Id)
                        .Join(context.Parts, e => e.PartId, part => part.Id, (e, part) => new { Event = e, part.Name })
                        .ToListAsync(cancellation)
                ).Select(one => new AuditEntry(
                    one.Event.At,
                    OfParts,
                    Name(one.Event.PersonId),
                    AuditWords.OfPart(one.Event.Kind),
                    one.Name,
                    null,
                    null,
                    null,
                    null
                ))
            );
        }

        return ([.. entries.OrderByDescending(one => one.At)], moments.Count > most);
    }
}

/// <summary>Kinds of events in words.</summary>
internal static class AuditWords
{
    private const int LongestValue = 120;

    public static string OfAccess(string kind) =>
        kind switch
        {
            AccessKinds.SignedIn => "signed in",
            AccessKinds.SignInRefused => "was refused at the sign-in",
            AccessKinds.SignedOut => "signed out",
            AccessKinds.TookOver => "took over by PIN",
            AccessKinds.PinRefused => "a PIN was refused",
            AccessKinds.SignInEnded => "ended a sign-in",
            AccessKinds.WayInChanged => "changed a way in",
            AccessKinds.TokenRefused => "a bay’s token was refused",
            AccessKinds.Exported => "took out",
            AccessKinds.OwnerErased => "erased the owner of",
            _ => kind,
        };

    public static string OfWorkshop(string kind) =>
        kind switch
        {
            "settings" => "a setting",
            "person" => "a person",
            "pin" => "a PIN",
            "invitation" => "a link to sign in was made",
            "code-app-dropped" => "no code is asked for any more",
            "sign-ins-ended" => "all devices were signed out",
            "bay-added" => "a bay was added",
            "bay-token" => "a bay’s token was made",
            "bay-run-started" => "a run was started in bay",
            "bay-run-stopped" => "a run was stopped in bay",
            "columns" => "what the columns of a log are",
            "archive-read" => "an archive was read in",
            _ => kind,
        };

    public static string OfPart(string kind) =>
        kind switch
        {
            "added" => "a part was added",
            "changed" => "a part was changed",
            "retired" => "a part was retired",
            "brought-back" => "a part was brought back",
            _ => "parts were read in",
        };

    /// <summary>A value as a text; what is no plain value has none.</summary>
    public static string? Shown(string? json)
    {
        if (json is null)
        {
            return null;
        }

        JsonElement value = JsonSerializer.Deserialize<JsonElement>(json);
        string? text = value.ValueKind switch
        {
            JsonValueKind.String => value.GetString(),
            JsonValueKind.Number => value.GetRawText(),
            JsonValueKind.Null => "nothing",
            _ => null,
        };
        return text is { Length: > LongestValue } ? text[..LongestValue] + "…" : text;
    }
}
