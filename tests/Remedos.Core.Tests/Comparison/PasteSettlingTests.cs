using Remedos.Core.Comparison;
using Remedos.Validation;

namespace Remedos.Core.Tests.Comparison;

public sealed class PasteSettlingTests
{
    private static readonly double[] Hours = [1, 8, 24, 48, 96, 168];

    /// <summary>Runs of one mount whose own resistance falls by so many degrees at 120 W with a half-life of so many hours.</summary>
    private static ConditionedRun[] Settle(double gainC, double halfLife, double scatterC, int seed, double[]? hours = null)
    {
        SimulatedRuns runs = new(new Random(seed), new TrueBench(0, scatterC, 0));
        return
        [
            .. (hours ?? Hours)
                .Select(age => runs.Mount(new TrueMachine(0.3 + (gainC / 120 * Math.Pow(2, -age / halfLife)), 0.1, 2, 120), 1, 1000, 22)[0])
                .Zip(hours ?? Hours, (run, age) => run with { Conditions = run.Conditions with { HoursSinceMount = age } }),
        ];
    }

    [Fact]
    public void Gain_and_half_life_are_found()
    {
        PasteSettling settling = PasteSettling.Of(Settle(4, 24, 0.02, 3), Repeatability.Prior)!;
        Assert.Equal(-4 * Math.Pow(2, -1 / 24.0), settling.GainC, 0.3);
        Assert.Equal(24, settling.HalfLifeHours, 8.0);
        Assert.InRange(24, settling.HalfLifeLowHours, settling.HalfLifeHighHours ?? double.PositiveInfinity);
        Assert.Equal(0, settling.LeftC, 0.15);
    }

    /// <summary>The interval of the gain holds the truth about 19 times in 20.</summary>
    [Fact]
    public void The_interval_holds_the_gain()
    {
        int held = 0;
        for (int seed = 0; seed < 200; seed++)
        {
            PasteSettling settling = PasteSettling.Of(Settle(3, 20, 0.3, seed), Repeatability.Prior)!;
            held += Math.Abs(settling.GainC + (3 * Math.Pow(2, -1 / 20.0))) <= settling.HalfWidthC ? 1 : 0;
        }

        Assert.InRange(held, 170, 200);
    }

    [Fact]
    public void Two_runs_or_one_day_tell_nothing()
    {
        Assert.Null(PasteSettling.Of(Settle(3, 20, 0.1, 1, [1, 24]), Repeatability.Prior));
        Assert.Null(PasteSettling.Of(Settle(3, 20, 0.1, 1, [1, 2, 4]), Repeatability.Prior));
        ConditionedRun[] unknown =
        [
            .. Settle(3, 20, 0.1, 1).Select(run => run with { Conditions = run.Conditions with { HoursSinceMount = null } }),
        ];
        Assert.Null(PasteSettling.Of(unknown, Repeatability.Prior));
    }
}
