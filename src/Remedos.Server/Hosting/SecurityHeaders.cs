namespace Remedos.Server.Hosting;

/// <summary>Headers that keep the page to itself: nothing is loaded from or sent to another host, and no other page may frame it.</summary>
internal sealed class SecurityHeaders(RequestDelegate next)
{
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; "
        + "base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public Task InvokeAsync(HttpContext context)
    {
        // Set when the answer begins, so that one that failed and was begun anew has them too.
        context.Response.OnStarting(() =>
        {
            IHeaderDictionary headers = context.Response.Headers;
            headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "same-origin";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
            if (context.Request.Path.StartsWithSegments("/api"))
            {
                headers[Build.Header] = Build.Id;
                if (headers.CacheControl.Count == 0)
                {
                    headers.CacheControl = "no-store";
                }
            }

            return Task.CompletedTask;
        });
        return next(context);
    }
}
