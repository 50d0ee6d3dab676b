using Remedos.Core.Simulation;

namespace Remedos.Server.Demo;

/// <summary>The demo's machines, healthy and faulty. Each fault is a resistance that a real fault of that kind would swell.</summary>
internal static class DemoMachines
{
    /// <summary>Boat builder's design station: a radiator loop, three years old, hardly flowing any more.</summary>
    public static readonly SimulatedMachine StationStarvedLoop = new(
        0.10,
        0.235,
        0.075,
        0.05,
        6,
        110,
        1600,
        3600,
        1700,
        45,
        85,
        176,
        190,
        56,
        24,
        35,
        92,
        4650
    );

    /// <summary>The same with a dual tower.</summary>
    public static readonly SimulatedMachine StationDualTower = StationStarvedLoop with
    {
        PipesCPerW = 0.075,
        FinsCPerW = 0.085,
        BaseJPerK = 130,
        FinsJPerK = 700,
    };

    /// <summary>Choir's recorder: a quiet tower whose fins are grey with dust.</summary>
    public static readonly SimulatedMachine RecorderDusty = new(
        0.14,
        0.09,
        0.21,
        0.07,
        5,
        95,
        420,
        2600,
        1100,
        45,
        80,
        95,
        118,
        28,
        14,
        18,
        95,
        4300
    );

    /// <summary>Bakery's till: flour felted into a flat cooler.</summary>
    public static readonly SimulatedMachine TillFelted = new(
        0.22,
        0.16,
        0.66,
        0.10,
        4,
        80,
        260,
        2000,
        2800,
        40,
        75,
        46,
        46,
        0,
        9,
        12,
        85,
        3900
    );

    /// <summary>Surveyor's workstation: healthy, and held back by its power budget alone.</summary>
    public static readonly SimulatedMachine SurveyorBudget = new(
        0.10,
        0.06,
        0.10,
        0.05,
        8,
        130,
        780,
        4200,
        1500,
        40,
        80,
        125,
        205,
        75,
        26,
        40,
        100,
        4400
    );

    /// <summary>Observatory's stacker, dried paste.</summary>
    public static readonly SimulatedMachine StackerDriedPaste = new(
        0.31,
        0.08,
        0.13,
        0.06,
        6,
        105,
        520,
        3000,
        1500,
        45,
        85,
        118,
        142,
        40,
        18,
        22,
        95,
        4500
    );

    public static readonly SimulatedMachine StackerNewPaste = StackerDriedPaste with { PasteCPerW = 0.15 };

    /// <summary>Translator's bedroom machine: cooler hung on three of four screws.</summary>
    public static readonly SimulatedMachine TranslatorLoose = new(
        0.42,
        0.10,
        0.20,
        0.07,
        5,
        90,
        380,
        2400,
        1300,
        40,
        80,
        78,
        88,
        28,
        11,
        15,
        90,
        4200
    );

    public static readonly SimulatedMachine TranslatorSeated = TranslatorLoose with { PasteCPerW = 0.17 };
}
