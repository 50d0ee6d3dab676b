using CsCheck;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Core.Signals;

namespace Remedos.Core.Tests.Runs;

/// <summary>Phases and limits on signals that are written down, so that what must be found is plain.</summary>
public sealed class PhasesAndLimitsTests
{
    [Fact]
    public void A_running_median_is_the_median_of_its_window() =>
        Gen.Select(Gen.Double[-10, 10].Array[1, 80], Gen.Int[1, 41])
            .Sample(
                (values, width) =>
                {
                    double[] smooth = new Series([.. values.Select((_, i) => (double)i)], values).Median(width).Values;
                    int half = width / 2;
                    for (int i = 0; i < values.Length; i++)
                    {
                        double[] window = [.. values[Math.Max(0, i - half)..Math.Min(values.Length, i + half + 1)].Order()];
                        Assert.Equal(window[window.Length / 2], smooth[i]);
                    }
                }
            );

    [Fact]
    public void A_load_is_found_to_the_row_under_noise_and_background_bursts() =>
        Gen.Select(Gen.Int[60, 300], Gen.Int[120, 900], Gen.Int[60, 300], Gen.Int[0, 1000])
            .Sample(
                (idle, load, cool, seed) =>
                {
                    Random random = new(seed);
                    // A burst that touches the load is part of it for anyone who looks, so none does.
                    bool Burst(int i) => i != idle - 1 && i != idle + load && random.Next(40) == 0;
                    double[] power =
                    [
                        .. Enumerable
                            .Range(0, idle + load + cool)
                            .Select(i =>
                                (
                                    i >= idle && i < idle + load ? 120
                                    : Burst(i) ? 70
                                    : 15
                                ) + (4 * random.NextDouble())
                            ),
                    ];
                    IReadOnlyList<Phase> phases = Phases.Find(LogOf(power, [.. power.Select(p => 25 + (p / 3))]));
                    Phase found = Assert.Single(phases, phase => phase.Kind == PhaseKind.Load);
                    Assert.Equal(idle - 1, found.StartSeconds);
                    Assert.Equal(idle + load - 1, found.EndSeconds);
                    Assert.Equal([PhaseKind.Idle, PhaseKind.Load, PhaseKind.CoolDown], phases.Select(phase => phase.Kind));
                },
                iter: 60
            );

    [Fact]
    public void Several_blocks_are_kept_apart_and_a_short_burst_is_none()
    {
        double[] power =
        [
            .. Enumerable.Range(0, 1500).Select(i => i is (> 200 and <= 500) or (> 800 and <= 1100) or (> 1300 and <= 1320) ? 100.0 : 10),
        ];
        IReadOnlyList<Phase> phases = Phases.Find(LogOf(power, [.. power.Select(p => 30 + (p / 4))]));
        Assert.Equal(2, phases.Count(phase => phase.Kind == PhaseKind.Load));
        Assert.Equal(1499, phases[^1].EndSeconds);
        Assert.All(phases.Zip(phases.Skip(1)), pair => Assert.Equal(pair.First.EndSeconds, pair.Second.StartSeconds));
    }

    [Fact]
    public void A_log_without_power_is_split_by_what_it_has()
    {
        double[] temperature = [.. Enumerable.Range(0, 900).Select(i => i is > 200 and <= 700 ? 75.0 : 35)];
        Assert.Single(Phases.Find(LogOf(null, temperature)), phase => phase.Kind == PhaseKind.Load);
    }

