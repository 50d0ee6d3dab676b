using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.Practice;

namespace Remedos.Core.Tests.Practice;

/// <summary>What is scored, against the best way and against what is true of the machine.</summary>
public sealed class PracticeScoreTests
{
    private static PracticeCase With(string cause, int level = 1) =>
        Enumerable
            .Range(0, 2000)
            .Select(seed => PracticeCase.Draw(PracticeLevel.Of(level)!, seed))
            .First(one => one.Faults.ContainsKey(cause));

    private static PracticeScore Scored(PracticeCase practice, PracticeStand done, Told told, bool? fair) =>
        PracticeScore.Of(practice, done, new PracticeEnding(told, fair), BestWay.Of(practice), "EUR");

    private static ScoreLine Line(PracticeScore score, string id) => score.Lines.Single(line => line.Id == id);

    /// <summary>In this case a look lifts the cooler, and no repair follows that puts it back.</summary>
    [Fact]
    public void The_best_way_leaves_no_machine_in_pieces() => Assert.False(BestWay.Of(PracticeCase.Draw(PracticeLevel.All[2], 509)).IsOff);

    /// <summary>
    /// The product's own rules, given the same machines and nothing that a trainee could not know, mend what is wrong: of severe
    /// faults with
    /// an honest owner nearly all, and hardly any sound machine.
    /// </summary>
    [Fact]
    public void The_best_way_mends_most_of_them_and_never_touches_before_it_has_measured()
    {
        PracticeCase[] cases = [.. Enumerable.Range(500, 100).Select(seed => PracticeCase.Draw(PracticeLevel.All[0], seed))];
        PracticeStand[] ways = [.. cases.Select(BestWay.Of)];
        Assert.True(cases.Zip(ways).Count(pair => pair.Second.Left(pair.First).Count == 0) >= 85);
        Assert.All(ways, way => Assert.Equal("usual", way.Acts[0].Id));
        Assert.All(ways, way => Assert.True(way.Minutes < 300));
        Assert.All(ways, way => Assert.False(way.IsOff));
        Assert.All(cases.Zip(ways), pair => Assert.Equal(10, Line(Scored(pair.First, pair.Second, Told.Mended, true), "baseline").Points));
    }

    /// <summary>In machines with two faults it makes the next repair where one did not help, and none twice.</summary>
    [Fact]
    public void The_best_way_repairs_nothing_twice() =>
        Assert.All(Enumerable.Range(700, 25).Select(seed => BestWay.Of(PracticeCase.Draw(PracticeLevel.All[3], seed))), way =>
            Assert.Distinct(way.Acts.Where(act => act.Kind == PracticeDeed.Repair).Select(act => act.Id))
        );

    [Fact]
    public void Whoever_works_it_the_best_way_and_says_what_is_true_loses_nothing()
    {
        PracticeCase practice = With("paste-aged");
        PracticeStand best = BestWay.Of(practice);
        Assert.Empty(best.Left(practice));
        PracticeScore score = Scored(practice, best, Told.Mended, true);
        Assert.Equal(100, score.Points, 6);
        Assert.All(score.Lines, line => Assert.Null(line.Why));
        Assert.Equal(100, score.Lines.Sum(line => line.Of));
    }

    [Theory]
    [InlineData("cooler-undersized")]
    [InlineData("pump-failed")]
    public void Another_cooler_is_paid_once(string cause)
    {
        PracticeCase practice = With(cause);
        PracticeStand best = BestWay.Of(practice);
        Assert.Empty(best.Left(practice));
        Assert.Equal(100, Scored(practice, best, Told.Mended, true).Points, 6);
        Assert.Equal(best.Acts.Count, best.Kept(practice).Acts.Count);
    }

    [Fact]
    public void What_is_wrong_costs_and_says_why()
    {
        PracticeCase practice = With("fan-failed");
        // Cleaned unmeasured, and called mended: nothing of it is right but the days.
        PracticeStand done = PracticeStand.Fresh.Repaired(practice, "clean").After!;
        PracticeScore score = Scored(practice, done, Told.Mended, null);
        Assert.Equal(0, Line(score, "repair").Points);
        Assert.Contains("fan", Line(score, "repair").Why!, StringComparison.Ordinal);
        Assert.Contains("never run", Line(score, "baseline").Why!, StringComparison.Ordinal);
        Assert.Contains("not mended", Line(score, "verdict").Why!, StringComparison.Ordinal);
        Assert.Equal(0, Line(score, "fair").Points);
        // The same said honestly is worth what honesty is worth.
        Assert.Equal(10, Line(Scored(practice, done, Told.NotYet, null), "verdict").Points);
    }

    [Fact]
    public void A_needless_repair_costs_and_a_sound_machine_is_left_alone()
    {
        PracticeCase sound = Enumerable
            .Range(0, 100)
            .Select(seed => PracticeCase.Draw(PracticeLevel.Of(3)!, seed))
            .First(one => one.Faults.Count == 0);
        PracticeStand measured = PracticeStand.Fresh.Ran("usual");
        PracticeScore alone = Scored(sound, measured, Told.Sound, null);
        Assert.Equal(40, Line(alone, "repair").Points);
        Assert.Equal(10, Line(alone, "fair").Points);
        Assert.Equal(10, Line(alone, "verdict").Points);
        PracticeScore cleaned = Scored(sound, measured.Repaired(sound, "clean").After!, Told.Mended, true);
        Assert.Equal(30, Line(cleaned, "repair").Points);
        Assert.Equal(0, Line(cleaned, "verdict").Points);
        // A cooler that it did not need is a repair that mended nothing, too.
        PracticeStand swapped = measured.Handled(sound, null, BenchHands.AtFirst with { Cooler = "dual-tower" });
        Assert.Contains("stays on it", Line(Scored(sound, swapped, Told.Sound, true), "repair").Why!, StringComparison.Ordinal);
    }

