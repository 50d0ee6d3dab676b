using Remedos.Core.Planning;

namespace Remedos.Core.Tests.Planning;

public sealed class DayPlannerTests
{
    private static readonly Span[] Day = [new(0, 510), new(1440, 1950)];

    private static PlanRequest Request(IReadOnlyList<PlanJob> jobs, int hands = 1, int bays = 1) =>
        new(
            Day,
            [.. Enumerable.Range(0, hands).Select(i => new PlanHand($"hand {i}", Day))],
            [.. Enumerable.Range(1, bays).Select(i => new PlanBay(i, []))],
            jobs
        );

    private static WorkPiece Hands(double minutes, WorkKind kind = WorkKind.Repair) => new(kind, "work", minutes);

    [Fact]
    public void A_bay_is_set_to_work_before_hands_begin_with_something_long()
    {
        // By hand: hook up (5), then 45 minutes of repair while it runs (25); the run's handover waits for the repair or goes before it.
        DayPlan plan = DayPlanner.Plan(
            Request([new PlanJob("repair", [Hands(45)]), new PlanJob("run", [WorkPiece.Run("run"), Hands(5, WorkKind.Check)])])
        );
        Assert.Equal("run", plan.NextOf("hand 0")!.Job);
        Assert.Equal(50, plan.Blocks.Single(block => block.Job == "repair").HandsTo);
        Assert.Equal(55, plan.Machines[1].ReadyAt);
    }

    [Fact]
    public void A_promise_goes_before_what_is_shorter()
    {
        DayPlan plan = DayPlanner.Plan(Request([new PlanJob("short", [Hands(10)]), new PlanJob("promised", [Hands(60)], Due: 62)]));
        Assert.Equal("promised", plan.NextOf("hand 0")!.Job);
        Assert.Equal(0, plan.Machines[1].LateByMinutes);
    }

    [Fact]
    public void No_run_begins_that_would_go_on_in_an_empty_house_and_no_check_is_cut_by_the_night()
    {
        PlanRequest request = Request([
            new PlanJob("one", [Hands(490), WorkPiece.Run("run")]),
            new PlanJob("long", [Hands(600)], NotBefore: 500, Rank: 1),
        ]);
        DayPlan plan = DayPlanner.Plan(request with { Open = DrawnDay.Weeks, Hands = [new PlanHand("hand 0", DrawnDay.Weeks)] });
        PlanBlock run = plan.Blocks.Single(block => block.Bay == 1);
        Assert.True(run.From >= 1440);
        // What no day holds is laid down at closing and taken up in the morning: 10 minutes, a day of 510, 80 more.
        PlanBlock split = plan.Blocks.Single(block => block.Job == "long");
        Assert.Equal((500, 2880 + 80), (split.From, split.HandsTo));
    }

    [Fact]
    public void What_settles_goes_on_through_the_night()
    {
        DayPlan plan = DayPlanner.Plan(
            Request([new PlanJob("paste", [new WorkPiece(WorkKind.Settle, "settle", 0, 1440), Hands(5, WorkKind.Check)])])
        );
        Assert.Equal(1445, plan.Machines[0].ReadyAt);
    }

    [Fact]
    public void What_goes_on_now_stays_where_it_is()
    {
        DayPlan plan = DayPlanner.Plan(
            Request([
                new PlanJob("promised", [Hands(10), WorkPiece.Run("run")], Due: 20),
                new PlanJob("running", [WorkPiece.Run("run") with { HandsMinutes = 0, AloneMinutes = 17 }, Hands(5)]) { RunsIn = 1 },
                new PlanJob("begun", [Hands(30), Hands(5)]) { UnderHandsOf = "hand 0" },
            ])
        );
        Assert.Equal(17, plan.Blocks.Single(block => block.Job == "running" && block.Piece == 0).To);
        Assert.Equal((0, 30), plan.Blocks.Where(block => block.Job == "begun").Select(block => (block.From, block.HandsTo)).First());
        Assert.True(plan.Blocks.Single(block => block.Job == "promised" && block.Piece == 1).From >= 40);
        Assert.Equal(LateReason.Work, plan.Machines[0].Reason);
    }

    [Fact]
    public void A_machine_that_waits_for_a_hand_keeps_its_bay_and_what_follows_waits_for_its_part()
    {
        DayPlan plan = DayPlanner.Plan(
            Request([
                new PlanJob("other", [WorkPiece.Run("run")], Rank: 2),
                new PlanJob("waits", [WorkPiece.Run("run") with { HandsMinutes = 2 }, Hands(20)], NotBefore: 200, Rank: 1) { RunsIn = 1 },
            ])
        );
        PlanBlock[] waits = [.. plan.Blocks.Where(block => block.Job == "waits")];
        Assert.Equal((0, 1), (waits[0].From, waits[0].Bay));
        Assert.Equal(200, waits[1].From);
        Assert.Equal(waits[0].To, plan.Blocks.Single(block => block.Job == "other").From);
    }

