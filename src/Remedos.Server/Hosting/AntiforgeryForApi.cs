using Microsoft.AspNetCore.Antiforgery;
using Remedos.Server.Bays;

namespace Remedos.Server.Hosting;

/// <summary>What sends here shows a token of its own that no browser adds by itself.</summary>
[AttributeUsage(AttributeTargets.Method)]
internal sealed class SenderTokenAttribute : Attribute;

/// <summary>Every request that changes something carries the token that the session handed out.</summary>
internal sealed class AntiforgeryForApi(RequestDelegate next, IAntiforgery antiforgery, ILogger<AntiforgeryForApi> log)
{
    public async Task InvokeAsync(HttpContext context)
    {
        bool changes =
            !HttpMethods.IsGet(context.Request.Method)
            && !HttpMethods.IsHead(context.Request.Method)
            && !HttpMethods.IsOptions(context.Request.Method);
        bool sender = context.GetEndpoint()?.Metadata.GetMetadata<SenderTokenAttribute>() is not null;
        if (changes && !sender && context.Request.Path.StartsWithSegments("/api") && !await antiforgery.IsRequestValidAsync(context))
        {
            log.LogWarning("{Method} {Path} came without the session's token", context.Request.Method, context.Request.Path);
            await TypedResults
                .Problem(
                    "This page is out of date: reload it, then try again. Nothing was changed.",
                    statusCode: StatusCodes.Status400BadRequest,
                    type: "stale-page"
                )
                .ExecuteAsync(context);
            return;
        }

        // A live connection is no ordinary request: a browser lets any page open one, so another page is refused by where it comes from.
        string origin = context.Request.Headers.Origin.ToString();
        if (
            context.Request.Path.StartsWithSegments(LiveHub.Path)
            && origin.Length > 0
            && origin != $"{context.Request.Scheme}://{context.Request.Host}"
        )
        {
            await TypedResults
                .Problem("Only Remedos’ own pages may follow the bays.", statusCode: StatusCodes.Status403Forbidden)
                .ExecuteAsync(context);
            return;
        }

        await next(context);
    }
}
