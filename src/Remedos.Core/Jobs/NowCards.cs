using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Money;
using Remedos.Core.Runs;
using static Remedos.Core.Jobs.JobProgress;

namespace Remedos.Core.Jobs;

/// <summary>What to do now, one card for every step of the order of work.</summary>
internal static class NowCards
{
    /// <summary>Repairs for which a cooler is chosen, and for which the air is looked at.</summary>
    private static readonly string[] CoolerRepairs = ["upgrade", "replace-loop"],
        AirRepairs = ["airflow", "re-steer", "turn-fan"];

    /// <summary>The card for a job whose step it is.</summary>
    public static NowCard Of(JobFacts f, string current)
    {
        if (f.HandedOverAt is not null)
        {
            return new NowCard(
                "Nothing to do",
                f.RecheckOn is { } recheck ? $"Recheck on {recheck:d MMMM yyyy}." : "The machine is back with its owner.",
                null,
                null,
                "none",
                ""
            );
        }

        ConditionedRun? before = Latest(f.Before);
        switch (current)
        {
            case "intake":
                string missing = string.Join(
                    ", ",
                    new[]
                    {
                        Filled(f.Owner) ? null : "the owner",
                        Filled(f.Machine) ? null : "the machine",
                        Filled(f.Noticed) ? null : "what the owner noticed",
                        f.TemperatureLimitC is null ? "the temperature limit" : null,
                    }.Where(part => part is not null)
                );
                return new NowCard(
                    "Complete the intake",
                    $"Still missing: {missing}. Without the limit, throttling by heat cannot be told from a power budget.",
                    WorkMinutes.Intake,
                    null,
                    "fill-in",
                    "Go to the intake"
                );
            case "look":
                return new NowCard(
                    "Look and listen",
                    "Dust, noises, tubes, fans: by eye, ear and hand, before anything is moved. Some of it cannot be seen again once it "
                        + "has been opened.",
                    WorkMinutes.Look,
                    "Fingers out of the blades; tubes and coolers that have just stopped burn fingers.",
                    "look",
                    "Go to the list",
                    "before-run",
                    "or add the before run"
                );
            case "before":
                return new NowCard(
                    "Record the before run",
                    "Case closed, as the owner uses it: idle until level, full load for twenty minutes, cool-down. It cannot be made up "
                        + "for once the machine has been opened.",
                    WorkMinutes.Run,
                    "Watch the first minute. At the limit within seconds: stop, the cooler may not touch the chip.",
                    "before-run",
                    "Add the log"
                );
            case "diagnosis" when f.WantsParts:
                return new NowCard(
                    $"Note {string.Join(" and ", f.PartsToNote)}",
                    "Its runs are held against the usual machine with a cooler of its kind, and sound ones differ much from that. "
                        + "Beside its own parts they say more: then a cause is named, or that nothing is wrong.",
                    WorkMinutes.Note,
                    null,
                    "parts",
                    "Note its parts",
                    f.Diagnosis!.Check is null ? "repair" : "check",
                    f.Diagnosis.Check is null ? "or go to the repair" : "or go to the next check"
                );
            case "diagnosis" when f.Diagnosis is { Check: { } check } stand:
                return new NowCard(
                    check.Order ?? $"{Verb(check)}: {Lower(check.Title)}",
                    $"{check.How} It tells the most for its time; "
                        + (
                            stand.Certainty is null ? "it is too early to name a cause."
                            : stand.IsSound ? $"that nothing is wrong leads with {stand.Percent}."
                            : $"{Lower(stand.Title)} leads with {stand.Percent}."
                        ),
                    (int)Math.Ceiling(check.Minutes),
                    CheckCaution(f, check),
                    check.Variant is null ? "check" : "run",
                    check.Variant is null ? "Go to the check" : "Run it in a bay",
                    "repair",
                    "or go to the repair"
                );
            case "repair" when f.Plan is { UnderHands: true, Next: { } step } plan:
                return new NowCard(
                    step.Title,
                    $"Step {plan.Number} of {plan.Count}. {step.How}",
                    (int)Math.Ceiling(plan.MinutesLeft),
                    step.Caution,
                    "plan",
                    "Go on with the repair",
                    "repair",
                    "or write the repair note"
                );
            case "repair"
                when f.Diagnosis is { IsSure: true, Lead: { } cause }
                    && f.Warranty?.AskFirst(cause, f.Today) is { } ask
                    && !Filled(f.RepairFound):
                return new NowCard(
                    "Offer the warranty first",
                    ask,
                    WorkMinutes.Decide,
                    "Do nothing that cannot be undone before the owner has chosen.",
                    "warranty",
                    "Note what the owner chose",
                    "repair",
                    "or repair it here"
                );
            case "repair" when f.Warranty is { Route: Warranty.Claim } && !Filled(f.RepairFound):
                return new NowCard(
                    "Claim the warranty",
                    "The owner chose the claim. Write down what the runs say, keep a copy of the proof, and send it as it is.",
                    15,
                    "Do not open it.",
                    "repair",
                    "Note what was done"
                );
            case "repair" when f.Route == DecisionRoute.Leave:
                return new NowCard(
                    "Leave it, and say so",
                    "The owner chose to leave it as it is. Note what was agreed; then it can go back.",
                    WorkMinutes.Decide,
                    null,
                    "repair",
                    "Write it down"
                );
            case "repair" when f.Route == DecisionRoute.Cap:
                return new NowCard(
                    "Cap the power",
                    "The owner chose a capped power. Set the limit in the firmware, note it, and make the after run with it.",
                    RepairMinutes(f, CapMinutes),
                    null,
                    "plan",
                    "Open the steps",
                    "coolers",
                    "or see what it costs"
                );
            case "repair" when f.Route == DecisionRoute.Cooler && f.CoolerToFit is { } cooler:
                return new NowCard(
                    $"Fit {cooler}",
                    "Keep the old screws and brackets. Power up and look at it before everything is closed; then note what was done and "
                        + "when it was mounted.",
                    RepairMinutes(f),
                    OpenCaution,
                    "plan",
                    "Open the steps",
                    "coolers",
                    "or look at the coolers again"
                );
            case "repair" when f.Diagnosis is { IsSure: true, IsSound: true } sound && !Filled(f.RepairFound):
                return new NowCard(
                    "Tell the owner it is sound",
                    $"Nothing was found: it does what a sound machine of its kind does ({sound.Percent}). Tell the owner what was "
                        + $"measured and what would make it quieter or cooler; note what was agreed.",
                    WorkMinutes.Write,
                    null,
                    "repair",
                    "Write it down",
                    "coolers",
                    "or see what another cooler would do"
                );
            case "repair"
                when f.Diagnosis is { IsSure: true, Lead: { Id: not HeldBack.PowerLimited } lead } stand && !Filled(f.RepairFound):
                // The owner chooses what it comes to before a hand is laid on it.
                if (f.Route is null)
                {
                    return new NowCard(
                        $"Decide: {Lower(lead.RepairTitle)}?",
                        $"{stand.Title}, {stand.Percent} sure. What each option would do, cost and risk stands side by side; show the "
                            + "owner, and keep what they choose.",
                        WorkMinutes.Decide,
                        null,
                        "decide",
                        "Show the options",
                        "plan",
                        "or go straight to the steps"
                    );
                }

                (string Action, string Button) next =
                    CoolerRepairs.Contains(lead.Repair) && !Filled(f.CoolerToFit) ? ("coolers", "Choose the cooler")
                    : AirRepairs.Contains(lead.Repair) && !f.HasAirPlan ? ("air", "Look at its air")
                    : ("plan", "Open the steps");
                return new NowCard(
                    lead.RepairTitle,
                    $"{stand.Title}, {stand.Percent} sure. The steps note what was found, what was replaced, and when the cooler was "
                        + "mounted again.",
                    RepairMinutes(f),
                    lead.Opens == CauseRow.Nothing ? null : OpenCaution,
                    next.Action,
                    next.Button,
                    "repair",
                    "or write the repair note"
                );
            case "repair" when Filled(f.RepairFound) && f.Diagnosis is { IsSound: false }:
                return new NowCard(
                    "Repair it, step by step",
                    $"Found: {f.RepairFound!.Trim().TrimEnd('.')}. The steps ask for what cannot be made up for, and what they "
                        + "change makes the next setup by itself.",
                    RepairMinutes(f),
                    OpenCaution,
                    "plan",
                    "Open the steps",
                    "repair",
                    "or write the repair note"
                );
            case "repair" when before is not null && RunWords.IsHeldByPower(before.Analysis, before.Conditions):
                return new NowCard(
                    "Tell the owner it is not heat",
                    "The processor’s power budget ran out while it was cool. Note what was agreed: leave it, or raise the budget in the "
                        + "firmware.",
                    WorkMinutes.Write,
                    null,
                    "repair",
                    "Write the repair note"
                );
            case "repair" when before?.Analysis.Load?.Settled == false && f.Before.Count < 2:
                return new NowCard(
                    "Repair, and note what you find",
                    "The before run was stopped before it was level; it still serves for a verdict. A longer one now would sharpen it.",
                    RepairMinutes(f),
                    OpenCaution,
                    "repair",
                    "Write the repair note"
                );
            case "repair":
                return new NowCard(
                    "Repair, and note what you find",
                    "Look at the paste print when the cooler comes off. Note what was found, what was replaced, and when the cooler was "
                        + "mounted again.",
                    RepairMinutes(f),
                    OpenCaution,
                    "repair",
                    "Write the repair note"
                );
            case "after" when f.After.Count == 0:
                return new NowCard(
                    "Record the after run",
                    $"Same load, panel and fans as before{Conditions(f)}. Power up and look at it before everything is closed again.",
                    WorkMinutes.Run,
                    "Keep cables out of the blades; the panel on before the run counts.",
                    "after-run",
                    "Add the log"
                );
            case "after":
                Obstacle? obstacle = f.Verdict?.Obstacles.FirstOrDefault(o => o.Severity == ObstacleWeight.Blocking);
                return new NowCard(
                    "Make the runs comparable",
                    obstacle is null ? "The two runs cannot be compared yet." : $"{obstacle.Message} {obstacle.Remedy}",
                    WorkMinutes.Run,
                    null,
                    "after-run",
                    "Add another after run"
                );
            case "handover" when JobOutcome.Of(f) is { Reason: { } reason } open:
                return NotDone(f, reason, open.Sentence);
            case "handover":
                bool fresh = PasteIsFresh(f) && f.After.Count < 2;
                return fresh
                    ? new NowCard(
                        "Let the paste settle, then run once more",
                        $"The cooler was mounted {Ago(f.Now - f.MountedAt!.Value)} ago. A second run in a day, same load, tells whether "
                            + $"the last degree or two come.",
                        WorkMinutes.Run,
                        "A heavy cooler: lay the machine flat for transport.",
                        "after-run",
                        "Add the second run",
                        "handover",
                        "or hand over now"
                    )
                    : new NowCard(
                        "Hand over",
                        $"{(JobOutcome.Of(f) is { } outcome ? $"{outcome.Sentence} " : "")}Print the owner’s page, set a recheck date, "
                            + $"and give back the old parts.",
                        WorkMinutes.Handover,
                        "A heavy cooler: lay the machine flat for transport.",
                        "handover",
                        "Open the owner’s page"
                    );
            default:
                return new NowCard(
                    "Repair, and note what you find",
                    "Note what was found, and what was replaced.",
                    RepairMinutes(f),
                    OpenCaution,
                    "repair",
                    "Write the repair note"
                );
        }
    }

