using Remedos.Core.Machines;
using Remedos.Core.Matching;

namespace Remedos.Core.Tests.Matching;

/// <summary>A build and coolers that tests change one thing of.</summary>
internal static class MatchingExample
{
    public static readonly Build Build = new(
        new ProcessorPart("Corbel C125", "Q4", 125, 95, UsefulPowerW: 150, InsideResistanceCPerW: 0.1, PriceMinor: 28900),
        new BoardPart("Q4", 48, 62, [new Header("CPU", 1, "cpu"), new Header("PUMP", 2, "full")]),
        new MemoryPart(44),
        new CasePart(
            158,
            360,
            [new RadiatorPlace("front", [120, 240, 280], 55), new RadiatorPlace("rear", [120], 60)],
            [new FanNote("front", "in", 120, 900), new FanNote("rear", "out", 120, 1000)]
        ),
        new GraphicsPart(220, 305),
        RoomC: 24,
        HottestRoomC: 31
    );

    public static readonly CoolerPart Tower = new(
        "tower",
        "Mullion 120",
        "tower",
        ["Q4", "S2"],
        154,
        52,
        40,
        10,
        50,
        Fans: [new Fan(120, 1600, 400, 0.2, 34)],
        Performance: [new(800, 0.26), new(1600, 0.2)],
        PriceMinor: 4500
    );

    public static readonly CoolerPart Box = new(
        "box",
        "Sill box",
        "down-draught",
        ["Q4"],
        70,
        44,
        20,
        0,
        45,
        Fans: [new Fan(92, 2900, 800, 0.3, 44)],
        Performance: [new(2900, 0.46)],
        PriceMinor: 1500
    );

    public static readonly CoolerPart Liquid = new(
        "liquid",
        "Rill 240",
        "liquid",
        ["Q4"],
        RadiatorSizeMm: 240,
        RadiatorThicknessMm: 52,
        Fans: [new Fan(120, 1800, 500, 0.3, 37), new Fan(120, 1800, 500, 0.3, 37)],
        PumpCurrentA: 0.4,
        Performance: [new(900, 0.21), new(1800, 0.16)],
        PriceMinor: 9900
    );

    public static Candidate Match(CoolerPart cooler, Func<Build, Build>? change = null) =>
        Matcher.Match(change is null ? Build : change(Build), [cooler]).Candidates[0];
}
