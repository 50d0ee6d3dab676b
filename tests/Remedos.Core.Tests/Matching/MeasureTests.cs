using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.SteadyState;
using static Remedos.Core.Tests.Matching.MatchingExample;

namespace Remedos.Core.Tests.Matching;

/// <summary>What a ruler at the machine answers, a cooler that goes in turned, tall parts, and the supply's own fan.</summary>
public sealed class MeasureTests
{
    private static readonly Build Unmeasured = MatchingExample.Build with
    {
        Board = MatchingExample.Build.Board! with { MemoryFromSocketMm = null, FirstSlotFromSocketMm = null },
        Case = MatchingExample.Build.Case! with
        {
            MaxCoolerHeightMm = null,
            MaxCardLengthMm = null,
            Radiators = [new RadiatorPlace("front", [240])],
        },
    };

    /// <summary>Each measure that is asked for says from where on it does: there the cooler goes in, a millimetre on it does not.</summary>
    [Fact]
    public void A_measure_says_how_much_would_do()
    {
        Dictionary<string, FitMeasure> asked = Fit.Of(Unmeasured, Tower)
            .Reasons.Select(reason => reason.Measure!)
            .ToDictionary(measure => measure.Field, StringComparer.Ordinal);
        Assert.Equal(["coolerRoomMm", "firstSlotFromSocketMm", "memoryFromSocketMm"], asked.Keys.Order(StringComparer.Ordinal));
        Assert.Equal(
            (154, 50, 52),
            (asked["coolerRoomMm"].AtLeastMm, asked["firstSlotFromSocketMm"].AtLeastMm, asked["memoryFromSocketMm"].AtLeastMm)
        );

        Measured Just(double less = 0) =>
            new()
            {
                CoolerRoomMm = 154 - less,
                FirstSlotFromSocketMm = 50,
                MemoryFromSocketMm = 52,
            };
        Assert.True(Fit.Of(Just().On(Unmeasured), Tower).Fits);
        Assert.Equal(
            (FitCode.TooTall, 1.0),
            Fit.Of(Just(1).On(Unmeasured), Tower).Reasons.Select(reason => (reason.Code, reason.ByMm!.Value)).Single()
        );
    }

    [Fact]
    public void A_radiator_asks_for_its_place_and_then_for_the_card()
    {
        FitMeasure thick = Assert.Single(Fit.Of(Unmeasured, Liquid).Reasons).Measure!;
        Assert.Equal(("radiatorFrontMm", 52.0), (thick.Field, thick.AtLeastMm));
        Measured measured = new() { RadiatorFrontMm = 52 };
        FitMeasure card = Assert.Single(Fit.Of(measured.On(Unmeasured), Liquid).Reasons).Measure!;
        Assert.Equal(("cardRoomMm", 305.0 + 52), (card.Field, card.AtLeastMm));
        measured.CardRoomMm = 357;
        Assert.True(Fit.Of(measured.On(Unmeasured), Liquid).Fits);
        measured.CardRoomMm = 356;
        Assert.Equal(FitCode.CardLength, Assert.Single(Fit.Of(measured.On(Unmeasured), Liquid).Reasons).Code);
    }

    /// <summary>Memory that stands under the fan is asked for its height with what the fan can give way.</summary>
    [Fact]
    public void Memory_is_asked_for_its_height()
    {
        Build tall = MatchingExample.Build with { Memory = new MemoryPart(null) };
        FitMeasure height = Assert.Single(Fit.Of(tall, Tower).Reasons).Measure!;
        Assert.Equal(("memoryHeightMm", 50.0), (height.Field, height.AtMostMm));
    }

    /// <summary>What was measured goes before what the part says; what nobody measured leaves the part's word alone.</summary>
    [Fact]
    public void A_measure_goes_before_the_part()
    {
        Assert.Equal(MatchingExample.Build, new Measured().On(MatchingExample.Build) with { Case = MatchingExample.Build.Case });
        Build tight = new Measured { CoolerRoomMm = 150, CardThicknessMm = 61 }.On(MatchingExample.Build);
        Assert.Equal((150, 360, 61), (tight.Case!.MaxCoolerHeightMm, tight.Case.MaxCardLengthMm, tight.Graphics!.ThicknessMm));
        Build bare = new Measured
        {
            CoolerRoomMm = 150,
            MemoryFromSocketMm = 50,
            CardLengthMm = 200,
        }.On(new Build(MatchingExample.Build.Processor));
        Assert.Equal(("Q4", 50.0, 150.0), (bare.Board!.Socket, bare.Board.MemoryFromSocketMm, bare.Case!.MaxCoolerHeightMm));
        Assert.Null(bare.Graphics);
        Assert.Null(bare.Problem());
    }

