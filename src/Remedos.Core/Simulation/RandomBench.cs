namespace Remedos.Core.Simulation;

/// <summary>A random machine on a random bench: what it is, and how it is run and read.</summary>
/// <param name="FixedFanShare">0…1, or null for the automatic curve.</param>
public sealed record RandomBench(
    SimulatedMachine Machine,
    string CoolerKind,
    IReadOnlyList<ProtocolStep> Protocol,
    double RoomC,
    double? FixedFanShare,
    ChipSensor Sensor
)
{
    /// <summary>
    /// Draws one: air or liquid, healthy or with dried paste, a blocked loop, dust, starved air or a small cooler; with boost or without;
    /// fans fixed or not.
    /// </summary>
    public static RandomBench Draw(Random random)
    {
        double Between(double low, double high) => low + ((high - low) * random.NextDouble());
        bool Chance(double share) => random.NextDouble() < share;
        bool liquid = Chance(0.35);
        double paste = Between(0.09, 0.18) + (Chance(0.25) ? Between(0.1, 0.3) : 0);
        double pipes = Between(0.05, 0.10) * (liquid && Chance(0.25) ? Between(2.5, 5) : 1);
        double fins = Between(0.07, 0.18) * (Chance(0.3) ? Between(1.6, 2.8) : 1);
        double load = Between(60, 190),
            boost = Chance(0.4) ? load * Between(1.1, 1.5) : load;
        SimulatedMachine machine = new(
            paste,
            pipes,
            fins,
            Between(0.03, 0.09) * (Chance(0.2) ? Between(1.5, 3) : 1),
            Between(4, 9),
            Between(80, 130),
            liquid ? Between(900, 2500) : Between(250, 800),
            Between(2000, 5000),
            Between(1000, 2600),
            Between(35, 50),
            Between(70, 90),
            load,
            boost,
            boost > load ? Between(20, 90) : 0,
            Between(8, 28),
            Between(10, 45),
            Between(85, 105),
            Between(3600, 5200)
        );
        return new RandomBench(
            machine,
            liquid ? "liquid" : "tower",
            [new(Between(150, 400), 0), new(Between(1000, 2200), 1), new(Between(200, 500), 0)],
            Between(17, 31),
            Chance(0.5) ? Between(0.5, 1) : null,
            new ChipSensor(new[] { 1, 0.5, 0.125 }[random.Next(3)], Between(0.1, 0.4), Chance(0.4) ? Between(0.05, 0.25) : 0)
        );
    }
}
