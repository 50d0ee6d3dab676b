using System.Globalization;
using Remedos.Core.Planning;

namespace Remedos.Core.Tests.Planning;

/// <summary>When a workshop is open: in words, and what cannot be.</summary>
public sealed class OpeningHoursTests
{
    private static TimeOnly Clock(string text) => TimeOnly.Parse(text, CultureInfo.InvariantCulture);

    private static OpenDay Day(int day, string hours) => new(day, Clock(hours.Split('-')[0]), Clock(hours.Split('-')[1]));

    /// <summary>Monday first; null for a day on which it is closed.</summary>
    private static OpeningHours Week(params string?[] days) =>
        new([.. days.Select((hours, i) => hours is null ? null : Day(i + 1, hours)).OfType<OpenDay>()]);

    [Fact]
    public void Days_of_the_same_hours_stand_together()
    {
        const string usual = "09:00-17:30";
        Assert.Equal("Mon–Fri 09:00–17:30, Sat 10:00–14:00", Week(usual, usual, usual, usual, usual, "10:00-14:00").Words());
        Assert.Equal(
            "Mon, Tue 09:00–17:30, Thu 09:00–17:30, Sat, Sun 11:00–13:00",
            Week(usual, usual, null, usual, null, "11:00-13:00", "11:00-13:00").Words()
        );
        Assert.Equal("Mon–Sun 00:00–23:59", Week([.. Enumerable.Repeat("00:00-23:59", 7)]).Words());
        Assert.Equal("Mon–Wed 09:00–17:30", new OpeningHours([Day(3, usual), Day(1, usual), Day(2, usual)]).Words());
    }

    [Fact]
    public void Hours_that_cannot_be_get_a_sentence()
    {
        Assert.Null(Week("09:00-17:00").Problem());
        Assert.Contains("one day at least", Week().Problem(), StringComparison.Ordinal);
        Assert.Contains("1 for Monday", new OpeningHours([Day(8, "09:00-10:00")]).Problem(), StringComparison.Ordinal);
        Assert.Contains("told once", new OpeningHours([Day(2, "09:00-10:00"), Day(2, "11:00-12:00")]).Problem(), StringComparison.Ordinal);
        Assert.Equal("Wed closes at 08:00, which is not after 09:00.", Week("09:00-17:00", null, "09:00-08:00").Problem());
    }

    [Fact]
    public void The_same_hours_are_equal() => Assert.Equal(Week("09:00-17:00"), Week("09:00-17:00"));
}
