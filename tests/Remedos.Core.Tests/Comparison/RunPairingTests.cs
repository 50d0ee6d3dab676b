using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Comparison;

/// <summary>Which runs of a job are held against each other.</summary>
public sealed class RunPairingTests
{
    private static readonly ConditionedRun Usual = Example.Run("02-paste-before") with
    {
        Conditions = new RunConditions("all-core", "closed", "auto"),
    };

    private static ConditionedRun Run(Func<RunConditions, RunConditions> change) => Usual with { Conditions = change(Usual.Conditions) };

    private static readonly ConditionedRun PanelOff = Run(c => c with { Panel = "side-off" }),
        Fixed = Run(c => c with { FanPolicy = "fixed", FanPercent = 60 }),
        PumpFull = Run(c => c with { Trial = "pump-full" }),
        Vector = Run(c => c with { Workload = "vector" });

    private static (string Before, string After) Paired(ConditionedRun[] before, ConditionedRun[] after)
    {
        (IReadOnlyList<ConditionedRun> b, IReadOnlyList<ConditionedRun> a) = RunPairing.Of(before, after);
        string Names(IReadOnlyList<ConditionedRun> runs) =>
            string.Join(
                ' ',
                runs.Select(run =>
                    run == Usual ? "usual"
                    : run == PanelOff ? "panel"
                    : run == Fixed ? "fixed"
                    : run == PumpFull ? "pump"
                    : "vector"
                )
            );
        return (Names(b), Names(a));
    }

    [Fact]
    public void Trials_stand_beside()
    {
        Assert.Equal(("usual", ""), Paired([Usual, PanelOff, PumpFull], []));
        Assert.Equal(("usual", "usual"), Paired([Usual, PanelOff, PumpFull], [Usual]));
        Assert.Equal(("panel", ""), Paired([PanelOff], []));
    }

    [Fact]
    public void Runs_made_alike_are_paired_and_the_owners_way_wins()
    {
        Assert.Equal(("fixed", "fixed"), Paired([Usual, Fixed], [Fixed]));
        Assert.Equal(("usual", "usual"), Paired([Fixed, Usual], [Fixed, Usual]));
        Assert.Equal(("fixed fixed", "fixed fixed"), Paired([Usual, Fixed, Fixed], [Fixed, Usual, Fixed]));
    }

    /// <summary>Where nothing was made alike, the obstacle is told about the usual runs.</summary>
    [Fact]
    public void What_was_not_made_alike_is_left_to_be_told() => Assert.Equal(("usual", "vector"), Paired([Usual, PanelOff], [Vector]));
}
