using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Repair;
using Remedos.Core.Runs;

namespace Remedos.Core.Jobs;

/// <summary>Where a job stands in the order of work, and what comes next.</summary>
public sealed record JobProgress(IReadOnlyList<JobStep> Steps, string CurrentStep, Headline Headline, NowCard Now, WaitsFor WaitsFor)
{
    /// <summary>New paste gains its last degree or two over the first days; the workshop looks again after one.</summary>
    internal static readonly TimeSpan PasteSettles = TimeSpan.FromHours(24);

    /// <summary>Derives it all from the facts; the same facts give the same answer.</summary>
    public static JobProgress Of(JobFacts facts)
    {
        JobStep[] steps = [Intake(facts), Look(facts), Before(facts), Diagnosis(facts), Repair(facts), After(facts), Handover(facts)];
        // A good verdict leads to hand over and stops asking.
        string current =
            facts.Plan is { UnderHands: true } ? "repair"
            : JobOutcome.Of(facts) is not null ? "handover"
            : steps.FirstOrDefault(step => !step.Done)?.Id ?? "handover";
        return new JobProgress(steps, current, HeadlineOf(facts), NowCards.Of(facts, current), Waiting(facts, current));
    }

    private static JobStep Intake(JobFacts f)
    {
        bool done = Filled(f.Owner) && Filled(f.Machine) && Filled(f.Noticed) && f.TemperatureLimitC is not null;
        string limits = f.TemperatureLimitC is { } limit
            ? $"limit {Degrees.At(limit)}{(f.RatedPowerW is { } rated ? $", rated {rated:0} W" : "")}"
            : "limit not known";
        return new JobStep(
            "intake",
            "Intake",
            done,
            done ? $"{f.Owner}: {f.Noticed!.Trim().TrimEnd('.')}. {Capital(limits)}." : "Not complete yet."
        );
    }

    /// <summary>What was not looked at before the first run stays so: it cannot be made up for.</summary>
    private static JobStep Look(JobFacts f)
    {
        EvidenceRow[] rows = [.. DiagnosisTables.Evidence.Where(row => row.Untouched && row.IsOf(f.FoundCoolerKind ?? f.CoolerKind))];
        EvidenceItem[] seen = [.. f.Observations.Where(item => rows.Any(row => row.Id == item.Id))];
        string[] found =
        [
            .. seen.Where(item => item.State != DiagnosisTables.EvidenceOf(item.Id)!.States[0])
                .Select(item => $"{DiagnosisTables.EvidenceOf(item.Id)!.Title}: {item.State.Replace('-', ' ')}"),
        ];
        string conclusion =
            seen.Length == 0
                ? "Not looked at yet."
                : $"{(found.Length == 0 ? "Nothing found" : string.Join(", ", found))}; {seen.Length} of {rows.Length} looked at.";
        // What was not looked at before the first run cannot be made up for; it is passed over, and not called done.
        bool over = f.Before.Count > 0 || f.After.Count > 0 || Filled(f.RepairDone);
        return new JobStep(
            "look",
            "Look",
            seen.Length == rows.Length || over,
            over && seen.Length == 0 ? "Skipped: nothing was looked at before the first run." : conclusion
        );
    }

    private static JobStep Diagnosis(JobFacts f)
    {
        bool done =
            f.Diagnosis is null or { IsSure: true }
            || (f.Diagnosis.Check is null && !f.WantsParts)
            || Filled(f.RepairFound)
            || Filled(f.RepairDone)
            || f.Route is not null;
        return new JobStep(
            "diagnosis",
            "Diagnosis",
            f.NoBaseline || (f.Before.Count > 0 && done),
            f.Diagnosis?.Conclusion ?? "Nothing observed yet."
        );
    }

    private static JobStep Before(JobFacts f) =>
        new(
            "before",
            "Before",
            Latest(f.Before) is not null || f.NoBaseline,
            Latest(f.Before) is { } run ? RunWords.Finding(run.Analysis, run.Conditions)
                : f.NoBaseline ? "None was made: there is nothing to compare the repair with."
                : "No run yet."
        );

    private static JobStep Repair(JobFacts f)
    {
        SetupFacts? made = f.Setups.LastOrDefault(setup => setup.Number > 1 && setup.Round == f.Round && !setup.Failed);
        PlanProgress? plan = f.Plan is { UnderHands: true } ? f.Plan : null;
        bool done = plan is null && (Filled(f.RepairDone) || made is { Runs.Count: > 0 });
        return new JobStep(
            "repair",
            "Repair",
            done,
            plan is not null ? $"Step {plan.Number} of {plan.Count}: {plan.Next!.Title}."
                : Filled(f.RepairDone) ? f.RepairDone!.Trim()
                : done ? $"{made!.Name}."
                : Filled(f.RepairFound) ? $"Found: {f.RepairFound!.Trim()}"
                : "Nothing noted yet."
        );
    }

