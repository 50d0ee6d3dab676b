using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;

namespace Remedos.Core.Tests.Diagnosis;

/// <summary>A small proof of the diagnosis on simulated machines; the large one is `remedos prove diagnosis`.</summary>
public sealed class DiagnosisProofTests
{
    /// <summary>Far below what the large proof shows, so that eighty machines cannot miss it by chance, and far above guessing.</summary>
    [Fact]
    public void Simulated_faults_are_found_and_in_fewer_minutes_than_in_a_fixed_order()
    {
        DiagnosisReport report = DiagnosisProof.Run(80, seed: 9000);
        Assert.True(report.Accuracy.Single(one => one.Evidence == "all").TopOne > 0.78);
        Assert.True(report.Accuracy.Single(one => one.Evidence == "all").TopThree > 0.92);
        Assert.True(report.Policies[0].Minutes < 0.8 * report.Policies[1].Minutes);
        Assert.True(report.Policies[0].Right > report.Policies[2].Right + 0.3);
        Assert.Equal(80 * 17, report.Deciles.Sum(decile => decile.Count));
    }

    private static SimulatedCase Case(string machine, string fault, double severity, double? age = 30)
    {
        MachineRow row = MachineLibrary.Rows.Single(one => one.Id == machine);
        return new SimulatedCase(row, new CaseMachine(MachineLibrary.Resolve(row, out _)!.Cooler.Kind, age, false, "home"), new Dictionary<string, double> { [fault] = severity }, seed: 5);
    }

    /// <summary>What a run shows of a fault, read like any log.</summary>
    [Theory]
    [InlineData("home-tower", "paste-aged", 0.9, "swollen-band", "chip")]
    [InlineData("home-tower", "dust-blocked-fins", 0.8, "swollen-band", "bulk")]
    [InlineData("boat-station", "loop-restricted", 0.9, "swollen-band", "cooler")]
    [InlineData("home-tower", "poor-contact", 0.7, "core-spread", "wide")]
    [InlineData("home-tower", "background-load", 0.6, "idle-load", "busy")]
    [InlineData("home-tower", "power-excess", 0.6, "power-vs-rated", "above")]
    [InlineData("home-tower", "power-limited", 0.6, "power-plateau", "yes")]
    [InlineData("home-tower", "fan-failed", 1, "fan-response", "stopped")]
    [InlineData("boat-station", "pump-failed", 1, "pump-speed", "zero")]
    [InlineData("home-tower", "sensor-misread", 0.8, "idle-rise", "high")]
    [InlineData("bedroom-tower", "case-starved", 0.9, "panel-off-drop", "large")]
    [InlineData("survey-workstation", "fan-control", 1, "fans-full-drop", "large")]
    [InlineData("home-tower", "paste-aged", 0.9, "known-good-cooler", "fixed")]
    [InlineData("home-tower", "poor-contact", 0.9, "capped-power", "still-hot")]
    [InlineData("image-stacker", "room-hot", 1, "cooler-room", "follows-room")]
    public void A_fault_shows_where_it_should(string machine, string fault, double severity, string evidence, string state) =>
        Assert.Equal(state, Case(machine, fault, severity).Ask(evidence)?.State);

    /// <summary>A healthy machine shows nothing in its runs.</summary>
    [Theory]
    [InlineData("home-tower")]
    [InlineData("boat-station")]
    [InlineData("render-dual-tower")]
    public void A_healthy_machine_shows_nothing(string machine)
    {
        string[] wrong = ["raised", "high", "slow", "chip", "cooler", "bulk", "wide", "busy", "above", "large", "still-hot", "fixed", "better", "low-while-hot", "stopped", "low", "zero"];
        SimulatedCase healthy = Case(machine, "dust-blocked-fins", 0);
        Assert.All(healthy.OfUsualRun, item => Assert.DoesNotContain(item.State, wrong));
        Assert.All(new[] { "panel-off-drop", "fans-full-drop", "capped-power", "known-good-cooler" }, trial => Assert.DoesNotContain(healthy.Ask(trial)!.State, wrong));
    }
}
