using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core;
using Remedos.Core.Matching;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Server.Jobs;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Settings;

/// <summary>What a workshop is called, asks, and how it weighs coolers.</summary>
/// <param name="Weights">Null while it goes by one of the schools.</param>
/// <param name="TimeZone">Its IANA name.</param>
/// <param name="BackupAt">A time of its day such as 12:30; null for no backup by itself.</param>
/// <param name="Logo">Changes with the picture at the head of what leaves the workshop; null for none.</param>
public sealed record WorkshopSettings(
    string Name,
    string TagPrefix,
    string Currency,
    string TimeZone,
    long LabourMinorPerHour,
    double TaxPercent,
    double? MostPriceSharePercent,
    string? Address,
    string PaperSize,
    TemperatureUnit TemperatureUnit,
    int? ForgetOwnersAfterMonths,
    int KeepBillsYears,
    int KeepAccessMonths,
    string? BackupAt,
    int BackupsKept,
    OpeningHours? Open,
    string? Logo,
    School? Weights
);

/// <summary>The workshop's own settings; each saves by itself, as a job's fields do.</summary>
internal static class SettingsEndpoints
{
    public static void MapSettings(this RouteGroupBuilder api)
    {
        RouteGroupBuilder settings = api.MapGroup("/settings").WithTags("settings");
        settings.MapGet("/", GetAsync).WithName("getSettings");
        settings.MapGet("/time-zones", () => TypedResults.Ok(SettingsFields.TimeZones)).WithName("listTimeZones");
        settings
            .MapPatch("/{field}", SaveAsync)
            .WithName("saveSetting")
            .ForLeads()
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Ok<WorkshopSettings>> GetAsync(Caller caller, CancellationToken cancellation)
    {
        Who who = await caller.WhoAsync(cancellation);
        return TypedResults.Ok(SettingsFields.Of(who.Workshop));
    }

    private static async Task<Results<Ok<WorkshopSettings>, ProblemHttpResult>> SaveAsync(
        string field,
        FieldChange change,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        if (SettingsFields.Find(field) is not { } known)
        {
            return Refusal.None("setting");
        }

        WorkshopSettings? answer = null;
        return await door.WriteAsync(
            async write =>
            {
                Workshop workshop = await write.WorkshopAsync();
                string before = known.Json(workshop);
                if (known.Set(workshop, change.Value) is { } wrong)
                {
                    return Refusal.Of(wrong, field);
                }

                string after = known.Json(workshop);
                answer = SettingsFields.Of(workshop);
                if (after == before)
                {
                    return null;
                }

                if (before != known.Canonical(change.Base ?? default))
                {
                    return TypedResults.Problem(
                        "This was changed elsewhere while you typed. Both are kept until you choose.",
                        statusCode: StatusCodes.Status409Conflict,
                        extensions:
                        [
                            new("field", field),
                            new("theirs", JsonSerializer.Deserialize<JsonElement>(before)),
                            new("mine", JsonSerializer.Deserialize<JsonElement>(after)),
                        ]
                    );
                }

                write.Event("settings", field, before, after);
                return null;
            },
            () => Task.FromResult(answer!),
            cancellation
        );
    }
}
