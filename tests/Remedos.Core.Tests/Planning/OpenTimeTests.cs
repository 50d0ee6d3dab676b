using Remedos.Core.Planning;

namespace Remedos.Core.Tests.Planning;

public sealed class OpenTimeTests
{
    private static readonly OpenTime Hours = new([new(60, 120), new(200, 500), new(1000, 1100)]);

    [Theory]
    [InlineData(0, 60)]
    [InlineData(60, 60)]
    [InlineData(119, 119)]
    [InlineData(120, 200)]
    [InlineData(600, 1000)]
    public void The_next_open_moment(double at, double expected) => Assert.Equal(expected, Hours.Next(at));

    [Theory]
    [InlineData(0, 30, 90)]
    [InlineData(100, 30, 210)]
    [InlineData(100, 320, 500)]
    [InlineData(100, 321, 1001)]
    // The last span is taken to go on.
    [InlineData(1000, 500, 1500)]
    public void Work_is_laid_down_at_closing_and_taken_up_at_opening(double at, double minutes, double expected) =>
        Assert.Equal(expected, Hours.After(at, minutes));

    [Theory]
    [InlineData(0, 60, 60)]
    [InlineData(61, 60, 200)]
    [InlineData(210, 300, 1000)]
    // Longer than any span: it begins at once and is laid down.
    [InlineData(90, 301, 90)]
    public void What_is_not_to_be_cut_waits_for_a_span_that_holds_it(double at, double minutes, double expected) =>
        Assert.Equal(expected, Hours.NextUnbroken(at, minutes));

    [Theory]
    [InlineData(0, 0)]
    [InlineData(90, 30)]
    [InlineData(150, 60)]
    [InlineData(300, 160)]
    [InlineData(1050, 410)]
    public void Open_minutes_up_to_a_moment(double at, double expected) => Assert.Equal(expected, Hours.OpenUntil(at));

    [Fact]
    public void Spans_that_overlap_or_are_empty_are_refused()
    {
        Assert.Throws<ArgumentException>(() => new OpenTime([]));
        Assert.Throws<ArgumentException>(() => new OpenTime([new(5, 5)]));
        Assert.Throws<ArgumentException>(() => new OpenTime([new(0, 50), new(40, 60)]));
    }
}
