using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Jobs;
using Remedos.Core.Money;

namespace Remedos.Core.Tests.Jobs;

/// <summary>A job from intake to handover: what it waits for, what comes next, what the owner reads.</summary>
public sealed class JobProgressTests
{
    private static DiagnosisStand Stand(CauseRow lead, double probability, EvidenceRow? check, double bits) =>
        new(lead, lead.Title, probability, check, bits);

    internal static readonly DateTimeOffset Now = new(2031, 4, 2, 12, 0, 0, TimeSpan.Zero);
    private static readonly ConditionedRun Hot = Example.Run("02-paste-before"),
        Cool = Example.Run("03-paste-after");
    internal static readonly JobFacts Arrived = new(
        "Owner",
        "Machine",
        "Loud",
        95,
        125,
        "tower",
        null,
        [],
        [],
        null,
        null,
        null,
        null,
        null,
        null,
        Now
    );
    private static readonly JobFacts Looked = Arrived with
    {
        Observations =
        [
            .. DiagnosisTables
                .Evidence.Where(row => row.Untouched && row.IsOf("tower"))
                .Select(row => new EvidenceItem(row.Id, row.States[0])),
        ],
    };
    private static readonly CauseRow Dust = DiagnosisTables.CauseOf("dust-blocked-fins"),
        Pump = DiagnosisTables.CauseOf("pump-failed");
    private static readonly EvidenceRow PanelOff = DiagnosisTables.EvidenceOf("panel-off-drop")!,
        Tubes = DiagnosisTables.EvidenceOf("tube-difference")!;
    internal static readonly JobFacts Measured = Arrived with { Before = [Hot] };
    internal static readonly JobFacts Repaired = Measured with
    {
        RepairFound = "Paste dried",
        RepairDone = "New paste",
        MountedAt = Now.AddHours(-3),
    };
    internal static readonly JobFacts Proven = Repaired with { After = [Cool], Verdict = Comparer.Compare([Hot], [Cool]) };

    [Fact]
    public void Each_step_leads_to_the_next()
    {
        (JobFacts Facts, string Step, WaitsFor Waits, string Action)[] order =
        [
            (Arrived with { TemperatureLimitC = null }, "intake", WaitsFor.Intake, "fill-in"),
            (Arrived, "look", WaitsFor.Test, "look"),
            (Looked, "before", WaitsFor.Test, "before-run"),
            (Measured, "repair", WaitsFor.Repair, "repair"),
            (Measured with { Diagnosis = Stand(Dust, 0.5, PanelOff, 0.4) }, "diagnosis", WaitsFor.Test, "run"),
            (Measured with { Diagnosis = Stand(Dust, 0.5, Tubes, 0.4) }, "diagnosis", WaitsFor.Test, "check"),
            (Measured with { Diagnosis = Stand(Dust, 0.85, Tubes, 0.4) }, "diagnosis", WaitsFor.Test, "check"),
            (Measured with { Diagnosis = Stand(Dust, 0.85, Tubes, 0.05) }, "repair", WaitsFor.Repair, "decide"),
            (Measured with { Diagnosis = Stand(Dust, 0.95, Tubes, 0.4) }, "repair", WaitsFor.Repair, "decide"),
            (Measured with { Diagnosis = Stand(Dust, 0.3, null, 0) }, "repair", WaitsFor.Repair, "repair"),
            (Repaired, "after", WaitsFor.Test, "after-run"),
            (Proven, "handover", WaitsFor.Paste, "after-run"),
            (Proven with { MountedAt = Now.AddHours(-30) }, "handover", WaitsFor.PickUp, "handover"),
            (Proven with { HandedOverAt = Now }, "handover", WaitsFor.Done, "none"),
        ];
        foreach ((JobFacts facts, string step, WaitsFor waits, string action) in order)
        {
            JobProgress progress = JobProgress.Of(facts);
            Assert.Equal((step, waits, action), (progress.CurrentStep, progress.WaitsFor, progress.Now.Action));
        }
    }