    [Fact]
    public void Another_cooler_that_stays_is_paid_and_waited_for_and_a_trial_is_not()
    {
        PracticeCase practice = With("dust-blocked-fins");
        BenchHands own = BenchHands.AtFirst,
            trial = own with { Cooler = "dual-tower" };
        PracticeStand tried = PracticeStand.Fresh.Ran("usual").Handled(practice, own, trial);
        // On another cooler nothing is left of what sits in the first.
        Assert.Empty(tried.Left(practice));
        PracticeStand back = tried.Ran("usual").Handled(practice, trial, own);
        Assert.Equal(["dust-blocked-fins"], back.Left(practice));
        ScoreLine kept = Line(Scored(practice, tried, Told.Mended, true), "parts"),
            returned = Line(Scored(practice, back, Told.NotYet, null), "parts");
        Assert.True(kept.Points < returned.Points);
        Assert.True(Line(Scored(practice, tried, Told.Mended, true), "days").Points < 5);
    }

    [Fact]
    public void A_lifted_cooler_shows_its_print_once_and_goes_back_with_new_paste()
    {
        PracticeCase practice = With("paste-aged");
        BenchHands own = BenchHands.AtFirst,
            off = own with { Cooler = BenchHands.Lifted };
        Assert.Contains("has to be off", PracticeStand.Fresh.Asked(practice, "paste-print").Problem!, StringComparison.Ordinal);
        PracticeStand lifted = PracticeStand.Fresh.Handled(practice, own, off);
        Assert.Equal("dried", lifted.Asked(practice, "paste-print").After!.Acts[^1].State);
        Assert.Contains("put it on first", lifted.Repaired(practice, "clean").Problem!, StringComparison.Ordinal);
        PracticeStand back = lifted.Handled(practice, off, own);
        Assert.Empty(back.Left(practice));
        // What was lifted before it was run cannot be measured any more.
        Assert.Equal(0, Line(Scored(practice, back.Ran("usual"), Told.Mended, null), "baseline").Points);
    }

    [Theory]
    [InlineData("resistance-ratio", "measured")]
    [InlineData("nothing-such", "measured")]
    public void What_cannot_be_asked_says_why(string evidence, string expected) =>
        Assert.Contains(
            expected,
            PracticeStand.Fresh.Asked(PracticeCase.Draw(PracticeLevel.All[0], 1), evidence).Problem!,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("upgrade")]
    [InlineData("card")]
    [InlineData("prayer")]
    public void A_repair_that_is_none_here_is_refused(string repair) =>
        Assert.Contains("no such repair", PracticeStand.Fresh.Repaired(With("paste-aged"), repair).Problem!, StringComparison.Ordinal);

    /// <summary>The debrief by Bayes' rule over pairs of cause and no cause: what points to the truth is above 0, and first.</summary>
    [Fact]
    public void The_debrief_says_where_the_information_lay()
    {
        PracticeCase practice = With("pump-failed");
        PracticeStand done = PracticeStand.Fresh.Ran("usual").Asked(practice, "tube-difference").After!;
        Debrief debrief = Debrief.Of(practice, done, null);
        Assert.Equal([DiagnosisTables.CauseOf("pump-failed").Title], debrief.Causes);
        Assert.True(debrief.Rows[0].Bits > 1);
        Assert.Equal(debrief.Rows.OrderByDescending(row => row.Bits).Select(row => row.Id), debrief.Rows.Select(row => row.Id));
        Assert.True(debrief.Rows.Single(row => row.Id == "usual").Made);
        Assert.True(debrief.Rows.Single(row => row.Id == "tube-difference").Made);
        Assert.False(debrief.Rows.Single(row => row.Id == "onset").Made);
        Assert.Equal(3, debrief.Path.Count);
        Assert.True(debrief.Path[^1].Share > debrief.Path[0].Share);
    }

    [Fact]
    public void The_debrief_goes_by_what_the_sheet_had_seen()
    {
        PracticeCase practice = With("pump-failed");
        PracticeStand done = PracticeStand.Fresh.Ran("usual");
        CaseMachine machine = practice.Known with { ByKind = false };
        DiagnosisCase seen = new(machine, [new EvidenceItem("pump-speed", "zero"), new EvidenceItem("recovery", "slow")]);
        DiagnosisAnswer answer = Diagnoser.Of(seen with { Evidence = [new EvidenceItem("pump-speed", "zero")] });
        Debrief debrief = Debrief.Of(practice, done, seen);
        Assert.Contains("Cooling down after the load: slow", debrief.Rows.Single(row => row.Id == "usual").Answer);
        Assert.True(answer.Needed("replace-loop") > 0.5);
    }
}
