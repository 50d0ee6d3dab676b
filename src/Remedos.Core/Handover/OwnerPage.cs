using Remedos.Core.Comparison;
using Remedos.Core.Jobs;
using Remedos.Core.Money;
using Remedos.Core.Runs;

namespace Remedos.Core.Handover;

/// <summary>The page that the owner of a machine takes home: what was wrong, what was done, what it did, what to watch.</summary>
/// <param name="Headline">One sentence that an owner reads first.</param>
/// <param name="Measured">What the runs say, in sentences.</param>
/// <param name="HowSure">How far the figures can be trusted, in a sentence; null where nothing was compared.</param>
/// <param name="Watch">What to look out for at home.</param>
public sealed record OwnerPage(string Headline, IReadOnlyList<string> Measured, string? HowSure, IReadOnlyList<string> Watch)
{
    /// <summary>Everything that stands on it under the headline, in order; only what there is something to say of.</summary>
    public IReadOnlyList<OwnerSection> Sections { get; init; } = [];

    /// <summary>What is printed at the end.</summary>
    public string Recheck { get; init; } = "";

    /// <summary>Writes the page from the facts; the same facts give the same page.</summary>
    public static OwnerPage Of(JobFacts facts, OwnerNotes? notes = null)
    {
        RunAnalysis? before = facts.Before.LastOrDefault()?.Analysis,
            after = facts.After.LastOrDefault()?.Analysis;
        OwnerPage page = new(
            HeadlineOf(facts, before, after),
            [.. Measurements(facts, before, after)],
            Certainty(facts),
            [.. Cautions(facts, after)]
        );
        return page with
        {
            Sections = [.. SectionsOf(facts, notes ?? OwnerNotes.None, page).Where(section => section.Lines.Count > 0)],
            Recheck = facts.RecheckOn is { } on ? $"Please bring it back for a recheck on {on:d MMMM yyyy}." : "No recheck date is set.",
        };
    }

    private static IEnumerable<OwnerSection> SectionsOf(JobFacts facts, OwnerNotes notes, OwnerPage page)
    {
        yield return new OwnerSection("told", "What you told us", [.. Sentences(facts.Noticed)]);
        yield return new OwnerSection("found", "What we found", [.. Sentences(facts.RepairFound)]);
        yield return new OwnerSection("did", "What we did", [.. Done(facts, notes)]);
        yield return new OwnerSection(
            "tried",
            "What was tried",
            [
                .. notes.EarlierRounds,
                .. facts
                    .Setups.Where(setup => setup.Failed)
                    .Select(setup => $"{setup.Title} was tried and given up: {Sentence(setup.FailedWhy!.Trim())}"),
            ],
            Listed: true
        );
        yield return new OwnerSection("measured", "What it does now", page.Measured);
        yield return new OwnerSection("price", "What it costs", notes.Price is { } price ? [price] : []);
        yield return new OwnerSection("back", "Given back to you", notes.Kept, Listed: true);
        yield return new OwnerSection("watch", "What to watch", page.Watch, Listed: true);
    }

    private static IEnumerable<string> Done(JobFacts facts, OwnerNotes notes)
    {
        bool any = false;
        foreach (string sentence in Sentences(facts.RepairDone))
        {
            any = true;
            yield return sentence;
        }

        if (!any && facts.Route == DecisionRoute.Leave)
        {
            yield return "Nothing was changed, as you chose.";
        }

        foreach (string parts in Sentences(notes.Parts))
        {
            yield return $"Parts: {parts}";
        }
    }

    /// <summary>A text that was typed, ended as a sentence; nothing for none.</summary>
    private static IEnumerable<string> Sentences(string? text) => string.IsNullOrWhiteSpace(text) ? [] : [Sentence(text.Trim())];

    private static string Sentence(string text) => text[^1] is '.' or '!' or '?' or '”' ? text : $"{text}.";

    private static string HeadlineOf(JobFacts facts, RunAnalysis? before, RunAnalysis? after)
    {
        bool isHeld = facts.Verdict?.After.AtLimit == true;
        return facts.Verdict switch
        {
            { Verdict: Verdict.Improved } when facts.Verdict.LimitGone => "It no longer overheats.",
            { Verdict: Verdict.Improved } when isHeld => "It runs cooler, but it still reaches its limit under full load.",
            { Verdict: Verdict.Improved, Matters: true } => "It runs cooler.",
            { Verdict: Verdict.Improved } => "It runs a little cooler, too little to notice.",
            { Verdict: Verdict.Worse } => "It runs hotter than before.",
            { Verdict: Verdict.NoMeasurableChange, Matters: true } => "The cooling did not measurably change; its performance did.",
            { Verdict: Verdict.NoMeasurableChange } => "No change that we can measure.",
            _ when (facts.After.LastOrDefault() ?? facts.Before.LastOrDefault()) is { } run
                    && RunWords.IsHeldByPower(run.Analysis, run.Conditions) =>
                "It is not too hot: the processor keeps to its power budget.",
            _ when before is null && after is null => "Nothing was measured.",
            _ when before is not null && after is not null => "Measured before and after, but not under the same conditions.",
            _ when (after ?? before)!.ThermalLimit is not null => "It overheats under full load.",
            _ when facts.Diagnosis is { IsSound: true, IsSure: true } => "Nothing is wrong with it: it does what a sound machine does.",
            _ => "It stays within its limit.",
        };
    }

