namespace Remedos.Core.Planning;

/// <summary>Orders the day: what hands touch now and next, so that bays and hands do not idle and promises hold.</summary>
public static class DayPlanner
{
    /// <summary>Pieces that are placed in all while better orders are looked for: what bounds the time that a plan takes.</summary>
    private const int MostPlaced = 36_000,
        MostTries = 3000;

    private const int Seed = 2026;

    /// <summary>By what share an order may be worse at first, and after which share of the tries by nothing.</summary>
    private const double WorseAtFirst = 0.05,
        LevelAt = 0.8;

    /// <summary>Plans.</summary>
    /// <exception cref="ArgumentException">There is no open time, or nobody is ever here.</exception>
    public static DayPlan Plan(PlanRequest request)
    {
        PlanRequest kept = WithoutHopeless(request);
        (DayPlan plan, int[] order) = Search(kept);
        // What only one run more would make late goes without it.
        HashSet<string> late = [.. plan.Machines.Where(one => one.LateByMinutes > 0).Select(one => one.Job)];
        PlanRequest trimmed = kept with { Jobs = [.. kept.Jobs.Select(job => late.Contains(job.Id) ? WithoutExtra(job) : job)] };
        if (trimmed.Jobs.Zip(kept.Jobs).Any(pair => pair.First.Pieces.Count < pair.Second.Pieces.Count))
        {
            (plan, order) = Search(trimmed);
            kept = trimmed;
        }

        return ReadyTimes.Add(kept, plan, order, request);
    }

    /// <summary>Plans by an order of the jobs and nothing else; each piece goes where it fits first.</summary>
    /// <param name="request">Its jobs are taken in the order in which they stand there.</param>
    public static DayPlan InOrder(PlanRequest request)
    {
        Schedule schedule = new(request);
        return Written(schedule, request, [.. Enumerable.Range(0, schedule.Jobs).SelectMany(job => Left(schedule, job))]);
    }

    /// <summary>What an order of pieces comes to; a job stands in it once for each piece that is left.</summary>
    internal static double CostOf(Schedule schedule, IReadOnlyList<int> order, double stopAt = double.PositiveInfinity)
    {
        schedule.Reset();
        double cost = 0;
        for (int job = 0; job < schedule.Jobs; job++)
        {
            if (schedule.Placed(job) == schedule.PiecesOf(job))
            {
                cost += CostOf(schedule, job);
            }
        }

        for (int i = 0; i < order.Count && cost <= stopAt; i++)
        {
            int job = order[i];
            schedule.Place(job, null);
            if (schedule.Placed(job) == schedule.PiecesOf(job))
            {
                cost += CostOf(schedule, job);
            }
        }

        return cost;
    }

    private static double CostOf(Schedule schedule, int job) =>
        schedule.PiecesOf(job) == 0 ? 0 : PlanCost.Of(schedule.Open.OpenUntil(schedule.ReadyAt(job)), schedule.DueOf(job));

    /// <summary>
    /// Promises that cannot be held even alone in the workshop with what may be left out, go without it from the beginning.
    /// </summary>
    private static PlanRequest WithoutHopeless(PlanRequest request) =>
        request with
        {
            Jobs =
            [
                .. request.Jobs.Select(job =>
                    job is { Due: { } due } && job.Pieces.Any(piece => piece.Extra) && Alone(request, job) > due ? WithoutExtra(job) : job
                ),
            ],
        };

    private static PlanJob WithoutExtra(PlanJob job) =>
        // What goes on already is not left out.
        job with
        {
            Pieces = [.. job.Pieces.Where((piece, i) => !piece.Extra || (i == 0 && job.RunsIn is not null))],
        };

    /// <summary>When a job would usually be ready if all hands and bays were there for it.</summary>
    internal static double Alone(PlanRequest request, PlanJob job)
    {
        Schedule schedule = new(Usual(request with { Jobs = [job] }));
        schedule.Reset();
        while (schedule.Placed(0) < schedule.PiecesOf(0))
        {
            schedule.Place(0, null);
        }

        return schedule.ReadyAt(0);
    }

