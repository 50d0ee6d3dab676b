using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>What stands in the way of a fair comparison, and what would remove it. Checked before any arithmetic.</summary>
public static class Obstacles
{
    public static IReadOnlyList<Obstacle> Between(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        List<Obstacle> found = [];
        Missing(found, before, "before");
        Missing(found, after, "after");
        if (before.Count == 0 || after.Count == 0)
        {
            return found;
        }

        RunConditions b = before[0].Conditions, a = after[0].Conditions;
        Differs("workload-differs", "Load", run => run.Conditions.Workload, "Run the same load on both sides: one more after run with “{0}”.");
        Differs("panel-differs", "Side panel", run => run.Conditions.Panel, "Make one more after run with the panel as before: {0}.");
        Differs("fan-policy-differs", "Fans", run => run.Conditions.FanPolicy, "Make one more after run with the fans as before: {0}.");
        if (b.FanPolicy == "fixed" && a.FanPolicy == "fixed")
        {
            Differs("fan-percent-differs", "Fixed fan speed", run => run.Conditions.FanPercent is { } percent ? $"{percent:0} %" : null, "Make one more after run with the fans fixed at {0}.");
        }

        if (found.All(obstacle => obstacle.Severity != Obstacle.Blocking))
        {
            Corrected(found, before, after);
        }

        if (a.HoursSinceMount is < 24)
        {
            found.Add(new Obstacle("paste-fresh", Obstacle.Note, $"The after run stands {a.HoursSinceMount:0.#} h after mounting; new paste may still gain a degree or two.", "A second after run in a day or two tells."));
        }

        if (before.Concat(after).Any(run => run.Analysis.Load is { WindowEndSeconds: var end, WindowStartSeconds: var start } && end - start < 60))
        {
            found.Add(new Obstacle("short", Obstacle.Note, "A load phase is shorter than five minutes, so the slow part of the heat path is hardly seen.", "Ten minutes of load or more."));
        }

        return found;

        void Differs(string code, string what, Func<ConditionedRun, string?> value, string remedy)
        {
            string?[] left = [.. before.Select(value).Distinct()], right = [.. after.Select(value).Distinct()];
            string?[] all = [.. left.Concat(right).Distinct()];
            string?[] known = [.. all.Where(v => v is not null)];
            if (known.Length > 1)
            {
                string?[] sides = [string.Join(" and ", left.Select(v => v ?? "not noted")), string.Join(" and ", right.Select(v => v ?? "not noted"))];
                found.Add(new Obstacle(code, Obstacle.Blocking, $"{what}: {Words(sides[0]!)} before, {Words(sides[1]!)} after.", string.Format(remedy, Words(left[0] ?? known[0]!))));
            }
            else if (known.Length == 1 && all.Length > 1)
            {
                found.Add(new Obstacle(code.Replace("differs", "unknown", StringComparison.Ordinal), Obstacle.Note, $"{what} is noted on one side only; taken as equal.", "Note it on the other run too."));
            }
        }
    }

    private static void Missing(List<Obstacle> found, IReadOnlyList<ConditionedRun> runs, string side)
    {
        if (runs.Count == 0)
        {
            found.Add(new Obstacle($"no-{side}-run", Obstacle.Blocking, $"There is no {side} run.", $"Record the {side} run."));
            return;
        }

        if (runs.Any(run => run.Analysis.Load is null))
        {
            found.Add(new Obstacle("no-load", Obstacle.Blocking, $"No load was found in the {side} run.", "Record idle, full load and cool-down in one log."));
            return;
        }

        if (runs.Any(run => run.Analysis.AmbientC is null))
        {
            found.Add(new Obstacle("room-unknown", Obstacle.Blocking, $"The room's temperature of the {side} run is not known.", $"Note the room's temperature on the {side} run."));
        }

        if (runs.Any(run => run.Analysis.Load!.SustainedPowerW is null))
        {
            found.Add(new Obstacle("no-power", Obstacle.Blocking, $"The {side} run has no power reading.", "Record again with the processor's power in the log."));
        }
    }

    private static void Corrected(List<Obstacle> found, IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        double roomBefore = before.Average(run => run.Analysis.AmbientC!.Value), roomAfter = after.Average(run => run.Analysis.AmbientC!.Value);
        if (Math.Abs(roomBefore - roomAfter) > 0.5)
        {
            found.Add(new Obstacle("room-differs", Obstacle.Corrected, $"Room {roomAfter:0.0} against {roomBefore:0.0} °C.", ""));
        }

        double wattsBefore = before.Average(run => run.Analysis.Load!.SustainedPowerW!.Value), wattsAfter = after.Average(run => run.Analysis.Load!.SustainedPowerW!.Value);
        if (Math.Abs(wattsBefore - wattsAfter) > 0.02 * wattsBefore)
        {
            found.Add(new Obstacle("power-differs", Obstacle.Corrected, $"{wattsAfter:0} W against {wattsBefore:0} W, so compared per watt.", ""));
        }

        foreach ((IReadOnlyList<ConditionedRun> runs, string side) in new[] { (before, "before"), (after, "after") })
        {
            if (runs.Any(run => run.Analysis.ThermalLimit is not null))
            {
                found.Add(new Obstacle("throttled", Obstacle.Corrected, $"The {side} run gave up clock or power at the limit; resistance holds all the same.", ""));
            }

            if (runs.FirstOrDefault(run => run.Analysis.Load!.Settled == false) is { } open)
            {
                double gap = open.Analysis.Load!.ForecastFinalTemperatureC!.Value - open.Analysis.Load.SustainedTemperatureC;
                found.Add(new Obstacle("not-settled", Obstacle.Corrected, $"The {side} run was stopped {Math.Abs(gap):0.0} °C {(gap > 0 ? "short of" : "above")} level; compared by where it was going.", "A longer load makes it sharper."));
            }
        }

        double? fanBefore = before.Average(run => run.Analysis.Load!.SustainedFanRpm), fanAfter = after.Average(run => run.Analysis.Load!.SustainedFanRpm);
        if (fanBefore is > 0 && fanAfter is > 0 && Math.Abs(fanAfter.Value - fanBefore.Value) > 0.05 * fanBefore)
        {
            found.Add(new Obstacle("fan-speed-differs", Obstacle.Note, $"The processor fan ran at {fanAfter:0} rpm after, {fanBefore:0} before: part of the change may be the fan's.", "One run a side with the fans fixed tells the cooler's own part."));
        }
    }

    private static string Words(string value) => value switch
    {
        "side-off" => "panel off",
        "open-bench" => "open bench",
        "auto" => "automatic",
        _ => value,
    };
}
