using Remedos.Core.Comparison;
using Remedos.Core.Handover;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Handover;

/// <summary>Days to come back on, and a machine that has.</summary>
public class RecheckTests
{
    private static readonly DateOnly Today = new(2031, 5, 10);

    [Theory]
    [InlineData("office", null, null, null, "2032-05-09")]
    [InlineData("flour-dust", null, null, null, "2031-07-09")]
    [InlineData(null, null, null, null, "2032-05-09")]
    [InlineData("office", "tower", "2031-05-08", null, "2031-05-22 2032-05-09")] // the paste first
    [InlineData("office", "tower", "2031-04-01", null, "2032-05-09")] // it has settled long since
    [InlineData("office", "liquid", null, "2029-05-10", "2032-05-09 2032-05-09")] // the loop is three years old then
    [InlineData("office", "liquid", null, "2027-01-01", "2031-11-06 2032-05-09")] // older: every half year
    [InlineData("office", "tower", null, "2027-01-01", "2032-05-09")]
    public void Dust_paste_and_age_call_for_a_look(string? setting, string? cooler, string? mounted, string? built, string days)
    {
        IReadOnlyList<RecheckProposal> all = Recheck.Of(new RecheckFacts(Today, setting, cooler, On(mounted), On(built)));
        Assert.Equal(days, string.Join(' ', all.Select(one => one.On.ToString("yyyy-MM-dd", null))));
        Assert.All(all, one => Assert.NotEmpty(one.Why));
        Assert.Equal(setting is null, all[^1].Why.Contains("not noted", StringComparison.Ordinal));
    }

    private static DateOnly? On(string? day) => day is null ? null : DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture);

    private static HeatStaircase Stairs(double chip, double bulk) =>
        new(
            22,
            80,
            100,
            [
                new(HeatStep.Bulk, "fins to case air", 22, 100 * bulk, bulk, null, null, null, false),
                new(HeatStep.Chip, "chip to base", 60, 100 * chip, chip, null, null, null, false),
            ],
            ""
        );

    private static ComparisonResult Came(double c, double half) =>
        new(
            half > Math.Abs(c) ? Verdict.NoMeasurableChange
                : c > 0 ? Verdict.Worse
                : Verdict.Improved,
            true,
            true,
            [],
            new Side(2, 1, 0.5, 900),
            new Side(1, 1, 0.53, 900),
            new Change(c / 100, half / 100, c, half, 100)
        );

    [Fact]
    public void What_changed_since_it_left_is_said_with_where()
    {
        string Said(double c, HeatStaircase? then, HeatStaircase? now) => SinceThen.Of(Came(c, 1), then, now, new DateOnly(2030, 5, 2));
        Assert.Equal(
            "3 °C warmer than it left in May 2030, at the same power and fan speed, most of it at “fins to case air”.",
            Said(3.2, Stairs(0.1, 0.3), Stairs(0.11, 0.34))
        );
        // Neither half is most of it, and a cooler machine has no place where heat sticks.
        Assert.Equal(
            "3 °C warmer than it left in May 2030, at the same power and fan speed.",
            Said(3.2, Stairs(0.1, 0.3), Stairs(0.12, 0.32))
        );
        Assert.StartsWith("4 °C cooler than it left in May 2030", Said(-4, Stairs(0.1, 0.3), Stairs(0.05, 0.3)), StringComparison.Ordinal);
        Assert.Equal("As it left in May 2030: no change that can be measured.", Said(0.4, null, null));
        // Of a card there is no heat path, and the processor's says nothing of it.
        string OfCard(double c) =>
            SinceThen.Of(Came(c, 1), Stairs(0.1, 0.3), Stairs(0.11, 0.34), new DateOnly(2030, 5, 2), Subject.Graphics);
        Assert.Equal("Its card is 3 °C warmer than it left in May 2030, at the same power and fan speed.", OfCard(3.2));
        Assert.Equal("Its card is as it left in May 2030: no change that can be measured.", OfCard(0.4));
        ComparisonResult not = Came(3, 1) with
        {
            Comparable = false,
            Obstacles = [new Obstacle("load", ObstacleWeight.Blocking, "The loads differ.", "")],
        };
        Assert.Equal(
            "Its runs of May 2030 and of now cannot be compared. The loads differ.",
            SinceThen.Of(not, null, null, new DateOnly(2030, 5, 2))
        );
    }
}
