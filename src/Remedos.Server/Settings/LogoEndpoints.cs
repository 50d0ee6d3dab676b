using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Remedos.Data;
using Remedos.Server.Files;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Settings;

/// <summary>The picture at the head of what leaves the workshop.</summary>
internal static class LogoEndpoints
{
    private const string Path = "/settings/logo";

    public static void MapLogo(this RouteGroupBuilder api)
    {
        api.MapGet(Path, ShowAsync).WithTags("settings").WithName("getLogo").ExcludeFromDescription();
        api.MapPost(Path, SetAsync)
            .WithTags("settings")
            .WithName("setLogo")
            .WithMetadata(new RequestSizeLimitAttribute(Pictures.LargestBytes))
            .ForLeads()
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapDelete(Path, RemoveAsync).WithTags("settings").WithName("removeLogo").ForLeads();
    }

    private static async Task<Results<FileStreamHttpResult, ProblemHttpResult>> ShowAsync(
        Caller caller,
        IFileStore files,
        CancellationToken cancellation
    ) =>
        (await caller.WhoAsync(cancellation)).Workshop.LogoSha256 is { } sha256
            ? TypedResults.File(await files.OpenAsync(sha256, cancellation), "image/jpeg")
            : Refusal.None("picture");

    private static async Task<Results<Ok<WorkshopSettings>, ProblemHttpResult>> SetAsync(
        HttpRequest request,
        Pictures pictures,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        using MemoryStream content = new();
        await request.Body.CopyToAsync(content, cancellation);
        (KeptPicture? kept, string? problem) = await pictures.KeepAsync(content.ToArray(), cancellation);
        return kept is null ? Refusal.Of($"The file {problem}") : await PutAsync(door, kept.Sha256, cancellation);
    }

    private static Task<Results<Ok<WorkshopSettings>, ProblemHttpResult>> RemoveAsync(WriteDoor door, CancellationToken cancellation) =>
        PutAsync(door, null, cancellation);

    private static async Task<Results<Ok<WorkshopSettings>, ProblemHttpResult>> PutAsync(
        WriteDoor door,
        string? sha256,
        CancellationToken cancellation
    )
    {
        WorkshopSettings? answer = null;
        return await door.WriteAsync(
            async write =>
            {
                Workshop workshop = await write.WorkshopAsync();
                if (workshop.LogoSha256 != sha256)
                {
                    // Which picture it was is nothing that a log could show.
                    write.Event("settings", "logo", Told(workshop.LogoSha256), Told(sha256));
                    workshop.LogoSha256 = sha256;
                }

                answer = SettingsFields.Of(workshop);
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation
        );
    }

    private static string Told(string? sha256) => sha256 is null ? "null" : "\"a picture\"";
}
