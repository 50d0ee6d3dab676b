using Remedos.Core.Machines;
using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>
/// What is heard of cooler and case at 1 m, dB(A); the card's and the supply's own fans are not in it, nor fans of a case that nobody
/// has noted.
/// </summary>
internal static class FanNoise
{
    /// <summary>0 for nothing.</summary>
    /// <param name="machine">Of the plan.</param>
    public static double Dba(CoolerPart? cooler, AirPlan plan, HeatMachine machine, SteadyResult at)
    {
        double energy = OfCase(plan, machine, at) + OfCooler(cooler, at.CoolerFanShare);
        return energy <= 1 ? 0 : 10 * Math.Log10(energy);
    }

    /// <summary>The fastest that the cooler's fans may turn so that all is no louder than this, share of full.</summary>
    /// <param name="at">With the case's fans as they turn.</param>
    public static double BearableShare(CoolerPart cooler, AirPlan plan, HeatMachine machine, SteadyResult at, double dba)
    {
        double left = Math.Pow(10, dba / 10) - OfCase(plan, machine, at),
            full = OfCooler(cooler, 1);
        return left >= full ? 1
            : left <= 0 ? 0
            : Math.Pow(left / full, 10 / PhysicalConstants.FanSpeedDb);
    }

    private static double OfCase(AirPlan plan, HeatMachine machine, SteadyResult at)
    {
        double energy = 0;
        for (int i = 0; i < plan.Fans.Count; i++)
        {
            int header = machine.FanHeaders[i];
            energy += Energy(machine.Fans[i].NoiseAtMaxDba, header == HeatMachine.Full ? 1 : at.Shares[header]);
        }

        return energy;
    }

    private static double OfCooler(CoolerPart? cooler, double share)
    {
        double energy = 0;
        for (int i = 0; i < (cooler?.Fans?.Count ?? 0); i++)
        {
            energy += Energy(cooler!.Fans![i].DbaAtMax, share);
        }

        return energy;
    }

    private static double Energy(double atMaxDba, double share)
    {
        double dba = SoundLevel.FanDba(atMaxDba, share);
        return dba <= 0 ? 0 : Math.Pow(10, dba / 10);
    }
}
