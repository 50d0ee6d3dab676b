using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Repair;

namespace Remedos.Core.Tests.Repair;

/// <summary>Every combination of acts, coolers, sockets and peculiarities makes a plan that can be worked through.</summary>
public class RepairPlannerTests
{
    private static readonly string[] Swaps = [RepairRow.Upgrade, RepairRow.ReplaceLoop];

    private static IEnumerable<RepairFacts> Combinations()
    {
        string?[] kinds = [null, .. CoolerPart.Kinds],
            sockets = [null, .. SocketPattern.All.Select(socket => socket.Id)];
        string[][] acts =
        [
            .. RepairRow.All.Select(row => new[] { row.Id }),
            ["clean", "remount"],
            ["remount", "card", "re-steer"],
            ["upgrade", "airflow", "modify-case"],
            ["replace-loop", "clean", "replace-fan"],
        ];
        string[][] obstacles =
        [
            .. Enumerable
                .Range(0, 1 << CaseObstacle.All.Length)
                .Select(bits => CaseObstacle.All.Where((_, i) => (bits & (1 << i)) != 0).ToArray()),
        ];
        foreach (string[] does in acts)
        {
            string?[] on = does.Any(Swaps.Contains) ? [.. CoolerPart.Kinds] : [null];
            foreach (string? off in kinds)
            foreach (string? kind in on)
            foreach (string? socket in sockets)
                for (int i = 0; i < obstacles.Length; i++)
                {
                    yield return new RepairFacts
                    {
                        Acts = does,
                        CoolerOff = off,
                        CoolerOn = kind is null ? null : new NewCooler("Mullion 120", kind, kind == "liquid" ? "top" : null, i % 2 == 0),
                        Socket = socket,
                        Obstacles = obstacles[i],
                        HasCard = i % 3 == 0 ? null : i % 3 == 1,
                        HasClosedRun = i % 2 == 0,
                        HasFixedRun = i % 4 < 2,
                        LiquidMetal = i % 5 == 4,
                        EndsWarranty = i % 3 == 2 ? ["cooler"] : [],
                        Boots = i != 7,
                    };
                }
        }
    }

    [Fact]
    public void Every_combination_makes_a_plan_whose_promises_hold()
    {
        int plans = 0;
        foreach (RepairFacts facts in Combinations())
        {
            Assert.Null(RepairPlanner.Problem(facts));
            RepairPlan plan = RepairPlanner.Of(facts);
            List<string> ids = [.. plan.Steps.Select(step => step.Id)];
            string what =
                $"{string.Join("+", facts.Acts)}, {facts.CoolerOff} → {facts.CoolerOn?.Kind}, {facts.Socket}: {string.Join(" ", ids)}";
            int At(string id) => ids.IndexOf(id);
            Assert.True(plan.Steps.Count > 0 && ids.Distinct().Count() == ids.Count, what);
            Assert.DoesNotContain(plan.Steps, step => (step.Title + step.How + step.Why).Contains('{'));

            // Nothing that cannot be undone comes before the run that it makes impossible.
            int undone = plan.Steps.ToList().FindIndex(step => step.Irreversible);
            Assert.True(undone < 0 || plan.Steps.Skip(undone).All(step => !step.Baseline), what);
            Assert.True(undone < 0 || facts.HasClosedRun || !facts.Boots || ids.Contains("closed-run"), what);

            // Without mains before it is opened; looked at under power before it is closed.
            Assert.True(!ids.Contains("panel-off") || (At("unplug") is >= 0 and var out_ && out_ < At("panel-off")), what);
            Assert.True(!ids.Contains("panel-off") || (At("power-on") > At("panel-off") && At("panel-on") > At("power-on")), what);

            // Whatever came out goes back, later and by the same plan.
            Assert.All(plan.Steps.Where(step => step.UndoneBy is not null), step => Assert.True(At(step.UndoneBy!) > At(step.Id), what));

            // A cooler that comes off goes on again with clean faces, paste and its screws across.
            bool lifted = ids.Contains("twist-lift");
            Assert.Equal(lifted, ids.Contains("set-down"));
            Assert.True(plan.Steps.Count(step => step.MakesSetup) == 1, what);
            Assert.True(!lifted || plan.Steps.Single(step => step.MakesSetup).Stage == StepStage.On, what);
            Assert.True(
                !lifted || (At("clean-faces") < Math.Max(At("paste-on"), At("liquid-metal-on")) && At("pick-print") < At("clean-faces")),
                what
            );
            Assert.Equal(ids.Contains("board-out"), ids.Contains("board-in"));
            Assert.True(!ids.Contains("cut") || At("board-out") < At("cut"), what);
            plans++;
        }

        Assert.True(plans > 10_000, $"{plans} plans were tried.");
    }

