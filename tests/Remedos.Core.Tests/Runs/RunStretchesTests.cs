using System.Text;
using Remedos.Core.Comparison;
using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Tests.Runs;

/// <summary>
/// Several runs in one file, gaps, and loads that a technician marks; on simulated machines, whose resistances are known.
/// </summary>
public sealed class RunStretchesTests
{
    private static readonly RunConditions Conditions = new(AmbientC: 22, TemperatureLimitC: 100, FanPolicy: "fixed");

    [Fact]
    public void Repeats_in_one_log_are_runs_of_their_own()
    {
        Log log = Simulated([new(180, 0), new(900, 1), new(300, 0), new(900, 1), new(300, 0), new(900, 1), new(300, 0)]);
        IReadOnlyList<RunStretch> stretches = RunStretches.Of(log);
        Assert.Equal([0, 1080, 2280], stretches.Select(stretch => stretch.StartSeconds), (a, b) => Math.Abs(a - b) < 2);
        Assert.Equal([1380, 2580, 3780], stretches.Select(stretch => stretch.EndSeconds), (a, b) => Math.Abs(a - b) < 2);
        IReadOnlyList<RunAnalysis> runs = RunAnalyzer.AnalyzeEach(log, Conditions);
        Assert.All(runs, run =>
        {
            Assert.Equal([PhaseKind.Idle, PhaseKind.Load, PhaseKind.CoolDown], run.Phases.Select(phase => phase.Kind));
            Assert.Equal(300, run.Phases[1].StartSeconds, run == runs[0] ? 121.0 : 2.0);
            Assert.NotNull(run.HeatPath);
        });
        Assert.Equal(3, RunAnalyzer.AnalyzeWhole(log, Conditions).Repeats!.Count);
        ComparisonResult same = Comparer.Compare(
            [.. runs.Select(run => new ConditionedRun(run, Conditions))],
            [.. runs.Select(run => new ConditionedRun(run, Conditions))]
        );
        Assert.Equal((3, 3, Verdict.NoMeasurableChange), (same.Before.Runs, same.After.Runs, same.Verdict));
    }

    /// <summary>A repeat begins warm. What went before is in its log, so its heat path is that of the first run.</summary>
    [Fact]
    public void The_warmth_of_the_run_before_is_allowed_for()
    {
        Log log = Simulated([new(300, 0), new(1200, 1), new(120, 0), new(1200, 1), new(600, 0)]);
        IReadOnlyList<RunAnalysis> runs = RunAnalyzer.AnalyzeEach(log, Conditions);
        Assert.Equal(2, runs.Count);
        foreach (HeatStep band in HeatBand.All)
        {
            HeatBand first = runs[0].HeatPath!.Single(b => b.Band == band),
                second = runs[1].HeatPath!.Single(b => b.Band == band);
            Assert.InRange(Math.Abs(first.ResistanceCPerW - second.ResistanceCPerW), 0, first.HalfWidthCPerW + second.HalfWidthCPerW);
        }

        Assert.Equal(runs[0].Load!.ForecastFinalTemperatureC!.Value, runs[1].Load!.ForecastFinalTemperatureC!.Value, 1.0);
        Assert.Equal(1, runs[1].Idle!.RiseC!.Value / runs[0].Idle!.RiseC!.Value, 3.0);
    }

    /// <summary>
    /// The logger was off while the machine went on: the load before the gap and the load after it are two, and no fit spans it.
    /// </summary>
    [Fact]
    public void A_gap_parts_recordings()
    {
        Log whole = Simulated([new(300, 0), new(900, 1), new(1800, 1), new(900, 1), new(400, 0)]);
        Log gapped = Parsed(Rows(whole).Where(row => row.Seconds is < 1200 or > 3000));
        IReadOnlyList<RunStretch> stretches = RunStretches.Of(gapped);
        Assert.Equal(2, stretches.Count);
        Assert.True(stretches[0].EndSeconds < 1200 && stretches[1].StartSeconds > 3000);
        RunAnalysis after = RunAnalyzer.Analyze(gapped.Part(stretches[1].StartSeconds, stretches[1].EndSeconds), Conditions),
            full = RunAnalyzer.Analyze(whole, Conditions);
        Assert.Equal(full.Resistance!.ValueCPerW, after.Resistance!.ValueCPerW, 0.01);
        Assert.Equal(
            full.HeatPath!.Single(b => b.Band == HeatStep.Chip).ResistanceCPerW,
            after.HeatPath!.Single(b => b.Band == HeatStep.Chip).ResistanceCPerW,
            0.03
        );
    }

