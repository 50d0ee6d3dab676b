using Remedos.Core.Logs;
using Remedos.Core.Simulation;

namespace Remedos.Core.Bays;

/// <summary>What a simulated machine shows, as any machine would send it.</summary>
public static class BenchReadings
{
    /// <summary>A reading of all that it shows.</summary>
    public static BayReading ToReading(
        this BenchReading reading,
        long sequence,
        double seconds,
        bool showsCaseAir = true,
        bool showsCaseFan = true
    )
    {
        Dictionary<BayChannel, double> values = [];
        void Add(ChannelRole role, double? value, int digits, int index = 0)
        {
            if (value is { } there)
            {
                values[new BayChannel(role, index)] = Math.Round(there, digits);
            }
        }

        Add(ChannelRole.CpuTemperature, reading.ChipC, 1);
        Add(ChannelRole.CpuControlTemperature, reading.ControlC, 1);
        Add(ChannelRole.CpuPower, reading.PowerW, 2);
        Add(ChannelRole.CpuClock, reading.ClockMHz, 0);
        Add(ChannelRole.CpuLoad, reading.LoadPercent, 1);
        Add(ChannelRole.CpuFanSpeed, reading.FanRpm, 0);
        Add(ChannelRole.AmbientTemperature, reading.RoomC, 1);
        Add(ChannelRole.CaseAirTemperature, showsCaseAir ? reading.CaseAirC : null, 1);
        Add(ChannelRole.CaseFanSpeed, showsCaseFan ? reading.CaseFanRpm : null, 0);
        Add(ChannelRole.CoolantTemperature, reading.CoolantC, 1);
        Add(ChannelRole.TubeOutTemperature, reading.TubeOutC, 1);
        Add(ChannelRole.TubeReturnTemperature, reading.TubeReturnC, 1);
        Add(ChannelRole.PumpSpeed, reading.PumpRpm, 0);
        Add(ChannelRole.GpuTemperature, reading.GraphicsC, 1);
        Add(ChannelRole.GpuHotspotTemperature, reading.GraphicsHotspotC, 1);
        Add(ChannelRole.GpuPower, reading.GraphicsPowerW, 1);
        Add(ChannelRole.ThrottleFlag, reading.Throttled ? 1 : 0, 0);
        Add(ChannelRole.SoundLevel, reading.SoundDba, 1);
        Add(ChannelRole.Score, reading.Score, 3);
        for (int core = 0; core < reading.CoresC.Count; core++)
        {
            Add(ChannelRole.CoreTemperature, reading.CoresC[core], 1, core);
        }

        return new BayReading(sequence, Math.Round(seconds, 1), values);
    }
}
