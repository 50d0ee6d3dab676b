using System.Net.Sockets;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Remedos.Server.Hosting;

/// <summary>Turns every failure into an RFC 9457 answer whose detail is a sentence for a technician; the stack trace goes to the log only.</summary>
internal static class ProblemSentences
{
    public static IServiceCollection AddProblemSentences(this IServiceCollection services) =>
        services.AddProblemDetails().AddExceptionHandler<Handler>();

    public static void UseProblemSentences(this WebApplication app)
    {
        app.UseExceptionHandler();
        app.UseStatusCodePages();
    }

    /// <summary>Whether a failure means that the database is away, in which case the same call may work soon.</summary>
    public static bool IsDatabaseAway(Exception failure) => failure switch
    {
        // 55000 is a database that takes no connections for now.
        PostgresException { SqlState: "57P01" or "57P02" or "57P03" or "53300" or "55000" or "08006" or "08003" } => true,
        PostgresException => false,
        NpgsqlException or SocketException => true,
        DbUpdateException or InvalidOperationException or AggregateException when failure.InnerException is { } inner => IsDatabaseAway(inner),
        _ => false,
    };

    private sealed class Handler(IProblemDetailsService problems, ILogger<Handler> log) : IExceptionHandler
    {
        public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
        {
            if (exception is OperationCanceledException && httpContext.RequestAborted.IsCancellationRequested)
            {
                httpContext.Response.StatusCode = StatusCodes.Status499ClientClosedRequest;
                return true;
            }

            (int status, string detail) = exception switch
            {
                BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => (413, "The file is larger than this server takes."),
                BadHttpRequestException bad => (bad.StatusCode, "The request could not be read. Reload the page and try again."),
                _ when IsDatabaseAway(exception) => (503, "The database does not answer, so nothing was changed. What you typed stays here and is tried again."),
                IOException => (507, "The file could not be kept: the disk may be full or may not be written to."),
                _ => (500, "Something went wrong on the server, and nothing was changed. The server’s log says what."),
            };
            log.LogError(exception, "Request {Method} {Path} failed", httpContext.Request.Method, httpContext.Request.Path);
            httpContext.Response.StatusCode = status;
            return await problems.TryWriteAsync(new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = { Status = status, Detail = detail } });
        }
    }
}
