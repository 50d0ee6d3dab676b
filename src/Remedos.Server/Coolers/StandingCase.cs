using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Repair;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Diagnosis;
using Remedos.Server.Jobs;
using Remedos.Server.Practice;
using Remedos.Server.Records;
using Remedos.Server.Session;

namespace Remedos.Server.Coolers;

/// <summary>A machine held against the workshop's coolers.</summary>
/// <param name="Cooler">The one that is on it; null where it is not among the parts.</param>
/// <param name="Own">The workshop's own weights, where the list goes by them.</param>
/// <param name="Steps">What steps, and so minutes, hang on.</param>
/// <param name="HoldsW">By its own run; null without one that tells.</param>
internal sealed record Matched(
    Build Build,
    CoolerPart? Cooler,
    School? Own,
    MatchAnswer Match,
    Rates Rates,
    RepairFacts Steps,
    double? HoldsW,
    Decision Decision
);

/// <summary>What is known of the machine as it stands there now.</summary>
/// <param name="Seen">The run that it leans on; null without runs.</param>
/// <param name="Diagnosis">Null while nothing was observed.</param>
/// <param name="CoolerKind">Of the cooler that is on it.</param>
internal sealed record StandingCase(
    SeenRun? Seen,
    DiagnosisAnswer? Diagnosis,
    SeriesRecord? Series,
    string? CoolerKind,
    Warranty Warranty,
    DateOnly Today
)
{
    public static async Task<StandingCase> OfAsync(
        RemedosContext context,
        IMemoryCache remembered,
        JobCases cases,
        Who who,
        Job job,
        DateTimeOffset now,
        CancellationToken cancellation
    )
    {
        Guid workshop = who.Workshop.Id;
        List<Run> runs = await context
            .Runs.AsNoTracking()
            .Where(run => run.WorkshopId == workshop && run.JobId == job.Id && run.RemovedAt == null)
            .OrderBy(run => run.ImportedAt)
            .ToListAsync(cancellation);
        SeriesRecord? series = await SeriesRecords.WithoutAsync(context, job, cancellation);
        bool proof = await context.JobPhotos.AnyAsync(
            photo => photo.WorkshopId == workshop && photo.JobId == job.Id && photo.Kind == JobPhoto.Proof && photo.RemovedAt == null,
            cancellation
        );
        References references = await References.OfAsync(context, remembered, workshop, cancellation);
        JobCase found = JobCases.Of(job, runs, references, series, who.Today(now), asItStands: true);
        return new StandingCase(
            found.Usual,
            found.Case.Evidence.Count == 0 || await PracticeTries.IsAloneAsync(context, who.Workshop, job.Id, cancellation)
                ? null
                : cases.Answer(found.Case),
            series,
            JobSetups.Now(job).CoolerKind,
            JobSheets.WarrantyOf(job, proof),
            who.Today(now)
        );
    }
}
