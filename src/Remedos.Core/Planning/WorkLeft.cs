using Remedos.Core.Jobs;
using Remedos.Core.Money;

namespace Remedos.Core.Planning;

/// <summary>What a machine still needs until its owner can have it; when the owner comes nobody knows.</summary>
/// <param name="Pieces">In the order of work; empty where nothing is left.</param>
/// <param name="Hold">What it waits for, that no hand in the workshop can do; null for nothing.</param>
/// <param name="Asks">Whether its owner has to say yes on the way: the plan takes it that they do when they are asked.</param>
public sealed record WorkLeft(IReadOnlyList<WorkPiece> Pieces, WorkHold? Hold, bool Asks)
{
    /// <summary>Nothing is left.</summary>
    public static WorkLeft Nothing { get; } = new([], null, false);

    /// <summary>Whether the first piece is a repair that was begun and is under hands.</summary>
    public bool Begun { get; init; }

    /// <summary>When the paste that is on it has settled; null where none settles.</summary>
    public DateTimeOffset? SettledAt { get; init; }

    /// <summary>The same at a later moment: paste settles whether anybody looks or not.</summary>
    public IReadOnlyList<WorkPiece> PiecesAt(DateTimeOffset now)
    {
        if (SettledAt is not { } settled)
        {
            return Pieces;
        }

        double before = Pieces.TakeWhile(piece => piece.Kind != WorkKind.Settle).Sum(piece => piece.HandsMinutes + piece.AloneMinutes),
            left = Math.Max(0, (settled - now).TotalMinutes - before);
        return [.. Pieces.Select(piece => piece.Kind == WorkKind.Settle ? piece with { AloneMinutes = left } : piece)];
    }

    /// <summary>What is left, by the same rules as the Now card.</summary>
    /// <param name="progress">Of the same facts.</param>
    public static WorkLeft Of(JobFacts facts, JobProgress progress)
    {
        ProposedRepair? repair = facts.Proposed;
        if (facts.HandedOverAt is not null)
        {
            return Nothing;
        }

        List<WorkPiece> pieces = [];
        bool asks = false;
        switch (progress.CurrentStep)
        {
            case "intake":
                pieces.Add(new WorkPiece(WorkKind.Intake, progress.Now.Title, WorkMinutes.Intake));
                pieces.Add(new WorkPiece(WorkKind.Look, "Look and listen", WorkMinutes.Look));
                Baseline();
                break;
            case "look":
                pieces.Add(new WorkPiece(WorkKind.Look, progress.Now.Title, WorkMinutes.Look));
                Baseline();
                break;
            case "before":
                Baseline();
                break;
            case "diagnosis":
                Find(progress.Now);
                break;
            case "repair":
                Mend(progress.Now);
                break;
            case "after":
                Measure(progress.Now.Title, StillSettles(facts));
                break;
            default:
                Leave(progress.Now);
                break;
        }

        return new WorkLeft(pieces, HoldOf(facts), asks)
        {
            Begun = facts.Plan is { UnderHands: true },
            SettledAt = progress.CurrentStep is not "repair" && StillSettles(facts) is { } left ? facts.Now + left : null,
        };

        void Baseline()
        {
            if (facts.Before.Count == 0)
            {
                pieces.Add(WorkPiece.Run("Record the before run"));
            }

            Find(null);
        }

        void Find(NowCard? now)
        {
            if (now is { Action: "run" })
            {
                pieces.Add(WorkPiece.Run(now.Title));
            }
            else
            {
                pieces.Add(new WorkPiece(WorkKind.Check, now?.Title ?? "Find what is wrong", now?.Minutes ?? WorkMinutes.Check));
            }

            Mend(null);
        }

        void Mend(NowCard? now)
        {
            if (facts.Plan is { UnderHands: true } plan)
            {
                pieces.Add(new WorkPiece(WorkKind.Repair, now?.Title ?? plan.Next!.Title, plan.MinutesLeft));
                Measure(null, JobProgress.PasteSettles);
                return;
            }

            // A route that lays no hand on the cooler is written down, and that is all.
            if (facts.Route == DecisionRoute.Leave || facts.Warranty is { Route: Warranty.Claim } || IsSoundAndSure(facts))
            {
                pieces.Add(new WorkPiece(WorkKind.Repair, now?.Title ?? "Write it down", now?.Minutes ?? WorkMinutes.Write));
                return;
            }

            bool decides =
                now is { Action: "decide" or "warranty" }
                || (now is null && facts.Route is null && string.IsNullOrWhiteSpace(facts.RepairFound));
            if (decides)
            {
                asks = true;
                pieces.Add(new WorkPiece(WorkKind.Decide, now?.Title ?? "Ask the owner", WorkMinutes.Decide));
            }

            string title = now is null || decides ? repair?.Title ?? "Repair it" : now.Title;
            pieces.Add(new WorkPiece(WorkKind.Repair, title, repair?.Minutes ?? now?.Minutes ?? WorkMinutes.Repair));
            Measure(null, repair is { MountsCooler: true } ? JobProgress.PasteSettles : null);
        }

        void Measure(string? title, TimeSpan? settles)
        {
            pieces.Add(WorkPiece.Run(title ?? "Record the after run"));
            if (settles is { } time)
            {
                Settle(time.TotalMinutes - WorkMinutes.Run);
            }
        }

        void Settle(double minutes)
        {
            pieces.Add(new WorkPiece(WorkKind.Settle, "Let the paste settle", 0, Math.Max(0, minutes), Extra: true));
            pieces.Add(WorkPiece.Run("Run it once more", extra: true));
        }

        void Leave(NowCard now)
        {
            switch (now.Action)
            {
                case "next-round":
                    pieces.Add(new WorkPiece(WorkKind.Check, now.Title, now.Minutes ?? WorkMinutes.Decide));
                    asks = true;
                    pieces.Add(new WorkPiece(WorkKind.Repair, "Repair it", repair?.Minutes ?? WorkMinutes.Repair));
                    Measure(null, settles: null);
                    break;
                case "after-run" when JobProgress.PasteIsFresh(facts) && facts.After.Count < 2:
                    Settle(StillSettles(facts)!.Value.TotalMinutes);
                    break;
                case "after-run":
                    pieces.Add(WorkPiece.Run(now.Title));
                    break;
                default:
                    // Its owner can have it.
                    break;
            }
        }
    }

    private static WorkHold? HoldOf(JobFacts facts) =>
        facts.WaitingFor switch
        {
            WaitsFor.Owner => WorkHold.Owner,
            WaitsFor.Part => WorkHold.Part,
            _ => null,
        };

    private static bool IsSoundAndSure(JobFacts facts) =>
        facts.Diagnosis is { IsSure: true, IsSound: true } && string.IsNullOrWhiteSpace(facts.RepairFound);

    /// <summary>How long its paste still settles; null where it does not.</summary>
    private static TimeSpan? StillSettles(JobFacts facts) =>
        JobProgress.PasteIsFresh(facts) ? JobProgress.PasteSettles - (facts.Now - facts.MountedAt!.Value) : null;
}