    [Fact]
    public void What_is_missing_at_intake_is_named() =>
        Assert.Contains(
            "the owner, the temperature limit",
            JobProgress.Of(Arrived with { Owner = " ", TemperatureLimitC = null }).Now.Why,
            StringComparison.Ordinal
        );

    [Fact]
    public void What_was_seen_and_what_was_not_stands_in_a_line()
    {
        string Line(params EvidenceItem[] seen) =>
            JobProgress.Of(Arrived with { Observations = seen }).Steps.Single(step => step.Id == "look").Conclusion;
        Assert.Equal("Not looked at yet.", Line());
        Assert.Equal("Nothing found; 1 of 5 looked at.", Line(new EvidenceItem("dust", "none")));
        Assert.Equal(
            "Dust: heavy; 2 of 5 looked at.",
            Line(new EvidenceItem("dust", "heavy"), new EvidenceItem("noise-grinding", "no"), new EvidenceItem("onset", "gradual"))
        );
    }

    /// <summary>The headline names a cause as it grows certain, and no sooner.</summary>
    [Theory]
    [InlineData(0.3, false, "Too hot:")]
    [InlineData(0.45, false, "Perhaps:")]
    [InlineData(0.75, false, "Likely:")]
    [InlineData(0.95, false, "Almost certainly:")]
    [InlineData(0.75, true, "Too hot:")]
    [InlineData(0.85, true, "Too hot:")]
    [InlineData(0.92, true, "Almost certainly:")]
    public void The_headline_follows_the_diagnosis(double probability, bool byKind, string lead)
    {
        ConditionedRun hot = Example.Run("06-undersized-throttling");
        DiagnosisStand stand = Stand(Dust, probability, null, 0) with { ByKind = byKind };
        Assert.Equal(lead, JobProgress.Of(Arrived with { Before = [hot], Diagnosis = stand }).Headline.Lead);
    }

    /// <summary>Sound machines of a kind differ: while only that is known a fault is not named, and the card says what to note.</summary>
    [Fact]
    public void Without_its_parts_it_accuses_nobody_and_says_what_to_note()
    {
        JobFacts unknown = Measured with
        {
            Diagnosis = Stand(Dust, 0.75, Tubes, 0.4) with { ByKind = true },
            PartsToNote = ["which cooler is on it", "which processor it has"],
        };
        JobProgress progress = JobProgress.Of(unknown);
        Assert.Equal(("diagnosis", "parts", "check"), (progress.CurrentStep, progress.Now.Action, progress.Now.OtherAction));
        Assert.Equal("Note which cooler is on it and which processor it has", progress.Now.Title);
        Assert.DoesNotContain(Dust.Title, $"{progress.Headline} {progress.Now} {progress.Steps[3]}", StringComparison.OrdinalIgnoreCase);
        Assert.Equal("Too early to name a cause: it is held against any of its kind.", progress.Steps[3].Conclusion);

        // No check is left: a note is what is; then a name without figures, which nobody is asked for twice.
        Assert.Equal("parts", ActionOf(unknown with { Diagnosis = Stand(Dust, 0.75, null, 0) with { ByKind = true } }));
        JobFacts named = unknown with { PartsToNote = [] };
        Assert.Equal("check", ActionOf(named));
        Assert.DoesNotContain(Dust.Title, JobProgress.Of(named).Now.Why, StringComparison.OrdinalIgnoreCase);
        // Nor is a machine of any parts called sound before that is likely.
        DiagnosisStand sound = new(null, DiagnosisStand.Sound, 0.6, Tubes, 0.05);
        Assert.Null((sound with { ByKind = true }).Certainty);
        Assert.NotNull(sound.Certainty);
        // Four in five is not enough while nobody knows the parts; what is almost certain is acted on.
        Assert.Equal("parts", ActionOf(unknown with { Diagnosis = Stand(Dust, 0.85, Tubes, 0.05) with { ByKind = true } }));
        Assert.Equal("decide", ActionOf(unknown with { Diagnosis = Stand(Dust, 0.92, Tubes, 0.05) with { ByKind = true } }));

        static string ActionOf(JobFacts facts) => JobProgress.Of(facts).Now.Action;
    }

