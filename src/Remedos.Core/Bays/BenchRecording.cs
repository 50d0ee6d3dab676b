using Remedos.Core.Machines;
using Remedos.Core.Simulation;

namespace Remedos.Core.Bays;

/// <summary>Lets a simulated bench run, a reading a second, as a bay records it.</summary>
public static class BenchRecording
{
    /// <summary>Goes on for a while with some settings; what this machine does not show is not recorded.</summary>
    public static void Record(this MachineOnBench bench, BayLog readings, BenchMachine spec, BenchSettings settings, double seconds)
    {
        bench.Settings = settings;
        for (int second = 0; second < seconds; second++)
        {
            for (int tick = 0; tick < 10; tick++)
            {
                bench.Tick();
            }

            BenchReading reading = bench.Read();
            readings.Add(
                reading.ToReading(readings.Count + 1, bench.Seconds, spec.Shows.Contains("case-air"), spec.Shows.Contains("case-fan"))
            );
        }
    }
}
