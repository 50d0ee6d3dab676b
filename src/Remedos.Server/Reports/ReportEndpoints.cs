using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Data;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Reports;

/// <summary>The owner's page as a file to print or send.</summary>
internal static class ReportEndpoints
{
    public const string Pdf = "application/pdf";

    public static void MapReports(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{id:guid}/report.pdf", PdfAsync)
            .WithTags("reports")
            .WithName("getReport")
            .Heavy()
            .Produces(StatusCodes.Status200OK, contentType: Pdf)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        Guid id,
        string? paper,
        JobSheets sheets,
        Caller caller,
        IFileStore files,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        if (PaperOf(paper) is { } odd)
        {
            return odd;
        }

        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await sheets.FindAsync(id, cancellation) is not { } sheet)
        {
            return JobEndpoints.NoSuchJob();
        }

        OwnerReport report = await OwnerReport.OfAsync(sheet, context, workshop, files, clock.GetUtcNow(), cancellation);
        return TypedResults.File(ReportPdf.Of(report, paper ?? workshop.PaperSize), Pdf, $"{report.Tag} report.pdf");
    }

    /// <summary>What speaks against a kind of paper; null where nothing does, or none was told.</summary>
    internal static ProblemHttpResult? PaperOf(string? paper) =>
        paper is null || PdfSheet.Papers.Contains(paper)
            ? null
            : Refusal.Of($"paper: “{paper}” is none of {string.Join(", ", PdfSheet.Papers)}.");
}
