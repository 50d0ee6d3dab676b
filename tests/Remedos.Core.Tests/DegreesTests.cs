using Remedos.Core.Comparison;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests;

/// <summary>Temperatures are told in the unit of whoever is told, and computed in °C whatever that is.</summary>
public sealed class DegreesTests
{
    /// <summary>Points by the scales' own fixed points: water freezes and boils, and where both meet.</summary>
    [Theory]
    [InlineData(0, "32 °F", "0 °F")]
    [InlineData(100, "212 °F", "180 °F")]
    [InlineData(-40, "−40 °F", "−72 °F")]
    [InlineData(37, "99 °F", "67 °F")]
    public async Task Points_are_shifted_and_differences_are_not(double c, string at, string by)
    {
        Assert.Equal(($"{c:0} °C".Replace('-', '−'), $"{c:0} °C".Replace('-', '−')), (Degrees.At(c), Degrees.By(c)));
        Assert.Equal((at, by), await InFahrenheitAsync(() => (Degrees.At(c), Degrees.By(c))));
    }

    /// <summary>A scale's numbers are round in its own unit, and stand where that temperature is.</summary>
    [Fact]
    public async Task Rungs_are_round_in_what_is_told()
    {
        Assert.Equal([(20, "20"), (40, "40"), (60, "60")], Degrees.Rungs(10, 80));
        (double C, string Label)[] told = await InFahrenheitAsync(() => Degrees.Rungs(10, 80).ToArray());
        Assert.Equal(["80", "120", "160"], told.Select(one => one.Label));
        Assert.All(told, one => Assert.Equal($"{(one.C * 9 / 5) + 32:0}", one.Label));
    }

    [Fact]
    public async Task What_is_unknown_stays_so() =>
        Assert.Equal(("unknown", null), await InFahrenheitAsync(() => (Degrees.At(null), Degrees.Span((double?)null))));

    /// <summary>Two workshops at once: neither hears the other's degrees, however their work is spread over threads.</summary>
    [Fact]
    public async Task A_unit_flows_with_the_work_it_was_set_for_and_with_no_other()
    {
        static async Task<string[]> Work(TemperatureUnit unit)
        {
            Degrees.TellIn(unit);
            await Task.Yield();
            string[] here = new string[64];
            Parallel.For(0, here.Length, i => here[i] = Degrees.At(50));
            await Task.Delay(5);
            return [.. here, Degrees.At(50)];
        }

        string[][] told = await Task.WhenAll(
            Enumerable.Range(0, 16).Select(i => Task.Run(() => Work(i % 2 == 0 ? TemperatureUnit.Celsius : TemperatureUnit.Fahrenheit)))
        );
        Assert.All(told.Index(), one => Assert.All(one.Item, text => Assert.Equal(one.Index % 2 == 0 ? "50 °C" : "122 °F", text)));
        Assert.Equal("50 °C", Degrees.At(50));
    }

    /// <summary>A comparison is the same comparison: its figures stay in °C, and its sentences say the same in other degrees.</summary>
    [Fact]
    public async Task A_verdict_says_in_fahrenheit_what_it_says_in_celsius()
    {
        (ComparisonResult result, string words) = Compared();
        (ComparisonResult other, string told) = await InFahrenheitAsync(Compared);
        Assert.Equal(
            (result.Change!.AtReferencePowerC, result.Before.TemperatureC, result.After.TemperatureC),
            (other.Change!.AtReferencePowerC, other.Before.TemperatureC, other.After.TemperatureC)
        );
        Assert.DoesNotContain("°F", words, StringComparison.Ordinal);
        Assert.DoesNotContain("°C", told, StringComparison.Ordinal);
        Assert.Contains(
            $"holds {result.After.PowerW:0} W at {(result.After.TemperatureC * 1.8) + 32:0} °F",
            told,
            StringComparison.Ordinal
        );
    }

    /// <summary>A run that was read while °C were told says its remark in °F as well as one that is read then.</summary>
    [Fact]
    public async Task A_remark_that_was_kept_is_told_anew()
    {
        ConditionedRun kept = Example.Run("10-not-settled");
        Warning celsius = kept.Analysis.Warnings.Single(one => one.Code == "not-settled");
        Assert.Contains("°C short of", celsius.Message, StringComparison.Ordinal);
        (Warning retold, Warning read) = await InFahrenheitAsync(() =>
            (
                RunWords.Told(kept.Analysis, kept.Conditions).Warnings.Single(one => one.Code == "not-settled"),
                Example.Run("10-not-settled").Analysis.Warnings.Single(one => one.Code == "not-settled")
            )
        );
        Assert.Equal(read, retold);
        Assert.DoesNotContain("°C", retold.Message, StringComparison.Ordinal);
        Assert.Equal(celsius, RunWords.Told(kept.Analysis, kept.Conditions).Warnings.Single(one => one.Code == "not-settled"));
    }

    private static (ComparisonResult Result, string Words) Compared()
    {
        ComparisonResult result = Comparer.Compare([Example.Run("02-paste-before")], [Example.Run("03-paste-after")]);
        return (result, VerdictWords.Of(result).ToString());
    }

    private static async Task<T> InFahrenheitAsync<T>(Func<T> tell)
    {
        Degrees.TellIn(TemperatureUnit.Fahrenheit);
        await Task.Yield();
        return tell();
    }
}
