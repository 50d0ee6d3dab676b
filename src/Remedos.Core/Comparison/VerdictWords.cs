using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>The verdict as one sentence: what it does now, and what it did before.</summary>
public static class VerdictWords
{
    /// <summary>A lead that names the outcome, and what stands behind it.</summary>
    public sealed record Sentence(string Lead, string Claim, string Rest)
    {
        public override string ToString() => $"{Lead} {Claim}{Rest}";
    }

    public static Sentence Of(ComparisonResult result, RunAnalysis? before, RunAnalysis? after)
    {
        if (!result.Comparable || result.Change is not { } change || before is null || after is null)
        {
            Obstacle? obstacle = result.Obstacles.FirstOrDefault(o => o.Severity == Obstacle.Blocking);
            return new Sentence("Not comparable yet.", obstacle?.Message ?? "", obstacle is null ? "" : " " + obstacle.Remedy);
        }

        LoadFigures now = after.Load!, then = before.Load!;
        string holds = $"holds {now.SustainedPowerW:0} W at {now.SustainedTemperatureC:0} °C";
        string degrees = $"{Math.Abs(change.AtReferencePowerC):0} °C {(change.AtReferencePowerC < 0 ? "cooler" : "hotter")} at {change.ReferencePowerW:0} W";
        // A run that hovered at its limit and hardly gave way says so; “gave up at 119 W” beside “holds 119 W” would say nothing.
        string gaveUp = then.SustainedPowerW < 0.97 * now.SustainedPowerW ? $"it gave up at {then.SustainedPowerW:0} W" : $"it stood at its limit, {then.SustainedTemperatureC:0} °C";
        return result.Verdict switch
        {
            ComparisonResult.Improved when before.ThermalLimit is not null && after.ThermalLimit is null =>
                new Sentence("Fixed:", holds, $"; before, {gaveUp}."),
            ComparisonResult.Improved when after.ThermalLimit is not null =>
                new Sentence("Better, not fixed:", degrees, $", but still at its limit with {now.SustainedPowerW:0} W."),
            ComparisonResult.Improved when !result.Matters =>
                new Sentence("A little better:", $"{Math.Abs(change.AtReferencePowerC):0.0} °C cooler", ", measurable but too small to notice."),
            ComparisonResult.Improved => new Sentence("Better:", holds, $"; {degrees} than before."),
            ComparisonResult.Worse when after.ThermalLimit is not null && before.ThermalLimit is null =>
                new Sentence("Worse:", $"it now gives up at {now.SustainedPowerW:0} W", $"; {degrees} than before."),
            ComparisonResult.Worse => new Sentence("Worse:", degrees, $" than before ({now.SustainedTemperatureC:0} °C now)."),
            _ => new Sentence("No measurable change:", $"these runs would have shown {result.SmallestDetectableC:0.0} °C", "."),
        };
    }
}
