using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;

namespace Remedos.Core.Tests.Jobs;

/// <summary>How long a warranty runs, and what it has to say before a repair.</summary>
public sealed class WarrantyTests
{
    /// <summary>Terms end on the same day of a month, or on its last where there is none; the last day counts.</summary>
    [Theory]
    [InlineData("2029-03-15", 24, "2031-03-15", "2031-03-15", 1)]
    [InlineData("2029-03-15", 24, "2031-03-15", "2031-03-16", 0)]
    [InlineData("2030-08-31", 6, "2031-02-28", "2031-02-27", 2)]
    [InlineData("2028-02-29", 12, "2029-02-28", "2029-03-01", 0)]
    [InlineData("2030-01-01", 12, "2031-01-01", "2030-01-01", 366)]
    public void Days_are_counted_to_the_last(string bought, int months, string ends, string today, int left)
    {
        Warranty warranty = new(DateOnly.Parse(bought), months, true, CauseRow.Nothing, null);
        Assert.Equal(
            (DateOnly.Parse(ends), left, left > 0),
            (warranty.EndsOn, warranty.DaysLeft(DateOnly.Parse(today)), warranty.Runs(DateOnly.Parse(today)))
        );
    }

    [Theory]
    [InlineData("case", "nothing", false)]
    [InlineData("case", "case", true)]
    [InlineData("case", "cooler", true)]
    [InlineData("cooler", "case", false)]
    [InlineData("cooler", "cooler", true)]
    [InlineData("nothing", "cooler", false)]
    [InlineData(null, "case", true)]
    [InlineData(null, "nothing", false)]
    public void Work_ends_it_when_it_opens_what_must_stay_closed(string? endedBy, string opens, bool ends) =>
        Assert.Equal(ends, new Warranty(null, null, false, endedBy, null).IsEndedBy(opens));

    [Fact]
    public void It_says_where_it_stands()
    {
        DateOnly today = new(2031, 3, 10);
        Assert.Null(new Warranty(null, null, false, null, null).Sentence(today));
        Assert.Contains("cannot be told", new Warranty(today, null, false, null, null).Sentence(today), StringComparison.Ordinal);
        Assert.Equal(
            "The warranty ran out on 1 March 2031.",
            new Warranty(new DateOnly(2029, 3, 1), 24, false, null, null).Sentence(today)
        );
        Assert.Equal(
            "1 day is left of the warranty, until 10 March 2031. The proof of purchase is kept here. It ends when the case is opened.",
            new Warranty(new DateOnly(2029, 3, 10), 24, true, CauseRow.Case, null).Sentence(today)
        );
    }
}
