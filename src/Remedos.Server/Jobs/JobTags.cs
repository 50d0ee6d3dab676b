using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Jobs;
using Remedos.Core.Planning;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Records;
using Remedos.Server.Planning;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>A page of the list.</summary>
/// <param name="TagsAsync">Reads them when they are wanted.</param>
/// <param name="State">Everything that they are made from, as a text.</param>
/// <param name="Next">After which the next page begins; null where there is none.</param>
internal sealed record JobTagPage(Func<RemedosContext, Task<IReadOnlyList<JobTag>>> TagsAsync, string State, Guid? Next);

/// <summary>
/// The list of machines. What a tag says is kept: it is reckoned once for each state of its job. Where something has changed elsewhere, a
/// part, a record, the day, the tag is renewed behind the answer (<see cref="RenewTags"/>), so that no reader waits for it.
/// </summary>
internal sealed class JobTags(Caller caller, TagMaker maker, RenewTags renewal, IMemoryCache remembered, TimeProvider clock)
{
    /// <summary>Machines in the workshop that are shown at most, and those that were handed over, a page of them.</summary>
    private const int MostOpen = 300,
        Page = 60;

    /// <summary>A page that is open asks again every few seconds, and what a tag says is read out of its JSON once.</summary>
    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(1);

    /// <summary>
    /// Without <paramref name="after"/>: the machines in the workshop, by what they wait for, then those that left last. With it: the next
    /// of those that left.
    /// </summary>
    /// <param name="words">All of which are found in owner, contact, machine, serial, symptom or tag; none for no search.</param>
    /// <param name="after">The last that is known already; null for the first page.</param>
    /// <param name="cancellation">Stops it.</param>
    public async Task<JobTagPage> ListAsync(IReadOnlyList<string> words, Guid? after, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        IQueryable<Job> found = JobSearch.In(context.Jobs.AsNoTracking().Where(job => job.WorkshopId == workshop.Id), workshop, words);
        IQueryable<Job> left = found.Where(job => job.HandedOverAt != null);
        List<Listed> open = [];
        if (after is null)
        {
            open = await ListedAsync(context, found.Where(job => job.HandedOverAt == null), MostOpen, cancellation);
        }
        else
        {
            DateTimeOffset? known = await context
                .Jobs.Where(job => job.WorkshopId == workshop.Id && job.Id == after)
                .Select(job => (DateTimeOffset?)job.ChangedAt)
                .SingleOrDefaultAsync(cancellation);
            left = left.Where(job => job.ChangedAt < known || (job.ChangedAt == known && job.Id < after));
        }

        List<Listed> gone = await ListedAsync(context, left, Page, cancellation);
        TagStand stand = await TagStand.OfAsync(context, workshop, clock.GetUtcNow(), cancellation);
        List<Listed> all = [.. open, .. gone];
        Dictionary<Guid, Listed> changed = all.Where(one => one.Kept?.JobVersion != one.Version).ToDictionary(one => one.Id);
        foreach (KeptTag tag in await maker.MakeAsync(context, workshop, stand, [.. changed.Keys], cancellation))
        {
            changed[tag.JobId].Kept = Remember(tag).Stand;
        }

        renewal.Want(
            workshop.Id,
            all.Where(one => one.Kept!.Revision != stand.Revision || one.Kept.Day != stand.Day).Select(one => one.Id)
        );
        return new JobTagPage(
            reading => TagsAsync(reading, workshop, stand, open, gone, cancellation),
            string.Join(
                ' ',
                all.Select(one => $"{one.Id}:{one.Version}:{one.Kept!.Revision}:{one.Kept.Day.DayNumber}")
                    .Prepend(workshop.TagPrefix)
                    .Prepend(string.Join(' ', words))
            ),
            gone.Count == Page ? gone[^1].Id : null
        );
    }

    /// <summary>The machines in the workshop in the order in which they came, with what is left to do on each.</summary>
    public async Task<IReadOnlyList<OpenJob>> OpenAsync(RemedosContext context, Workshop workshop, CancellationToken cancellation)
    {
        List<Job> jobs = await context
            .Jobs.AsNoTracking()
            .Where(job => job.WorkshopId == workshop.Id && job.HandedOverAt == null)
            .OrderBy(job => job.Number)
            .Take(MostOpen)
            .ToListAsync(cancellation);
        Guid[] ids = [.. jobs.Select(job => job.Id)];
        TagStand stand = await TagStand.OfAsync(context, workshop, clock.GetUtcNow(), cancellation);
        var kept = await context
            .KeptTags.AsNoTracking()
            .Where(tag => tag.WorkshopId == workshop.Id && ids.Contains(tag.JobId))
            .Select(tag => new
            {
                tag.JobId,
                tag.JobVersion,
                tag.Revision,
                tag.Day,
                tag.Now,
                tag.Work,
            })
            .ToDictionaryAsync(tag => tag.JobId, cancellation);
        Dictionary<Guid, KeptTag> made = (
            await maker.MakeAsync(
                context,
                workshop,
                stand,
                [.. jobs.Where(job => kept.GetValueOrDefault(job.Id)?.JobVersion != job.Version).Select(job => job.Id)],
                cancellation
            )
        ).ToDictionary(tag => tag.JobId);
        renewal.Want(
            workshop.Id,
            ids.Where(id => !made.ContainsKey(id) && (kept[id].Revision != stand.Revision || kept[id].Day != stand.Day))
        );
        return
        [
            .. jobs.Select(job =>
            {
                (string now, string work) = made.TryGetValue(job.Id, out KeptTag? tag)
                    ? (tag.Now, tag.Work)
                    : (kept[job.Id].Now, kept[job.Id].Work);
                return new OpenJob(job, JsonSerializer.Deserialize<WorkLeft>(work, RemedosContext.Json)!, now);
            }),
        ];
    }