    [Fact]
    public void The_warranty_is_offered_before_work_that_would_end_it_and_for_a_part_that_failed()
    {
        JobFacts sure = Measured with { Diagnosis = Stand(Dust, 0.95, null, 0) };
        NowCard Now(CauseRow cause, string? endedBy, string? route = null, int months = 24, string? found = null) =>
            JobProgress
                .Of(
                    sure with
                    {
                        RepairFound = found,
                        Diagnosis = Stand(cause, 0.95, null, 0),
                        Warranty = new Warranty(new DateOnly(2030, 1, 10), months, false, endedBy, route),
                    }
                )
                .Now;
        Assert.Equal(("Offer the warranty first", "warranty"), (Now(Dust, CauseRow.Case).Title, Now(Dust, CauseRow.Case).Action));
        Assert.Contains("“Clean fins and filters” ends it", Now(Dust, CauseRow.Case).Why, StringComparison.Ordinal);
        Assert.Contains("may end it", Now(Dust, null).Why, StringComparison.Ordinal);
        Assert.Contains("for its maker to put right", Now(Pump, CauseRow.Nothing).Why, StringComparison.Ordinal);
        Assert.Equal("Decide: clean fins and filters?", Now(Dust, CauseRow.Cooler).Title);
        Assert.Equal("Decide: clean fins and filters?", Now(Dust, CauseRow.Case, Warranty.Here).Title);
        Assert.Equal("Claim the warranty", Now(Dust, CauseRow.Case, Warranty.Claim).Title);
        Assert.Equal("decide", Now(Dust, CauseRow.Case, months: 12).Action);
        Assert.Equal("Repair it, step by step", Now(Dust, CauseRow.Case, found: "Felt").Title);
    }

    /// <summary>Where a cooler or the air is to be chosen first, the card leads there, and once that is done to the steps.</summary>
    [Theory]
    [InlineData("cooler-undersized", false, null, "coolers")]
    [InlineData("cooler-undersized", false, "Mullion 120", "plan")]
    [InlineData("case-starved", false, null, "air")]
    [InlineData("case-starved", true, null, "plan")]
    [InlineData("dust-blocked-fins", false, null, "plan")]
    public void What_has_to_be_chosen_first_comes_before_the_steps(string cause, bool hasAirPlan, string? cooler, string action)
    {
        CauseRow row = DiagnosisTables.CauseOf(cause);
        JobFacts chosen = Measured with
        {
            Diagnosis = Stand(row, 0.95, null, 0),
            Route = DecisionRoute.Repair,
            HasAirPlan = hasAirPlan,
            CoolerToFit = cooler,
        };
        Assert.Equal((row.RepairTitle, action), (JobProgress.Of(chosen).Now.Title, JobProgress.Of(chosen).Now.Action));
        Assert.Equal("decide", JobProgress.Of(chosen with { Route = null }).Now.Action);
    }

    /// <summary>Once the owner has chosen, the card is about that and nothing else; a claim that was chosen goes first.</summary>
    [Theory]
    [InlineData(DecisionRoute.Leave, null, "Leave it, and say so")]
    [InlineData(DecisionRoute.Cap, null, "Cap the power")]
    [InlineData(DecisionRoute.Cooler, "Mullion 120", "Fit Mullion 120")]
    [InlineData(DecisionRoute.Cooler, null, "Clean fins and filters")]
    [InlineData(DecisionRoute.Repair, null, "Clean fins and filters")]
    public void What_the_owner_chose_leads(DecisionRoute route, string? cooler, string title)
    {
        JobFacts chosen = Measured with { Diagnosis = Stand(Dust, 0.95, null, 0), Route = route, CoolerToFit = cooler };
        Assert.Equal(title, JobProgress.Of(chosen).Now.Title);
        Assert.Equal(
            "Claim the warranty",
            JobProgress
                .Of(chosen with { Warranty = new Warranty(new DateOnly(2030, 1, 10), 24, true, CauseRow.Case, Warranty.Claim) })
                .Now.Title
        );
    }