    [Fact]
    public void Every_step_of_the_table_is_reached_by_some_plan()
    {
        HashSet<string> reached = [.. Combinations().SelectMany(facts => RepairPlanner.Of(facts).Steps.Select(step => step.Id))];
        Assert.Empty(StepRow.All.Select(row => row.Id).Except(reached));
    }

    /// <summary>What practised hands take, by the trade's habit: within a third of it.</summary>
    [Theory]
    [InlineData("remount", "tower", null, 45)]
    [InlineData("clean", "tower", null, 32)]
    [InlineData("replace-fan", "tower", null, 25)]
    [InlineData("upgrade", "down-draught", "tower", 55)]
    [InlineData("upgrade", "tower", "dual-tower", 60)]
    [InlineData("replace-loop", "liquid", "liquid", 80)]
    [InlineData("card", "tower", null, 70)]
    [InlineData("cap-power", "tower", null, 12)]
    public void A_usual_plan_takes_the_minutes_of_practised_hands(string act, string off, string? on, double usual)
    {
        RepairFacts machine = RepairFacts.OfMachine(new BoardPart("Q4"), null, null, off) with { HasCard = true };
        Assert.InRange(RepairPlanner.MinutesOf(machine, act, on is null ? null : NewCooler.OfKind(on)), usual / 1.35, usual * 1.35);
    }

    [Fact]
    public void What_the_machine_is_stands_in_the_words()
    {
        RepairPlan plan = RepairPlanner.Of(
            new RepairFacts
            {
                Acts = ["upgrade"],
                CoolerOff = "down-draught",
                CoolerOn = new NewCooler("Rill 240", "liquid", "top", TakesBays: true),
                Socket = "W3",
                Obstacles = [CaseObstacle.WallScrews, CaseObstacle.OwnFans],
                PumpHeader = "PUMP",
                FirstPowerMaxC = 52.4,
                PastesHere = "Tallow Grey 5 runs 3.1 ± 2.0 °C cooler than Chalk 2 at 100 W, in 2 machines.",
            }
        );
        PlanStep Step(string id) => plan.Steps.Single(step => step.Id == id);
        Assert.Equal("Fit Rill 240", plan.Title);
        Assert.Equal([1, 4, 2, 5, 3, 6], Step("loosen-across").Screws);
        Assert.Contains("W3 prints it on its frame", Step("tighten-across").How);
        Assert.Equal("Pump on PUMP, at full", Step("pump-plug").Title);
        Assert.Contains("below 52 °C", Step("chip-rise").How);
        Assert.Equal(52.4, Step("chip-rise").Most);
        Assert.Contains("five dots", Step("paste-on").Title);
        Assert.Contains("On this bench: Tallow Grey 5 runs 3.1", Step("paste-on").How);
        Assert.Contains(plan.Steps, step => step.Id == "cage-out");
        Assert.Contains(plan.Steps, step => step.Id == "own-fans");
    }

    [Fact]
    public void What_cannot_be_planned_is_said_in_a_sentence()
    {
        Assert.Contains("Nothing is chosen", RepairPlanner.Problem(new RepairFacts { Acts = [] }));
        Assert.Contains("“weld” is nothing that can be done", RepairPlanner.Problem(new RepairFacts { Acts = ["weld"] }));
        Assert.Contains("not chosen yet", RepairPlanner.Problem(new RepairFacts { Acts = ["upgrade"] }));
        Assert.Contains(
            "no place of this case",
            RepairPlanner.Problem(new RepairFacts { Acts = ["upgrade"], CoolerOn = new NewCooler("Rill 240", "liquid") })
        );
        Assert.Equal(
            "Mullion 140 does not go in: It is 165 mm high; the case takes 158 mm, 7 mm less. Choose another, or correct the "
                + "measure if it is wrong.",
            RepairPlanner.Problem(
                new RepairFacts
                {
                    Acts = ["upgrade"],
                    CoolerOn = NewCooler.OfKind("tower") with { Name = "Mullion 140" },
                    DoesNotFit = "It is 165 mm high; the case takes 158 mm, 7 mm less.",
                }
            )
        );
        Assert.Throws<ArgumentException>(() => RepairPlanner.Of(new RepairFacts { Acts = [] }));
    }
}
