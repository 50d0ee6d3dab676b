using MathNet.Numerics.Distributions;
using Remedos.Core.Learning;

namespace Remedos.Core.Tests.Learning;

public sealed class TrendTests
{
    /// <summary>The Norris data of the Statistical Reference Datasets (NIST), response and predictor, with their certified line.</summary>
    private static readonly (double Y, double X)[] Norris =
    [
        (0.1, 0.2),
        (338.8, 337.4),
        (118.1, 118.2),
        (888.0, 884.6),
        (9.2, 10.1),
        (228.1, 226.5),
        (668.5, 666.3),
        (998.5, 996.3),
        (449.1, 448.6),
        (778.9, 777.0),
        (559.2, 558.2),
        (0.3, 0.4),
        (0.1, 0.6),
        (778.1, 775.5),
        (668.8, 666.9),
        (339.3, 338.0),
        (448.9, 447.5),
        (10.8, 11.6),
        (557.7, 556.0),
        (228.3, 228.1),
        (998.0, 995.8),
        (888.8, 887.6),
        (119.6, 120.2),
        (0.3, 0.3),
        (0.6, 0.3),
        (557.6, 556.8),
        (339.3, 339.1),
        (888.0, 887.2),
        (998.5, 999.0),
        (778.9, 779.0),
        (10.2, 11.1),
        (117.6, 118.3),
        (228.9, 229.2),
        (668.4, 669.1),
        (449.2, 448.9),
        (0.2, 0.5),
    ];

    [Fact]
    public void It_is_the_certified_line()
    {
        Trend trend = Trend.Of([.. Norris.Select(one => (one.X, one.Y))])!;
        Assert.Equal(1.00211681802045, trend.AYear, 1e-10);
        Assert.Equal(0.429796848199937e-3 * StudentT.InvCDF(0, 1, 34, 0.975), trend.HalfWidth, 1e-10);
    }

    [Fact]
    public void Few_machines_or_a_short_time_show_none_and_words_say_what_is_told()
    {
        Assert.Null(Trend.Of([(0, 0), (1, 0), (2, 0), (3, 0)]));
        Assert.Null(Trend.Of([(0, 0), (0.1, 0), (0.2, 0), (0.3, 0), (0.4, 0.1)]));
        Assert.Equal("No trend could be told: +1 ± 3 % a year.", new Trend(6, 0.01, 0.03).Sentence);
        Assert.Equal("It gets worse from machine to machine: +4 ± 2 % a year.", new Trend(6, 0.04, 0.02).Sentence);
        Assert.Equal("It gets better from machine to machine: −4 ± 2 % a year.", new Trend(6, -0.04, 0.02).Sentence);
        Assert.StartsWith("Too few machines", Trend.Words(null));
    }
}