    /// <summary>A verdict that does not answer the complaint: settle it where little is missing, else the next round.</summary>
    private static NowCard NotDone(JobFacts f, string reason, string sentence)
    {
        if (f.Verdict is { Measurable: false, Wanted: { Mounts: <= FewMore, Runs: <= FewMore } wanted } && reason == RoundReason.NotFixed)
        {
            string more =
                wanted.Runs > 0
                    ? $"{(wanted.Runs == 1 ? "One more run" : $"{wanted.Runs} more runs")} a side, as it is mounted,"
                    : $"{(wanted.Mounts == 1 ? "One more mount" : $"{wanted.Mounts} more mounts")} a side";
            return new NowCard(
                "Not settled yet",
                $"{sentence} {more} would settle a change of this size.",
                WorkMinutes.Run,
                null,
                "after-run",
                "Add a run",
                "next-round",
                $"or open round {f.Round + 1}"
            );
        }

        return new NowCard(
            $"Open round {f.Round + 1}",
            $"{sentence} The next round keeps what was found and knows what was changed.",
            WorkMinutes.Decide,
            null,
            "next-round",
            $"Open round {f.Round + 1}",
            "handover",
            "or hand it over as it is"
        );
    }

    private const int FewMore = 2;

    private const int CapMinutes = 15;

