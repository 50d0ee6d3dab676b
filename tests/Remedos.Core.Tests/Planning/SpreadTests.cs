using Remedos.Core.Planning;

namespace Remedos.Core.Tests.Planning;

public sealed class SpreadTests
{
    [Fact]
    public void Nothing_logged_is_the_prior_and_much_logged_is_the_workshop()
    {
        Assert.Equal(Spread.Prior(WorkKind.Repair), Spread.Learnt(WorkKind.Repair, 0, 0, 0));
        // A thousand repairs that take 1.3 times as long as planned, scattered by 0.2 in the logarithm.
        double mean = Math.Log(1.3);
        Spread many = Spread.Learnt(WorkKind.Repair, 1000, 1000 * mean, 1000 * ((mean * mean) + 0.04));
        Assert.Equal(1.3, many.Factor, 2);
        Assert.Equal(0.2, many.Sigma, 2);
    }

    [Fact]
    public void One_slow_repair_moves_it_by_a_fifth_of_its_way()
    {
        // The normal model with a prior that weighs four pieces: log(2)/5.
        Spread one = Spread.Learnt(WorkKind.Repair, 1, Math.Log(2), Math.Pow(Math.Log(2), 2));
        Assert.Equal(Math.Pow(2, 0.2), one.Factor, 9);
        // (6 · 0.35² + 4/5 · ln²2) / 7.
        Assert.Equal(Math.Sqrt(((6 * 0.1225) + (0.8 * Math.Pow(Math.Log(2), 2))) / 7), one.Sigma, 9);
    }

    [Theory]
    [InlineData(30, 60, -0.6931)]
    [InlineData(0.5, 60, null)]
    [InlineData(900, 60, null)]
    [InlineData(10, 0, null)]
    public void A_clock_that_was_forgotten_says_nothing(double taken, double planned, double? expected)
    {
        double? ratio = Spread.LogRatio(taken, planned);
        Assert.Equal(expected is null, ratio is null);
        Assert.True(ratio is null || Math.Abs(ratio.Value - expected!.Value) < 1e-4);
    }

    [Fact]
    public void Paste_settles_by_the_clock_and_a_run_varies_in_its_length_alone()
    {
        WorkPiece settles = new(WorkKind.Settle, "settle", 0, 1400),
            run = WorkPiece.Run("run"),
            slow = Spread.Prior(WorkKind.Run).Of(run, 2);
        Assert.Equal(settles, Spread.Prior(WorkKind.Settle).Of(settles, 3));
        Assert.Equal(run.HandsMinutes, slow.HandsMinutes);
        Assert.True(slow.AloneMinutes > run.AloneMinutes);
    }
}