    [Fact]
    public void A_machine_that_was_put_first_goes_first_and_whose_it_is_does_it()
    {
        DayPlan plan = DayPlanner.Plan(
            Request([
                new PlanJob("promised", [Hands(30)], Due: 30),
                new PlanJob("first", [Hands(60)], Rank: 1),
                new PlanJob("hers", [Hands(20)], Hand: "hand 1"),
            ])
        );
        Assert.Equal("first", plan.NextOf("hand 0")!.Job);
        // One hand only: whoever it was given to is not there, so that whoever is does it.
        Assert.All(plan.Blocks, block => Assert.Equal("hand 0", block.Hand));
        DayPlan two = DayPlanner.Plan(Request([new PlanJob("a", [Hands(60)]), new PlanJob("hers", [Hands(20)], Hand: "hand 1")], hands: 2));
        Assert.Equal("hand 1", two.Blocks.Single(block => block.Job == "hers").Hand);
        Assert.Equal("hand 0", two.Blocks.Single(block => block.Job == "a").Hand);
    }

    [Fact]
    public void A_run_more_is_left_out_where_it_would_break_a_promise()
    {
        WorkPiece[] pieces =
        [
            Hands(60),
            WorkPiece.Run("after"),
            new(WorkKind.Settle, "settle", 0, 1380, Extra: true),
            WorkPiece.Run("once more", extra: true),
            Hands(5, WorkKind.Check),
        ];
        DayPlan plan = DayPlanner.Plan(Request([new PlanJob("promised", pieces, Due: 480), new PlanJob("not", pieces)]));
        Assert.Equal(0, plan.Machines[0].LateByMinutes);
        Assert.Equal(2, plan.Machines[0].LeftOut.Count);
        Assert.Empty(plan.Machines[1].LeftOut);
        Assert.True(plan.Machines[1].ReadyAt > 1440);
    }

    [Fact]
    public void It_says_why_a_machine_will_be_late()
    {
        LateReason? Of(PlanJob job, params PlanJob[] others)
        {
            DayPlan plan = DayPlanner.Plan(Request([job, .. others]));
            Assert.True(plan.Machines[0].LateByMinutes > 0);
            return plan.Machines[0].Reason;
        }

        PlanJob[] first = [new PlanJob("first", [Hands(60)], Rank: 1)];
        Assert.Equal(LateReason.Passed, Of(new PlanJob("it", [Hands(5)], Due: -10)));
        Assert.Equal(LateReason.Part, Of(new PlanJob("it", [Hands(5)], NotBefore: 100, Due: 60)));
        Assert.Equal(LateReason.Work, Of(new PlanJob("it", [Hands(90)], Due: 60)));
        Assert.Equal(LateReason.Hands, Of(new PlanJob("it", [Hands(30)], Due: 60), first));
        Assert.Equal(LateReason.Owner, Of(new PlanJob("it", [Hands(30)], Due: 60, Hand: "hand 0"), first));
        PlanJob running = new("running", [WorkPiece.Run("run") with { HandsMinutes = 0, AloneMinutes = 300 }]) { RunsIn = 1 };
        Assert.Equal(LateReason.Bays, Of(new PlanJob("it", [WorkPiece.Run("run")], Due: 60), running));
    }

    [Fact]
    public void A_workshop_without_bays_runs_machines_where_they_stand()
    {
        DayPlan plan = DayPlanner.Plan(Request([new PlanJob("it", [WorkPiece.Run("run"), Hands(5)])], bays: 0));
        Assert.Null(plan.Blocks[0].Bay);
        Assert.Equal(35, plan.Machines[0].ReadyAt);
    }

    [Fact]
    public void Nothing_to_do_is_a_plan_and_nobody_here_is_none()
    {
        Assert.Empty(DayPlanner.Plan(Request([])).Blocks);
        Assert.Empty(DayPlanner.Plan(Request([new PlanJob("it", [])])).Blocks);
        Assert.Throws<ArgumentException>(() => DayPlanner.Plan(Request([new PlanJob("it", [Hands(5)])], hands: 0)));
    }

