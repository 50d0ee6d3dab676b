using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Remedos.Core.Matching;
using Remedos.Core.Parts;
using Remedos.Data.Jobs;
using Remedos.Data.Parts;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Writing;

namespace Remedos.Server.Coolers;

/// <summary>What a measure of one machine became in the workshop's part.</summary>
public sealed record KeptMeasure(string Part, string Title, double Mm);

/// <summary>Lets a measure that was taken on a job's machine go into the part, so that nobody measures it twice.</summary>
internal static class KeepMeasure
{
    public static void MapKeepMeasure(this RouteGroupBuilder api) =>
        api.MapPost("/jobs/{id:guid}/measures/{field}/part", KeepAsync)
            .WithTags("coolers")
            .WithName("keepMeasure")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<Results<Ok<KeptMeasure>, ProblemHttpResult>> KeepAsync(
        Guid id,
        string field,
        WriteDoor door,
        CancellationToken cancellation
    )
    {
        KeptMeasure? kept = null;
        return await door.WriteAsync(
            async write =>
            {
                if (await write.JobAsync(id) is not { } job)
                {
                    return Refusal.None("job");
                }

                if (MeasureRow.All.FirstOrDefault(row => row.Field == field) is not { } measure)
                {
                    string known = string.Join(", ", MeasureRow.All.Select(row => row.Field));
                    return Refusal.Of($"“{field}” is no measure; known are {known}.");
                }

                if (JobFields.Find(field)!.Get(job) is not double mm)
                {
                    return Refusal.Of($"“{measure.Title}” is not measured on this job yet.");
                }

                if (NameOf(job.Parts, measure.Part) is not { } name)
                {
                    return Refusal.Of($"Which {measure.Part} it is, is not noted: note it at the intake, then its measure can be kept.");
                }

                string key = PartEndpoints.NameOf(name).ToLowerInvariant();
                if (
                    await write.Context.Parts.FirstOrDefaultAsync(
                        part =>
                            part.WorkshopId == write.WorkshopId && part.Kind == measure.Part && EF.Property<string>(part, "NameKey") == key,
                        write.Cancellation
                    )
                    is not { } row
                )
                {
                    return Refusal.Of($"“{name}” is not among the workshop’s parts: keep it there first, at the intake.");
                }

                PartValues values = Into(row.Values, row, measure, mm, out string? problem);
                if (problem is not null)
                {
                    return Refusal.Of(problem);
                }

                string before = PartEndpoints.Json(row);
                (row.Values, row.ChangedAt) = (values, write.Now);
                PartEndpoints.Append(write, row, "changed", before);
                kept = new KeptMeasure(row.Name, measure.Title, mm);
                return null;
            },
            () => Task.FromResult(kept!),
            cancellation
        );
    }

    private static PartValues Into(PartValues values, Part row, MeasureRow measure, double mm, out string? problem)
    {
        if (measure.Place is { } place)
        {
            problem =
                values.Case?.Radiators?.Any(one => one.Place == place) == true
                    ? null
                    : $"“{row.Name}” has no place for a radiator at the {place}: note with the part what it takes there.";
            return problem is not null
                ? values
                : values with
                {
                    Case = values.Case! with
                    {
                        Radiators = [.. values.Case.Radiators!.Select(one => one.Place == place ? one with { MaxThicknessMm = mm } : one)],
                    },
                };
        }

        Dictionary<string, string> cells = new(PartText.Cells(row.Kind, values), StringComparer.Ordinal)
        {
            [measure.PartField] = mm.ToString("0.###", CultureInfo.InvariantCulture),
        };
        PartValues becomes = PartText.Read(row.Kind, row.Name, cells, out IReadOnlyList<string> problems);
        problem = problems.Count > 0 ? string.Join(" ", problems) : null;
        return becomes;
    }

    private static string? NameOf(MachineParts parts, string kind) =>
        kind switch
        {
            PartKind.Case => parts.Case,
            PartKind.Board => parts.Board,
            PartKind.Memory => parts.Memory,
            PartKind.Graphics => parts.Graphics,
            _ => null,
        };
}
