using System.Text.Encodings.Web;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Files;
using Remedos.Server.Session;

namespace Remedos.Server.Reports;

/// <summary>What an owner sees who opens a link: one small page and one document, and nothing else of the workshop.</summary>
internal static class SharedPage
{
    public const string Path = "/r";

    private const string Policy = "shared";

    private const int Burst = 30,
        ASecond = 5;

    /// <summary>Whoever guesses links is slowed down.</summary>
    public static void Limit(RateLimiterOptions options) =>
        options.AddPolicy(Policy, http =>
            RateLimitPartition.GetTokenBucketLimiter(
                http.Connection.RemoteIpAddress?.ToString() ?? "",
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = Burst,
                    TokensPerPeriod = ASecond,
                    ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                    QueueLimit = 0,
                }
            )
        );

    public static void MapSharedPage(this WebApplication app)
    {
        app.MapGet(Path + "/{token}", ShowAsync).ExcludeFromDescription().RequireRateLimiting(Policy);
        app.MapGet(Path + "/{token}/report.pdf", DocumentAsync).ExcludeFromDescription().RequireRateLimiting(Policy);
    }

    private static async Task<IResult> ShowAsync(
        string token,
        IDbContextFactory<RemedosContext> contexts,
        TimeProvider clock,
        HttpContext http,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Found? found = await FindAsync(context, token, clock.GetUtcNow(), cancellation);
        Close(http);
        if (found is not { Link: var link, Workshop: var workshop })
        {
            return Page(
                "This link no longer works",
                "<h1>This link no longer works</h1><p>It has expired or was withdrawn. Ask the workshop for a new one.</p>",
                StatusCodes.Status404NotFound
            );
        }

        // Counted in one statement: two who open it at once are two.
        await context
            .ReportLinks.IgnoreQueryFilters()
            .Where(one => one.WorkshopId == link.WorkshopId && one.Id == link.Id)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(one => one.Openings, one => one.Openings + 1).SetProperty(one => one.LastOpenedAt, clock.GetUtcNow()),
                cancellation
            );
        string Safe(string text) => HtmlEncoder.Default.Encode(text);
        DateTimeOffset until = WorkshopClock.At(workshop, link.ExpiresAt),
            made = WorkshopClock.At(workshop, link.MadeAt);
        return Page(
            link.Headline,
            $"<p>{Safe(workshop.Name)}</p><h1>{Safe(link.Headline)}</h1>"
                + $"<p><a href=\"{Path}/{token}/report.pdf\">Open the report (PDF)</a></p>"
                + $"<p>As it was on {made:d MMMM yyyy}. This link is valid until {until:d MMMM yyyy}.</p>",
            StatusCodes.Status200OK
        );
    }

    private static async Task<IResult> DocumentAsync(
        string token,
        IDbContextFactory<RemedosContext> contexts,
        IFileStore store,
        TimeProvider clock,
        HttpContext http,
        CancellationToken cancellation
    )
    {
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Close(http);
        return
            await FindAsync(context, token, clock.GetUtcNow(), cancellation) is { Link: var link }
            && await store.HasAsync(link.PdfSha256, cancellation)
            ? TypedResults.File(await store.OpenAsync(link.PdfSha256, cancellation), ReportEndpoints.Pdf)
            : TypedResults.NotFound();
    }

    private sealed record Found(ReportLink Link, Workshop Workshop);

    /// <summary>The link that holds; null for one that was guessed, has run out or was withdrawn: no answer tells which.</summary>
    private static async Task<Found?> FindAsync(RemedosContext context, string token, DateTimeOffset now, CancellationToken cancellation)
    {
        string hash = LinkEndpoints.HashOf(token);
        return await context
            .ReportLinks.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(link => link.TokenSha256 == hash && link.WithdrawnAt == null && link.ExpiresAt > now)
            .Join(context.Workshops.IgnoreQueryFilters(), link => link.WorkshopId, one => one.Id, (link, one) => new Found(link, one))
            .FirstOrDefaultAsync(cancellation);
    }

    /// <summary>Nobody keeps it, nobody finds it by searching, and it tells no other page where one came from.</summary>
    private static void Close(HttpContext http)
    {
        http.Response.Headers.CacheControl = "no-store";
        http.Response.Headers["X-Robots-Tag"] = "noindex, nofollow";
    }

    private static ContentHttpResult Page(string title, string body, int status) =>
        TypedResults.Content(
            "<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\">"
                + "<link rel=\"stylesheet\" href=\"/shared.css\"><title>"
                + HtmlEncoder.Default.Encode(title)
                + "</title></head><body><main>"
                + body
                + "</main></body></html>",
            "text/html; charset=utf-8",
            System.Text.Encoding.UTF8,
            status
        );
}
