using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Core.Runs;

namespace Remedos.Core.Handover;

/// <summary>The page that the owner of a machine takes home: what was wrong, what was done, what it did, what to watch.</summary>
/// <param name="Headline">One sentence that an owner reads first.</param>
/// <param name="Measured">What the runs say, in sentences.</param>
/// <param name="HowSure">How far the figures can be trusted, in a sentence; null where nothing was compared.</param>
/// <param name="Watch">What to look out for at home.</param>
public sealed record OwnerPage(string Headline, IReadOnlyList<string> Measured, string? HowSure, IReadOnlyList<string> Watch)
{
    /// <summary>Writes the page from the facts; the same facts give the same page.</summary>
    public static OwnerPage Of(JobFacts facts)
    {
        RunAnalysis? before = facts.Before.LastOrDefault()?.Analysis, after = facts.After.LastOrDefault()?.Analysis;
        return new OwnerPage(HeadlineOf(facts, before, after), [.. Measurements(facts, before, after)], Certainty(facts), [.. Cautions(facts, after)]);
    }

    private static string HeadlineOf(JobFacts facts, RunAnalysis? before, RunAnalysis? after)
    {
        bool wasHeld = before?.ThermalLimit is not null, isHeld = after?.ThermalLimit is not null;
        return facts.Verdict switch
        {
            { Verdict: ComparisonResult.Improved } when wasHeld && !isHeld => "It no longer overheats.",
            { Verdict: ComparisonResult.Improved } when isHeld => "It runs cooler, but it still reaches its limit under full load.",
            { Verdict: ComparisonResult.Improved, Matters: true } => "It runs cooler.",
            { Verdict: ComparisonResult.Improved } => "It runs a little cooler, less than you will notice.",
            { Verdict: ComparisonResult.Worse } => "It runs hotter than before.",
            { Verdict: ComparisonResult.NoMeasurableChange } => "No change that we can measure.",
            _ when (facts.After.LastOrDefault() ?? facts.Before.LastOrDefault()) is { } run && RunWords.IsHeldByPower(run.Analysis, run.Conditions) => "It is not too hot: the processor keeps to its power budget.",
            _ when before is null && after is null => "Nothing was measured.",
            _ when before is not null && after is not null => "Measured before and after, but not under the same conditions.",
            _ when (after ?? before)!.ThermalLimit is not null => "It overheats under full load.",
            _ => "It stays within its limit.",
        };
    }

    private static IEnumerable<string> Measurements(JobFacts facts, RunAnalysis? before, RunAnalysis? after)
    {
        if (Reached(before) is { } then)
        {
            yield return $"Before: {then}";
        }

        if (Reached(after) is { } now)
        {
            yield return $"After: {now}";
        }

        if (facts.Verdict?.Change is { } change && facts.Verdict.Verdict != ComparisonResult.NoMeasurableChange)
        {
            yield return $"At the same power and in the same room that is {Math.Abs(change.AtReferencePowerC):0} °C {(change.AtReferencePowerC < 0 ? "cooler" : "hotter")}.";
        }
    }

    private static string? Reached(RunAnalysis? run)
    {
        if (run?.Load is not { } load)
        {
            return null;
        }

        string watts = load.SustainedPowerW is { } power ? $" while using {power:0} W" : "";
        string held = run.ThermalLimit switch
        {
            { ClockLossPercent: >= 1 } limit => $", and it slowed itself down by {limit.ClockLossPercent:0} % to protect itself",
            not null => ", and it held itself back to protect itself",
            null => "",
        };
        string room = run.AmbientC is { } ambient ? $" The room had {ambient:0} °C." : "";
        return $"under steady full load the processor stood at {load.SustainedTemperatureC:0} °C{watts}{held}.{room}";
    }

    private static string? Certainty(JobFacts facts)
    {
        if (facts.Verdict is not { Change: { } change } verdict)
        {
            return null;
        }

        string runs = verdict.Before.Runs == 1 && verdict.After.Runs == 1 ? "one run before and one after" : $"{Count(verdict.Before.Runs)} before and {Count(verdict.After.Runs)} after";
        return verdict.Verdict == ComparisonResult.NoMeasurableChange
            ? $"From {runs}. A change of {verdict.SmallestDetectableC:0.0} °C or more would have shown."
            : $"From {runs}: {Math.Abs(change.AtReferencePowerC):0.0} °C, give or take {change.HalfWidthC:0.0} °C, nineteen times out of twenty.";
    }

    private static string Count(int runs) => runs == 1 ? "one run" : $"{runs} runs";

    private static IEnumerable<string> Cautions(JobFacts facts, RunAnalysis? after)
    {
        RunConditions? conditions = facts.After.LastOrDefault()?.Conditions ?? facts.Before.LastOrDefault()?.Conditions;
        string? cooler = facts.CoolerKind ?? conditions?.CoolerKind;
        if (cooler is "tower" or "dual-tower")
        {
            yield return "The cooler is tall and heavy: lay the machine on its side when you carry or send it.";
        }

        if (cooler is "liquid")
        {
            yield return "The cooler holds liquid: if you see a drop or a stain below it, switch off, unplug, and call us.";
        }

        if (JobProgress.PasteIsFresh(facts))
        {
            yield return "The paste is new: over the first days it may still gain a degree or two.";
        }

        if (after?.ThermalLimit is not null)
        {
            yield return "Long full load still slows it down. It protects itself; nothing will break.";
        }

        yield return "Keep a hand’s width free behind it and beside its openings; dust the filters when you dust the room.";
        yield return "If it turns loud or slow again, note the day and what it was doing, and bring it in.";
    }
}
