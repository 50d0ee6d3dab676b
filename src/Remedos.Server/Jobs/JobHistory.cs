using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>A change of a job as the history shows it.</summary>
/// <param name="Words">What was changed, in the middle of a sentence.</param>
/// <param name="Before">The value before, as a text; null where there is none to show.</param>
/// <param name="After">The value after.</param>
/// <param name="Mine">Whether the caller made it.</param>
/// <param name="CanTurn">Whether it can be taken back, or put back.</param>
/// <param name="Undone">Whether it is taken back at present.</param>
public sealed record HistoryEntry(
    long EventId,
    string Kind,
    string Words,
    string? Before,
    string? After,
    string Person,
    bool Mine,
    DateTimeOffset At,
    bool CanTurn,
    bool Undone
);

/// <summary>What has happened to a job, the latest first.</summary>
/// <param name="Before">Ask for what was before this event; null at the end.</param>
public sealed record HistoryPage(IReadOnlyList<HistoryEntry> Entries, long? Before);

/// <summary>A change of a job that stands.</summary>
internal sealed record StandingChange(long Id, string Kind, string? Subject, DateTimeOffset At, Guid PersonId, string Person);

internal static class JobHistory
{
    private const int Page = 50,
        LongestValue = 120;

    private static readonly Dictionary<string, string> KindWords = new(StringComparer.Ordinal)
    {
        [JobEvents.Created] = "the job was opened",
        [JobEvents.ReadIn] = "the job was read in from a bundle",
        [JobEvents.RunAdded] = "a run was added",
        [JobEvents.RunRemoved] = "a run was taken off",
        [JobEvents.RunRestored] = "a run was brought back",
        [JobEvents.Conditions] = "conditions of a run",
        [JobEvents.LoadEdges] = "where the load begins and ends",
        [JobEvents.Marks] = "marks of a run",
        [JobEvents.RunLeftOut] = "whether a run counts for the records",
        [JobEvents.Role] = "what a column is",
        [JobEvents.ImportRole] = "what a column is",
        [JobEvents.PhotoAdded] = "a picture was added",
        [JobEvents.PhotoRemoved] = "a picture was taken off",
        [JobEvents.PhotoRestored] = "a picture was brought back",
        [JobEvents.SetupAdded] = "a setup was made",
        [JobEvents.MountAdded] = "the cooler was put on again",
        [JobEvents.RunMoved] = "what a run was measured on",
        [JobEvents.RoundOpened] = "the next round was opened",
        [JobEvents.PhotoKind] = "what a picture shows",
        [JobEvents.PlanBegun] = "the repair was begun",
        [JobEvents.PlanLaidAside] = "the plan was laid aside",
        [JobEvents.LinkMade] = "a link to the owner’s page was made",
        [JobEvents.LinkWithdrawn] = "a link to the owner’s page was withdrawn",
        [JobEvents.PaperMade] = "a quote or bill was made",
        [JobEvents.PaperYes] = "the owner said yes",
        [JobEvents.Erased] = "something of the owner, erased since",
        [JobEvents.PaperVoided] = "a quote or bill was taken back",
    };

    /// <summary>A change in words.</summary>
    public static string Words(string kind, string? subject) =>
        kind == JobEvents.Field ? JobFields.Find(subject ?? "")?.Row.Words ?? "a field" : KindWords.GetValueOrDefault(kind, "a change");

    /// <summary>
    /// The number of a job's last change; 0 for none. Asked before what is answered with it: that is then never older than its number.
    /// </summary>
    public static async Task<long> LastAsync(RemedosContext context, Guid workshop, Guid job, CancellationToken cancellation) =>
        await context.JobEvents.Where(e => e.WorkshopId == workshop && e.JobId == job).MaxAsync(e => (long?)e.Id, cancellation) ?? 0;

