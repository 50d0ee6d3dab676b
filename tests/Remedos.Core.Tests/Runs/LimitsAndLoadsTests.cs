using System.Text.Json;
using CsCheck;
using Remedos.Core.Comparison;
using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Tests.Runs;

/// <summary>
/// What whole jobs were found to be misread by: long boosts, limits held from the first row, rows taken for seconds, flags against the
/// thermometer.
/// </summary>
public sealed class LimitsAndLoadsTests
{
    /// <summary>A boost is part of the load, however long it is and however little is left of it.</summary>
    [Theory]
    [InlineData(15, 200, 56, 65)]
    [InlineData(15, 200, 110, 65)]
    [InlineData(25, 140, 28, 65)]
    [InlineData(12, 90, 240, 45)]
    public void A_boost_is_part_of_the_load(double idle, double boost, int boostSeconds, double left)
    {
        double[] power =
        [
            .. Enumerable
                .Range(0, 900)
                .Select(i =>
                    i is <= 120 or > 720 ? idle
                    : i <= 120 + boostSeconds ? boost
                    : left
                ),
        ];
        RunAnalysis run = RunAnalyzer.Analyze(
            LogOf(1, power, [.. power.Select(p => 22 + (0.3 * p))]),
            new RunConditions(AmbientC: 22, TemperatureLimitC: 100, RatedPowerW: left)
        );
        Phase load = Assert.Single(run.Phases, phase => phase.Kind == PhaseKind.Load);
        Assert.Equal((120.0, 720.0), (load.StartSeconds, load.EndSeconds));
        Assert.Equal(left, run.Load!.SustainedPowerW!.Value, 0.5);
        Limit budget = Assert.Single(run.Limits);
        Assert.Equal((LimitKind.Power, 120.0 + boostSeconds), (budget.Kind, budget.FirstSeconds));
        // Held at what it is rated for: a fact, and no finding.
        Assert.DoesNotContain(
            "budget",
            RunWords.Finding(run, new RunConditions(TemperatureLimitC: 100, RatedPowerW: left)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "budget",
            RunWords.Finding(run, new RunConditions(TemperatureLimitC: 150, RatedPowerW: left * 1.3)),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// Of the case's fans the fastest counts; a header that reads 0 all along has no fan on it, and tells nothing.
    /// </summary>
    [Theory]
    [InlineData(new double[] { 900, 400, 0 }, 900.0, 450.0)]
    [InlineData(new double[] { 0, 300 }, 300.0, 150.0)]
    [InlineData(new double[] { 0, 0 }, null, null)]
    [InlineData(new double[0], null, null)]
    public void The_cases_fans_are_read_off_the_fastest_of_them(double[] rpm, double? loaded, double? idle)
    {
        double[] power = [.. Enumerable.Range(0, 900).Select(i => i is <= 120 or > 720 ? 15 : 90.0)];
        Log log = LogOf(1, power, [.. power.Select(p => 22 + (0.3 * p))]);
        Channel[] fans =
        [
            .. rpm.Select(
                (turns, i) => ChannelOf(10 + i, ChannelRole.CaseFanSpeed, "RPM", [.. power.Select(p => p > 50 ? turns : turns / 2)])
            ),
        ];
        RunAnalysis run = RunAnalyzer.Analyze(log with { Channels = [.. log.Channels, .. fans] }, new RunConditions(AmbientC: 22));
        Assert.Equal((loaded, idle), (run.Beside!.CaseFanRpm, run.Idle!.CaseFanRpm));
    }

    /// <summary>A machine that protects itself deeply is at work, not cooling down.</summary>
    [Fact]
    public void Deep_throttling_is_no_cool_down()
    {
        double[] power =

            [
                .. Enumerable
                    .Range(0, 1200)
                    .Select(i =>
                        i is <= 200 or > 1000 ? 14
                        : i <= 320 ? 74.0
                        : 43
                    ),
            ],
            chip =

            [
                .. Enumerable
                    .Range(0, 1200)
                    .Select(i =>
                        i is <= 200 or > 1000 ? 40
                        : i <= 300 ? 85.0
                        : 95
                    ),
            ];
        Phase load = Assert.Single(Phases.Find(LogOf(1, power, chip)), phase => phase.Kind == PhaseKind.Load);
        Assert.Equal((200.0, 1000.0), (load.StartSeconds, load.EndSeconds));
    }

    /// <summary>
    /// At the limit from the first row there is nothing to compare with in the load: rated power and the highest clock are.
    /// </summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void A_machine_at_its_limit_from_the_first_row_is_held_by_heat(bool flagged)
    {
        bool Load(int i) => i is > 200 and <= 900;
        double[] power =

            [
                .. Enumerable
                    .Range(0, 1000)
                    .Select(i =>
                        !Load(i) ? 12
                        : i == 201 ? 110.0
                        : 58
                    ),
            ],
            clock =

            [
                .. Enumerable
                    .Range(0, 1000)
                    .Select(i =>
                        !Load(i) ? 1500
                        : i == 201 ? 3600.0
                        : 2300
                    ),
            ];
        double[] chip = [.. Enumerable.Range(0, 1000).Select(i => Load(i) ? 95.0 : 45)],
            flag = [.. Enumerable.Range(0, 1000).Select(i => flagged && Load(i) ? 1.0 : 0)];
        RunConditions conditions = new(AmbientC: 22, TemperatureLimitC: 95, RatedPowerW: 125);
        RunAnalysis run = RunAnalyzer.Analyze(LogOf(1, power, chip, clock, flag), conditions);
        Limit limit = Assert.Single(run.Limits);
        Assert.Equal((LimitKind.Thermal, 200.0, true), (limit.Kind, limit.FirstSeconds, limit.AtOnce));
        Assert.Equal(1, limit.ShareOfLoad, 0.01);
        Assert.Equal(100 * (1 - (2300 / 3600.0)), limit.ClockLossPercent!.Value, 0.5);
        Assert.Equal(125, limit.UnhinderedPowerW);
        Assert.StartsWith("Too hot: at its limit from the first second", RunWords.Finding(run, conditions), StringComparison.Ordinal);
    }

    /// <summary>
    /// Without a clock that was ever higher, how much is lost is not known; a chip that holds its rated power at its limit has lost
    /// nothing.
    /// </summary>
    [Fact]
    public void What_cannot_be_known_is_null()
    {
        double[] power = [.. Enumerable.Repeat(58.0, 700)],
            chip = [.. Enumerable.Repeat(95.0, 700)],
            clock = [.. Enumerable.Repeat(2300.0, 700)],
            busy = [.. Enumerable.Repeat(100.0, 700)];
        RunAnalysis Of(double rated) =>
            RunAnalyzer.Analyze(
                LogOf(1, power, chip, clock, null, busy),
                new RunConditions(AmbientC: 22, TemperatureLimitC: 95, RatedPowerW: rated)
            );
        Limit limit = Assert.Single(Of(125).Limits);
        Assert.Equal((LimitKind.Thermal, null, 0.0), (limit.Kind, limit.ClockLossPercent, limit.FirstSeconds));
        Assert.Empty(Of(58).Limits);
    }

    /// <summary>A flag is believed near the limit and doubted far below it.</summary>
    [Theory]
    [InlineData(97, true)]
    [InlineData(83, false)]
    public void A_flag_is_weighed_against_the_thermometer(double celsius, bool believed)
    {
        bool Load(int i) => i is > 200 and <= 900;
        double[] power = [.. Enumerable.Range(0, 1000).Select(i => Load(i) ? 100.0 : 12)],
            flag = [.. Enumerable.Range(0, 1000).Select(i => i is > 400 and <= 900 ? 1.0 : 0)];
        RunAnalysis run = RunAnalyzer.Analyze(
            LogOf(1, power, [.. power.Select(p => p > 50 ? celsius : 40)], null, flag),
            new RunConditions(AmbientC: 22, TemperatureLimitC: 100, RatedPowerW: 120)
        );
        Assert.Equal(believed ? [LimitKind.Thermal] : [], run.Limits.Select(limit => limit.Kind));
        Assert.Equal(!believed, run.Warnings.Any(warning => warning.Code == "flag-far-from-limit"));
    }

    /// <summary>Forty seconds at the limit, then firmware cuts the power for good: both are told.</summary>
    [Fact]
    public void Heat_and_the_plateau_it_left_are_both_told()
    {
        double Watts(int i) =>
            i is <= 200 or > 900 ? 12
            : i <= 260 ? 160
            : i <= 300 ? 150
            : 80;
        double Chip(int i) =>
            i is <= 200 or > 900 ? 40
            : i <= 260 ? 90
            : i <= 300 ? 100
            : 70;
        double Clock(int i) =>
            i is <= 200 or > 900 ? 1500
            : i <= 260 ? 4500
            : i <= 300 ? 4300
            : 3200;
        double[] Of(Func<int, double> f) => [.. Enumerable.Range(0, 1000).Select(f)];
        RunAnalysis run = RunAnalyzer.Analyze(
            LogOf(1, Of(Watts), Of(Chip), Of(Clock)),
            new RunConditions(AmbientC: 22, TemperatureLimitC: 100)
        );
        Assert.Equal([LimitKind.Thermal, LimitKind.Power], run.Limits.Select(limit => limit.Kind));
        Assert.Equal(100 * (1 - (3200 / 4500.0)), run.PowerLimit!.ClockLossPercent!.Value, 1.0);
    }

    /// <summary>The same run ten times a second, once a second, and a row every five seconds: same phases, limits and resistance.</summary>
    [Theory]
    [InlineData("budget")]
    [InlineData("heat")]
    public void Rows_are_no_seconds(string story)
    {
        double Watts(double t) =>
            t is < 60 or >= 300 ? 15
            : story == "budget" ? (t < 88 ? 150 : 90)
            : t < 120 ? 130
            : 110;
        double Clock(double t) =>
            t is < 60 or >= 300 ? 1500
            : story == "budget" ? (t < 88 ? 4600 : 3900)
            : t < 120 ? 4500
            : 4200;
        double Chip(double t) =>
            t is < 60 or >= 300 ? 40
            : story == "budget" ? 70
            : t < 120 ? 90
            : 95;
        RunAnalysis At(double hertz)
        {
            double[] time = [.. Enumerable.Range(0, (int)(400 * hertz) + 1).Select(i => i / hertz)];
            return RunAnalyzer.Analyze(
                LogOf(1 / hertz, [.. time.Select(Watts)], [.. time.Select(Chip)], [.. time.Select(Clock)]),
                new RunConditions(AmbientC: 22, TemperatureLimitC: 95, RatedPowerW: 130)
            );
        }

        RunAnalysis second = At(1);
        Limit expected = Assert.Single(second.Limits);
        Assert.Equal(story == "budget" ? LimitKind.Power : LimitKind.Thermal, expected.Kind);
        foreach (double hertz in new[] { 10, 0.5, 0.2 })
        {
            RunAnalysis run = At(hertz);
            Limit limit = Assert.Single(run.Limits);
            double row = Math.Max(1, 1 / hertz) + 1;
            Assert.Equal(expected.Kind, limit.Kind);
            Assert.Equal(expected.FirstSeconds, limit.FirstSeconds, row);
            Assert.Equal(expected.ShareOfLoad, limit.ShareOfLoad, 0.04);
            Assert.Equal(expected.ClockLossPercent!.Value, limit.ClockLossPercent!.Value, 0.5);
            Assert.Equal(60, run.Phases.Single(phase => phase.Kind == PhaseKind.Load).StartSeconds, row);
            Assert.Equal(second.Resistance!.ValueCPerW, run.Resistance!.ValueCPerW, 0.005);
        }
    }

    /// <summary>
    /// No answer holds a number that is none, whatever the log: constant channels, days with short loads, a handful of rows.
    /// </summary>
    [Fact]
    public void Every_number_is_finite_or_null()
    {
        Gen.Select(Gen.Int[5, 600], Gen.Double[0.2, 6], Gen.Int[0, 5], Gen.Int[0, 1_000_000])
            .Sample(
                (rows, step, shape, seed) =>
                {
                    Random random = new(seed);
                    double Watts(int i) =>
                        shape switch
                        {
                            0 => 50,
                            1 => i % 200 < 60 ? 10 : 120,
                            2 => random.NextDouble() * 150,
                            3 => i > rows / 2 ? 100 : 5,
                            4 => 0,
                            _ => i % 40 < 3 ? 90 : 10,
                        };
                    double[] power = [.. Enumerable.Range(0, rows).Select(Watts)];
                    Log log = LogOf(
                        step,
                        power,
                        [.. power.Select(p => shape == 4 ? 40 : 25 + (p / 3))],
                        [.. power.Select(p => 1000 + (20 * p))]
                    );
                    foreach (
                        RunConditions conditions in new[]
                        {
                            new RunConditions(),
                            new RunConditions(AmbientC: 22, TemperatureLimitC: 60, RatedPowerW: 90),
                        }
                    )
                    {
                        RunAnalysis run = RunAnalyzer.Analyze(log, conditions);
                        _ = JsonSerializer.Serialize(run);
                        _ = JsonSerializer.Serialize(
                            Comparer.Compare([new ConditionedRun(run, conditions)], [new ConditionedRun(run, conditions)])
                        );
                    }
                },
                iter: 150
            );
        double[] days = [.. Enumerable.Range(0, 4 * 86_400).Select(i => i % 3600 < 300 ? 110.0 : 12)];
        _ = JsonSerializer.Serialize(
            RunAnalyzer.Analyze(
                LogOf(1, days, [.. days.Select(p => 22 + (0.4 * p))]),
                new RunConditions(AmbientC: 22, TemperatureLimitC: 95)
            )
        );
    }

    /// <summary>A card is read like the processor, under its own load, against the air that it breathes.</summary>
    [Fact]
    public void A_card_is_read_under_its_own_load()
    {
        bool Card(int i) => i is > 300 and <= 1100;
        double[] Of(Func<int, double> f) => [.. Enumerable.Range(0, 1400).Select(f)];
        Log log = LogOf(1, Of(i => i is > 100 and <= 1300 ? 60 : 15), Of(i => i is > 100 and <= 1300 ? 55 : 35));
        log = log with
        {
            Channels =
            [
                .. log.Channels,
                ChannelOf(20, ChannelRole.GpuTemperature, "C", Of(i => Card(i) ? 84 : 40)),
                ChannelOf(21, ChannelRole.GpuHotspotTemperature, "C", Of(i => Card(i) ? 106 : 44)),
                ChannelOf(22, ChannelRole.GpuMemoryTemperature, "C", Of(i => Card(i) ? 90 : 50)),
                ChannelOf(
                    23,
                    ChannelRole.GpuPower,
                    "W",
                    Of(i =>
                        !Card(i) ? 12
                        : i < 700 ? 300
                        : 260
                    )
                ),
                ChannelOf(24, ChannelRole.GpuFanSpeed, "rpm", Of(i => Card(i) ? 2100 : 0)),
                ChannelOf(25, ChannelRole.CaseAirTemperature, "C", Of(i => Card(i) ? 38 : 28)),
            ],
        };
        GpuFigures card = RunAnalyzer
            .Analyze(log, new RunConditions(AmbientC: 24) { GpuHotspotLimitC = 106, GpuTemperatureLimitC = 93 })
            .Graphics!;
        Assert.Equal((300.0, 1100.0), (card.Load.StartSeconds, card.Load.EndSeconds));
        Assert.Equal(
            (84.0, 106.0, 90.0, 22.0),
            (card.Core.SustainedC, card.HotSpot!.SustainedC, card.Memory!.SustainedC, card.GapC!.Value)
        );
        Assert.Equal((46 / 260.0, 60 / 260.0), (card.Resistance!.ValueCPerW, card.RoomResistance!.ValueCPerW));
        Assert.True(card.AirIsCase);
        Assert.Equal((GpuFigures.AtHotSpot, 2100.0), (card.HeldAt, card.FanRpm));
    }

    /// <summary>The same repair with the fans left to themselves and with the fans fixed gains the same at equal fan speed.</summary>
    [Fact]
    public void A_repair_is_worth_the_same_with_slower_fans()
    {
        ConditionedRun Run(double? fan, double paste)
        {
            SimulationStep[] steps = [new(300, 0, fan), new(1500, 1, fan), new(300, 0, fan)];
            SimulatedRun run = SimulatedRun.Of(
                MachineLibrary.Machines.Single(machine => machine.Id == "image-stacker"),
                new SimulationRequest(steps, "image-stacker", Faults: new Dictionary<string, double> { ["paste-aged"] = paste }),
                seed: 7
            );
            return new ConditionedRun(
                RunAnalyzer.Analyze(
                    LogReader.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(run.LogCsv()))).Log!,
                    run.Conditions
                ),
                run.Conditions
            );
        }

        Change automatic = Comparer.Compare([Run(null, 0.5)], [Run(null, 0)]).Change!,
            byHand = Comparer.Compare([Run(70, 0.5)], [Run(70, 0)]).Change!;
        Assert.True(automatic.FanPartC > 2);
        Assert.Equal(byHand.AtReferencePowerC * automatic.ReferencePowerW / byHand.ReferencePowerW, automatic.AtReferencePowerC, 2.5);
    }

    private static Channel ChannelOf(int column, ChannelRole role, string unit, double[] values) =>
        new(column, role.Name(), role, unit, [.. values.Select(v => (float)v)], values.Length, 0, values.Average());

    private static Log LogOf(
        double step,
        double[] power,
        double[] chip,
        double[]? clock = null,
        double[]? flag = null,
        double[]? load = null
    )
    {
        List<Channel> channels = [ChannelOf(1, ChannelRole.CpuTemperature, "C", chip), ChannelOf(2, ChannelRole.CpuPower, "W", power)];
        channels.AddRange(clock is null ? [] : [ChannelOf(3, ChannelRole.CpuClock, "MHz", clock)]);
        channels.AddRange(flag is null ? [] : [ChannelOf(4, ChannelRole.ThrottleFlag, "", flag)]);
        channels.AddRange(load is null ? [] : [ChannelOf(5, ChannelRole.CpuLoad, "%", load)]);
        return new Log([.. chip.Select((_, i) => i * step)], channels, null, []);
    }
}
