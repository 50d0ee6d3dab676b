using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Jobs;
using Remedos.Core.Money;
using Remedos.Core.Runs;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Practice;
using Remedos.Server.Records;
using Remedos.Server.Repair;
using Remedos.Server.Reports;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>Puts a job's rows together and lets the rules of Core speak about them.</summary>
public sealed class JobSheets(Caller caller, JobCases cases, IMemoryCache remembered, PairView view, TimeProvider clock)
{
    /// <summary>A failed import stays on the sheet until it is dismissed or this old.</summary>
    private static readonly TimeSpan FailedImportStays = TimeSpan.FromDays(7);

    public async Task<JobSheet?> FindAsync(Guid id, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        // First: what is written meanwhile may be read under an older number, never missed under its own.
        (long lastEvent, StandingChange? last) = await JobHistory.StandAsync(context, workshop.Id, id, cancellation);
        Job? job = await context.WholeAsync(workshop.Id, id, cancellation);
        if (job is null)
        {
            return null;
        }

        DateTimeOffset now = clock.GetUtcNow(),
            oldest = now - FailedImportStays;
        var runs = await context
            .Runs.AsNoTracking()
            .Where(r => r.WorkshopId == workshop.Id && r.JobId == id && r.RemovedAt == null)
            .Join(
                context.LogFiles.Where(f => f.WorkshopId == workshop.Id),
                r => r.LogFileId,
                f => f.Id,
                (run, file) => new { Run = run, File = file }
            )
            .OrderBy(pair => pair.Run.ImportedAt)
            .ToListAsync(cancellation);
        List<ImportAnswer> imports = await context
            .Imports.AsNoTracking()
            .Where(i =>
                i.WorkshopId == workshop.Id
                && i.JobId == id
                && (i.State == Import.Queued || i.State == Import.Reading || (i.State == Import.Failed && i.CreatedAt > oldest))
            )
            .Join(context.LogFiles.Where(f => f.WorkshopId == workshop.Id), i => i.LogFileId, f => f.Id, (i, f) => new { i, f })
            .OrderBy(pair => pair.i.CreatedAt)
            .Select(pair => new ImportAnswer(
                pair.i.Id,
                pair.i.MountId,
                pair.f.Name,
                pair.i.State,
                pair.i.BytesRead,
                pair.f.Bytes,
                pair.i.Problem,
                ImportAnswer.CodesOfColumns.Contains(pair.i.ProblemCode)
            ))
            .ToListAsync(cancellation);
        string[] hashes = [.. runs.Select(pair => pair.File.Sha256).Distinct()];
        ILookup<string, int> elsewhere = (
            await context
                .Runs.AsNoTracking()
                .Where(r => r.WorkshopId == workshop.Id && r.JobId != id && r.RemovedAt == null)
                .Join(
                    context.LogFiles.Where(f => f.WorkshopId == workshop.Id && hashes.Contains(f.Sha256)),
                    r => r.LogFileId,
                    f => f.Id,
                    (r, f) => new { r.JobId, f.Sha256 }
                )
                .Join(
                    context.Jobs.Where(j => j.WorkshopId == workshop.Id),
                    pair => pair.JobId,
                    j => j.Id,
                    (pair, j) => new { pair.Sha256, j.Number }
                )
                .Distinct()
                .ToListAsync(cancellation)
        ).ToLookup(pair => pair.Sha256, pair => pair.Number);
        List<JobPhoto> photos = await context
            .JobPhotos.AsNoTracking()
            .Where(photo => photo.WorkshopId == workshop.Id && photo.JobId == id && photo.RemovedAt == null)
            .OrderBy(photo => photo.AddedAt)
            .ToListAsync(cancellation);
        Paper? bill = await context
            .Papers.AsNoTracking()
            .Where(paper => paper.WorkshopId == workshop.Id && paper.JobId == id && paper.Kind == Paper.Bill && paper.VoidedAt == null)
            .OrderByDescending(paper => paper.Number)
            .FirstOrDefaultAsync(cancellation);
        Warranty warranty = WarrantyOf(job, photos.Any(photo => photo.Kind == JobPhoto.Proof));
        SeriesRecord? series = await SeriesRecords.WithoutAsync(context, job, cancellation);
        Repeatability bench = await ScatterOfJob.OfWorkshopAsync(context, workshop.Id, id, cancellation);
        IReadOnlyList<(Run Run, ConditionedRun Seen)> seen = JobSetups.Seen(runs.Select(pair => pair.Run));
        References references = await References.OfAsync(context, remembered, workshop.Id, cancellation);
        bool alone = await PracticeTries.IsAloneAsync(context, workshop, id, cancellation);
        JobFacts facts = Facts(job, seen, references, series, warranty, workshop, now, bench, view.Choice, alone);
        JobProgress progress = JobProgress.Of(facts);
        VerdictAnswer? verdict = null;
        if (facts.Verdict is { } result)
        {
            VerdictWords.Sentence words = VerdictWords.Of(result);
            verdict = new VerdictAnswer(result, words.Lead, words.Claim, words.Rest);
        }

        return new JobSheet(
            job.Id,
            Tag(workshop, job),
            job.Version,
            job.CreatedAt,
            JobFieldValues.Of(job),
            JobFields.Observed(job),
            job.Round,
            [.. job.Rounds.OrderBy(round => round.Number).Select(RoundOf)],
            SetupAnswers.Of(job, seen, bench),
            SetupAnswers.PairOf(facts.Pair!, seen),
            [
                .. runs.Select(pair =>
                    JobSheet.RunOf(
                        job,
                        pair.Run,
                        StaircaseOf(job, pair.Run, references, facts),
                        pair.File,
                        [.. elsewhere[pair.File.Sha256].Order().Select(number => Tag(workshop, number))]
                    )
                ),
            ],
            imports,
            verdict,
            SetupAnswers.OtherLoads(facts, bench),
            SetupAnswers.SeriesOf(facts, bench),
            progress.Steps,
            progress.CurrentStep,
            progress.Headline,
            progress.Now,
            progress.WaitsFor,
            OwnerPage.Of(facts, NotesOf(job, bill)),
            last is null
                ? null
                : new LastChange(last.Id, JobHistory.Words(last.Kind, last.Subject), last.Person, last.PersonId == who.Person.Id, last.At),
            lastEvent,
            [.. photos.Select(photo => new PhotoAnswer(photo.Id, photo.Kind, photo.Name, photo.AddedAt))],
            new WarrantyAnswer(warranty.DaysLeft(facts.Today), warranty.Sentence(facts.Today)),
            await EarlierJobs.OfAsync(context, workshop, job, facts, bench, cancellation),
            JobPlans.Current(job) is { } plan ? PlanSummary.Of(plan) : null
        );
    }

