using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Remedos.Core.Repair;
using Remedos.Data.Jobs;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;

namespace Remedos.Server.Repair;

/// <summary>
/// The steps of a plan as fields of the job, “plan.2.unplug”: they are saved, kept while the server is away, undone and told
/// like any other.
/// </summary>
internal static partial class PlanFields
{
    private const string Kind = "step-mark";

    [GeneratedRegex(@"^plan\.([1-9]\d{0,3})\.([a-z-]+)$")]
    private static partial Regex Name();

    /// <summary>Number of the plan and the step that a field's name stands for; null for any other field.</summary>
    public static (int Number, string Step)? PartsOf(string field) =>
        Name().Match(field) is { Success: true } match
            ? (int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture), match.Groups[2].Value)
            : null;

    public static JobField? Find(string name) =>
        PartsOf(name) is not var (number, step) ? null
        : StepRow.All.FirstOrDefault(row => row.Id == step) is not { } row ? null
        : new JobField(
            new JobFieldRow(name, row.Title, $"step “{Plain(row.Title)}”", Kind),
            job => MarkOf(job, number, step),
            (job, value) => Set(JobPlans.Of(job, number)!, step, (StepMark?)value),
            (json, _) => Read(json)
        )
        {
            Exists = job => JobPlans.Of(job, number)?.Composed.Steps.Any(one => one.Id == step) == true,
            Check = (job, value) => Problem(JobPlans.Of(job, number)!, step, (StepMark?)value),
        };

    /// <summary>A step's title without what is filled in for a machine.</summary>
    private static string Plain(string title) => Braces().Replace(title, "").Trim().TrimEnd(':');

    [GeneratedRegex(@"\s*\{\w+\}")]
    private static partial Regex Braces();

    private static StepMark? MarkOf(Job job, int number, string step) =>
        JobPlans.Of(job, number)?.Marks.Find(mark => mark.StepId == step)?.Mark;

    private static void Set(Plan plan, string step, StepMark? value)
    {
        if (plan.Marks.Find(mark => mark.StepId == step) is { } known)
        {
            known.Mark = value;
        }
        else
        {
            plan.Marks.Add(
                new PlanMark
                {
                    WorkshopId = plan.WorkshopId,
                    PlanId = plan.Id,
                    StepId = step,
                    Mark = value,
                }
            );
        }
    }

    private static string? Problem(Plan plan, string step, StepMark? mark)
    {
        PlanStep its = plan.Composed.Steps.Single(one => one.Id == step);
        return mark?.Problem(its, PlanProgress.Listed(plan.Composed, its, plan.Standing));
    }

    private static StepMark? Read(JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        try
        {
            return WireJson.HoldsNull(json.TryGetProperty("lines", out JsonElement lines) ? lines : default)
                    ? throw new FieldException("A list holds no empty line.")
                : json.Deserialize<StepMark>(WireJson.Strict) is { } mark ? mark with { At = mark.At.ToUniversalTime() }
                : throw new FieldException("Expected what was done to a step.");
        }
        catch (Exception failure) when (failure is JsonException or InvalidOperationException)
        {
            throw new FieldException("Expected what was done to a step: its state, when, and what its hold point asks for.");
        }
    }
}
