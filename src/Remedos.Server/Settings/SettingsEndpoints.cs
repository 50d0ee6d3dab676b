using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Data;
using Remedos.Server.Coolers;
using Remedos.Server.Runs;

namespace Remedos.Server.Settings;

/// <summary>What a workshop asks, and how it weighs coolers.</summary>
/// <param name="Weights">Null while it goes by one of the schools.</param>
public sealed record WorkshopSettings(long LabourMinorPerHour, double TaxPercent, School? Weights);

/// <summary>The workshop's own settings.</summary>
internal static class SettingsEndpoints
{
    public static void MapSettings(this RouteGroupBuilder api)
    {
        RouteGroupBuilder settings = api.MapGroup("/settings").WithTags("settings");
        settings.MapGet("/", GetAsync).WithName("getSettings");
        settings.MapPut("/", SetAsync).WithName("setSettings").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<Ok<WorkshopSettings>> GetAsync(Session.Bench bench, CancellationToken cancellation)
    {
        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        return TypedResults.Ok(new WorkshopSettings(workshop.LabourMinorPerHour, workshop.TaxPercent, workshop.Weights));
    }

    private static async Task<Results<Ok<WorkshopSettings>, ProblemHttpResult>> SetAsync(WorkshopSettings settings, Session.Bench bench, IDbContextFactory<RemedosContext> contexts, CancellationToken cancellation)
    {
        School? weights = settings.Weights is null ? null : settings.Weights with { Id = Machine.OwnSchool, Title = "Our own", Reason = "As this workshop weighs it." };
        if ((new Rates(settings.LabourMinorPerHour, settings.TaxPercent).Problem() ?? weights?.Problem()) is { } problem)
        {
            return RunChanges.Refused(problem);
        }

        (Workshop workshop, _) = await bench.WhoAsync(cancellation);
        await using RemedosContext context = await contexts.CreateDbContextAsync(cancellation);
        Workshop row = await context.Workshops.SingleAsync(w => w.Id == workshop.Id, cancellation);
        (row.LabourMinorPerHour, row.TaxPercent, row.Weights) = (settings.LabourMinorPerHour, settings.TaxPercent, weights);
        await context.SaveChangesAsync(cancellation);
        return TypedResults.Ok(settings with { Weights = weights });
    }
}
