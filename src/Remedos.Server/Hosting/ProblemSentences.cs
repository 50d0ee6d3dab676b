using System.Net.Sockets;
using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Remedos.Server.Files;
using Remedos.Server.Runs;
using Remedos.Server.Writing;

namespace Remedos.Server.Hosting;

/// <summary>
/// Turns every failure into an RFC 9457 answer whose detail is a sentence for a technician; the stack trace goes to the log only.
/// </summary>
internal static class ProblemSentences
{
    public static IServiceCollection AddProblemSentences(this IServiceCollection services)
    {
        services.AddProblemDetails(options =>
            options.CustomizeProblemDetails = context => context.ProblemDetails.Detail ??= SentenceOf(context.ProblemDetails.Status)
        );
        services.AddExceptionHandler<Handler>();
        // Otherwise a request that cannot be read is refused without a word.
        services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
        return services;
    }

    public static void UseProblemSentences(this WebApplication app)
    {
        app.UseExceptionHandler();
        app.UseStatusCodePages();
    }

    /// <summary>Whether a failure means that the database or the file store is away.</summary>
    public static bool IsAway(Exception failure) => failure is StoreAwayException || IsDatabaseAway(failure);

    /// <summary>Whether a failure means that the database is away, in which case the same call may work soon.</summary>
    public static bool IsDatabaseAway(Exception failure) =>
        failure switch
        {
            // 55000 is a database that takes no connections for now; 53100 a full disk, which PostgreSQL survives or goes down over.
            PostgresException { SqlState: "57P01" or "57P02" or "57P03" or "53100" or "53300" or "55000" or "08006" or "08003" } => true,
            PostgresException => false,
            NpgsqlException or SocketException => true,
            DbUpdateException or InvalidOperationException or AggregateException when failure.InnerException is { } inner => IsDatabaseAway(
                inner
            ),
            _ => false,
        };

    private static string? SentenceOf(int? status) =>
        status switch
        {
            404 => "There is nothing at this address.",
            405 => "This cannot be done at this address.",
            415 => "This kind of content is not taken here.",
            _ => null,
        };

    /// <summary>What could not be read of a request, and where.</summary>
    private static string Unreadable(BadHttpRequestException bad) =>
        bad switch
        {
            { StatusCode: StatusCodes.Status415UnsupportedMediaType } => "This kind of content is not taken here; JSON is.",
            { StatusCode: StatusCodes.Status408RequestTimeout } => "The request came too slowly and was dropped. Send it again.",
            { InnerException: JsonException { Path: { Length: > 1 and < 200 } path } } =>
                $"The request could not be read: {path[1..].TrimStart('.')} is missing or is not what it should be.",
            { InnerException: JsonException } => "The request could not be read: a member is missing, or it is no JSON.",
            _ when bad.Message.Length < 200 && bad.Message.StartsWith("Failed to bind parameter", StringComparison.Ordinal) =>
                $"A part of the address could not be read: {Parameter(bad.Message)}.",
            _ when bad.Message.Length < 200 && bad.Message.StartsWith("Required parameter", StringComparison.Ordinal) =>
                $"A part of the address is missing: {Parameter(bad.Message)}.",
            _ => "The request could not be read. Reload the page and try again.",
        };

    /// <summary>The name in a message such as: Failed to bind parameter "int number" from "x".</summary>
    private static string Parameter(string message) =>
        message.Split('"') is { Length: > 1 } parts ? parts[1].Split(' ')[^1] : "a parameter";

    private sealed class Handler(IProblemDetailsService problems, ILogger<Handler> log) : IExceptionHandler
    {
        public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
        {
            if (exception is OperationCanceledException && httpContext.RequestAborted.IsCancellationRequested)
            {
                httpContext.Response.StatusCode = StatusCodes.Status499ClientClosedRequest;
                return true;
            }

            string became = httpContext.RequestServices.GetService<Outcome>()?.Words ?? "nothing was changed";
            (int status, string detail) = exception switch
            {
                BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => (
                    413,
                    "The file is larger than this server takes."
                ),
                BadHttpRequestException bad => (bad.StatusCode, Unreadable(bad)),
                OriginalMissingException => (
                    410,
                    "The original is missing: it is not in the file store any more. What was read of it stands. docs/operating.md says "
                        + "where to look."
                ),
                UnreadableOriginalException unreadable => (
                    410,
                    $"The original was read once and cannot be read any more: {unreadable.Message}"
                ),
                StoreFullException => (
                    507,
                    "There is no room for it on the server’s disk. Make room, then try again; nothing was changed."
                ),
                _ when IsDatabaseAway(exception) => (
                    503,
                    $"The database does not answer, so {became}. What you typed stays here and is tried again."
                ),
                StoreAwayException => (
                    503,
                    $"The file store does not answer, so {became}. What you sent is tried again, or send it once more."
                ),
                IOException => (507, "The file could not be kept: the disk may be full or may not be written to."),
                _ => (
                    500,
                    $"Something went wrong on the server, and {became}. The server’s log says what, under {httpContext.TraceIdentifier}."
                ),
            };
            if (status >= 500)
            {
                log.LogError(
                    IsAway(exception) ? null : exception,
                    "Request {Method} {Path} failed ({Trace}): {Why}",
                    httpContext.Request.Method,
                    httpContext.Request.Path,
                    httpContext.TraceIdentifier,
                    exception.Message
                );
            }

            httpContext.Response.StatusCode = status;
            return await problems.TryWriteAsync(
                new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = { Status = status, Detail = detail } }
            );
        }
    }
}
