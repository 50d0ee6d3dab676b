using Remedos.Core.Simulation;

namespace Remedos.Server.Demo;

/// <summary>What the demo's machines are and what is wrong with them, as the simulated bench runs them.</summary>
internal static class DemoSimulations
{
    /// <summary>Idle, load, cool-down.</summary>
    private static SimulationStep[] Usual(double? fanPercent = null) =>
        [new(300, 0, fanPercent), new(1500, 1, fanPercent), new(420, 0, fanPercent)];

    /// <summary>Boat builder's design station: a radiator loop, three years old, hardly flowing any more.</summary>
    public static readonly SimulationRequest StationStarved = new(
        Usual(),
        Machine: "survey-workstation",
        Cooler: "liquid-240",
        Case: "mid-tower",
        Radiator: "front-in",
        RoomC: 26.1,
        Faults: new Dictionary<string, double> { ["loop-restricted"] = 0.98 }
    );

    /// <summary>The same with a dual tower.</summary>
    public static readonly SimulationRequest StationDualTower = new(
        Usual(),
        Machine: "render-dual-tower",
        Case: "mid-tower",
        Graphics: "card-220",
        RoomC: 23.5
    );

    /// <summary>Choir's recorder: a quiet tower whose fins are grey with dust.</summary>
    public static readonly SimulationRequest RecorderDusty = new(
        Usual(),
        Machine: "choir-recorder",
        RoomC: 21.4,
        Faults: new Dictionary<string, double> { ["dust-blocked-fins"] = 0.7 }
    );

    /// <summary>Bakery's till: flour felted into a flat cooler.</summary>
    public static readonly SimulationRequest TillFelted = new(
        Usual(80),
        Machine: "bakery-till",
        RoomC: 29.2,
        Faults: new Dictionary<string, double> { ["dust-blocked-fins"] = 0.9 }
    );

    /// <summary>Surveyor's workstation: sound, and held back by its power budget alone.</summary>
    public static readonly SimulationRequest SurveyorBudget = new(
        Usual(),
        Machine: "render-dual-tower",
        Processor: "corbel-125",
        Graphics: "card-220",
        RoomC: 22.1,
        Faults: new Dictionary<string, double> { ["power-limited"] = 0.8 }
    );

    /// <summary>Observatory's stacker, dried paste.</summary>
    public static readonly SimulationRequest StackerDriedPaste = new(
        Usual(),
        Machine: "image-stacker",
        RoomC: 24.4,
        Faults: new Dictionary<string, double> { ["paste-aged"] = 0.9 }
    );

    public static readonly SimulationRequest StackerNewPaste = StackerDriedPaste with { RoomC = 22.8, Faults = null };

    /// <summary>Translator's bedroom machine: cooler hung on three of four screws.</summary>
    public static readonly SimulationRequest TranslatorLoose = new(
        Usual(),
        Machine: "home-tower",
        RoomC: 22.6,
        Faults: new Dictionary<string, double> { ["poor-contact"] = 0.9 }
    );

    public static readonly SimulationRequest TranslatorSeated = TranslatorLoose with { RoomC = 23.4, Faults = null };

    /// <summary>The chart workstation's loop has silted up, and its board shows the pump and no tubes.</summary>
    public static readonly SimulationRequest ChartWorkstation = new(
        [new(300, 0), new(1500, 1), new(420, 0)],
        Machine: "survey-workstation",
        Cooler: "liquid-240",
        Case: "mid-tower",
        Radiator: "front-in",
        RoomC: 23.6,
        Faults: new Dictionary<string, double> { ["loop-restricted"] = 0.96 }
    );

    /// <summary>The radio's desk got a front without holes.</summary>
    public static readonly SimulationRequest RadioDesk = new(
        [new(300, 0), new(1500, 1), new(420, 0)],
        Machine: "image-stacker",
        RoomC: 22.1,
        Faults: new Dictionary<string, double> { ["case-starved"] = 0.7 }
    );
}
