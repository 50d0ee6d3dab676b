using System.Data;
using System.IO.Compression;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Server.Session;

namespace Remedos.Server.Bundles;

/// <summary>A ZIP that is sent while it is written, from one moment of the caller's workshop: what changes meanwhile is not seen.</summary>
internal static class ZipAnswer
{
    public static PushStreamHttpResult Of(
        HttpContext http,
        Caller caller,
        string fileName,
        Func<ZipArchive, RemedosContext, Task> write,
        CancellationToken cancellation
    )
    {
        // The framework ends each of a ZIP's files by a few bytes that it writes without waiting.
        if (http.Features.Get<IHttpBodyControlFeature>() is { } body)
        {
            body.AllowSynchronousIO = true;
        }

        return TypedResults.Stream(
            async stream =>
            {
                await http
                    .RequestServices.GetRequiredService<AccessLog>()
                    .WriteAsync(await caller.WhoAsync(cancellation), AccessKinds.Exported, fileName, cancellation);
                await using RemedosContext context = await caller.OpenAsync(cancellation);
                await using IDbContextTransaction moment = await context.Database.BeginTransactionAsync(
                    IsolationLevel.RepeatableRead,
                    cancellation
                );
                await using ZipArchive zip = await ZipArchive.CreateAsync(stream, ZipArchiveMode.Create, true, null, cancellation);
                await write(zip, context);
            },
            BundleEndpoints.Zip,
            fileName
        );
    }
}
