using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Money;
using Remedos.Core.Planning;
using static Remedos.Core.Tests.Jobs.JobProgressTests;

namespace Remedos.Core.Tests.Planning;

public sealed class WorkLeftTests
{
    private static readonly CauseRow Paste = DiagnosisTables.CauseOf("paste-aged");
    private static readonly JobFacts Known = Measured with
    {
        Diagnosis = new DiagnosisStand(Paste, Paste.Title, 0.95, null, 0),
        Proposed = new ProposedRepair("Renew the paste", 38, MountsCooler: true),
    };

    private static WorkLeft Of(JobFacts facts) => WorkLeft.Of(facts, JobProgress.Of(facts));

    private static WorkKind[] Kinds(JobFacts facts) => [.. Of(facts).Pieces.Select(piece => piece.Kind)];

    [Fact]
    public void A_machine_that_came_in_has_everything_ahead()
    {
        Assert.Equal(
            [WorkKind.Intake, WorkKind.Look, WorkKind.Run, WorkKind.Check, WorkKind.Decide, WorkKind.Repair, WorkKind.Run],
            Kinds(Arrived with { Owner = null })
        );
        Assert.True(Of(Arrived).Asks);
    }

    [Fact]
    public void The_first_piece_is_the_Now_card_and_takes_as_long()
    {
        JobFacts[] all =
        [
            Arrived with
            {
                Owner = null,
            },
            Arrived,
            Measured,
            Known,
            Known with
            {
                Route = DecisionRoute.Repair,
            },
            Known with
            {
                Route = DecisionRoute.Leave,
            },
            Known with
            {
                Route = DecisionRoute.Cap,
            },
            Repaired,
        ];
        foreach (JobFacts facts in all)
        {
            JobProgress progress = JobProgress.Of(facts);
            WorkPiece first = WorkLeft.Of(facts, progress).Pieces[0];
            Assert.Equal(progress.Now.Title, first.Title);
            Assert.Equal(progress.Now.Minutes, (int)Math.Ceiling(first.HandsMinutes + first.AloneMinutes));
        }
    }

    [Fact]
    public void A_repair_takes_its_own_steps_and_its_paste_settles_until_a_day_is_over()
    {
        WorkLeft left = Of(Known with { Route = DecisionRoute.Repair });
        Assert.Equal([WorkKind.Repair, WorkKind.Run, WorkKind.Settle, WorkKind.Run], left.Pieces.Select(piece => piece.Kind));
        Assert.Equal(38, left.Pieces[0].HandsMinutes);
        Assert.Equal(1440 - 30, left.Pieces[2].AloneMinutes);
        Assert.Equal([false, false, true, true], left.Pieces.Select(piece => piece.Extra));
        Assert.False(left.Asks);
        Assert.DoesNotContain(
            WorkKind.Settle,
            Kinds(Known with { Route = DecisionRoute.Repair, Proposed = new("Blow it out", 30, false) })
        );
        // Three hours of it are over.
        Assert.Equal(21 * 60, Of(Proven).Pieces[0].AloneMinutes);
        Assert.Equal(19 * 60, Of(Proven).PiecesAt(Now.AddHours(2))[0].AloneMinutes);
        Assert.Equal((19 * 60) - 30, Of(Repaired).PiecesAt(Now.AddHours(2))[1].AloneMinutes);
        Assert.Equal(0, Of(Proven).PiecesAt(Now.AddDays(2))[0].AloneMinutes);
        Assert.Empty(Kinds(Proven with { MountedAt = Now.AddDays(-2) }));
    }

    [Fact]
    public void Who_leaves_it_or_claims_has_nothing_to_measure()
    {
        Assert.Equal([WorkKind.Repair], Kinds(Known with { Route = DecisionRoute.Leave }));
        Assert.Equal([WorkKind.Repair], Kinds(Known with { Warranty = new(null, 24, true, null, Warranty.Claim) }));
    }

    [Fact]
    public void What_waits_for_somebody_outside_says_so_and_what_is_gone_needs_nothing()
    {
        Assert.Equal(WorkHold.Part, Of(Known with { WaitingFor = WaitsFor.Part }).Hold);
        Assert.Equal(WorkHold.Owner, Of(Known with { WaitingFor = WaitsFor.Owner }).Hold);
        Assert.Null(Of(Known).Hold);
        Assert.Empty(Kinds(Proven with { HandedOverAt = Now }));
    }
}