    [Fact]
    public void Held_up_by_hand_wins_until_the_machine_is_gone()
    {
        Assert.Equal(WaitsFor.Part, JobProgress.Of(Measured with { WaitingFor = WaitsFor.Part }).WaitsFor);
        Assert.Equal(WaitsFor.Done, JobProgress.Of(Proven with { WaitingFor = WaitsFor.Part, HandedOverAt = Now }).WaitsFor);
    }

    [Fact]
    public void Runs_that_cannot_be_compared_ask_for_the_one_that_would()
    {
        ConditionedRun open = Cool with { Conditions = Cool.Conditions with { Panel = "side-off" } };
        JobProgress progress = JobProgress.Of(Repaired with { After = [open], Verdict = Comparer.Compare([Hot], [open]) });
        Assert.Equal(("after", "Make the runs comparable"), (progress.CurrentStep, progress.Now.Title));
        Assert.Contains("closed", progress.Now.Why, StringComparison.Ordinal);
    }

    [Fact]
    public void A_power_budget_is_no_heat_and_an_ordinary_boost_no_finding()
    {
        ConditionedRun asRated = Example.Run("07-power-limited"),
            budget = asRated with { Conditions = asRated.Conditions with { RatedPowerW = 140 } };
        JobProgress held = JobProgress.Of(Arrived with { Before = [budget] });
        Assert.StartsWith("Not heat", held.Headline.Lead, StringComparison.Ordinal);
        Assert.Equal("Tell the owner it is not heat", held.Now.Title);
        // Held at what it is rated for, a boost that ended is what it was bought with.
        Assert.StartsWith("Within its limit", JobProgress.Of(Arrived with { Before = [asRated] }).Headline.Lead, StringComparison.Ordinal);
    }

    [Fact]
    public void Hot_is_marked_hot()
    {
        Headline headline = JobProgress.Of(Arrived with { Before = [Example.Run("06-undersized-throttling")] }).Headline;
        Assert.Equal(("Too hot:", true), (headline.Lead, headline.Hot));
        Assert.False(JobProgress.Of(Proven).Headline.Hot);
    }

    [Fact]
    public void The_owner_reads_what_it_did_and_how_sure()
    {
        OwnerPage page = OwnerPage.Of(Proven);
        Assert.Equal("It runs cooler.", page.Headline);
        Assert.Contains(page.Measured, sentence => sentence.Contains("17 °C cooler", StringComparison.Ordinal));
        Assert.Contains("give or take 3.5 °C, nineteen times out of twenty", page.HowSure, StringComparison.Ordinal);
        Assert.Contains(page.Watch, sentence => sentence.Contains("paste is new", StringComparison.Ordinal));
        Assert.Contains(page.Watch, sentence => sentence.Contains("heavy", StringComparison.Ordinal));
    }

    [Fact]
    public void The_owner_is_told_the_truth_when_it_did_not_help()
    {
        ConditionedRun worse = Hot with
        {
            Analysis = Hot.Analysis with
            {
                Load = Hot.Analysis.Load! with { SustainedTemperatureC = Hot.Analysis.Load.SustainedTemperatureC + 12 },
            },
        };
        Assert.Equal(
            "It runs hotter than before.",
            OwnerPage.Of(Proven with { After = [worse], Verdict = Comparer.Compare([Hot], [worse]) }).Headline
        );
        OwnerPage same = OwnerPage.Of(Proven with { After = [Hot], Verdict = Comparer.Compare([Hot], [Hot]) });
        Assert.Equal("No change that we can measure.", same.Headline);
        Assert.Contains("would have shown", same.HowSure, StringComparison.Ordinal);
        Assert.Equal("Nothing was measured.", OwnerPage.Of(Arrived).Headline);
    }
}