    /// <summary>A run's stairs; of the setup that is diagnosed, beside what the diagnosis says.</summary>
    internal static HeatStaircase? StaircaseOf(Job job, Run run, References references, JobFacts facts) =>
        references.StaircaseOf(job, run) is not { } stairs ? null
        : facts.Diagnosis is { } stand && JobSetups.RunsOf(JobSetups.Diagnosed(job), [run]).Count > 0 ? stand.Beside(stairs)
        : stairs;

    private static string Tag(Workshop workshop, Job job) => Tag(workshop, job.Number);

    internal static string Tag(Workshop workshop, int number) => $"{workshop.TagPrefix}-{number:0000}";

    /// <summary>The number in a text that is one of this workshop's tags, “SL-0412”; null for any other.</summary>
    internal static int? NumberOf(Workshop workshop, string? text) =>
        text?.Trim() is { } tag
        && tag.StartsWith($"{workshop.TagPrefix}-", StringComparison.OrdinalIgnoreCase)
        && int.TryParse(tag.AsSpan(workshop.TagPrefix.Length + 1), NumberStyles.None, CultureInfo.InvariantCulture, out int number)
            ? number
            : null;

    /// <summary>A text for a pattern that matches nothing but itself.</summary>
    internal static string Literally(string text) => text.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_");

