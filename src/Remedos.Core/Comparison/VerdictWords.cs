namespace Remedos.Core.Comparison;

/// <summary>The verdict as a sentence: what came of it, whether it is measurable, and whether it matters.</summary>
public static class VerdictWords
{
    /// <summary>A fan's part smaller than this is not worth words, °C.</summary>
    private const double FanPartC = 1.5;

    /// <summary>A level that changed by less is the same to an ear, dB.</summary>
    private const double HeardDba = 1.5;

    /// <summary>
    /// A lead that names the outcome, and what stands behind it; beside it what fans and sound did, and whether it is measurable and
    /// matters.
    /// </summary>
    public sealed record Sentence(string Lead, string Claim, string Rest, string Beside = "")
    {
        /// <summary>All of it as one sentence.</summary>
        public override string ToString() => $"{Lead} {Claim}{Rest} {Beside}".TrimEnd();
    }

    /// <summary>The verdict in words.</summary>
    public static Sentence Of(ComparisonResult result)
    {
        if (!result.Comparable || result.Change is not { } change)
        {
            Obstacle? obstacle = result.Obstacles.FirstOrDefault(o => o.Severity == ObstacleWeight.Blocking);
            return new Sentence("Not comparable yet.", obstacle?.Message ?? "", obstacle is null ? "" : " " + obstacle.Remedy);
        }

        Sentence core = result.Before.AtLimit && result.After.AtLimit ? BothHeld(result, change) : Plain(result, change);
        return core with { Beside = $"{Apart(result, change)} {Weight(result)}".TrimStart() };
    }

    /// <summary>The two statements of every verdict.</summary>
    public static string Weight(ComparisonResult result) =>
        (result.Measurable, result.Matters) switch
        {
            (true, true) => "Measurable, and it matters.",
            (true, false) => "Measurable, but too little to matter.",
            (false, true) => "The cooling did not measurably change; what it holds did, and that matters.",
            _ => "Not measurable.",
        };

    private static Sentence Plain(ComparisonResult result, Change change)
    {
        (Side then, Side now) = (result.Before, result.After);
        string holds = $"holds {now.PowerW:0} W at {Degrees.At(now.TemperatureC)}";
        string degrees = Cooler(change);
        // A run that hovered at its limit and hardly gave way says so; “throttled at 119 W” beside “holds 119 W” would say nothing.
        string gaveUp =
            then.PowerW < 0.97 * now.PowerW
                ? $"it throttled at {then.PowerW:0} W"
                : $"it stood at its limit, {Degrees.At(then.TemperatureC)}";
        return result.Verdict switch
        {
            Verdict.Improved when result.LimitGone => new("Fixed:", holds, $"; before, {gaveUp}. {Capital(degrees)}."),
            Verdict.Improved when now.AtLimit => new("Better, not fixed:", degrees, $", but at its limit with {now.PowerW:0} W."),
            Verdict.Improved when !result.Matters => new("A little better:", degrees, "."),
            Verdict.Improved => new("Better:", degrees, $"; it now {holds}."),
            Verdict.Worse when result.LimitCame => new("Worse:", $"it now throttles at {now.PowerW:0} W", $"; {degrees} than before."),
            Verdict.Worse => new("Worse:", degrees, $"; it now {holds}."),
            _ => new(
                "No measurable change:",
                $"{Signed(change.AtReferencePowerC)} ± {Degrees.Span(change.HalfWidthC):0.0}",
                $" at {change.ReferencePowerW:0} W; a change of {Degrees.By(result.SmallestDetectableC, "0.0")} would have "
                    + $"shown four times in five."
            ),
        };
    }

    /// <summary>Where both stand at the limit, degrees say nothing: watts and clock lead.</summary>
    private static Sentence BothHeld(ComparisonResult result, Change change)
    {
        (Side then, Side now) = (result.Before, result.After);
        string Holds(Side side) => $"{side.PowerW:0} W{(side.ClockMHz is { } clock ? $" and {clock / 1000:0.00} GHz" : "")}";
        string rest = $" at its limit; before, {Holds(then)}.";
        return result.Verdict switch
        {
            Verdict.Improved => new("Better, not fixed:", $"it now holds {Holds(now)}", rest),
            Verdict.Worse => new("Worse:", $"it now holds {Holds(now)}", rest),
            _ => new(
                "No measurable change:",
                $"it holds {Holds(now)}",
                $"{rest} {Capital(Signed(change.AtReferencePowerC))} ± {Degrees.Span(change.HalfWidthC):0.0} at "
                    + $"{change.ReferencePowerW:0} W; "
                    + $"{Degrees.By(result.SmallestDetectableC, "0.0")} would have shown four times in five."
            ),
        };
    }

    /// <summary>What the fans, and not the repair, did; and what is left at equal noise.</summary>
    private static string Apart(ComparisonResult result, Change change)
    {
        string fan =
            change.FanPartC is { } part && Math.Abs(part) >= FanPartC
                ? $" {FanWords(part, change)} {Degrees.By(Math.Abs(part))}: {Signed(change.AsItRunsC)} as it runs."
                : "";
        string heard =
            result.Noise is { BeforeDba: { } before, AfterDba: { } after } && Math.Abs(after - before) >= HeardDba
                ? $" It is {Math.Abs(after - before):0} dB "
                    + $"{(after < before ? "quieter" : "louder")}"
                    + $"{(result.Noise.AtEqualNoiseC is { } equal ? $": at equal noise {Signed(equal)}" : "")}."
                : "";
        return fan + heard;
    }

    private static string FanWords(double part, Change change) =>
        part < 0 ? "Faster fans take off"
        : change.AtReferencePowerC < 0 ? "Slower fans take back"
        : "Slower fans add";

    private static string Cooler(Change change)
    {
        double much = Math.Abs(change.AtReferencePowerC);
        string way = change.AtReferencePowerC < 0 ? "cooler" : "hotter";
        return $"{Degrees.By(much, much < 3 ? "0.0" : "0")} {way} ± {Degrees.Span(change.HalfWidthC):0.0} at {change.ReferencePowerW:0} W";
    }

    private static string Signed(double c) =>
        (
            c < -0.05 ? "−"
            : c > 0.05 ? "+"
            : ""
        ) + Degrees.By(Math.Abs(c), Math.Abs(c) < 10 ? "0.0" : "0");

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
