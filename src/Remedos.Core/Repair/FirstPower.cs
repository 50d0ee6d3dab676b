using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Repair;

/// <summary>What a cooler that sits shows on the firmware's page, before the case is closed.</summary>
public static class FirstPower
{
    /// <summary>Above this nobody would wait for a model to be right, °C below the limit.</summary>
    private const double ClearOfLimitC = 10;

    /// <summary>
    /// The most that the chip reaches there, °C: level under the most that firmware lets it draw, with the upper end of what is
    /// known of its parts.
    /// Two minutes are less than level, so what lies above it is not the model.
    /// </summary>
    /// <param name="build">Whose problem is null.</param>
    /// <param name="cooler">The one that sits on it then.</param>
    public static double MaxC(Build build, CoolerPart cooler)
    {
        HeatMachine machine = HeatMachines.Of(build, cooler, AirPlanner.Start(build, cooler));
        double watts = Defaults.FirmwareMostShare * build.Processor.SustainedPowerW;
        SteadyResult level = new SteadySolver(machine).Solve(
            new SteadyLoad(watts, Defaults.RestingCardShare * (build.Graphics?.PowerW ?? 0), build.RoomC)
        );
        double most = level.ChipC!.Value + machine.ChipHalfWidthC(level, watts, build.RoomC);
        return Math.Round(Math.Min(most, build.Processor.TemperatureLimitC - ClearOfLimitC));
    }
}