    public static Warranty WarrantyOf(Job job, bool hasProof) =>
        new(job.Warranty.PurchasedOn, job.Warranty.Months, hasProof, job.Warranty.EndedBy, job.Warranty.Route);

    /// <summary>The verdict that stands on a job: of the setup that leaves against the one that came. Null while there is none.</summary>
    internal static async Task<ComparisonResult?> VerdictAsync(RemedosContext context, Job job, CancellationToken cancellation)
    {
        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == job.WorkshopId && run.JobId == job.Id && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(cancellation);
        SetupPair pair = SetupPair.Of(JobSetups.Facts(job, JobSetups.Seen(runs)));
        return VerdictOf(pair, await ScatterOfJob.OfWorkshopAsync(context, job.WorkshopId, job.Id, cancellation));
    }

    private static ComparisonResult? VerdictOf(SetupPair pair, Repeatability bench) =>
        pair is { Before.Count: > 0, After.Count: > 0 } ? Comparer.Compare(pair.Before, pair.After, bench, pair.Subject) : null;

    /// <summary>What hands wrote down, for the owner to read.</summary>
    /// <param name="bill">The last one that stands; null for none.</param>
    private static OwnerNotes NotesOf(Job job, Paper? bill) =>
        new(
            job.Repair.Parts,
            job.Repair.KeptLines,
            bill is not null
                    ? $"{PaperEndpoints.NameOf(bill)}: {Currency.Words(bill.Statement.TotalMinor, bill.Statement.Currency)}, tax included."
                : job.Choice is { TotalMinor: > 0 } choice
                    ? $"{choice.Title}: {Currency.Words(choice.TotalMinor, choice.Currency)}, tax included, as you agreed."
                : null,
            [
                .. job
                    .Rounds.OrderBy(round => round.Number)
                    .Where(round => !string.IsNullOrWhiteSpace(round.Note.Done))
                    .Select(round => $"{round.Note.Done!.Trim().TrimEnd('.')}. {round.Verdict}".TrimEnd()),
            ]
        );

    private static RoundAnswer RoundOf(Round round) =>
        new(
            round.Number,
            round.Reason,
            RoundReason.Words(round.Reason),
            round.Note.Found,
            round.Note.Done,
            [.. round.Note.Causes.Select(cause => DiagnosisTables.CauseOf(cause).Title)],
            round.Verdict,
            round.ClosedAt
        );

    internal JobFacts Facts(
        Job job,
        IReadOnlyList<(Run Run, ConditionedRun Seen)> runs,
        References references,
        SeriesRecord? series,
        Warranty warranty,
        Workshop workshop,
        DateTimeOffset now,
        Repeatability bench,
        PairChoice? choice,
        bool alone = false
    )
    {
        IReadOnlyList<SetupFacts> setups = JobSetups.Facts(job, runs);
        SetupPair pair = SetupPair.Of(setups, choice);
        DateOnly today = DateOnly.FromDateTime(WorkshopClock.At(workshop, now).Date);
        JobCase known = JobCases.Of(job, runs.Select(run => run.Run), references, series, today);
        DiagnosisCase asked = known.Case;
        // Once it is handed over nobody asks any more, and a list of many such jobs is not kept waiting.
        DiagnosisStand? stand =
            alone || asked.Evidence.Count == 0 || job.HandedOverAt is not null ? null : DiagnosisStand.Of(cases.Answer(asked));
        return new JobFacts(
            job.Owner,
            job.Machine,
            job.Noticed,
            job.TemperatureLimitC,
            job.RatedPowerW,
            JobSetups.Now(job).CoolerKind,
            job.WaitingFor is { } waiting ? Kebab.Parse<WaitsFor>(waiting) : null,
            pair.Before,
            pair.After,
            job.Repair.Found,
            job.Repair.Done,
            (pair.Compared ?? setups[^1]).MountedAt,
            VerdictOf(pair, bench),
            job.HandedOverAt,
            job.RecheckOn,
            WorkshopClock.At(workshop, now)
        )
        {
            Pair = pair,
            Setups = setups,
            Round = job.Round,
            Wish = job.Wish,
            FoundCoolerKind = asked.Machine.CoolerKind,
            Observations = asked.Evidence,
            Diagnosis = stand,
            PartsToNote = known.PartsToNote,
            Warranty = warranty,
            Route = RepairFactsOf.RouteOf(job),
            CoolerToFit = job.Repair.Cooler,
            HasAirPlan = job.AirPlan is not null,
            Plan = JobPlans.Current(job)?.Progress,
            Proposed = job.HandedOverAt is null ? RepairFactsOf.Ahead(job, stand, references.Parts, warranty, today) : null,
        };
    }
}

