using MathNet.Numerics.Distributions;

namespace Remedos.Core.Planning;

/// <summary>When machines will be ready, with an interval, and why some will be late.</summary>
internal static class ReadyTimes
{
    private const int Draws = 60,
        Seed = 80;

    private const double Low = 0.1,
        High = 0.9;

    /// <summary>Works the plan's order again with minutes that are drawn, and adds what comes of it.</summary>
    /// <param name="request">What was planned, without what was left out.</param>
    /// <param name="asked">What was asked for.</param>
    public static DayPlan Add(PlanRequest request, DayPlan plan, IReadOnlyList<int> order, PlanRequest asked)
    {
        Schedule schedule = new(request);
        Random random = new(Seed);
        double[][] ready = [.. request.Jobs.Select(_ => new double[Draws])];
        for (int draw = 0; draw < Draws; draw++)
        {
            schedule.Reset(
                (job, piece) =>
                    DayPlanner.Usual(request, request.Jobs[job], request.Jobs[job].Pieces[piece], piece, Normal.Sample(random, 0, 1))
            );
            foreach (int job in order)
            {
                schedule.Place(job, null);
            }

            for (int job = 0; job < ready.Length; job++)
            {
                ready[job][draw] = schedule.ReadyAt(job);
            }
        }

        ILookup<string, PlanBlock> blocks = plan.Blocks.ToLookup(block => block.Job);
        return plan with
        {
            Machines =
            [
                .. plan.Machines.Select(
                    (machine, i) =>
                    {
                        Array.Sort(ready[i]);
                        double at = machine.ReadyAt!.Value,
                            end = schedule.Open.End,
                            early = Math.Min(ready[i][(int)(Low * Draws)], at),
                            late = Math.Max(ready[i][(int)(High * Draws)], at);
                        return machine with
                        {
                            ReadyAt = at <= end ? at : null,
                            Early = at <= end ? early : null,
                            Late = late <= end ? late : null,
                            Reason = machine.LateByMinutes > 0 ? ReasonOf(request, request.Jobs[i], [.. blocks[machine.Job]]) : null,
                            LeftOut = [.. asked.Jobs[i].Pieces.Except(request.Jobs[i].Pieces)],
                        };
                    }
                ),
            ],
        };
    }

    private static LateReason ReasonOf(PlanRequest request, PlanJob job, PlanBlock[] blocks)
    {
        double due = job.Due!.Value;
        return due <= 0 ? LateReason.Passed
            : DayPlanner.Alone(request, job with { NotBefore = 0 }) > due ? LateReason.Work
            : DayPlanner.Alone(request, job) > due ? LateReason.Part
            : blocks.Sum(block => block.WaitedForBay) > blocks.Sum(block => block.WaitedForHand) ? LateReason.Bays
            : job.Hand is not null ? LateReason.Owner
            : LateReason.Hands;
    }
}
