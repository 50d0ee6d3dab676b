using CsCheck;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using static Remedos.Core.Tests.Matching.MatchingExample;

namespace Remedos.Core.Tests.Matching;

/// <summary>Every rule of fitting, a millimetre to either side of it.</summary>
public sealed class FitTests
{
    /// <summary>What is changed, and the reason that it must give, with by how much.</summary>
    public static TheoryData<string, string?, double?> Rules =>
        new()
        {
            { "as it is", null, null },
            { "case 157", "too-tall", 1 },
            { "case 158", null, null },
            { "memory 50", "too-tall", 6 }, // the fan goes up by ten, and the cooler with it
            { "memory 50, case 164", null, null },
            { "memory 51, case 200", "memory", 1 },
            { "memory away 52", null, null },
            { "slot 49", "first-slot", 1 },
            { "slot 50", null, null },
            { "slot 49, no card", null, null },
            { "socket Z1", "socket", null },
            { "header 0.1", "header-current", null },
            { "no headers", "no-header", null },
            { "liquid", null, null },
            { "liquid, thick 54", null, null },
            { "liquid, thick 56", "radiator-thickness", 1 },
            { "liquid, size 360", "radiator-size", 80 },
            { "liquid, card 309", "card-length", 1 },
            { "liquid, card 308", null, null },
            { "liquid, no places", "radiator-size", null },
            { "liquid, one header", "no-header", null },
            { "liquid, pump 3", "header-current", null },
            { "liquid, fans 0.6", "header-current", null },
            { "liquid, fans 0.5", null, null },
        };

    [Theory]
    [MemberData(nameof(Rules))]
    public void Each_rule_says_by_how_much(string what, string? code, double? byMm)
    {
        (Build build, CoolerPart cooler) = Changed(what);
        FitResult fit = Fit.Of(build, cooler);
        Assert.Equal(code is null, fit.Fits == true);
        Assert.Equal(code, fit.Reasons.Select(reason => Kebab.Of(reason.Code)).FirstOrDefault());
        Assert.Equal(byMm, fit.Reasons.Select(reason => reason.ByMm).FirstOrDefault());
        Assert.All(fit.Reasons, reason => Assert.EndsWith(".", reason.Message, StringComparison.Ordinal));
    }

    private static (Build, CoolerPart) Changed(string what)
    {
        CoolerPart cooler = what.StartsWith("liquid", StringComparison.Ordinal) ? Liquid : Tower;
        Build build = MatchingExample.Build;
        foreach (string change in what.Split(", "))
        {
            double number = double.TryParse(change.Split(' ')[^1], System.Globalization.CultureInfo.InvariantCulture, out double read)
                ? read
                : 0;
            (build, cooler) = change switch
            {
                "as it is" or "liquid" => (build, cooler),
                "no card" => (build with { Graphics = null }, cooler),
                "no headers" => (build with { Board = build.Board! with { Headers = [] } }, cooler),
                "no places" => (build with { Case = build.Case! with { Radiators = [] } }, cooler),
                "one header" => (build with { Board = build.Board! with { Headers = [build.Board.Headers![0]] } }, cooler),
                "socket Z1" => (build with { Board = build.Board! with { Socket = "Z1" } }, cooler),
                _ when change.StartsWith("case", StringComparison.Ordinal) => (
                    build with
                    {
                        Case = build.Case! with { MaxCoolerHeightMm = number },
                    },
                    cooler
                ),
                _ when change.StartsWith("memory away", StringComparison.Ordinal) => (
                    build with
                    {
                        Board = build.Board! with { MemoryFromSocketMm = number },
                        Memory = new MemoryPart(90),
                    },
                    cooler
                ),
                _ when change.StartsWith("memory", StringComparison.Ordinal) => (build with { Memory = new MemoryPart(number) }, cooler),
                _ when change.StartsWith("slot", StringComparison.Ordinal) => (
                    build with
                    {
                        Board = build.Board! with { FirstSlotFromSocketMm = number },
                    },
                    cooler
                ),
                _ when change.StartsWith("header", StringComparison.Ordinal) => (
                    build with
                    {
                        Board = build.Board! with { Headers = [new Header("CPU", number, "cpu")] },
                    },
                    cooler
                ),
                _ when change.StartsWith("thick", StringComparison.Ordinal) => (
                    build with
                    {
                        Graphics = build.Graphics! with { LengthMm = 290 },
                    },
                    cooler with
                    {
                        RadiatorThicknessMm = number,
                    }
                ),
                _ when change.StartsWith("size", StringComparison.Ordinal) => (build, cooler with { RadiatorSizeMm = number }),
                _ when change.StartsWith("card", StringComparison.Ordinal) => (
                    build with
                    {
                        Graphics = build.Graphics! with { LengthMm = number },
                    },
                    cooler
                ),
                _ when change.StartsWith("pump", StringComparison.Ordinal) => (build, cooler with { PumpCurrentA = number }),
                _ when change.StartsWith("fans", StringComparison.Ordinal) => (
                    build,
                    cooler with
                    {
                        Fans = [.. cooler.Fans!.Select(fan => fan with { CurrentA = number })],
                    }
                ),
                _ => throw new InvalidOperationException(change),
            };
        }

        return (build, cooler);
    }

