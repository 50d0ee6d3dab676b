using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Learning;
using Remedos.Core.Money;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Records;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Reports;

/// <summary>A quote or a bill as a page shows it.</summary>
/// <param name="Name">“Quote Q-0012”.</param>
public sealed record PaperAnswer(
    Guid Id,
    string Kind,
    string Name,
    DateTimeOffset MadeAt,
    string By,
    Statement Statement,
    string? YesBy,
    DateTimeOffset? YesAt,
    DateTimeOffset? VoidedAt,
    string? VoidedWhy,
    uint Version
);

/// <summary>A job's quotes and bills, the latest first, and what the next one would begin with.</summary>
/// <param name="Proposed">From what was chosen, else from what was done; none while neither is known.</param>
/// <param name="Rates">What labour and tax go by.</param>
/// <param name="MinutesTaken">As logged at the bench; null while nothing is.</param>
/// <param name="Seen">What this workshop has seen of coolers that it proposes, by the line that names them; for its own eyes.</param>
/// <param name="Digits">Places behind the point of the currency.</param>
public sealed record PaperList(
    IReadOnlyList<PaperAnswer> Papers,
    IReadOnlyList<StatementLine> Proposed,
    Rates Rates,
    int? MinutesTaken,
    string Currency,
    IReadOnlyDictionary<string, SeenHere> Seen,
    int Digits
);

/// <summary>A quote or bill to be made.</summary>
/// <param name="Kind">quote or bill.</param>
/// <param name="Lines">What, how many, and what one costs; the sums are made here.</param>
public sealed record NewPaper(string Kind, IReadOnlyList<NewLine> Lines);

/// <summary>A line as it was typed.</summary>
/// <param name="Unit">min for labour, whose price is an hour's; null for pieces.</param>
public sealed record NewLine(string What, double Quantity, string? Unit, long UnitMinor);

/// <summary>The owner's yes.</summary>
/// <param name="By">How it came: in-person, telephone, mail or signed; null takes it back.</param>
public sealed record OwnersYes(string? By);

/// <summary>Quotes and bills of a job: numbered, never changed once they went out, taken back with a reason.</summary>
internal static class PaperEndpoints
{
    private const int LongestWhy = 300;

    /// <summary>A used cooler's line ends so.</summary>
    private const string Used = ", used";

    private static readonly string[] Ways = ["in-person", "telephone", "mail", "signed"];

    public static void MapPapers(this RouteGroupBuilder api)
    {
        RouteGroupBuilder papers = api.MapGroup("/jobs/{id:guid}/papers").WithTags("reports");
        papers.MapGet("/", ListAsync).WithName("listPapers").ProducesProblem(StatusCodes.Status404NotFound);
        papers
            .MapPost("/", MakeAsync)
            .WithName("makePaper")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        papers.MapPut("/{paper:guid}/yes", SayYesAsync).WithName("notePaperYes").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        papers.MapDelete("/{paper:guid}", VoidAsync).WithName("voidPaper").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        papers
            .MapGet("/{paper:guid}/paper.pdf", PdfAsync)
            .WithName("getPaperPdf")
            .Produces(StatusCodes.Status200OK, contentType: ReportEndpoints.Pdf)
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    /// <summary>“Bill B-0007”, and whose where another workshop made it.</summary>
    internal static string NameOf(Paper paper) =>
        (paper.Kind == Paper.Bill ? $"Bill B-{paper.Number:0000}" : $"Quote Q-{paper.Number:0000}")
        + (paper.From is null ? "" : $" of {paper.From}");

    private static async Task<Results<Ok<PaperList>, ProblemHttpResult>> ListAsync(
        Guid id,
        Caller caller,
        CancellationToken cancellation
    ) => await PapersAsync(caller, id, cancellation) is { } list ? TypedResults.Ok(list) : JobEndpoints.NoSuchJob();

    private static async Task<PaperList?> PapersAsync(Caller caller, Guid id, CancellationToken cancellation)
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        if (await context.WholeAsync(workshop.Id, id, cancellation) is not { } job)
        {
            return null;
        }

        var papers = await context
            .Papers.AsNoTracking()
            .Where(paper => paper.WorkshopId == workshop.Id && paper.JobId == id)
            .OrderByDescending(paper => paper.MadeAt)
            .Join(context.People, paper => paper.PersonId, person => person.Id, (paper, person) => new { Paper = paper, person.Name })
            .ToListAsync(cancellation);
        Rates rates = new(workshop.LabourMinorPerHour, workshop.TaxPercent);
        List<Part> parts = await context.Parts.AsNoTracking().Where(part => part.WorkshopId == workshop.Id).ToListAsync(cancellation);
        IReadOnlyList<StatementLine> proposed = ProposedPaper.Of(job, rates, parts);
        CoolerMemory memory = await CoolerMemory.OfAsync(context, workshop.Id, parts, cancellation);
        return new PaperList(
            [
                .. papers.Select(one => new PaperAnswer(
                    one.Paper.Id,
                    one.Paper.Kind,
                    NameOf(one.Paper),
                    one.Paper.MadeAt,
                    one.Name,
                    one.Paper.Statement,
                    one.Paper.YesBy,
                    one.Paper.YesAt,
                    one.Paper.VoidedAt,
                    one.Paper.VoidedWhy,
                    one.Paper.Version
                )),
            ],
            proposed,
            rates,
            job.Repair.Minutes,
            workshop.Currency,
            proposed
                .Select(line => line.What)
                .Distinct(StringComparer.Ordinal)
                .Select(what => (What: what, Seen: memory.Of(what.EndsWith(Used, StringComparison.Ordinal) ? what[..^Used.Length] : what)))
                .Where(one => one.Seen is not null)
                .ToDictionary(one => one.What, one => one.Seen!, StringComparer.Ordinal),
            Currency.Digits(workshop.Currency)
        );
    }

