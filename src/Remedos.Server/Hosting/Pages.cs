using System.Reflection;

namespace Remedos.Server.Hosting;

/// <summary>The web app's files: hashed assets are kept for a year, the page itself is asked for anew.</summary>
internal static class Pages
{
    /// <summary>True while the build asks for the API's description; there is no database then.</summary>
    public static bool IsGeneratingDocuments => Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";

    public static StaticFileOptions StaticFiles =>
        new()
        {
            OnPrepareResponse = context =>
                context.Context.Response.Headers.CacheControl = context.Context.Request.Path.StartsWithSegments("/assets")
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        };

    public static void Map(WebApplication app)
    {
        app.Map("/api/{**rest}", () =>
                TypedResults.Problem("There is no such page of the interface.", statusCode: StatusCodes.Status404NotFound)
            )
            .ExcludeFromDescription();
        app.MapFallbackToFile("index.html", StaticFiles);
    }
}
