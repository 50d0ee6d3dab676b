using System.Text;
using Remedos.Core.Diagnosis;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Tests.Diagnosis;

public sealed class SeenRunTests
{
    private static SeenRun Seen(SimulationRequest request)
    {
        SimulatedRun run = SimulatedRun.Of(request.Resolve(out _)!, request, seed: 4);
        RunConditions conditions = run.Conditions with { Workload = "all-core" };
        return SeenRun.Of(
            RunAnalyzer.Analyze(LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(run.LogCsv()))).Log!, conditions),
            conditions,
            null
        );
    }

    /// <summary>A machine at its limit holds what it held there; one below it more than it draws; a light load tells nothing.</summary>
    [Fact]
    public void What_it_holds_is_told_by_a_full_load_alone()
    {
        static SimulationStep[] Load(double load) => [new(200, 0), new(1500, load), new(200, 0)];
        SeenRun hot = Seen(new(Load(1), "image-stacker", RoomC: 24, Faults: new Dictionary<string, double> { ["paste-aged"] = 0.9 }));
        Assert.NotNull(hot.Run.ThermalLimit);
        Assert.Equal(hot.Run.Load!.SustainedPowerW!.Value, hot.HoldsW(100, 24, 125)!.Value, 3.0);

        SeenRun sound = Seen(new(Load(1), "image-stacker", RoomC: 24));
        Assert.InRange(sound.HoldsW(100, 24, 125)!.Value, 150, 260);
        Assert.True(sound.HoldsW(100, 34, 125) < sound.HoldsW(100, 24, 125));

        Assert.Null(Seen(new(Load(0.5), "image-stacker", RoomC: 24)).HoldsW(100, 24, 125));
    }
}
