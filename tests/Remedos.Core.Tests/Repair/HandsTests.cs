using Remedos.Core.Repair;

namespace Remedos.Core.Tests.Repair;

/// <summary>Screws, paste, hold points and how far a plan is.</summary>
public class HandsTests
{
    [Theory]
    [InlineData(2, new[] { 1, 2 })]
    [InlineData(3, new[] { 1, 2, 3 })]
    [InlineData(4, new[] { 1, 3, 2, 4 })]
    [InlineData(5, new[] { 1, 3, 5, 2, 4 })]
    [InlineData(6, new[] { 1, 4, 2, 5, 3, 6 })]
    [InlineData(8, new[] { 1, 5, 3, 7, 2, 6, 4, 8 })]
    public void Screws_are_turned_across(int screws, int[] order) => Assert.Equal(order, TorqueOrder.Of(screws));

    [Fact]
    public void Any_number_of_screws_gets_an_order_in_which_each_comes_once_and_its_opposite_next()
    {
        for (int screws = 4; screws <= 12; screws++)
        {
            IReadOnlyList<int> order = TorqueOrder.Of(screws);
            Assert.Equal(Enumerable.Range(1, screws), order.Order());
            // Even numbers go by pairs across; no pair begins beside one that is tight while there is a wider gap.
            for (int i = 0; screws % 2 == 0 && i < screws; i += 2)
            {
                Assert.Equal(screws / 2, Math.Abs(order[i] - order[i + 1]));
            }
        }

        Assert.Throws<ArgumentOutOfRangeException>(() => TorqueOrder.Of(1));
    }

    [Fact]
    public void Paste_is_a_layer_over_the_face_in_dots_that_hold_it()
    {
        // 40 × 40 mm × 0.12 mm = 192 mm³: a ball of 7.16 mm.
        PasteAmount square = PasteAmount.Of(40, 40);
        Assert.Equal(192, square.VolumeMm3, 1e-9);
        Assert.Equal((1, 7.16), (square.Dots, Math.Round(square.DotMm, 2)));
        Assert.Equal("one dot of 7 mm in the middle", square.Words);
        Assert.Equal(2, PasteAmount.Of(60, 30).Dots);
        PasteAmount large = PasteAmount.Of(70, 51);
        Assert.Equal(5, large.Dots);
        foreach (PasteAmount one in new[] { square, PasteAmount.Of(60, 30), large })
        {
            Assert.Equal(one.VolumeMm3, one.Dots * Math.PI / 6 * Math.Pow(one.DotMm, 3), 1e-6);
        }
    }

    private static readonly RepairPlan Plan = RepairPlanner.Of(
        new RepairFacts
        {
            Acts = ["remount"],
            CoolerOff = "liquid",
            HasClosedRun = true,
            FirstPowerMaxC = 50,
        }
    );

    private static PlanStep Step(string id) => Plan.Steps.Single(step => step.Id == id);

    private static StepMark Done => new(StepState.Done, DateTimeOffset.UnixEpoch);

    [Fact]
    public void A_hold_point_is_passed_by_what_it_asks_for()
    {
        Assert.Null(Done.Problem(Step("unplug"), []));
        Assert.Contains("needs a reading", Done.Problem(Step("chip-rise"), []));
        Assert.Contains("62 °C is outside 5 to 50", (Done with { Reading = 62 }).Problem(Step("chip-rise"), []));
        Assert.Null((Done with { Reading = 44 }).Problem(Step("chip-rise"), []));
        Assert.Contains("needs a picture", Done.Problem(Step("photo-print"), []));
        Assert.Contains("is one of full", (Done with { Text = "smeared" }).Problem(Step("pick-print"), []));
        Assert.Null((Done with { Text = "dried" }).Problem(Step("pick-print"), []));
        Assert.Contains("at least one line", Done.Problem(Step("pull-plugs"), []));
        Assert.Contains("none that is empty", (Done with { Lines = [""] }).Problem(Step("pull-plugs"), []));
        Assert.Contains(
            "“pump” was pulled and is not ticked",
            (Done with { Lines = ["CPU fan"] }).Problem(Step("plugs-back"), ["CPU fan", "pump"])
        );
        Assert.Null((Done with { Lines = ["CPU fan", "pump"] }).Problem(Step("plugs-back"), ["CPU fan", "pump"]));
    }

