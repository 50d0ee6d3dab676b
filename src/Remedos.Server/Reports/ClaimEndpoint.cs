using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Reports;

/// <summary>The warranty claim of a job as a document for the maker.</summary>
internal static class ClaimEndpoint
{
    public static void MapClaims(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/claim.pdf", PdfAsync)
            .WithTags("reports")
            .WithName("getClaim")
            .Heavy()
            .Produces(StatusCodes.Status200OK, contentType: ReportEndpoints.Pdf)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        Guid id,
        string? paper,
        JobSheets sheets,
        Caller caller,
        IFileStore store,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        if (ReportEndpoints.PaperOf(paper) is { } odd)
        {
            return odd;
        }

        Who who = await caller.WhoAsync(cancellation);
        Workshop workshop = who.Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await sheets.FindAsync(id, cancellation) is not { } sheet)
        {
            return JobEndpoints.NoSuchJob();
        }

        JobPhoto? proof = await context
            .JobPhotos.AsNoTracking()
            .Where(photo => photo.WorkshopId == workshop.Id && photo.JobId == id && photo.Kind == JobPhoto.Proof && photo.RemovedAt == null)
            .OrderByDescending(photo => photo.AddedAt)
            .FirstOrDefaultAsync(cancellation);
        // A maker is told how it came: runs after a repair say nothing for a claim.
        RunAnswer[] came = [.. sheet.Runs.Where(run => run.Setup == 1)];
        RunAnswer? last = came.LastOrDefault();
        Claim claim = new(
            await Letterhead.OfAsync(workshop, store, cancellation),
            sheet.Tag,
            who.Today(clock.GetUtcNow()),
            FactsOf(sheet, workshop, proof is not null),
            sheet.Fields.Values["noticed"] as string,
            [
                .. came.Select(run =>
                    $"{WorkshopClock.At(workshop, run.ImportedAt).ToString(DayFormat, CultureInfo.InvariantCulture)}: {run.Finding} "
                    + $"{FiguresOf(run)}"
                ),
            ],
            sheet.Steps.FirstOrDefault(step => step is { Id: "diagnosis", Done: true })?.Conclusion,
            last?.Analysis.Staircase,
            last?.Conditions.TemperatureLimitC,
            last is null
                ? null
                : await OwnerReport.TraceAsync(
                    context,
                    workshop.Id,
                    "Its last run as it came",
                    last,
                    sheet.Pair.Subject == Subject.Graphics.Name(),
                    cancellation
                ),
            proof is not null && await store.HasAsync(proof.Sha256, cancellation)
                ? await BytesAsync(store, proof.Sha256, cancellation)
                : null
        );
        return TypedResults.File(ClaimPdf.Of(claim, paper ?? workshop.PaperSize), ReportEndpoints.Pdf, $"{sheet.Tag} warranty claim.pdf");
    }

    private const string DayFormat = "d MMMM yyyy";

    /// <summary>What a run stood at, for somebody who was not there.</summary>
    private static string FiguresOf(RunAnswer run) =>
        run.Analysis.Load is not { } load
            ? ""
            : string.Create(CultureInfo.InvariantCulture, $"Under load {Degrees.At(load.SustainedTemperatureC)}")
                + (load.SustainedPowerW is { } watts ? string.Create(CultureInfo.InvariantCulture, $" at {watts:0} W") : "")
                + (run.Analysis.AmbientC is { } room ? string.Create(CultureInfo.InvariantCulture, $", the room {Degrees.At(room)}") : "")
                + ".";

    /// <summary>Its term and its last day: what the maker has to know, and nothing of what is still to be done here.</summary>
    private static string? WarrantyOf(IReadOnlyDictionary<string, object?> fields) =>
        fields["warrantyMonths"] is not int months ? null
        : fields["purchasedOn"] is DateOnly bought
            ? $"{months} months, until {bought.AddMonths(months).ToString(DayFormat, CultureInfo.InvariantCulture)}"
        : $"{months} months";

    private static (string, string)[] FactsOf(JobSheet sheet, Workshop workshop, bool hasProof)
    {
        IReadOnlyDictionary<string, object?> fields = sheet.Fields.Values;
        string? Text(string field) =>
            fields[field] switch
            {
                string { Length: > 0 } text => text,
                DateOnly day => day.ToString(DayFormat, CultureInfo.InvariantCulture),
                int number => number.ToString(CultureInfo.InvariantCulture),
                double number => number.ToString("0.#", CultureInfo.InvariantCulture),
                _ => null,
            };
        (string Name, string? Value)[] all =
        [
            ("Machine", Text("machine")),
            // A tag of ours says nothing to the maker.
            ("Serial number", JobSheets.NumberOf(workshop, Text("serial")) is null ? Text("serial") : null),
            ("Cooler", Text("cooler")),
            ("Processor", Text("processor")),
            ("Bought on", Text("purchasedOn")),
            ("Warranty", WarrantyOf(fields)),
            ("Proof of purchase", hasProof ? "kept, on the next page" : "not kept"),
            ("Temperature limit", fields["temperatureLimitC"] is double limit ? Degrees.At(limit) : null),
        ];
        return [.. all.Select(fact => (fact.Name, fact.Value ?? "not noted"))];
    }

    private static async Task<byte[]> BytesAsync(IFileStore store, string sha256, CancellationToken cancellation)
    {
        await using Stream stream = await store.OpenAsync(sha256, cancellation);
        using MemoryStream whole = new();
        await stream.CopyToAsync(whole, cancellation);
        return whole.ToArray();
    }
}