    private static JobStep After(JobFacts f)
    {
        bool done = f.Verdict is { Comparable: true } || f.NoBaseline;
        return new JobStep(
            "after",
            "After",
            done,
            Latest(f.After) is not { } run ? "No run yet."
                : f.Verdict is { Comparable: true } ? SentenceOf(f).ToString()
                : RunWords.Finding(run.Analysis, run.Conditions)
        );
    }

    private static JobStep Handover(JobFacts f) =>
        new(
            "handover",
            "Handover",
            f.HandedOverAt is not null,
            f.HandedOverAt is { } at
                ? $"Handed over on {at:d MMMM yyyy}{(f.RecheckOn is { } recheck ? $", recheck on {recheck:d MMMM yyyy}" : "")}."
                : "Not handed over yet."
        );

    private static Headline HeadlineOf(JobFacts f)
    {
        if (f.Verdict is not null && Latest(f.After) is not null)
        {
            VerdictWords.Sentence sentence = SentenceOf(f);
            if (JobOutcome.Of(f) is { QuieterDba: { } quieter } && f.Verdict.After is { } now)
            {
                // Who asked for quiet hears that first.
                return new Headline(
                    "Quieter:",
                    $"{quieter:0} dB",
                    $", and {Degrees.By(now.LimitC - now.TemperatureC)} clear of its limit with {now.PowerW:0} W.",
                    false,
                    sentence.ToString()
                );
            }

            return new Headline(sentence.Lead, sentence.Claim, sentence.Rest, f.Verdict.Verdict == Verdict.Worse, sentence.Beside);
        }

        if (f.NoBaseline && Latest(f.After) is { } only)
        {
            string[] found = RunWords.Finding(only.Analysis, only.Conditions).Split(": ", 2);
            const string NoVerdict = " No run of it as it came: there is no verdict.";
            return found.Length == 2
                ? new Headline($"{found[0]}:", found[1], NoVerdict, only.Analysis.ThermalLimit is not null)
                : new Headline(found[0], "", NoVerdict);
        }

        if (f.HandedOverAt is not null && Filled(f.RepairDone))
        {
            return new Headline($"{f.RepairDone!.Trim().TrimEnd('.')}.", "", "");
        }

        if (f.Pair is { Subject: Subject.Graphics } && Latest(f.Before)?.Analysis.Graphics is { } card)
        {
            string[] said = RunWords.CardFinding(card).Split(": ", 2);
            return new Headline($"{said[0]}:", said[1], "", card.ThermalLimit is not null);
        }

        bool hotRun = Latest(f.Before)?.Analysis.ThermalLimit is not null;
        if (f.Diagnosis is { Certainty: { } certainty } stand)
        {
            // A budget that ran out beside it is no finding of its own.
            string finding =
                Latest(f.Before) is { } before
                && (stand.Lead?.Id == HeldBack.PowerLimited || !RunWords.IsHeldByPower(before.Analysis, before.Conditions))
                    ? $" {RunWords.Finding(before.Analysis, before.Conditions)}"
                    : "";
            return new Headline($"{certainty}:", Lower(stand.Title), $", {stand.Percent}.{finding}", hotRun && !stand.IsSound);
        }

        if (Latest(f.Before) is { } run)
        {
            string[] parts = RunWords.Finding(run.Analysis, run.Conditions).Split(": ", 2);
            return parts.Length == 2 ? new Headline($"{parts[0]}:", parts[1], "", hotRun) : new Headline(parts[0], "", "");
        }

        return new Headline(Filled(f.Noticed) ? $"“{f.Noticed!.Trim().TrimEnd('.')}”" : "A machine has come in", "", "");
    }

    private static WaitsFor Waiting(JobFacts f, string current) =>
        f.HandedOverAt is not null ? WaitsFor.Done
        : f.WaitingFor is { } byHand ? byHand
        : current switch
        {
            "intake" => WaitsFor.Intake,
            "before" or "after" => WaitsFor.Test,
            "look" => WaitsFor.Test,
            "diagnosis" => WaitsFor.Test,
            "repair" => WaitsFor.Repair,
            _ => PasteIsFresh(f) && f.After.Count < 2 ? WaitsFor.Paste : WaitsFor.PickUp,
        };

    /// <summary>Whether the cooler was mounted so lately that its paste still settles.</summary>
    public static bool PasteIsFresh(JobFacts f) => f.MountedAt is { } mounted && f.Now - mounted < PasteSettles;

    internal static VerdictWords.Sentence SentenceOf(JobFacts f) => VerdictWords.Of(f.Verdict!);

    internal static ConditionedRun? Latest(IReadOnlyList<ConditionedRun> runs) => runs.Count > 0 ? runs[^1] : null;

    internal static bool Filled(string? text) => !string.IsNullOrWhiteSpace(text);

    internal static string Lower(string text) => char.ToLowerInvariant(text[0]) + text[1..];

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