    [Fact]
    public void Intervals_hold_the_plan_and_grow_with_what_is_ahead()
    {
        DayPlan plan = DayPlanner.Plan(
            Request([
                new PlanJob("soon", [Hands(30)], Rank: 1),
                new PlanJob("later", [Hands(30), WorkPiece.Run("run"), Hands(60)], Rank: 2),
            ])
        );
        Assert.All(plan.Machines, one => Assert.InRange(one.ReadyAt!.Value, one.Early!.Value, one.Late!.Value));
        Assert.True(plan.Machines[1].Late - plan.Machines[1].Early > plan.Machines[0].Late - plan.Machines[0].Early);
    }

    public static TheoryData<int> Seeds => [.. Enumerable.Range(1, 40)];

    [Theory]
    [MemberData(nameof(Seeds))]
    public void Whatever_the_day_no_hand_and_no_bay_is_taken_twice_and_every_piece_follows_the_one_before(int seed)
    {
        Random random = new(seed);
        PlanRequest request = DrawnDay.Of(random, random.Next(1, 25), random.Next(1, 4), random.Next(0, 4), 5);
        DayPlan plan = DayPlanner.Plan(request);
        Assert.Equal(request.Jobs.Sum(job => job.Pieces.Count), plan.Blocks.Count);
        foreach (PlanBlock[] taken in plan.Blocks.Where(b => b.Hand is not null).GroupBy(b => b.Hand).Select(group => group.ToArray()))
        {
            Assert.All(taken.Zip(taken.Skip(1)), pair => Assert.True(pair.First.HandsTo <= pair.Second.From + 1e-9));
        }

        foreach (IGrouping<int?, PlanBlock> bay in plan.Blocks.Where(b => b.Bay is not null).GroupBy(b => b.Bay))
        {
            PlanBlock[] taken = [.. bay];
            Assert.All(taken.Zip(taken.Skip(1)), pair => Assert.True(pair.First.To <= pair.Second.From + 1e-9));
            Assert.All(taken, block =>
                Assert.DoesNotContain(request.Bays.Single(one => one.Number == bay.Key).Out, o => block.From < o.To && block.To > o.From)
            );
        }

        foreach (PlanJob job in request.Jobs)
        {
            PlanBlock[] its = [.. plan.Blocks.Where(block => block.Job == job.Id).OrderBy(block => block.Piece)];
            Assert.All(its.Zip(its.Skip(1)), pair => Assert.True(pair.First.To <= pair.Second.From + 1e-9));
            Assert.True(its[0].From >= job.NotBefore);
            Assert.All(its, block => Assert.True(job.Hand is null || block.Hand == job.Hand));
            for (int i = 0; i < its.Length; i++)
            {
                // Hands work while they are here, and a run ends before closing.
                PlanHand who = request.Hands.Single(one => one.Id == its[i].Hand);
                Assert.Equal(
                    job.Pieces[i].HandsMinutes,
                    who.Here.Sum(h => Math.Max(0, Math.Min(its[i].HandsTo, h.To) - Math.Max(its[i].From, h.From))),
                    6
                );
                if (job.Pieces[i].Bay)
                {
                    Assert.Contains(request.Open, open => open.From <= its[i].From && its[i].To <= open.To);
                }
            }
        }

        Assert.Equal(plan.Blocks, DayPlanner.Plan(request).Blocks);
    }

    [Fact]
    public void Small_days_are_within_a_twentieth_of_the_best_order_there_is()
    {
        List<double> over = [];
        for (int seed = 1; seed <= 60; seed++)
        {
            Random random = new(1000 + seed);
            (int jobs, int pieces) = (seed % 3) switch
            {
                0 => (7, 1),
                1 => (5, 2),
                _ => (4, 3),
            };
            PlanRequest request = DrawnDay.Of(random, jobs, random.Next(1, 3), random.Next(1, 3), pieces);
            Schedule schedule = new(request);
            double best = Orders([.. request.Jobs.Select(job => job.Pieces.Count)]).Min(order => DayPlanner.CostOf(schedule, order));
            double found = DayPlanner.Plan(request).Cost;
            Assert.True(found >= best - 1e-6);
            over.Add((found - best) / best);
        }

        Assert.InRange(over.Average(), 0, 0.05);
        Assert.InRange(over.Max(), 0, 0.2);
    }

    /// <summary>Every order of pieces in which each job's own stand one behind the other.</summary>
    private static IEnumerable<int[]> Orders(int[] left)
    {
        int[] order = new int[left.Sum()];
        return From(0);

        IEnumerable<int[]> From(int at)
        {
            if (at == order.Length)
            {
                yield return order;
                yield break;
            }

            for (int job = 0; job < left.Length; job++)
            {
                if (left[job] > 0)
                {
                    left[job]--;
                    order[at] = job;
                    foreach (int[] rest in From(at + 1))
                    {
                        yield return rest;
                    }

                    left[job]++;
                }
            }
        }
    }
}