    private static async Task<Results<Ok<PaperList>, ProblemHttpResult>> MakeAsync(
        Guid id,
        NewPaper paper,
        Caller caller,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        return await door.WriteAsync(
            async write =>
            {
                if (await write.JobAsync(id) is not { } job)
                {
                    return JobEndpoints.NoSuchJob();
                }

                if (paper.Kind is not (Paper.Quote or Paper.Bill))
                {
                    return Refusal.Of($"“{paper.Kind}” is neither quote nor bill.");
                }

                StatementLine[] lines =
                [
                    .. paper.Lines.Select(line => StatementLine.Of(line.What.Trim(), line.Quantity, line.Unit, line.UnitMinor)),
                ];
                if (Statement.Problem(lines) is { } problem)
                {
                    return Refusal.Of(problem);
                }

                // The workshop's row is locked, so no number is given twice and none is left out.
                Workshop workshop = await write.WorkshopAsync();
                Paper row = new()
                {
                    Id = Guid.CreateVersion7(write.Now),
                    WorkshopId = write.WorkshopId,
                    JobId = id,
                    Kind = paper.Kind,
                    Number = paper.Kind == Paper.Bill ? workshop.NextBillNumber++ : workshop.NextQuoteNumber++,
                    PersonId = write.PersonId,
                    MadeAt = write.Now,
                    Statement = Statement.Of(
                        string.IsNullOrWhiteSpace(job.Machine) ? JobSheets.Tag(workshop, job.Number) : job.Machine.Trim(),
                        BilledOf(job),
                        workshop.Currency,
                        lines,
                        workshop.TaxPercent
                    ),
                };
                write.Context.Papers.Add(row);
                write.Event(job, JobEvents.PaperMade, row.Id.ToString(), null, $"\"{NameOf(row)}\"");
                return null;
            },
            async () => (await PapersAsync(caller, id, cancellation))!,
            cancellation
        );
    }

    private static string? BilledOf(Job job) =>
        string.Join("\n", new[] { job.Owner, job.Contact }.Where(line => !string.IsNullOrWhiteSpace(line))) is { Length: > 0 } who
            ? who
            : null;

    private static Task<Results<Ok<PaperList>, ProblemHttpResult>> SayYesAsync(
        Guid id,
        Guid paper,
        OwnersYes yes,
        Caller caller,
        WriteDoor door,
        CancellationToken cancellation
    ) =>
        ChangeAsync(
            id,
            paper,
            caller,
            door,
            (write, job, row) =>
            {
                if (yes.By is not null && !Ways.Contains(yes.By))
                {
                    return Refusal.Of($"A yes comes by one of {string.Join(", ", Ways)}.");
                }

                if (row.VoidedAt is not null)
                {
                    return Refusal.Of($"{NameOf(row)} was taken back: make a new one.");
                }

                (row.YesBy, row.YesAt) = (yes.By, yes.By is null ? null : write.Now);
                write.Event(job, JobEvents.PaperYes, row.Id.ToString(), null, yes.By is null ? "null" : $"\"{yes.By}\"");
                return null;
            },
            cancellation
        );

    private static Task<Results<Ok<PaperList>, ProblemHttpResult>> VoidAsync(
        Guid id,
        Guid paper,
        string? why,
        Caller caller,
        WriteDoor door,
        CancellationToken cancellation
    ) =>
        ChangeAsync(
            id,
            paper,
            caller,
            door,
            (write, job, row) =>
            {
                string reason = why?.Trim() ?? "";
                if (reason.Length is 0 or > LongestWhy)
                {
                    return Refusal.Of($"A quote or bill is taken back for a reason of 1 to {LongestWhy} letters.");
                }

                if (row.VoidedAt is null)
                {
                    (row.VoidedAt, row.VoidedWhy) = (write.Now, reason);
                    write.Event(job, JobEvents.PaperVoided, row.Id.ToString());
                }

                return null;
            },
            cancellation
        );

    private static Task<Results<Ok<PaperList>, ProblemHttpResult>> ChangeAsync(
        Guid id,
        Guid paper,
        Caller caller,
        WriteDoor door,
        Func<Write, Job, Paper, ProblemHttpResult?> change,
        CancellationToken cancellation
    ) =>
        door.WriteAsync(
            async write =>
                await write.JobAsync(id) is { } job
                && await write.Context.Papers.SingleOrDefaultAsync(
                    one => one.WorkshopId == write.WorkshopId && one.JobId == id && one.Id == paper,
                    write.Cancellation
                )
                    is { } row
                    ? change(write, job, row)
                    : Refusal.None("quote or bill"),
            async () => (await PapersAsync(caller, id, cancellation))!,
            cancellation
        );

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        Guid id,
        Guid paper,
        string? size,
        Caller caller,
        IFileStore files,
        CancellationToken cancellation
    )
    {
        if (ReportEndpoints.PaperOf(size) is { } odd)
        {
            return odd;
        }

        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        var found = await context
            .Papers.AsNoTracking()
            .Where(one => one.WorkshopId == workshop.Id && one.JobId == id && one.Id == paper)
            .Join(context.Jobs, one => one.JobId, job => job.Id, (one, job) => new { Paper = one, job.Number })
            .SingleOrDefaultAsync(cancellation);
        return found is null
            ? Refusal.None("quote or bill")
            : TypedResults.File(
                PaperPdf.Of(
                    found.Paper,
                    JobSheets.Tag(workshop, found.Number),
                    workshop,
                    await Letterhead.OfAsync(workshop, files, cancellation),
                    size ?? workshop.PaperSize
                ),
                ReportEndpoints.Pdf,
                $"{NameOf(found.Paper)}.pdf"
            );
    }
}