    /// <summary>At the limit with falling clock is heat; a plateau of power while cool is a budget; a dip of the load is neither.</summary>
    [Theory]
    [InlineData(95, 100, 0.9, 0.9, LimitKind.Thermal)]
    [InlineData(70, 100, 0.7, 0.9, LimitKind.Power)]
    [InlineData(95, 100, 1.0, 1.0, null)]
    [InlineData(70, 100, 0.97, 0.99, null)]
    public void Limits_are_told_apart(double temperature, double power, double powerShare, double clockShare, LimitKind? kind)
    {
        bool Held(int i) => i is > 400 and <= 900;
        double[] watts = [.. Enumerable.Range(0, 1100).Select(i => i is > 200 and <= 900 ? power * (Held(i) ? powerShare : 1) : 12)];
        double[] clock = [.. Enumerable.Range(0, 1100).Select(i => i is > 200 and <= 900 ? 4500 * (Held(i) ? clockShare : 1) : 1500)];
        double[] chip =
        [
            .. Enumerable.Range(0, 1100).Select(i => i is > 200 and <= 900 ? (Held(i) ? temperature : temperature - 8) : 35.0),
        ];
        RunAnalysis run = RunAnalyzer.Analyze(LogOf(watts, chip, clock), new RunConditions(AmbientC: 22, TemperatureLimitC: 95));
        Assert.Equal(kind is { } one ? [one] : [], run.Limits.Select(limit => limit.Kind));
        if (kind is not null)
        {
            Assert.Equal(400, run.Limits[0].FirstSeconds, 3.0);
            Assert.Equal(500.0 / 700, run.Limits[0].ShareOfLoad, 0.02);
            Assert.Equal(100 * (1 - clockShare), run.Limits[0].ClockLossPercent!.Value, 0.2);
        }
    }

    /// <summary>
    /// A clock that firmware holds far below its base from the first second is a finding of its own, at any temperature; one that falls
    /// later is not.
    /// </summary>
    [Theory]
    [InlineData(800, 800, true)]
    [InlineData(4500, 800, false)]
    [InlineData(4500, 4500, false)]
    public void A_clock_pinned_from_the_first_second_is_told(double first, double later, bool told)
    {
        double[] watts = [.. Enumerable.Range(0, 1100).Select(i => i is > 200 and <= 900 ? 60.0 : 12)];
        double[] clock =
        [
            .. Enumerable
                .Range(0, 1100)
                .Select(i =>
                    i <= 200 || i > 900 ? 800
                    : i <= 300 ? first
                    : later
                ),
        ];
        RunAnalysis run = RunAnalyzer.Analyze(
            LogOf(watts, [.. watts.Select(p => 22 + (0.3 * p))], clock),
            new RunConditions(AmbientC: 22, TemperatureLimitC: 95)
        );
        Assert.Equal(
            told,
            run.Warnings.Any(warning =>
                warning.Code == "clock-pinned" && warning.Message.Contains("800 MHz from the first second", StringComparison.Ordinal)
            )
        );
    }

    [Fact]
    public void An_offset_of_chip_and_room_alike_changes_no_resistance() =>
        Gen.Double[-15, 15]
            .Sample(
                offset =>
                {
                    double[] power = [.. Enumerable.Range(0, 900).Select(i => i is > 200 and <= 700 ? 100.0 : 10)];
                    RunAnalysis At(double add) =>
                        RunAnalyzer.Analyze(
                            LogOf(power, [.. power.Select(p => 22 + (0.4 * p) + add)]),
                            new RunConditions(AmbientC: 22 + add)
                        );
                    Assert.Equal(At(0).Resistance!.ValueCPerW, At(offset).Resistance!.ValueCPerW, 1e-5);
                },
                iter: 20
            );

    private static Log LogOf(double[]? power, double[] temperature, double[]? clock = null)
    {
        double[] time = [.. temperature.Select((_, i) => (double)i)];
        Channel Of(int column, ChannelRole role, string unit, double[] values) =>
            new(column, role.Name(), role, unit, [.. values.Select(v => (float)v)], values.Length, 0, values.Average());
        List<Channel> channels = [Of(1, ChannelRole.CpuTemperature, "C", temperature)];
        if (power is not null)
        {
            channels.Add(Of(2, ChannelRole.CpuPower, "W", power));
        }

        if (clock is not null)
        {
            channels.Add(Of(3, ChannelRole.CpuClock, "MHz", clock));
        }

        return new Log(time, channels, null, []);
    }
}