    /// <summary>The latest change first; what is kept of each comes along.</summary>
    private static Task<List<Listed>> ListedAsync(RemedosContext context, IQueryable<Job> jobs, int most, CancellationToken cancellation) =>
        jobs.OrderByDescending(job => job.ChangedAt)
            .ThenByDescending(job => job.Id)
            .Take(most)
            .LeftJoin(
                context.KeptTags.AsNoTracking(),
                job => new { job.WorkshopId, job.Id },
                tag => new { tag.WorkshopId, Id = tag.JobId },
                (job, tag) =>
                    new Listed
                    {
                        Id = job.Id,
                        Number = job.Number,
                        Owner = job.Owner,
                        Machine = job.Machine,
                        Noticed = job.Noticed,
                        ChangedAt = job.ChangedAt,
                        Version = job.Version,
                        Kept = tag == null ? null : new KeptStand(tag.JobVersion, tag.Revision, tag.Day),
                    }
            )
            .OrderByDescending(one => one.ChangedAt)
            .ThenByDescending(one => one.Id)
            .ToListAsync(cancellation);

    private async Task<IReadOnlyList<JobTag>> TagsAsync(
        RemedosContext context,
        Workshop workshop,
        TagStand stand,
        List<Listed> open,
        List<Listed> gone,
        CancellationToken cancellation
    )
    {
        Dictionary<Guid, ReadTag> read = [];
        foreach (Listed one in open.Concat(gone))
        {
            if (remembered.TryGetValue((typeof(ReadTag), one.Id), out ReadTag? tag) && tag!.Stand == one.Kept)
            {
                read.Add(one.Id, tag);
            }
        }

        Guid[] unread = [.. open.Concat(gone).Select(one => one.Id).Where(id => !read.ContainsKey(id))];
        if (unread.Length > 0)
        {
            List<KeptTag> kept = await context
                .KeptTags.AsNoTracking()
                .Where(tag => tag.WorkshopId == workshop.Id && unread.Contains(tag.JobId))
                .ToListAsync(cancellation);
            // Whoever changes a machine takes its tag away, also between these two questions.
            Guid[] taken = [.. unread.Except(kept.Select(tag => tag.JobId))];
            kept.AddRange(await maker.MakeAsync(context, workshop, stand, taken, cancellation));
            kept.ForEach(tag => read.Add(tag.JobId, Remember(tag)));
        }

        IEnumerable<JobTag> Of(IEnumerable<Listed> listed) => listed.Select(one => TagOf(workshop, one, read[one.Id]));
        return [.. Of(open).OrderBy(tag => tag.WaitsFor), .. Of(gone)];
    }

    private ReadTag Remember(KeptTag tag) =>
        remembered.Set(
            (typeof(ReadTag), tag.JobId),
            new ReadTag(
                KeptStand.Of(tag),
                Kebab.Parse<WaitsFor>(tag.WaitsFor)!.Value,
                JsonSerializer.Deserialize<Headline>(tag.Headline, RemedosContext.Json)!,
                tag.Now,
                tag.Staircase is { } stairs ? JsonSerializer.Deserialize<HeatStaircase>(stairs, RemedosContext.Json) : null,
                tag.TemperatureLimitC
            ),
            new MemoryCacheEntryOptions { SlidingExpiration = Remembered }
        );

    private static JobTag TagOf(Workshop workshop, Listed one, ReadTag tag) =>
        new(
            one.Id,
            JobSheets.Tag(workshop, one.Number),
            one.Owner,
            one.Machine,
            one.Noticed,
            tag.WaitsFor,
            tag.Headline,
            tag.Now,
            one.ChangedAt,
            tag.Staircase,
            tag.TemperatureLimitC
        );

    /// <summary>What a tag says, read.</summary>
    private sealed record ReadTag(
        KeptStand Stand,
        WaitsFor WaitsFor,
        Headline Headline,
        string Now,
        HeatStaircase? Staircase,
        double? TemperatureLimitC
    );

    private sealed class Listed
    {
        public Guid Id { get; init; }

        public int Number { get; init; }

        public string? Owner { get; init; }

        public string? Machine { get; init; }

        public string? Noticed { get; init; }

        public DateTimeOffset ChangedAt { get; init; }

        public uint Version { get; init; }

        public KeptStand? Kept { get; set; }
    }

    /// <summary>What the tag that is kept was made from.</summary>
    private sealed record KeptStand(uint JobVersion, long Revision, DateOnly Day)
    {
        public static KeptStand Of(KeptTag tag) => new(tag.JobVersion, tag.Revision, tag.Day);
    }
}
