using Remedos.Core.Comparison;
using Remedos.Validation;

namespace Remedos.Core.Tests.Comparison;

/// <summary>Verdicts on simulated benches: false verdicts, coverage, power, and that a further run never costs certainty.</summary>
public sealed class VerdictValidationTests
{
    private const int Cases = 300;

    private static readonly IReadOnlyList<VerdictRow> Rows = VerdictValidation.Run(Cases, seed: 20_000);

    public static TheoryData<int> All => [.. Enumerable.Range(0, VerdictValidation.Protocols.Length)];

    /// <summary>With 300 draws a share of 5 % lies below 8 % in 99 of 100 series, and one of 95 % above 91.5 %.</summary>
    [Theory]
    [MemberData(nameof(All))]
    public void Verdicts_are_as_sure_as_they_say(int protocol)
    {
        VerdictRow row = Rows[protocol];
        Assert.InRange(row.FalseVerdicts, 0, 0.08);
        Assert.InRange(row.Coverage, 0.915, 0.995);
        Assert.InRange(row.FoundAtSmallest, 0.72, 0.90);
    }

    [Fact]
    public void A_further_run_never_widens_the_interval()
    {
        double Width(int mounts, int runs) => Rows.Single(row => row.Protocol == new Protocol(mounts, runs)).HalfWidthC;
        Assert.True(Width(1, 3) <= Width(1, 1) + 0.05);
        Assert.True(Width(2, 1) < Width(1, 1));
        Assert.True(Width(2, 2) <= Width(2, 1) + 0.05);
        Assert.True(Width(3, 1) < Width(2, 1));
        Assert.True(Width(4, 2) < Width(3, 1));
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(2, 2)]
    public void So_many_more_settle_it(int mounts, int runs)
    {
        WantedRow wanted = VerdictValidation.Wanted(new Protocol(mounts, runs), Cases, seed: 30_000);
        Assert.True(wanted.Open > 60);
        Assert.InRange(wanted.Found, 0.72, 0.92);
    }

    /// <summary>A bench that has shown its scatter in many re-mounts is known better than a new one.</summary>
    [Fact]
    public void What_the_workshop_has_learnt_narrows_its_verdicts()
    {
        Repeatability learnt = Repeatability.Prior.With(mountSquares: 30 * 0.25, mountDegrees: 30, withinSquares: 0, withinDegrees: 0);
        Assert.Equal(Math.Sqrt((6 + (30 * 0.25)) / 36), learnt.MountC, 1e-12);
        VerdictRow row = VerdictValidation.Run(20, 1, learnt)[0];
        Assert.True(row.HalfWidthC < 0.75 * Rows[0].HalfWidthC);
    }
}