    /// <summary>What is not known is asked for and never guessed; the answer is then neither yes nor no.</summary>
    [Theory]
    [InlineData("height", "how high the cooler is")]
    [InlineData("case", "how high a cooler the case takes")]
    [InlineData("memory", "how high the memory is")]
    [InlineData("slot", "from the socket’s centre to the first slot")]
    [InlineData("sockets", "bracket for socket Q4")]
    [InlineData("headers", "which headers the board has")]
    public void What_is_not_known_is_asked_for(string missing, string words)
    {
        Build build = MatchingExample.Build;
        (build, CoolerPart cooler) = missing switch
        {
            "height" => (build, Tower with { HeightMm = null }),
            "case" => (build with { Case = build.Case! with { MaxCoolerHeightMm = null } }, Tower),
            "memory" => (build with { Memory = null }, Tower),
            "slot" => (build with { Board = build.Board! with { FirstSlotFromSocketMm = null } }, Tower),
            "sockets" => (build, Tower with { Sockets = null }),
            _ => (build with { Board = build.Board! with { Headers = null } }, Tower),
        };
        FitResult fit = Fit.Of(build, cooler);
        Assert.Null(fit.Fits);
        Assert.Equal(FitCode.MeasureNeeded, Assert.Single(fit.Reasons).Code);
        Assert.Contains(words, fit.Reasons[0].Message, StringComparison.Ordinal);
    }

    [Fact]
    public void The_fan_goes_up_as_far_as_the_memory_wants_and_headers_are_given_out()
    {
        Assert.Equal(
            (4, "Fan on CPU."),
            (Fit.Of(MatchingExample.Build, Tower).FanRaisedMm, Fit.Of(MatchingExample.Build, Tower).Plugs.Single())
        );
        Assert.Equal(["Pump on PUMP, which gives it all.", "2 fans, by a splitter, on CPU."], Fit.Of(MatchingExample.Build, Liquid).Plugs);
        Build plain = MatchingExample.Build with
        {
            Board = MatchingExample.Build.Board! with { Headers = [new Header("CPU", 1, "cpu"), new Header("SYS", 1, "board")] },
        };
        Assert.Equal("Pump on SYS: set that header to full, or it slows the pump.", Fit.Of(plain, Liquid).Plugs[0]);
    }

    [Fact]
    public void A_socket_is_told_with_its_holes()
    {
        FitReason reason = Assert.Single(Fit.Of(MatchingExample.Build, Tower with { Sockets = ["T9", "X77"] }).Reasons);
        Assert.Equal(
            (FitCode.Socket, "It has no bracket for socket Q4 (holes 90 × 54 mm), only for T9 (holes 75 × 75 mm), X77."),
            (reason.Code, reason.Message)
        );
    }