    private static int RepairMinutes(JobFacts f, int otherwise = WorkMinutes.Repair) =>
        f.Proposed is { } repair ? (int)Math.Ceiling(repair.Minutes) : otherwise;

    private static string Verb(EvidenceRow check) =>
        check.Kind switch
        {
            "symptom" => "Ask",
            "look" => "Look",
            _ => "Check",
        };

    /// <summary>A check's own caution, and the warranty's when it hangs on it.</summary>
    private static string? CheckCaution(JobFacts f, EvidenceRow check)
    {
        string? warranty =
            !check.KeepsWarranty && f.Warranty is { } known && known.Runs(f.Today) && known.IsEndedBy(CauseRow.Cooler)
                ? "This may end the warranty: ask the owner first."
                : null;
        return check.Caution is null ? warranty
            : warranty is null ? check.Caution
            : $"{check.Caution} {warranty}";
    }

    private const string OpenCaution =
        "Switch off, unplug, hold the power button, discharge yourself. Coolers and tubes that have just stopped burn fingers.";

    private static string Conditions(JobFacts f)
    {
        RunConditions? c = Latest(f.Before)?.Conditions;
        string[] known =
        [
            .. new[]
            {
                c?.Workload,
                c?.Panel is { } panel ? $"panel {panel}" : null,
                c?.FanPolicy is { } fans ? $"fans {fans}{(c.FanPercent is { } percent ? $" {percent:0} %" : "")}" : null,
            }.OfType<string>(),
        ];
        return known.Length == 0 ? "" : $": {string.Join(", ", known)}";
    }

    private static string Ago(TimeSpan age) =>
        age.TotalMinutes < 90 ? $"{Math.Max(0, age.TotalMinutes):0} min" : $"{age.TotalHours:0} hours";
}