/// <summary>Jobs with what the sheet needs of them.</summary>
internal static class JobQueries
{
    /// <summary>One of a workshop, to be read only; null where there is none.</summary>
    public static async Task<Job?> WholeAsync(this RemedosContext context, Guid workshop, Guid id, CancellationToken cancellation)
    {
        // A job has few setups and mounts: one question is faster than three.
        Job? job = await context
            .Jobs.AsNoTracking()
            .Include(one => one.Setups)
                .ThenInclude(setup => setup.Mounts)
            .SingleOrDefaultAsync(one => one.Id == id && one.WorkshopId == workshop, cancellation);
        if (job is not null)
        {
            job.Rounds.AddRange(
                await context
                    .Rounds.AsNoTracking()
                    .Where(round => round.WorkshopId == workshop && round.JobId == id && round.RemovedAt == null)
                    .ToListAsync(cancellation)
            );
            job.Plans.AddRange(
                await context
                    .Plans.AsNoTracking()
                    .Include(plan => plan.Marks)
                    .Where(plan => plan.WorkshopId == workshop && plan.JobId == id && plan.RemovedAt == null)
                    .ToListAsync(cancellation)
            );
        }

        return job;
    }

    /// <summary>One with its setups, mounts and plans, held until the end of the transaction; null where there is none.</summary>
    public static async Task<Job?> LockedAsync(this RemedosContext context, Guid workshop, Guid id, CancellationToken cancellation)
    {
        Job? job = (await context.LockedAsync(workshop, [id], cancellation)).SingleOrDefault();
        if (job is not null)
        {
            await context
                .Plans.Include(plan => plan.Marks)
                .Where(plan => plan.WorkshopId == workshop && plan.JobId == id)
                .LoadAsync(cancellation);
        }

        return job;
    }

    /// <summary>Some with their setups and mounts, held until the end of the transaction.</summary>
    public static async Task<List<Job>> LockedAsync(this RemedosContext context, Guid workshop, Guid[] ids, CancellationToken cancellation)
    {
        // Always in one order, so that no two wait for each other.
        List<Job> jobs = await context
            .Jobs.FromSql($"SELECT *, xmin FROM jobs WHERE workshop_id = {workshop} AND id = ANY ({ids}) ORDER BY id FOR UPDATE")
            .IgnoreQueryFilters()
            .ToListAsync(cancellation);
        if (jobs.Count > 0)
        {
            await context
                .Setups.Include(setup => setup.Mounts)
                .Where(setup => setup.WorkshopId == workshop && ids.Contains(setup.JobId))
                .LoadAsync(cancellation);
        }

        return jobs;
    }

    /// <summary>With their setups, mounts, plans and rounds that are over, in queries of their own.</summary>
    public static IQueryable<Job> WithSetups(this IQueryable<Job> jobs) =>
        jobs.Include(job => job.Setups)
                .ThenInclude(setup => setup.Mounts)
            .Include(job => job.Rounds.Where(round => round.RemovedAt == null))
            .Include(job => job.Plans.Where(plan => plan.RemovedAt == null))
                .ThenInclude(plan => plan.Marks)
            .AsSplitQuery();
}