    private static (DayPlan Plan, int[] Order) Search(PlanRequest request)
    {
        Schedule schedule = new(Usual(request));
        if (!schedule.HasHands)
        {
            throw new ArgumentException("Nobody is ever here.", nameof(request));
        }

        schedule.Reset();
        // Those that were put first go first, whatever it costs; the others give way.
        int[] ranked =

            [
                .. Enumerable
                    .Range(0, schedule.Jobs)
                    .Where(job => request.Jobs[job].Rank is not null)
                    .OrderBy(job => request.Jobs[job].Rank)
                    .SelectMany(job => Left(schedule, job)),
            ],
            free = [.. Enumerable.Range(0, schedule.Jobs).Where(job => request.Jobs[job].Rank is null)];
        int[] best = [];
        double least = double.PositiveInfinity;
        foreach (int[] rule in Rules(request, schedule, ranked, free))
        {
            int[] order = [.. ranked, .. rule];
            double cost = CostOf(schedule, order);
            if (cost < least)
            {
                (best, least) = (order, cost);
            }
        }

        Improve(schedule, best, ranked.Length, least);
        return (Written(schedule, Usual(request), best), best);
    }

    /// <summary>
    /// Moves a piece, or all of a job's pieces, to another place, and keeps what is better; what is a little worse is kept as well at
    /// first,
    /// so that it does not end in the first hollow (Dueck &amp; Scheuer 1990).
    /// </summary>
    /// <param name="order">In: where it begins. Out: the best that was found.</param>
    /// <param name="fixedTo">What stands before this place stays.</param>
    private static void Improve(Schedule schedule, int[] order, int fixedTo, double least)
    {
        int movable = order.Length - fixedTo;
        if (movable < 2)
        {
            return;
        }

        Random random = new(Seed);
        int[] now = [.. order],
            trial = new int[order.Length];
        double stands = least;
        int tries = Math.Min(MostTries, MostPlaced / order.Length);
        for (int i = 0; i < tries; i++)
        {
            int from = fixedTo + random.Next(movable),
                to = fixedTo + random.Next(movable);
            if (from == to || now[from] == now[to])
            {
                continue;
            }

            if (i % 2 == 0)
            {
                Move(now, trial, from, to);
            }
            else
            {
                MoveJob(now, trial, fixedTo, now[from], to);
            }

            double may = stands + (WorseAtFirst * least * (1 - (i / (LevelAt * tries)))),
                cost = CostOf(schedule, trial, Math.Max(may, stands));
            if (cost > Math.Max(may, stands))
            {
                continue;
            }

            (now, trial, stands) = (trial, now, cost);
            if (cost < least)
            {
                least = cost;
                now.CopyTo(order, 0);
            }
        }
    }

    private static void Move(int[] order, int[] trial, int from, int to)
    {
        order.CopyTo(trial, 0);
        int moved = order[from];
        if (from < to)
        {
            Array.Copy(order, from + 1, trial, from, to - from);
        }
        else
        {
            Array.Copy(order, to, trial, to + 1, from - to);
        }

        trial[to] = moved;
    }

    /// <summary>All that is left of a job, together to where another stands.</summary>
    private static void MoveJob(int[] order, int[] trial, int fixedTo, int job, int to)
    {
        int at = 0;
        for (int i = 0; i < fixedTo; i++)
        {
            trial[at++] = order[i];
        }

        int count = 0,
            wanted = 0;
        for (int i = fixedTo; i < order.Length; i++)
        {
            count += order[i] == job ? 1 : 0;
            wanted += order[i] != job && i < to ? 1 : 0;
        }

        int others = 0;
        for (int i = fixedTo; i < order.Length; i++)
        {
            if (order[i] == job)
            {
                continue;
            }

            if (others == wanted)
            {
                Array.Fill(trial, job, at, count);
                at += count;
            }

            trial[at++] = order[i];
            others++;
        }

        if (others == wanted)
        {
            Array.Fill(trial, job, at, count);
        }
    }

