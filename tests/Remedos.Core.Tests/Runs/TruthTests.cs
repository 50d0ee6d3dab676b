using System.Text.Json;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Runs;

/// <summary>Every figure of a run against what the simulated machine really did.</summary>
public sealed class TruthTests
{
    public static TheoryData<string> Names() => [.. Example.Truth("runs").GetProperty("runs").EnumerateObject().Select(run => run.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void A_run_is_read_to_its_truth(string name)
    {
        JsonElement truth = Example.Truth("runs").GetProperty("runs").GetProperty(name);
        RunAnalysis run = Example.Run(name).Analysis;
        LoadFigures load = run.Load!;
        Phase phase = run.Phases.Single(p => p.Kind == PhaseKind.Load);

        Assert.Equal(truth.Number("loadStartSeconds"), phase.StartSeconds, 1.5);
        Assert.Equal(truth.Number("loadEndSeconds"), phase.EndSeconds, 1.5);
        Assert.Equal(truth.Number("sustainedTemperatureC"), load.SustainedTemperatureC, 0.2);
        Assert.Equal(truth.Number("sustainedPowerW"), load.SustainedPowerW!.Value, 0.2);
        Assert.Equal(truth.Number("sustainedClockMHz"), load.SustainedClockMHz!.Value, 10.0);
        Assert.InRange(run.Resistance!.ValueCPerW, 0.997 * truth.Number("resistanceCPerW"), 1.003 * truth.Number("resistanceCPerW"));
        Assert.InRange(Math.Abs(run.Resistance.ValueCPerW - truth.Number("resistanceCPerW")), 0, 1.5 * run.Resistance.HalfWidthCPerW);
        Assert.Equal(truth.Number("idleRiseC"), run.Idle!.RiseC!.Value, 0.25);
        Assert.Equal(truth.GetProperty("settled").GetBoolean(), load.Settled);
        Assert.Equal(truth.Number("finalTemperatureC"), load.ForecastFinalTemperatureC!.Value, 1.5);
        Assert.InRange(run.SustainablePowerW!.Value, 0.997 * truth.Number("sustainablePowerW"), 1.003 * truth.Number("sustainablePowerW"));
        Assert.Equal(truth.Number("projectedAtRatedPowerC"), run.ProjectedAtRatedPowerC!.Value, 0.3);
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Limits_are_found_where_and_only_where_they_are(string name)
    {
        JsonElement[] truth = [.. Example.Truth("runs").GetProperty("runs").GetProperty(name).GetProperty("limits").EnumerateArray()];
        IReadOnlyList<Limit> limits = Example.Run(name).Analysis.Limits;
        Assert.Equal(truth.Select(limit => limit.GetProperty("kind").GetString()), limits.Select(limit => Kebab.Of(limit.Kind)));
        foreach ((JsonElement expected, Limit found) in truth.Zip(limits))
        {
            Assert.Equal(expected.Number("firstSeconds"), found.FirstSeconds, 2.0);
            Assert.Equal(expected.Number("shareOfLoad"), found.ShareOfLoad, 0.02);
            Assert.Equal(expected.Number("clockLossPercent"), found.ClockLossPercent!.Value, 0.5);
        }
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Recovery_is_read_to_its_truth(string name)
    {
        JsonElement truth = Example.Truth("runs").GetProperty("runs").GetProperty(name).GetProperty("recovery");
        RecoveryFigures recovery = Example.Run(name).Analysis.Recovery!;
        Assert.Equal(truth.Number("after60sRiseC"), recovery.After60sRiseC!.Value, 1.5);
        if (truth.GetProperty("halfSeconds").ValueKind == JsonValueKind.Null)
        {
            Assert.Null(recovery.HalfSeconds);
        }
        else
        {
            double half = truth.Number("halfSeconds");
            Assert.InRange(recovery.HalfSeconds!.Value, half - Math.Max(3, 0.1 * half), half + Math.Max(3, 0.1 * half));
        }
    }
}