    /// <summary>The same, with the last change that undo takes back; null for none.</summary>
    public static async Task<(long Number, StandingChange? Change)> StandAsync(
        RemedosContext context,
        Guid workshop,
        Guid job,
        CancellationToken cancellation
    )
    {
        long? number = null;
        long below = long.MaxValue;
        while (true)
        {
            // A page at a time: whether a change stands is asked of each by itself, and one of the last nearly always does.
            IQueryable<JobEvent> page = Undoable(context, workshop, job)
                .Where(e => e.Id < below)
                .OrderByDescending(e => e.Id)
                .Take(StandPage);
            var stand = await context
                .Jobs.Where(one => one.WorkshopId == workshop && one.Id == job)
                .Select(one => new
                {
                    Number = context.JobEvents.Where(e => e.WorkshopId == workshop && e.JobId == job).Max(e => (long?)e.Id),
                    Change = page.Where(e =>
                            context.JobEvents.Count(other => other.WorkshopId == workshop && other.JobId == job && other.Undoes == e.Id) % 2
                            == 0
                        )
                        .OrderByDescending(e => e.Id)
                        .Take(1)
                        .Join(
                            context.People.Where(person => person.WorkshopId == workshop),
                            e => e.PersonId,
                            person => person.Id,
                            (e, person) => new StandingChange(e.Id, e.Kind, e.Subject, e.At, person.Id, person.Name)
                        )
                        .FirstOrDefault(),
                })
                .SingleOrDefaultAsync(cancellation);
            number ??= stand?.Number ?? 0;
            if (stand is null || stand.Change is not null)
            {
                return (number.Value, stand?.Change);
            }

            long[] passed = await page.Select(e => e.Id).ToArrayAsync(cancellation);
            if (passed.Length < StandPage)
            {
                return (number.Value, null);
            }

            below = passed.Min();
        }
    }

    /// <summary>How many of the last changes are looked at together for one that stands.</summary>
    internal const int StandPage = 16;

    /// <summary>Changes of their own that undo could take back, taken back or not.</summary>
    private static IQueryable<JobEvent> Undoable(RemedosContext context, Guid workshop, Guid job) =>
        context
            .JobEvents.AsNoTracking()
            .Where(e => e.WorkshopId == workshop && e.JobId == job && e.Undoes == null && JobEvents.Undoable.Contains(e.Kind));

    public static async Task<Results<Ok<HistoryPage>, ProblemHttpResult>> HandleAsync(
        Guid id,
        long? before,
        Caller caller,
        CancellationToken cancellation
    )
    {
        Who who = await caller.WhoAsync(cancellation);
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        Guid workshop = who.Workshop.Id;
        if (!await context.Jobs.AnyAsync(job => job.WorkshopId == workshop && job.Id == id, cancellation))
        {
            return JobEndpoints.NoSuchJob();
        }

        long from = before ?? long.MaxValue;
        var found = await context
            .JobEvents.AsNoTracking()
            .Where(e => e.WorkshopId == workshop && e.JobId == id && e.Undoes == null && e.Id < from)
            .OrderByDescending(e => e.Id)
            .Take(Page)
            .Join(context.People, e => e.PersonId, p => p.Id, (e, p) => new { Event = e, p.Name })
            .Select(pair => new
            {
                pair.Event,
                pair.Name,
                Turned = context.JobEvents.Count(other =>
                    other.WorkshopId == workshop && other.JobId == id && other.Undoes == pair.Event.Id
                ),
            })
            .OrderByDescending(one => one.Event.Id)
            .ToListAsync(cancellation);
        return TypedResults.Ok(
            new HistoryPage(
                [
                    .. found.Select(one => new HistoryEntry(
                        one.Event.Id,
                        one.Event.Kind,
                        Words(one.Event.Kind, one.Event.Subject),
                        Shown(one.Event, one.Event.Before),
                        Shown(one.Event, one.Event.After),
                        one.Name,
                        one.Event.PersonId == who.Person.Id,
                        one.Event.At,
                        JobEvents.Undoable.Contains(one.Event.Kind),
                        one.Turned % 2 == 1
                    )),
                ],
                found.Count == Page ? found[^1].Event.Id : null
            )
        );
    }

    /// <summary>A field's value as a text; what is no plain value has none.</summary>
    internal static string? Shown(JobEvent change, string? json)
    {
        if (change.Kind is not (JobEvents.Field or JobEvents.ReadIn) || json is null)
        {
            return null;
        }

        JobFieldRow? row = JobFields.Find(change.Subject ?? "")?.Row;
        if (row?.Kind == JobFieldRow.Person)
        {
            return null;
        }

        JsonElement value = JsonSerializer.Deserialize<JsonElement>(json);
        string? text = value.ValueKind switch
        {
            JsonValueKind.String => value.GetString(),
            JsonValueKind.Number => value.GetRawText(),
            JsonValueKind.Null => "nothing",
            JsonValueKind.Array when value.GetArrayLength() == 0 => "nothing",
            JsonValueKind.Array => string.Join(", ", value.EnumerateArray().Select(one => one.ToString())),
            _ => null,
        };
        string? chosen = Array.Find(row?.Choices ?? [], choice => choice[0] == text)?[1];
        if (value.ValueKind == JsonValueKind.Number)
        {
            text =
                row?.Kind == JobFieldRow.Temperature ? Degrees.At(value.GetDouble(), "0.#")
                : row?.Unit is { } unit ? $"{text} {unit}"
                : text;
        }

        text = chosen ?? text;
        return text is { Length: > LongestValue } ? text[..LongestValue] + "…" : text;
    }
}