    /// <summary>Orders that people would go by.</summary>
    private static IEnumerable<int[]> Rules(PlanRequest request, Schedule schedule, int[] ranked, int[] free)
    {
        double Work(int job) => request.Jobs[job].Pieces.Sum(piece => piece.HandsMinutes + (piece.Bay ? piece.AloneMinutes : 0));
        double Latest(int job) => (request.Jobs[job].Due ?? double.PositiveInfinity) - Work(job);
        int[] Whole(IEnumerable<int> jobs) => [.. jobs.SelectMany(job => Left(schedule, job))];
        // As each rule is asked for, nothing but what goes on stands in the schedule.
        int[][] plain =
        [
            Whole(free),
            Whole(free.OrderBy(Latest).ThenBy(Work)),
            Whole(free.OrderBy(Work)),
            Whole(free.OrderBy(job => request.Jobs[job].Due ?? double.PositiveInfinity).ThenBy(Work)),
        ];
        foreach (int[] rule in plain)
        {
            yield return rule;
        }

        yield return SoonestFirst(schedule, ranked, free, Latest);
    }

    /// <summary>
    /// Always the piece that can begin soonest; of those, the one that sets a bay to work, then the one with the least time to spare.
    /// </summary>
    private static int[] SoonestFirst(Schedule schedule, int[] ranked, int[] free, Func<int, double> latest)
    {
        schedule.Reset();
        foreach (int job in ranked)
        {
            schedule.Place(job, null);
        }

        List<int> order = [];
        double[] soonest = new double[schedule.Jobs];
        List<int> open = [.. free.Where(job => schedule.Placed(job) < schedule.PiecesOf(job))];
        double known = double.NegativeInfinity;
        foreach (int job in open)
        {
            soonest[job] = known;
        }

        while (open.Count > 0)
        {
            int best = -1;
            double from = double.PositiveInfinity;
            foreach (int job in open)
            {
                // What could not begin before then cannot now: places are only ever taken.
                if (soonest[job] > from)
                {
                    continue;
                }

                double at = soonest[job] = schedule.EarliestOf(job);
                if (best < 0 || at < from || (at == from && IsBefore(schedule, job, best, latest)))
                {
                    (best, from) = (job, at);
                }
            }

            order.Add(best);
            schedule.Place(best, null);
            if (schedule.Placed(best) == schedule.PiecesOf(best))
            {
                open.Remove(best);
            }
        }

        return [.. order];
    }

    private static bool IsBefore(Schedule schedule, int job, int other, Func<int, double> latest) =>
        schedule.NextOf(job).Bay == schedule.NextOf(other).Bay ? latest(job) < latest(other) : schedule.NextOf(job).Bay;

    private static IEnumerable<int> Left(Schedule schedule, int job)
    {
        schedule.Reset();
        return Enumerable.Repeat(job, schedule.PiecesOf(job) - schedule.Placed(job));
    }

    /// <summary>The same with what pieces usually take here.</summary>
    internal static PlanRequest Usual(PlanRequest request) =>
        request with
        {
            Jobs =
            [
                .. request.Jobs.Select(job => job with { Pieces = [.. job.Pieces.Select((piece, i) => Usual(request, job, piece, i, 0))] }),
            ],
        };

    /// <summary>What is left of a run that goes on is told by the run itself.</summary>
    internal static WorkPiece Usual(PlanRequest request, PlanJob job, WorkPiece piece, int at, double z) =>
        at == 0 && job.RunsIn is not null ? piece : request.SpreadOf(piece.Kind).Of(piece, z);

    private static DayPlan Written(Schedule schedule, PlanRequest request, IReadOnlyList<int> order)
    {
        List<PlanBlock> blocks = [];
        schedule.Reset(blocks: blocks);
        foreach (int job in order)
        {
            schedule.Place(job, blocks);
        }

        MachinePlan[] machines =
        [
            .. request.Jobs.Select(
                (job, i) =>
                {
                    double ready = schedule.ReadyAt(i),
                        late = Math.Max(0, schedule.Open.OpenUntil(ready) - schedule.DueOf(i));
                    return new MachinePlan(job.Id, ready, null, null, late, null, []);
                }
            ),
        ];
        double cost = Enumerable.Range(0, schedule.Jobs).Sum(job => CostOf(schedule, job));
        return new DayPlan([.. blocks.OrderBy(block => block.From)], machines, cost);
    }
}
