using System.Text.Json;
using Remedos.Core.Diagnosis;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;
using Remedos.Validation;

namespace Remedos.Core.Tests.HeatPath;

/// <summary>Where the heat sticks, on machines whose truth is known.</summary>
public sealed class HeatPathTests
{
    public static TheoryData<string> Names() => [.. Example.Truth("runs").GetProperty("runs").EnumerateObject().Select(run => run.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void The_half_widths_hold_the_true_bands(string name)
    {
        JsonElement truth = Example.Truth("runs").GetProperty("runs").GetProperty(name);
        RunAnalysis run = Example.Run(name).Analysis;
        foreach (HeatBand band in run.HeatPath!)
        {
            double expected = truth.GetProperty("bands").Number(Kebab.Of(band.Band));
            Assert.True(
                Math.Abs(band.ResistanceCPerW - expected) <= band.HalfWidthCPerW,
                $"{band.Band}: {band.ResistanceCPerW:0.000} ± {band.HalfWidthCPerW:0.000}, true {expected:0.000}"
            );
            Assert.Equal(band.ResistanceCPerW * run.Load!.SustainedPowerW!.Value, band.RiseC, 1e-6);
        }

        double self = truth.Number("selfResistanceCPerW");
        Assert.InRange(run.HeatPath!.Sum(band => band.ResistanceCPerW), 0.95 * self, 1.05 * self);
        Assert.Equal(truth.Number("otherHeatRiseC"), run.OtherHeatRiseC!.Value, 2.2);
    }

    /// <summary>The story of each log, as a technician would read it off the stairs.</summary>
    [Theory]
    [InlineData("01-tower-healthy", null, "No step sticks out")]
    [InlineData("02-paste-before", HeatStep.Chip, "Heat stuck at the chip")]
    [InlineData("03-paste-after", null, "No step sticks out")]
    [InlineData("04-loop-before", HeatStep.Cooler, "Heat stuck in the loop")]
    [InlineData("05-loop-after-tower", null, "No step sticks out")]
    [InlineData("06-undersized-throttling", null, "too much for 121 W")]
    [InlineData("07-power-limited", null, "No step sticks out")]
    [InlineData("08-till-dusty", null, "No step sticks out")]
    [InlineData("09-case-starved-gpu", HeatStep.CaseAir, "Heat stuck in the case")]
    public void The_swollen_step_is_the_fault(string name, HeatStep? swollen, string words)
    {
        RunAnalysis run = Example.Run(name).Analysis;
        HeatStaircase stairs = run.Staircase!;
        Assert.Equal(swollen, stairs.Steps.SingleOrDefault(step => step.Swollen)?.Id);
        Assert.Contains(words, stairs.Sentence, StringComparison.Ordinal);
        // The steps stand on each other from the room to the chip.
        Assert.Equal(run.AmbientC!.Value, stairs.Steps[0].FromC, 1e-6);
        Assert.Equal(run.Load!.SustainedTemperatureC, stairs.Steps[^1].FromC + stairs.Steps[^1].RiseC, 0.5);
        Assert.All(stairs.Steps.Zip(stairs.Steps.Skip(1)), pair =>
            Assert.Equal(pair.First.FromC + pair.First.RiseC, pair.Second.FromC, 1e-9)
        );
    }

    [Fact]
    public void The_repair_shows_in_the_band_that_shrank()
    {
        JsonElement truth = Example.Truth("runs").GetProperty("changes").GetProperty("paste").GetProperty("byBand");
        foreach (
            Core.Comparison.BandChange band in Core
                .Comparison.Comparer.Compare([Example.Run("02-paste-before")], [Example.Run("03-paste-after")])
                .ByBand!
        )
        {
            Assert.InRange(Math.Abs(truth.Number(Kebab.Of(band.Band)) - band.ResistanceCPerW), 0, band.HalfWidthCPerW);
        }
    }

    /// <summary>
    /// Where everything else speaks for a sound machine, or only the kind is known and no fault is named, no step is called stuck; what was
    /// lost is still said.
    /// </summary>
    [Fact]
    public void An_overruled_step_is_said_and_not_called_stuck()
    {
        HeatStaircase stuck = Example.Run("02-paste-before").Analysis.Staircase!;
        StaircaseStep step = Assert.Single(stuck.Steps, one => one.Swollen);
        DiagnosisStand sound = new(null, DiagnosisStand.Sound, 0.95, null, 0),
            paste = new(DiagnosisTables.CauseOf("paste-aged"), "Paste", 0.75, null, 0);
        foreach (DiagnosisStand stand in new[] { sound, paste with { ByKind = true } })
        {
            HeatStaircase overruled = stand.Beside(stuck);
            Assert.DoesNotContain(overruled.Steps, one => one.Swollen);
            Assert.Contains($"{step.RiseC:0} °C lost from {step.Title}", overruled.Sentence, StringComparison.Ordinal);
            Assert.DoesNotContain("stuck", overruled.Sentence, StringComparison.Ordinal);
            Assert.Same(overruled, stand.Beside(overruled));
        }

        Assert.All([paste, paste with { ByKind = true, Probability = 0.92 }], stand => Assert.Same(stuck, stand.Beside(stuck)));
    }

    /// <summary>A sample of the proof in docs/science.md; the whole is run by `remedos prove heat-path`.</summary>
    [Fact]
    public void Half_widths_hold_the_truth_on_random_machines() =>
        Assert.All(HeatPathProof.Run(60, seed: 9001, MachinePool.HeldOut), band =>
        {
            Assert.True(band.Coverage >= 0.85, $"{band.Band} {band.Coverage:0.00}");
            Assert.InRange(band.MeanErrorCPerW, 0, 0.05);
        });

    [Fact]
    public void A_log_without_a_power_step_says_what_it_lacks()
    {
        string rows = string.Concat(Enumerable.Range(0, 600).Select(i => $"{i},60.{i % 3},100.{i % 5},100,22.0\n"));
        RunAnalysis run = RunAnalyzer.Analyze(
            Example.ReadText("Time [s],CPU temperature [°C],CPU power [W],CPU load [%],Room temperature [°C]\n" + rows).Log!,
            new RunConditions()
        );
        Assert.Null(run.HeatPath);
        Assert.Contains(run.Warnings, warning =>
            warning.Code == "no-heat-path" && warning.Message.Contains("never steps", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Flow_and_offsets_are_read()
    {
        Assert.Equal(
            Example.Truth("runs").GetProperty("runs").GetProperty("04-loop-before").Number("flowLitresPerMinute"),
            Example.Run("04-loop-before").Analysis.Flow!.LitresPerMinute,
            0.02
        );
        RunAnalysis offset = Example.Run("07-power-limited").Analysis;
        Assert.Equal(10, offset.ControlOffsetC!.Value, 0.2);
        Assert.Contains(offset.Warnings, warning => warning.Code == "control-offset");
        RunAnalysis open = Example.Run("10-not-settled").Analysis;
        Assert.InRange(open.Load!.NeedsSeconds!.Value, 200, 900);
        Assert.Contains(open.Warnings, warning =>
            warning.Code == "not-settled" && warning.Message.Contains("more minutes", StringComparison.Ordinal)
        );
        Assert.Equal("ramps", Example.Run("01-tower-healthy").Analysis.Fan!.State);
    }
}
