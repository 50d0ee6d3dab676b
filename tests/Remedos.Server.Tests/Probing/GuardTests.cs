using Microsoft.Extensions.Time.Testing;
using Remedos.Bench.Probing;
using Remedos.Core.Bays;

namespace Remedos.Server.Tests.Probing;

/// <summary>The probe takes the load away by itself, and only then.</summary>
public sealed class GuardTests
{
    /// <summary>What the guard says, and when, while a load goes on for so long.</summary>
    private static (double Seconds, string Why)? Watch(
        Guard guard,
        double seconds,
        Func<double, double?> chip,
        Func<double, double?> power,
        double? jobLimitC = null,
        double answersUntil = double.PositiveInfinity
    )
    {
        for (double now = 0; now < seconds; now += 0.5)
        {
            if (now <= answersUntil)
            {
                guard.Heard(now, asksForLoad: true);
            }

            if (guard.Look(now, chip(now), power(now), jobLimitC) is { } why)
            {
                return (now, why);
            }
        }

        return null;
    }

    [Fact]
    public void At_its_limit_a_machine_may_stay_above_it_it_may_not()
    {
        Assert.Null(Watch(new Guard(100), 600, _ => 101, _ => 90));
        Assert.Null(Watch(new Guard(100), 600, now => now % 8 < 3 ? 110 : 99, _ => 90)); // single peaks
        Assert.Equal(
            (65, "Load taken away: 108 °C, above the limit of 100 °C."),
            Watch(new Guard(100), 600, now => now < 60 ? 95 : 108, _ => 90)
        );
        Assert.Equal(
            "Load taken away: 90 °C, above the limit of 80 °C.",
            Watch(new Guard(100), 600, _ => 90, _ => 90, jobLimitC: 80)!.Value.Why
        );
        Assert.Equal(
            "Load taken away: 107 °C, above 105 °C, and no limit is known.",
            Watch(new Guard(null), 600, _ => 107, _ => null)!.Value.Why
        );
    }

    [Fact]
    public void Readings_that_fall_silent_and_a_server_that_does_take_the_load_away()
    {
        Assert.Equal(
            (60, "Load taken away: no processor temperature for 10 s."),
            Watch(new Guard(100), 600, now => now < 50 ? 70 : null, _ => 90)
        );
        Assert.Equal(
            (60, "Load taken away: no processor power for 10 s."),
            Watch(new Guard(100), 600, _ => 70, now => now < 50 ? 90 : null)
        );
        Assert.Null(Watch(new Guard(100), 600, _ => 70, _ => null)); // it never had one
        Assert.Equal(
            (220.5, "Load taken away: the server has not answered for 2 minutes."),
            Watch(new Guard(100), 600, _ => 70, _ => 90, answersUntil: 100)
        );
    }

    [Fact]
    public void Once_taken_away_it_stays_away_until_the_server_asks_for_none()
    {
        Guard guard = new(100);
        Assert.NotNull(Watch(guard, 60, _ => 120, _ => 90));
        Assert.Null(Watch(guard, 60, _ => 60, _ => 90));
        Assert.NotNull(guard.Tripped);
        guard.Heard(130, asksForLoad: false);
        Assert.Null(guard.Tripped);
    }

    /// <summary>A sensor that hangs hangs the loop that looks at it; the load does not go on unwatched.</summary>
    [Fact]
    public void A_loop_that_hangs_loses_the_load()
    {
        FakeTimeProvider clock = new();
        using OwnLoad load = new(1, TimeProvider.System);
        Guard guard = new(90);
        List<string> said = [];
        Watch watch = new(load, guard, clock, said.Add);
        load.Set(0.01, LoadKind.AllCore);
        for (int second = 0; second < 30; second++)
        {
            watch.Beat();
            clock.Advance(TimeSpan.FromSeconds(1));
        }

        Assert.True(load.IsOn);
        for (int second = 0; second < 12; second++)
        {
            clock.Advance(TimeSpan.FromSeconds(1));
        }

        Assert.False(load.IsOn);
        Assert.Equal("Load taken away: the sensors have not answered for 10 s.", Assert.Single(said));
        Assert.Equal(said[0], guard.Tripped);
    }

    /// <summary>The heaviest load goes on changing bits for hours, and its numbers stay numbers.</summary>
    [Fact]
    public void The_heaviest_work_stays_finite_and_goes_on()
    {
        VectorWork work = new(3);
        HashSet<double> sums = [];
        for (int i = 0; i < 200; i++)
        {
            work.Go(100_000);
            Assert.True(double.IsFinite(work.Sum));
            Assert.InRange(Math.Abs(work.Sum), 0, 16 * 8 * 2 * 2);
            sums.Add(work.Sum);
        }

        Assert.Equal(200, sums.Count);
        WholeWork whole = new(3);
        double before = whole.Sum;
        whole.Go(1000);
        Assert.NotEqual(before, whole.Sum);
    }
}