    /// <summary>What is asked only where the board, the case or the card tells of it.</summary>
    [Fact]
    public void Heat_sinks_hoses_back_plates_and_makers_tricks_have_their_millimetres()
    {
        Build sunk = MatchingExample.Build with
        {
            Board = MatchingExample.Build.Board! with { HeatSinks = [new HeatSink(HeatSink.Rear, 40, 48)] },
        };
        CoolerPart wide = Tower with { ReachTowardRearMm = 44, ClearanceUnderFinsMm = 42 };
        FitReason sink = Assert.Single(Fit.Of(sunk, wide).Reasons);
        Assert.Equal((FitCode.HeatSink, 6.0), (sink.Code, sink.ByMm));
        Assert.True(Fit.Of(sunk, wide with { ReachTowardRearMm = 39 }).Fits);
        Assert.Contains(
            "towards the board’s heat sink at the rear",
            Assert.Single(Fit.Of(sunk, Tower).Reasons).Message,
            StringComparison.Ordinal
        );

        Build far = MatchingExample.Build with
        {
            Case = MatchingExample.Build.Case! with
            {
                Radiators = [new RadiatorPlace("front", [240], 55, HoseNeedMm: 380, TakesBays: true)],
            },
        };
        Assert.Equal(
            (FitCode.Hose, 60.0),
            Fit.Of(far, Liquid with { HoseMm = 320 }).Reasons.Select(reason => (reason.Code, reason.ByMm!.Value)).Single()
        );
        Assert.Contains("Its radiator at the front means taking the drive cage out.", Fit.Of(far, Liquid with { HoseMm = 400 }).Notes);
        Assert.Null(Fit.Of(far, Liquid).Fits);

        Build plated = MatchingExample.Build with { Graphics = MatchingExample.Build.Graphics! with { BackPlateMm = 14 } };
        Assert.Equal((FitCode.FirstSlot, 2.0), Fit.Of(plated, Tower).Reasons.Select(reason => (reason.Code, reason.ByMm!.Value)).Single());

        Build bought = MatchingExample.Build with
        {
            Case = MatchingExample.Build.Case! with { Obstacles = [CaseObstacle.WallScrews, CaseObstacle.OwnFans] },
            CurrentCooler = "box",
        };
        FitResult odd = Fit.Of(bought, Tower);
        Assert.Equal((null, FitCode.MeasureNeeded), (odd.Fits, Assert.Single(odd.Reasons).Code));
        Assert.Contains("may refuse fans", Assert.Single(odd.Notes), StringComparison.Ordinal);
        Assert.True(Fit.Of(bought, Box).Fits, "the one that is on it got by");
        Assert.Contains(
            "case.obstacles: “ghosts” is none of",
            (bought with { Case = bought.Case! with { Obstacles = ["ghosts"] } }).Problem(),
            StringComparison.Ordinal
        );
    }

    /// <summary>More room never loses a cooler that fitted.</summary>
    [Fact]
    public void More_room_never_loses_a_candidate() =>
        (
            from height in Gen.Double[60, 200]
            from more in Gen.Double[0, 60]
            from memory in Gen.Double[25, 60]
            from reach in Gen.Double[30, 80]
            from clearance in Gen.Double[20, 60]
            select (height, more, memory, reach, clearance)
        ).Sample(any =>
        {
            CoolerPart cooler = Tower with { HeightMm = any.height, ReachTowardMemoryMm = any.reach, ClearanceUnderFanMm = any.clearance };
            Build narrow = MatchingExample.Build with { Memory = new MemoryPart(any.memory) },
                wide =
                    narrow with
                    {
                        Case = narrow.Case! with { MaxCoolerHeightMm = 158 + any.more },
                        Memory = new MemoryPart(Math.Max(20, any.memory - any.more)),
                    };
            Assert.True(Fit.Of(narrow, cooler).Fits != true || Fit.Of(wide, cooler).Fits == true);
        });

    private static Build Cased(Func<CasePart, CasePart> change) =>
        MatchingExample.Build with
        {
            Case = change(MatchingExample.Build.Case!),
        };

