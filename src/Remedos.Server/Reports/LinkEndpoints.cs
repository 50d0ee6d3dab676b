using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Reports;

/// <summary>A link to the owner's page.</summary>
/// <param name="Path">What the owner opens, under this server's address; only told when it is made.</param>
public sealed record LinkAnswer(
    Guid Id,
    string? Path,
    DateTimeOffset MadeAt,
    DateTimeOffset ExpiresAt,
    DateTimeOffset? WithdrawnAt,
    int Openings,
    DateTimeOffset? LastOpenedAt
);

/// <summary>All links of a job, the latest first.</summary>
/// <param name="Address">Where this server is reached; what stands before a path.</param>
/// <param name="Elsewhere">Whether an owner's machine reaches it so.</param>
public sealed record LinkList(string Address, bool Elsewhere, IReadOnlyList<LinkAnswer> Links);

/// <summary>Links to an owner's page that need no sign-in: made, told, withdrawn.</summary>
internal static class LinkEndpoints
{
    private const int TokenBytes = 24,
        MostDays = 365,
        MostLinks = 50;

    public static void MapReportLinks(this RouteGroupBuilder api)
    {
        RouteGroupBuilder links = api.MapGroup("/jobs/{id:guid}/links").WithTags("reports");
        links.MapGet("/", ListAsync).WithName("listReportLinks").ProducesProblem(StatusCodes.Status404NotFound);
        links
            .MapPost("/", MakeAsync)
            .WithName("makeReportLink")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        links.MapDelete("/{link:guid}", WithdrawAsync).WithName("withdrawReportLink").ProducesProblem(StatusCodes.Status404NotFound);
    }

    /// <summary>What stands in the table for what stands in a link.</summary>
    public static string HashOf(string token) => SecretToken.Sha256(token);

    private static async Task<Results<Ok<LinkList>, ProblemHttpResult>> ListAsync(
        Guid id,
        Caller caller,
        PublicAddress address,
        HttpRequest request,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        await using RemedosContext context = await caller.OpenAsync(cancellation);
        return await context.Jobs.AnyAsync(job => job.WorkshopId == workshop.Id && job.Id == id, cancellation)
            ? TypedResults.Ok(await LinksAsync(context, (address, request), workshop.Id, id, null, cancellation))
            : JobEndpoints.NoSuchJob();
    }

    private static async Task<LinkList> LinksAsync(
        RemedosContext context,
        (PublicAddress Address, HttpRequest Request) from,
        Guid workshop,
        Guid job,
        (Guid Id, string Path)? made,
        CancellationToken cancellation
    )
    {
        List<ReportLink> links = await context
            .ReportLinks.AsNoTracking()
            .Where(link => link.WorkshopId == workshop && link.JobId == job)
            .OrderByDescending(link => link.MadeAt)
            .Take(MostLinks)
            .ToListAsync(cancellation);
        return new LinkList(
            from.Address.For(from.Request),
            from.Address.IsElsewhere(from.Request),
            [
                .. links.Select(link => new LinkAnswer(
                    link.Id,
                    made?.Id == link.Id ? made?.Path : null,
                    link.MadeAt,
                    link.ExpiresAt,
                    link.WithdrawnAt,
                    link.Openings,
                    link.LastOpenedAt
                )),
            ]
        );
    }

    /// <summary>Makes a link of the page as it is now.</summary>
    /// <param name="days">How long it holds.</param>
    private static async Task<Results<Ok<LinkList>, ProblemHttpResult>> MakeAsync(
        Guid id,
        int? days,
        JobSheets sheets,
        Caller caller,
        WriteDoor door,
        IFileStore store,
        PublicAddress address,
        HttpRequest request,
        TimeProvider clock,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        if (await sheets.FindAsync(id, cancellation) is not { } sheet)
        {
            return JobEndpoints.NoSuchJob();
        }

        if (days is not (>= 1 and <= MostDays))
        {
            return Refusal.Of($"A link holds 1 to {MostDays} days.");
        }

        OwnerReport report;
        await using (RemedosContext context = await caller.OpenAsync(cancellation))
        {
            report = await OwnerReport.OfAsync(sheet, context, workshop, store, clock.GetUtcNow(), cancellation);
        }

        // What was handed out stays as it was, whatever is done to the job afterwards.
        byte[] pdf = ReportPdf.Of(report, workshop.PaperSize);
        using MemoryStream content = new(pdf);
        (string sha256, _) = await store.SaveAsync(content, pdf.Length, cancellation);
        string token = WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(TokenBytes));
        Guid linkId = Guid.CreateVersion7(clock.GetUtcNow());
        return await door.WriteAsync(
            async write =>
            {
                if (await write.JobAsync(id) is not { } job)
                {
                    return JobEndpoints.NoSuchJob();
                }

                write.Context.ReportLinks.Add(
                    new ReportLink
                    {
                        Id = linkId,
                        WorkshopId = write.WorkshopId,
                        JobId = id,
                        TokenSha256 = HashOf(token),
                        PersonId = write.PersonId,
                        MadeAt = write.Now,
                        ExpiresAt = write.Now.AddDays(days.Value),
                        Headline = report.Page.Headline,
                        PdfSha256 = sha256,
                    }
                );
                write.Event(job, JobEvents.LinkMade, linkId.ToString());
                return null;
            },
            async () =>
            {
                await using RemedosContext context = await caller.OpenAsync(cancellation);
                return await LinksAsync(context, (address, request), workshop.Id, id, (linkId, $"{SharedPage.Path}/{token}"), cancellation);
            },
            cancellation
        );
    }

    private static async Task<Results<Ok<LinkList>, ProblemHttpResult>> WithdrawAsync(
        Guid id,
        Guid link,
        Caller caller,
        WriteDoor door,
        PublicAddress address,
        HttpRequest request,
        CancellationToken cancellation
    )
    {
        Workshop workshop = (await caller.WhoAsync(cancellation)).Workshop;
        return await door.WriteAsync(
            async write =>
            {
                if (
                    await write.JobAsync(id) is not { } job
                    || await write.Context.ReportLinks.SingleOrDefaultAsync(
                        one => one.WorkshopId == write.WorkshopId && one.JobId == id && one.Id == link,
                        write.Cancellation
                    )
                        is not { } row
                )
                {
                    return Refusal.None("link");
                }

                if (row.WithdrawnAt is null)
                {
                    row.WithdrawnAt = write.Now;
                    write.Event(job, JobEvents.LinkWithdrawn, link.ToString());
                }

                return null;
            },
            async () =>
            {
                await using RemedosContext context = await caller.OpenAsync(cancellation);
                return await LinksAsync(context, (address, request), workshop.Id, id, null, cancellation);
            },
            cancellation
        );
    }
}