    /// <summary>
    /// A tower that stands on the memory goes in turned by a quarter, if its bracket lets it, and then its other side counts.
    /// </summary>
    [Fact]
    public void A_cooler_that_can_turn_goes_in_turned()
    {
        Build close = MatchingExample.Build with
        {
            Memory = new MemoryPart(60),
            Board = MatchingExample.Build.Board! with { FirstSlotFromSocketMm = 70 },
        };
        CoolerPart known = Tower with { ReachTowardTopMm = 40, ReachTowardRearMm = 26, ClearanceUnderFinsMm = 45 };
        Assert.False(Fit.Of(close, known).Fits);
        FitResult turned = Fit.Of(close, known with { CanTurn = true });
        Assert.True(turned.Fits);
        Assert.True(turned.Turned);
        Assert.Contains("turned by a quarter", turned.Notes[0], StringComparison.Ordinal);
        // Its fan looks at the card now: 52 mm out, and 18 of the 70 are left.
        Assert.Contains(turned.Left, room => room is { To: "the card", LeftMm: 18 });

        // Straight is better wherever it goes in; and turned is no help where the card stands in its way then.
        Assert.False(Fit.Of(close with { Memory = new MemoryPart(44) }, known with { CanTurn = true }).Turned);
        FitResult neither = Fit.Of(close with { Board = close.Board! with { FirstSlotFromSocketMm = 51 } }, known with { CanTurn = true });
        Assert.Equal((false, false, FitCode.Memory), (neither.Fits, neither.Turned, neither.Reasons[0].Code));
    }

    [Theory]
    [InlineData(
        HeatSink.SlotSide,
        45,
        "capacitor before the first slot is 30 mm high, and below its fins there is room for 24 mm: 6 mm too high"
    )]
    [InlineData(HeatSink.MemorySide, 50, null)] // below the fan there are 40 mm
    [InlineData(HeatSink.SlotSide, 51, null)] // the cooler ends before it
    public void A_single_tall_part_stops_a_cooler_over_it(string side, double away, string? says)
    {
        Build build = MatchingExample.Build with
        {
            Board = MatchingExample.Build.Board! with { HeatSinks = [new HeatSink(side, away, 30, "capacitor")] },
        };
        FitResult fit = Fit.Of(build, Tower with { ClearanceUnderFinsMm = 24 });
        Assert.Equal(says is null, fit.Fits);
        Assert.All(fit.Reasons, reason => Assert.Contains(says!, reason.Message, StringComparison.Ordinal));
    }

    /// <summary>The supply's own fan takes its share of a header, never shares the pump's, and must not be stopped by a curve.</summary>
    [Fact]
    public void A_supply_whose_fan_hangs_on_the_board_keeps_its_header()
    {
        Build With(double supplyA) =>
            MatchingExample.Build with
            {
                Board = MatchingExample.Build.Board! with { Headers = [new Header("CPU", 1, "cpu", supplyA)] },
            };
        Assert.Contains("beside the supply’s own fan", Fit.Of(With(0.7), Tower).Plugs.Single(), StringComparison.Ordinal);
        FitReason over = Fit.Of(With(0.9), Tower).Reasons.Single();
        Assert.Equal(FitCode.HeaderCurrent, over.Code);
        Assert.Contains("other fans take 0.9 A of it", over.Message, StringComparison.Ordinal);
        Assert.Equal(
            "The supply’s own fan is on the board’s only header; the pump has none.",
            Fit.Of(With(0.1), Liquid).Reasons[0].Message
        );

        HeaderLoad load = HeaderDesk.Of(Tower, AirPlans.Of(With(0.7), Tower, null)).First(one => one.Name == "CPU");
        Assert.Contains(HeaderDesk.SupplyFan, load.Loads);
        Assert.Contains(load.Sentences, sentence => sentence.Contains("never let this curve stop it", StringComparison.Ordinal));
    }
}