    [Fact]
    public void A_warm_up_a_short_block_and_daily_use_are_no_repeats()
    {
        Assert.Single(RunStretches.Of(Simulated([new(120, 0), new(400, 0.5), new(200, 0), new(900, 1), new(200, 0)])));
        Assert.Single(RunStretches.Of(Simulated([new(120, 0), new(120, 1), new(200, 0), new(900, 1), new(200, 0)])));
        Assert.Single(RunStretches.Of(Simulated([.. Enumerable.Range(0, 28).Select(i => new SimulationStep(240, i % 2))])));
        Assert.Single(
            RunStretches.Of(
                Simulated([
                    new(120, 0),
                    new(900, 1),
                    new(200, 0),
                    new(300, 1),
                    new(200, 0),
                    new(800, 1),
                    new(200, 0),
                    new(250, 1),
                    new(200, 0),
                ])
            )
        );
    }

    [Fact]
    public void A_part_of_a_log_counts_its_own_samples()
    {
        Log log = Simulated([new(300, 0), new(600, 1), new(300, 0)]);
        Log part = log.Part(299.5, 700.5);
        Assert.Equal((401, 0.0), (part.Samples, part.TimeSeconds[0]));
        Assert.Equal(part.Channels[1].Values.Average(), part.Channels[1].Mean!.Value, 1e-3);
        Assert.Same(log, log.Part(0, log.DurationSeconds));
    }

    /// <summary>The load that a technician marks is the load, wherever the found one was; too short or outside gets a sentence.</summary>
    [Fact]
    public void Marked_edges_win()
    {
        Log log = Simulated([new(300, 0), new(900, 1), new(300, 0)]);
        RunAnalysis marked = RunAnalyzer.Analyze(log, Conditions with { Load = new(400, 1000) });
        Assert.Equal(
            [
                new Phase(PhaseKind.Idle, 0, 400),
                new Phase(PhaseKind.Load, 400, 1000),
                new Phase(PhaseKind.CoolDown, 1000, log.DurationSeconds),
            ],
            marked.Phases
        );
        Assert.Equal(880, marked.Load!.WindowStartSeconds);
        Assert.Equal(RunAnalyzer.Analyze(log, Conditions).Resistance!.ValueCPerW, marked.Resistance!.ValueCPerW, 0.01);
        Assert.Null(new LoadEdges(400, 1000).Problem);
        Assert.Contains("too short", new LoadEdges(400, 420).Problem!, StringComparison.Ordinal);
        Assert.Contains("within the run", new LoadEdges(-5, 420).Problem!, StringComparison.Ordinal);
        Assert.Contains("within the run", new LoadEdges(double.NaN, 420).Problem!, StringComparison.Ordinal);
        Assert.Contains(RunAnalyzer.Analyze(log, Conditions with { Load = new(2000, 3000) }).Warnings, warning =>
            warning.Code == "marked-load-outside"
        );
    }

    [Fact]
    public void Score_is_told_with_its_loss_and_its_change()
    {
        double Score(int i) => i is > 200 and <= 900 ? (i > 400 ? 850 : 1000) : 0;
        string text =
            "Time [s],CPU temperature [°C],CPU power [W],Score\n"
            + string.Concat(
                Enumerable
                    .Range(0, 1100)
                    .Select(i =>
                        $"{i},{(i is > 200 and <= 900 ? (i > 400 ? 95 : 90) : 35)},"
                        + $"{(i is > 200 and <= 900 ? (i > 400 ? 90 : 100) : 10)},{Score(i)}\n"
                    )
            );
        RunAnalysis run = RunAnalyzer.Analyze(
            LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text))).Log!,
            Conditions with
            {
                TemperatureLimitC = 95,
            }
        );
        Assert.Equal("score", run.Channels[3].Role);
        Assert.Equal(850, run.Load!.SustainedScore);
        Assert.Equal(15, run.ThermalLimit!.ScoreLossPercent!.Value, 0.1);
        RunAnalysis better = run with { Load = run.Load with { SustainedScore = 935 } };
        Assert.Equal(10, Comparer.Compare([new(run, Conditions)], [new(better, Conditions)]).Change?.ScorePercent ?? double.NaN, 1e-9);
    }

    /// <summary>A machine that holds its load with its fan fixed.</summary>
    private static Log Simulated(IReadOnlyList<SimulationStep> steps)
    {
        SimulationRequest request = new([.. steps.Select(step => step with { FanPercent = 70 })], "image-stacker", RoomC: 22);
        SimulatedRun run = SimulatedRun.Of(request.Resolve(out _)!, request, seed: 5);
        return Parsed(run.Readings.Select(reading => (reading.Seconds, reading.ChipC, reading.PowerW)));
    }

    private static IEnumerable<(double Seconds, double ChipC, double PowerW)> Rows(Log log) =>
        Enumerable
            .Range(0, log.Samples)
            .Select(i => (log.TimeSeconds[i], (double)log.Channels[1].Values[i], (double)log.Channels[2].Values[i]));

    private static Log Parsed(IEnumerable<(double Seconds, double ChipC, double PowerW)> rows)
    {
        StringBuilder text = new("Time [s],CPU temperature [°C],CPU power [W]\n");
        foreach ((double seconds, double chip, double power) in rows)
        {
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"{seconds:0.000},{chip:0.0},{power:0.00}\n");
        }

        return LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text.ToString()))).Log!;
    }
}
