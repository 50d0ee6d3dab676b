using System.Globalization;
using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>Both sides of a condition.</summary>
internal sealed class ConditionSides(List<Obstacle> found, IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
{
    /// <summary>Known values that differ block; a value that nobody stated counts as unknown, not as equal.</summary>
    public void MustBeEqual(string code, string what, Func<RunConditions, string?> value, string remedy, bool tellUnknown = true)
    {
        string?[] left = Of(before, value),
            right = Of(after, value);
        string?[] all = [.. left.Concat(right).Distinct()],
            known = [.. all.Where(v => v is not null)];
        if (known.Length > 1)
        {
            found.Add(
                new Obstacle(
                    $"{code}-differs",
                    ObstacleWeight.Blocking,
                    $"{what}: {Say(left)} before, {Say(right)} after.",
                    string.Format(CultureInfo.InvariantCulture, remedy, Words(left[0] ?? known[0]!))
                )
            );
        }
        else if (all.Contains(null) && (tellUnknown || known.Length > 0))
        {
            string where =
                known.Length == 0 ? "on either side"
                : left.Contains(null) ? "on the before side"
                : "on the after side";
            found.Add(
                new Obstacle(
                    $"{code}-unknown",
                    ObstacleWeight.Note,
                    $"{what} is not known {where}; it may differ.",
                    "Note it beside the run."
                )
            );
        }
    }

    /// <summary>A cap on one side of which the other says nothing was set for the run: it differs.</summary>
    public void Cap(string code, string what, Func<RunConditions, double?> value, string unit)
    {
        string Text(double? cap) =>
            cap switch
            {
                null => "not noted",
                RunConditions.NoCap => "none",
                _ => Number(cap, unit)!,
            };
        double[] left = [.. before.Select(run => value(run.Conditions) ?? RunConditions.NoCap).Distinct()],
            right = [.. after.Select(run => value(run.Conditions) ?? RunConditions.NoCap).Distinct()];
        if (left.Concat(right).Distinct().Count() > 1)
        {
            string Side(IReadOnlyList<ConditionedRun> runs) =>
                string.Join(" and ", runs.Select(run => Text(value(run.Conditions))).Distinct());
            double cap = left.Concat(right).Max();
            string same = left.Contains(cap) ? "Make one more after run" : "Make a before run";
            found.Add(
                new Obstacle(
                    $"{code}-differs",
                    ObstacleWeight.Blocking,
                    $"{what}: {Side(before)} before, {Side(after)} after.",
                    $"{same} with {Number(cap, unit)}, or one more without on the other side."
                )
            );
        }
    }

    private static string?[] Of(IReadOnlyList<ConditionedRun> runs, Func<RunConditions, string?> value) =>
        [.. runs.Select(run => value(run.Conditions)).Distinct()];

    private static string Say(string?[] values) => string.Join(" and ", values.Select(v => v is null ? "not noted" : Words(v)));

    public static string? Number(double? value, string unit) =>
        value is { } number ? $"{number.ToString("0.##", CultureInfo.InvariantCulture)} {unit}" : null;

    private static string Words(string value) =>
        value switch
        {
            "side-off" => "panel off",
            "open-bench" => "open bench",
            "auto" => "automatic",
            _ => value,
        };
}
