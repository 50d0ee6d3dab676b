using Remedos.Core.Machines;
using Remedos.Core.SteadyState;
using Remedos.Validation;

namespace Remedos.Core.Tests.SteadyState;

/// <summary>What a machine should show: of its parts, of its kind, under a run's own conditions, and how wide.</summary>
public sealed class ExpectedStateTests
{
    private static BenchMachine Spec(string id) => MachineLibrary.Machines.Single(one => one.Id == id);

    /// <summary>
    /// Its own bands and the other heat are the whole rise; slower fans, a closed side and a second heat make more of it.
    /// </summary>
    [Theory]
    [InlineData("home-tower")]
    [InlineData("boat-station")]
    [InlineData("bedroom-tower")]
    public void The_parts_of_the_rise_add_up_and_follow_the_conditions(string id)
    {
        HeatMachine machine = HeatMachines.Of(Spec(id));
        RunPoint at = new(110, 20, 22, CoolerRpm: 900, RatedW: 120);
        ExpectedState state = ExpectedState.Of(machine, at)!;
        Assert.Equal(
            state.RiseC.Value,
            (110 * (state.ChipCPerW.Value + state.CoolerCPerW.Value + state.BulkCPerW.Value)) + state.OtherHeatC.Value,
            0.05
        );
        Assert.True(ExpectedState.Of(machine, at with { CoolerRpm = 500 })!.RiseC.Value > state.RiseC.Value);
        Assert.True(ExpectedState.Of(machine, at with { PanelOff = true })!.RiseC.Value <= state.RiseC.Value + 0.1);
        Assert.True(ExpectedState.Of(machine, at with { CardW = 150 })!.CaseAirC.Value > state.CaseAirC.Value);
        // A fan at its measured speed is a condition; what its curve would have done is told beside it.
        Assert.Equal(ExpectedState.Of(machine, at with { CoolerRpm = 500 })!.CoolerRpm!.Value.Value, state.CoolerRpm!.Value.Value, 5.0);
        Assert.All(new[] { state.RiseC, state.ChipCPerW, state.CoolerCPerW, state.BulkCPerW, state.CaseAirC }, one =>
            Assert.True(double.IsFinite(one.Value) && one.HalfWidth > 0)
        );
    }

    /// <summary>Held out machines, their parts scattered as two of one model are: 95 % intervals hold about 95 % of them.</summary>
    [Fact]
    public void Half_widths_hold_what_two_machines_of_the_same_parts_differ_by()
    {
        const int n = 200;
        int held = Enumerable
            .Range(0, n)
            .Count(seed =>
            {
                DrawnMachine drawn = DrawnMachine.Draw(MachinePool.HeldOut, new Random(seed), (_, _) => []);
                RunPoint at = new(drawn.Known.Processor.SustainedPowerW, drawn.Known.Truth.Graphics?.IdleW ?? 0, 22);
                double truth = ExpectedState.Of(drawn.Heat, at)!.RiseC.Value;
                Expected expected = ExpectedState.Of(HeatMachines.Of(drawn.Known), at)!.RiseC;
                return Math.Abs(truth - expected.Value) <= expected.HalfWidth;
            });
        Assert.InRange(held / (double)n, 0.9, 1);
    }

    /// <summary>By kind alone it is wide, and says what to note; without a kind it says nothing.</summary>
    [Fact]
    public void Without_parts_it_is_the_usual_machine_of_its_kind_and_wide()
    {
        RunPoint at = new(100, 0, 22, CoolerRpm: 1000);
        foreach (string kind in Core.Machines.CoolerPart.Kinds)
        {
            ReferenceMachine usual = ReferenceMachine.OfKind(kind, 100, 95, 0)!;
            ExpectedState state = ExpectedState.Of(usual.Machine, at)!;
            Assert.False(usual.ByParts);
            Assert.InRange(state.RiseC.HalfWidth / state.RiseC.Value, 0.25, 0.7);
            Assert.Contains(usual.Missing, what => what.Contains("processor", StringComparison.Ordinal));
        }

        Assert.Null(ReferenceMachine.OfKind(null, 100, 95, 0));
    }

    /// <summary>A machine whose cooler is not known has no expected chip; its air is computed all the same.</summary>
    [Fact]
    public void Nothing_is_expected_of_a_chip_without_a_cooler()
    {
        Build build = new(new ProcessorPart("Corbel C125", null, 125, 95), null, null, null, null, 22, 30);
        HeatMachine machine = HeatMachines.Of(build, null, AirPlans.Of(build, null, null));
        Assert.Null(ExpectedState.Of(machine, new RunPoint(100, 0, 22)));
        Assert.True(ExpectedState.CaseAirAt(machine, 100, 0, 22).Value > 0);
    }
}