    private static IEnumerable<string> Measurements(JobFacts facts, RunAnalysis? before, RunAnalysis? after)
    {
        ComparisonResult? verdict = facts.Verdict is { Comparable: true } comparable ? comparable : null;
        Subject subject = facts.Pair?.Subject ?? Subject.Processor;
        if (Reached(before, facts.Before.LastOrDefault()?.Conditions, verdict?.Before, subject) is { } then)
        {
            yield return $"Before: {then}";
        }

        if (Reached(after, facts.After.LastOrDefault()?.Conditions, verdict?.After, subject) is { } now)
        {
            yield return $"After: {now}";
        }

        if (verdict?.Change is { } change)
        {
            foreach (string sentence in Gains(verdict, change))
            {
                yield return sentence;
            }
        }

        if (verdict?.Graphics is { Change: { } card, Measurable: true } graphics)
        {
            yield return $"The graphics card: {Cooler(card.AtReferencePowerC)} at the same power, give or take "
                + $"{Degrees.By(card.HalfWidthC, "0.0")} ({Degrees.Point(graphics.Before.TemperatureC):0} before, "
                + $"{Degrees.Point(graphics.After.TemperatureC):0} now).";
        }
    }

    /// <summary>What they feel and hear: degrees, speed, work done, sound.</summary>
    private static IEnumerable<string> Gains(ComparisonResult verdict, Change change)
    {
        if (verdict.Measurable && !(verdict.Before.AtLimit && verdict.After.AtLimit))
        {
            yield return $"At the same power, in the same room and with the fans at the same speed that is "
                + $"{Cooler(change.AtReferencePowerC)}.";
        }

        if (change.FanPartC is { } fan && Math.Abs(fan) >= FanCountsC)
        {
            yield return $"Its fans now turn {(fan > 0 ? "more slowly" : "faster")}, which makes {Cooler(fan)} of it: "
                + $"{Cooler(change.AsItRunsC)} as it runs.";
        }

        if (change.ClockMHz is { } clock && verdict.Before.ClockMHz is { } was && Math.Abs(clock) >= ClockCountsShare * was)
        {
            yield return $"Under full load it runs at {verdict.After.ClockMHz / 1000:0.0} GHz; it was {was / 1000:0.0}.";
        }

        if (change is { ScorePercent: { } score, ScoreHalfWidthPercent: { } width } && Math.Abs(score) > width)
        {
            yield return $"It does {Math.Abs(score):0.0} % {(score > 0 ? "more" : "less")} work in the same time, give or take "
                + $"{width:0.0} %.";
        }

        if (verdict.Noise is { BeforeDba: { } loud, AfterDba: { } now } && Math.Abs(now - loud) >= 1)
        {
            yield return $"It is {(now < loud ? "quieter" : "louder")}: {now:0} dB(A), {loud:0} before.";
        }
    }

    private const double FanCountsC = 1.5,
        ClockCountsShare = 0.02;

    private static string Cooler(double change) => $"{Degrees.By(Math.Abs(change))} {(change < 0 ? "cooler" : "hotter")}";

    /// <summary>What a side stood at; the same means that the verdict is made from, where there is one.</summary>
    private static string? Reached(RunAnalysis? run, RunConditions? conditions, Side? side, Subject subject)
    {
        bool ofCard = subject == Subject.Graphics;
        if (run is null || (ofCard ? run.Graphics?.Core.SustainedC : run.Load?.SustainedTemperatureC) is not { } stood)
        {
            return null;
        }

        double? drawn = side?.PowerW ?? (ofCard ? run.Graphics!.PowerW : run.Load!.SustainedPowerW);
        string watts = drawn is { } power ? $" while using {power:0} W" : "";
        string held = (ofCard ? run.Graphics!.ThermalLimit : run.ThermalLimit) switch
        {
            { ClockLossPercent: >= 1 } limit => $", and it slowed itself down by {limit.ClockLossPercent:0} % to protect itself",
            not null => ", and it held itself back to protect itself",
            null when !ofCard && RunWords.HeldBackOf(run, conditions!) is { ClockLossPercent: { } loss } =>
                $", all that its power budget leaves it: {loss:0} % slower than without",
            null => "",
        };
        string room = (side?.RoomC ?? run.AmbientC) is { } ambient ? $" The room was at {Degrees.At(ambient)}." : "";
        string what = ofCard ? "graphics card" : "processor";
        return $"under steady load the {what} stood at {Degrees.At(side?.TemperatureC ?? stood)}{watts}{held}.{room}";
    }

    private static string? Certainty(JobFacts facts)
    {
        if (facts.Verdict is not { Change: { } change } verdict)
        {
            return null;
        }

        string runs =
            verdict.Before.Runs == 1 && verdict.After.Runs == 1
                ? "one run before and one after"
                : $"{Count(verdict.Before.Runs)} before and {Count(verdict.After.Runs)} after";
        return verdict.Verdict == Verdict.NoMeasurableChange
            ? $"From {runs}. A change of {Degrees.By(verdict.SmallestDetectableC, "0.0")} would have shown four times out of five."
            : $"From {runs}: {Degrees.By(Math.Abs(change.AtReferencePowerC), "0.0")}, give or take "
                + $"{Degrees.By(change.HalfWidthC, "0.0")}, nineteen times out "
                + $"of twenty.";
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
