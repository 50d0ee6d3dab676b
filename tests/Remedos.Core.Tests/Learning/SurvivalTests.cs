using CsCheck;
using Remedos.Core.Handover;
using Remedos.Core.Learning;

namespace Remedos.Core.Tests.Learning;

public sealed class SurvivalTests
{
    /// <summary>
    /// Weeks of remission under 6-mercaptopurine (Freireich et al. 1963), with shares and Greenwood's errors as they are printed in
    /// textbooks of survival analysis (Kalbfleisch and Prentice; Collett), and intervals on the scale log(−log).
    /// </summary>
    [Theory]
    [InlineData(6, 21, 3, 0.8571, 0.0764, 0.6197, 0.9516)]
    [InlineData(7, 17, 1, 0.8067, 0.0869, 0.5631, 0.9228)]
    [InlineData(10, 15, 1, 0.7529, 0.0963, 0.5032, 0.8894)]
    [InlineData(13, 12, 1, 0.6902, 0.1068, 0.4316, 0.8491)]
    [InlineData(16, 11, 1, 0.6275, 0.1141, 0.3675, 0.8049)]
    [InlineData(22, 7, 1, 0.5378, 0.1282, 0.2678, 0.7468)]
    [InlineData(23, 6, 1, 0.4482, 0.1346, 0.1881, 0.6801)]
    public void It_is_the_published_curve(double at, int atRisk, int failed, double share, double error, double low, double high)
    {
        double[] failedAt = [6, 6, 6, 7, 10, 13, 16, 22, 23],
            seenUntil = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35];
        Survival curve = Survival.Of([
            .. failedAt.Select(months => new SeenUnit(months, true)),
            .. seenUntil.Select(months => new SeenUnit(months, false)),
        ]);
        Assert.Equal((21, 9, 7), (curve.Units, curve.Failures, curve.Steps.Count));
        SurvivalStep step = curve.Steps.Single(one => one.Months == at);
        Assert.Equal((atRisk, failed), (step.AtRisk, step.Failed));
        Assert.Equal(share, step.Share, 4);
        Assert.Equal(error, step.StandardError, 4);
        Assert.Equal(low, step.Low, 4);
        Assert.Equal(high, step.High, 4);
        Assert.Equal(23, curve.MonthsUntilFailed(0.5));
        Assert.Null(curve.MonthsUntilFailed(0.9));
    }

    /// <summary>Without parts that still work it is the plain share of those that are left, and it never rises.</summary>
    [Fact]
    public void Without_censoring_it_is_the_share_that_is_left() =>
        Gen.Int[1, 60]
            .Array[1, 40]
            .Sample(ages =>
            {
                Survival curve = Survival.Of([.. ages.Select(age => new SeenUnit(age, true))]);
                Assert.All(curve.Steps, step =>
                {
                    Assert.Equal((double)ages.Count(age => age > step.Months) / ages.Length, step.Share, 12);
                    Assert.InRange(step.Share, step.Low - 1e-12, step.High + 1e-12);
                });
                Assert.Equal(0, curve.Steps[^1].Share);
            });

    [Fact]
    public void A_series_that_fails_early_is_looked_at_before_and_few_records_say_nothing()
    {
        DateOnly today = new(2026, 11, 28),
            since = today.AddMonths(-20);
        double[] failed = [29, 33, 35, 38, 44];
        Survival life = Survival.Of([.. failed.Select(months => new SeenUnit(months, true)), new SeenUnit(17, false)]);
        SeriesWear rill = new("Rill 240", life, []);
        RecheckProposal look = new SeriesLife(rill, since).Propose(today)!;
        // Of five at risk at 29 and four at 33 months: 0.8, then 0.6.
        Assert.Equal(since.AddDays((int)(33 * 30.44) - 60), look.On);
        Assert.Equal("5 of 6 Rill 240 that came in had failed, one in four by 33 months: two months before that", look.Why);
        Assert.Equal(today.AddDays(120), new SeriesLife(rill, today.AddMonths(-40)).Propose(today)!.On);
        Assert.Null(new SeriesLife(rill, null).Propose(today));
        Assert.Equal("5 of 6 had failed; one in four by 33 months, half by 35.", rill.Sentence);
        SeriesWear few = new("Rill 240", Survival.Of([new SeenUnit(3, true), new SeenUnit(4, true)]), []);
        Assert.Null(new SeriesLife(few, since).Propose(today));
        Assert.Equal("2 of 2 had failed, too few to tell how long they last.", few.Sentence);
    }

    /// <summary>Kept by ages, and less what some of them gave, a curve is that of the others.</summary>
    [Fact]
    public void A_curve_is_kept_by_ages_and_any_of_its_parts_can_be_left_out() =>
        Gen.Select(Gen.Int[0, 12], Gen.Bool)
            .Select((age, failed) => new SeenUnit(age / 30.44, failed))
            .Array[0, 40]
            .SelectMany(units => Gen.Int[0, units.Length].Select(gone => (units, gone)))
            .Sample(
                (units, gone) =>
                {
                    Survival rest = Survival.OfAges(SeenAge.Without(SeenAge.Of(units), units[..gone]));
                    Survival alone = Survival.Of(units[gone..]);
                    Assert.Equal((alone.Units, alone.Failures), (rest.Units, rest.Failures));
                    Assert.Equal(alone.Steps, rest.Steps);
                },
                iter: 500
            );

    /// <summary>Early is what the interval carries: ten of twenty within two years are, three of twenty are not.</summary>
    [Theory]
    [InlineData(10, true)]
    [InlineData(3, false)]
    public void A_series_is_called_early_only_where_the_records_carry_it(int failed, bool early)
    {
        SeenUnit[] units = [.. Enumerable.Range(0, 20).Select(i => new SeenUnit(i < failed ? 10 + i : 40, i < failed))];
        SeriesWear series = new("Sill 92", Survival.Of(units), []);
        Assert.Equal(early, series.FailsEarly);
        Assert.Equal(early, series.Sentence.Contains("fails early", StringComparison.Ordinal));
    }
}