    [Fact]
    public void A_step_is_left_out_only_for_a_reason()
    {
        StepMark skipped = new(StepState.Skipped, DateTimeOffset.UnixEpoch);
        Assert.Contains("say which", skipped.Problem(Step("photo-print"), []));
        Assert.Null((skipped with { Text = "camera is empty" }).Problem(Step("photo-print"), []));
    }

    [Fact]
    public void Progress_counts_hands_and_not_the_night_between()
    {
        Dictionary<string, StepMark> marks = new() { [Plan.Steps[0].Id] = Done with { Seconds = 90 } };
        PlanProgress at = PlanProgress.Of(Plan, marks);
        Assert.Equal((2, Plan.Steps.Count, Plan.Steps[1].Id), (at.Number, at.Count, at.Next!.Id));
        Assert.Equal(1.5, at.MinutesTaken);
        marks[Plan.Steps[0].Id] = Done with { Seconds = 14 * 3600 };
        Assert.Equal(10, PlanProgress.Of(Plan, marks).MinutesTaken);
        PlanProgress done = PlanProgress.Of(Plan, Plan.Steps.ToDictionary(step => step.Id, _ => Done));
        Assert.True(done.IsDone);
        Assert.Equal(0, done.MinutesLeft);
        Assert.Null(done.MinutesTaken);
    }

    [Fact]
    public void What_was_listed_on_the_way_out_is_what_has_to_go_back()
    {
        Dictionary<string, StepMark> marks = new() { ["pull-plugs"] = Done with { Lines = ["CPU fan on CPU", "pump on PUMP"] } };
        Assert.Equal(["CPU fan on CPU", "pump on PUMP"], PlanProgress.Listed(Plan, Step("plugs-back"), marks));
        Assert.Empty(PlanProgress.Listed(Plan, Step("unplug"), marks));
    }

    [Theory]
    [InlineData("memory: 1.5 mm, at work 1.2 mm", null)]
    [InlineData("memory 1.5", "is written with both thicknesses")]
    [InlineData("memory: 9 mm, at work 8 mm", "pads are 0.2 to 6 mm thick")]
    [InlineData("back: 1.5 mm, at work 1.6 mm", "between half and all of that")]
    [InlineData("back: 2 mm, at work 0.9 mm", "between half and all of that")]
    public void Pads_of_a_card_are_noted_by_zone(string line, string? says)
    {
        PlanStep pads = RepairPlanner
            .Of(new RepairFacts { Acts = ["card"], CoolerOff = "tower" })
            .Steps.Single(step => step.Hold == StepHold.Pads);
        string? problem = new StepMark(StepState.Done, default, Lines: [line]).Problem(pads, []);
        Assert.Equal(says is null, problem is null);
        Assert.Contains(says ?? "", problem ?? "", StringComparison.Ordinal);
        Assert.Contains("needs the thickness", new StepMark(StepState.Done, default).Problem(pads, []), StringComparison.Ordinal);
    }

    /// <summary>The list of what was used begins with what its steps use: nobody types it, and nothing is forgotten.</summary>
    [Theory]
    [InlineData("upgrade", new[] { "Mullion 120", "paste" })]
    [InlineData("remount", new[] { "paste" })]
    [InlineData("mounting-kit", new[] { "paste", "mounting kit for this socket" })]
    [InlineData("replace-fan", new[] { "a fan" })]
    [InlineData("card", new[] { "pads", "paste for bare chips" })]
    public void What_was_used_is_suggested(string act, string[] lines)
    {
        RepairPlan plan = RepairPlanner.Of(
            new RepairFacts
            {
                Acts = [act],
                CoolerOff = "tower",
                CoolerOn = act == "upgrade" ? new NewCooler("Mullion 120", "tower") : null,
            }
        );
        Assert.Equal(lines, plan.Steps.Single(step => step.Id == "parts-used").Suggested);
        Assert.All(plan.Steps.Where(step => step.Id != "parts-used"), step => Assert.Empty(step.Suggested));
    }
}
