using CsCheck;
using Remedos.Core.Physics;

namespace Remedos.Core.Tests.Airflow;

/// <summary>The balance of a case's air, against cases that a formula solves and against what air must do.</summary>
public sealed class CaseAirTests
{
    private static readonly CaseFan Intake = new("front", true, 14, 95, 1200, 30, 0.004),
        Exhaust = Intake with { Place = "rear", Inward = false, PathK = 0.0015 };

    /// <summary>One fan in and one opening out: p₀ − (p₀/Q₀² + k)·Q² = k₂·Q².</summary>
    [Fact]
    public void One_fan_against_one_opening_is_a_parabola() =>
        Gen.Select(Gen.Double[0.1, 1], Gen.Double[0.001, 0.05], Gen.Double[0.001, 0.05])
            .Sample(
                (speed, path, leak) =>
                {
                    AirState air = CaseAir.Solve([Intake with { PathK = path }], [speed], [new Opening("slots", leak)]);
                    double flow = Math.Sqrt(14 * speed * speed / ((14.0 / (95 * 95)) + path + leak));
                    Assert.Equal(flow, air.ExchangeM3PerH, 1e-6 * flow);
                    Assert.Equal(leak * flow * flow, air.CasePa, 1e-6);
                    Assert.Equal(-flow, air.OpeningInflowsM3PerH[0], 1e-6 * flow);
                }
            );

    [Fact]
    public void What_comes_in_goes_out_whatever_the_fans() =>
        AnyCase.Sample(
            (fans, speeds, openings) =>
            {
                AirState air = CaseAir.Solve(fans, speeds, openings);
                double sum = air.FanInflowsM3PerH.Sum() + air.OpeningInflowsM3PerH.Sum();
                Assert.InRange(Math.Abs(sum), 0, 1e-5 * (1 + air.ExchangeM3PerH));
            }
        );

    /// <summary>A fan's flow grows as its speed, when all fans turn alike and only they drive the air.</summary>
    [Fact]
    public void Flows_scale_with_speed_and_pressures_with_its_square() =>
        AnyCase
            .Select(Gen.Double[0.2, 1])
            .Sample(
                (any, share) =>
                {
                    (CaseFan[] fans, double[] speeds, Opening[] openings) = any;
                    AirState full = CaseAir.Solve(fans, speeds, openings),
                        slower = CaseAir.Solve(fans, [.. speeds.Select(speed => speed * share)], openings);
                    Assert.Equal(full.ExchangeM3PerH * share, slower.ExchangeM3PerH, 1e-4 * (1 + full.ExchangeM3PerH));
                    Assert.Equal(full.CasePa * share * share, slower.CasePa, 1e-4 * (1 + Math.Abs(full.CasePa)));
                }
            );

    [Fact]
    public void More_in_than_out_stands_above_the_room_and_dust_in_the_filter_takes_air()
    {
        Opening[] openings = [new("slots", 0.006)];
        Assert.True(CaseAir.Solve([Intake, Intake, Exhaust], [1, 1, 1], openings).CasePa > 0);
        Assert.True(CaseAir.Solve([Intake, Exhaust, Exhaust], [1, 1, 1], openings).CasePa < 0);
        double Exchange(double dust) => CaseAir.Solve([Intake with { PathK = 0.004 * dust }, Exhaust], [1, 1], openings).ExchangeM3PerH;
        Gen.Double[1, 20].Select(Gen.Double[0, 10]).Sample((dust, more) => Assert.True(Exchange(dust + more) <= Exchange(dust) + 1e-6));
    }

    [Fact]
    public void A_fan_that_is_overcome_lets_air_through_the_other_way()
    {
        AirState air = CaseAir.Solve([Intake, Exhaust with { StallPa = 60 }], [0.05, 1], [new Opening("slots", 1)]);
        Assert.True(air.FanInflowsM3PerH[0] > 0 && air.CasePa < 0);
        AirState blown = CaseAir.Solve([Intake with { StallPa = 60 }, Exhaust], [1, 0], [new Opening("slots", 1)]);
        Assert.True(blown.FanInflowsM3PerH[1] < 0, "a standing fan is an opening");
        Assert.Equal(0, CaseAir.Solve([Intake], [0], [new Opening("slots", 0.01)]).ExchangeM3PerH, 1e-6);
    }

    /// <summary>200 W into 100 m³/h warm it by 200·3.6/(1.17·100) K, and a fifth more where it mixes badly.</summary>
    [Fact]
    public void Exchanged_air_carries_its_heat()
    {
        Assert.Equal(1.2 * 200 * 3.6 / (1.17 * 100), 200 / CaseAir.ConductanceWPerK(100, 1.2), 1e-9);
        Assert.Equal(40 + 3.0103, SoundLevel.SumDba([40, 40]), 1e-4);
        Assert.Equal(40 - (50 * Math.Log10(2)), SoundLevel.FanDba(40, 0.5), 1e-9);
    }

    private static readonly Gen<(CaseFan[] Fans, double[] Speeds, Opening[] Openings)> AnyCase = Gen.Select(
            Gen.Select(Gen.Bool, Gen.Double[5, 40], Gen.Double[30, 150], Gen.Double[0.0005, 0.05]).Array[1, 6],
            Gen.Double[0.05, 1].Array[6],
            Gen.Double[0.001, 0.1].Array[1, 3]
        )
        .Select(
            (fans, speeds, openings) =>
                (
                    fans.Select(fan => new CaseFan("front", fan.Item1, fan.Item2, fan.Item3, 1200, 30, fan.Item4)).ToArray(),
                    speeds[..fans.Length],
                    openings.Select(k => new Opening("slots", k)).ToArray()
                )
        );
}