    /// <summary>What stands behind and beside it, a millimetre to either side; what nobody has measured stops nothing.</summary>
    [Fact]
    public void What_stands_around_a_cooler_is_held_against_it()
    {
        void Gives(Build build, CoolerPart cooler, FitCode code, double byMm, double enough, Func<double, Build> with)
        {
            FitReason reason = Assert.Single(Fit.Of(build, cooler).Reasons);
            Assert.Equal((code, byMm), (reason.Code, reason.ByMm));
            Assert.True(Fit.Of(with(enough), cooler).Fits);
            Assert.False(Fit.Of(with(enough - 1), cooler).Fits);
        }

        CoolerPart plated = Tower with { BackPlateMm = 9 };
        Build Behind(double mm) => Cased(one => one with { BehindBoardMm = mm });
        Gives(Behind(7), plated, FitCode.BehindBoard, 2, 9, Behind);
        Assert.True(Fit.Of(MatchingExample.Build, plated).Fits);

        // A fan of 25 mm hangs inside at the rear.
        CoolerPart deep = Tower with { ReachTowardRearMm = 60 };
        Build Rear(double mm) => Cased(one => one with { RearFromSocketMm = mm });
        Gives(Rear(80), deep, FitCode.CaseFan, 5, 85, Rear);
        Assert.True(Fit.Of(Cased(one => one with { RearFromSocketMm = 80, Fans = [new FanNote("front", "in", 120, 900)] }), deep).Fits);

        CoolerPart tanked = Liquid with { RadiatorLengthMm = 277 };
        Build Ends(double mm) => Cased(one => one with { Radiators = [new RadiatorPlace("front", [120, 240, 280], 55, MaxLengthMm: mm)] });
        Gives(Ends(270), tanked, FitCode.RadiatorSize, 7, 277, Ends);

        double thick = Liquid.RadiatorThicknessMm!.Value;
        Build Floor(double mm) =>
            Cased(one => one with { Radiators = [new RadiatorPlace("bottom", [240], 60)], SlotToBottomMm = mm }) with
            {
                Graphics = MatchingExample.Build.Graphics! with { ThicknessMm = 58 },
            };
        Gives(Floor(thick + 50), Liquid, FitCode.CardThickness, 8, thick + 58, Floor);
    }

    [Fact]
    public void The_room_that_is_left_is_told_tightest_first()
    {
        // 158 less 154 to the panel; 62 less 50 to the card; the memory stands under the fan, which is raised by four for it.
        FitResult fit = Fit.Of(MatchingExample.Build, Tower);
        Assert.Equal([("the side panel", 0.0), ("the card", 12.0)], fit.Left.Select(room => (room.To, room.LeftMm)));
        Assert.Equal(4, fit.FanRaisedMm);
        Assert.All(Fit.Of(MatchingExample.Build, Liquid).Left, room => Assert.True(room.LeftMm >= 0));
        Assert.Empty(Fit.Of(MatchingExample.Build with { Case = null, Board = null }, Tower).Left);
    }

    [Fact]
    public void A_radiator_half_blown_through_and_an_empty_processor_header_are_told()
    {
        CoolerPart half = Liquid with { Fans = [Liquid.Fans![0]] };
        Assert.Contains(Fit.Of(MatchingExample.Build, half).Notes, note => note.Contains("hardly blown through", StringComparison.Ordinal));
        Assert.DoesNotContain(Fit.Of(MatchingExample.Build, Liquid).Notes, note => note.Contains("blown", StringComparison.Ordinal));
        Build weak = MatchingExample.Build with
        {
            Board = MatchingExample.Build.Board! with { Headers = [new Header("CPU", 0.1, "cpu"), new Header("CASE", 1, "board")] },
        };
        Assert.Contains(Fit.Of(weak, Tower).Notes, note => note.Contains("Nothing of it hangs on CPU", StringComparison.Ordinal));
        Assert.Empty(Fit.Of(MatchingExample.Build, Tower).Notes);
    }
}
