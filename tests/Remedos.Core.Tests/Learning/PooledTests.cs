using CsCheck;
using Remedos.Core.Learning;

namespace Remedos.Core.Tests.Learning;

public sealed class PooledTests
{
    /// <summary>Cases and all, vaccinated and not, of the thirteen trials of BCG against tuberculosis (Colditz et al. 1994).</summary>
    private static readonly (double Cases, double All, double CasesOfNone, double AllOfNone)[] Bcg =
    [
        (4, 123, 11, 139),
        (6, 306, 29, 303),
        (3, 231, 11, 220),
        (62, 13598, 248, 12867),
        (33, 5069, 47, 5808),
        (180, 1541, 372, 1451),
        (8, 2545, 10, 629),
        (505, 88391, 499, 88391),
        (29, 7499, 45, 7277),
        (17, 1716, 65, 1665),
        (186, 50634, 141, 27338),
        (5, 2498, 3, 2341),
        (27, 16913, 29, 17854),
    ];

    /// <summary>The published mean of the logarithms of their risk ratios, its error, and the variance between the trials.</summary>
    [Fact]
    public void It_is_the_published_mean()
    {
        Pooled all = Pooled.Of([
            .. Bcg.Select(trial => new Figure(
                Math.Log(trial.Cases / trial.All / (trial.CasesOfNone / trial.AllOfNone)),
                Math.Sqrt((1 / trial.Cases) - (1 / trial.All) + (1 / trial.CasesOfNone) - (1 / trial.AllOfNone))
            )),
        ])!;
        Assert.Equal(13, all.Machines);
        Assert.Equal(-0.7141, all.Mean, 4);
        Assert.Equal(0.1787, all.StandardError, 4);
        Assert.Equal(0.3088, all.BetweenSd * all.BetweenSd, 4);
    }

    [Fact]
    public void One_is_itself_and_none_is_nothing()
    {
        Assert.Null(Pooled.Of([]));
        Assert.Equal(new Pooled(1, -1.5, 0.4, 0), Pooled.Of([new Figure(-1.5, 0.4)]));
    }

    /// <summary>It lies among them, is no less sure than the surest where they agree, and does not hang on their order.</summary>
    [Fact]
    public void It_lies_among_them() =>
        Gen.Select(Gen.Double[-5, 5], Gen.Double[0.1, 2])
            .Array[2, 12]
            .Sample(drawn =>
            {
                Figure[] figures = [.. drawn.Select(one => new Figure(one.Item1, one.Item2))];
                Pooled all = Pooled.Of(figures)!;
                Assert.InRange(all.Mean, figures.Min(one => one.Value) - 1e-9, figures.Max(one => one.Value) + 1e-9);
                Pooled turned = Pooled.Of([.. figures.Reverse()])!;
                Assert.Equal(all.Mean, turned.Mean, 1e-9);
                Pooled agreed = Pooled.Of([.. figures.Select(one => one with { Value = 1 })])!;
                Assert.Equal(0, agreed.BetweenSd);
                Assert.True(agreed.StandardError <= figures.Min(one => one.StandardError) + 1e-12);
            });
}
