using Remedos.Core.Diagnosis;

namespace Remedos.Core.Tests.Diagnosis;

/// <summary>Two readings on the tubes, and the flow they mean.</summary>
public sealed class TubeCheckTests
{
    /// <summary>150 W warm water of 4.18 kJ/kg·K by 2 °C at 1.08 L/min, and by 20 °C at a tenth of it.</summary>
    [Theory]
    [InlineData(41, 39, 150, "even", 1.08)]
    [InlineData(39, 41, 150, "even", 1.08)]
    [InlineData(58, 38, 150, "one-hot", 0.108)]
    [InlineData(46, 40, 150, "one-hot", 0.359)]
    [InlineData(43, 38, 45, "one-hot", 0.129)] // few degrees at few watts: starved
    [InlineData(45, 38, 250, "even", 0.512)] // more degrees at many watts: flowing
    public void Flow_is_what_carries_the_watts(double one, double other, double watts, string state, double litres)
    {
        TubeCheck check = TubeCheck.Of(one, other, watts, 22);
        Assert.Equal(state, check.State);
        Assert.Equal(litres, check.FlowLitresPerMinute!.Value, 0.03 * litres);
        Assert.Contains(state == "even" ? "the loop flows" : "hardly any flow", check.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void What_cannot_be_told_is_not_told()
    {
        Assert.Equal("both-cold", TubeCheck.Of(24, 23, 150, 22).State);
        Assert.Null(TubeCheck.Of(24, 23, 150, 22).FlowLitresPerMinute);
        Assert.Null(TubeCheck.Of(40, 39.5, 150, 22).FlowLitresPerMinute); // two thermometers differ by as much
        Assert.Null(TubeCheck.Of(50, 40, null, null).FlowLitresPerMinute);
        Assert.Equal("10.0 °C between the tubes: hardly any flow.", TubeCheck.Of(50, 40, null, null).Sentence);
    }
}
