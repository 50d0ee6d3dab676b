using Remedos.Bench.Probing;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Server.Tests.Probing;

/// <summary>What a probe makes of the kernel's files.</summary>
public sealed class SensorTreeTests
{
    [Fact]
    public void A_desktop_is_read_by_its_labels_devices_and_counters()
    {
        using MadeUpMachine machine = MadeUpMachine.Desktop();
        SensorTree tree = new(machine.Root);
        tree.Read(0);
        machine["sys/class/powercap/zone:0/energy_uj"] = "31000000";
        machine["proc/stat"] = "cpu  250 0 100 1000 50 0 0 0 0 0\n";
        machine["sys/devices/system/cpu/cpu1/thermal_throttle/package_throttle_count"] = "9";
        Dictionary<BayChannel, double> values = tree.Read(0.5);
        double Of(ChannelRole role, int index = 0) => values[new BayChannel(role, index)];
        Assert.Equal(
            (41, 38, 41, 29),
            (
                Of(ChannelRole.CpuTemperature),
                Of(ChannelRole.CoreTemperature),
                Of(ChannelRole.CoreTemperature, 3),
                Of(ChannelRole.CaseAirTemperature)
            )
        );
        Assert.Equal(60, Of(ChannelRole.CpuPower), 1e-9); // 30 J in half a second, the package alone
        Assert.Equal(50, Of(ChannelRole.CpuLoad), 1e-9); // 200 of 400 ticks
        Assert.Equal((2200, 2400), (Of(ChannelRole.CpuClock), Of(ChannelRole.CoreClock, 1)));
        Assert.Equal((910, 2400, 0), (Of(ChannelRole.CpuFanSpeed), Of(ChannelRole.PumpSpeed), Of(ChannelRole.CaseFanSpeed)));
        Assert.Equal((47, 55, 35.5), (Of(ChannelRole.GpuTemperature), Of(ChannelRole.GpuHotspotTemperature), Of(ChannelRole.GpuPower)));
        Assert.Equal(1, Of(ChannelRole.ThrottleFlag));
        Assert.Equal(0, tree.Read(1)[new BayChannel(ChannelRole.ThrottleFlag)]);
        Assert.Equal([ChannelRole.AmbientTemperature], tree.Missing);
        Assert.Equal(100, tree.LimitC);
    }

    [Fact]
    public void A_counter_of_energy_that_begins_again_is_no_negative_power()
    {
        using MadeUpMachine machine = MadeUpMachine.Desktop();
        SensorTree tree = new(machine.Root);
        machine["sys/class/powercap/zone:0/energy_uj"] = "49000000";
        tree.Read(0);
        machine["sys/class/powercap/zone:0/energy_uj"] = "9000000";
        Assert.Equal(10, tree.Read(1)[new BayChannel(ChannelRole.CpuPower)], 1e-9);
    }

    /// <summary>A machine without a sensor says which is missing and goes on.</summary>
    [Fact]
    public void What_is_missing_is_told_and_what_stands_for_it_too()
    {
        using MadeUpMachine machine = new();
        machine["sys/class/hwmon/hwmon0/name"] = "board";
        machine.Temperature(0, 1, null, 27_000);
        machine.Temperature(0, 2, null, 44_000);
        machine.Temperature(0, 3, null, 127_000); // a pin that nothing hangs on
        machine["sys/class/hwmon/hwmon0/fan1_input"] = "0";
        machine["sys/class/hwmon/hwmon0/fan2_input"] = "1100";
        SensorTree tree = new(machine.Root);
        Dictionary<BayChannel, double> values = tree.Read(0);
        Assert.Equal((44, 1100), (values[new(ChannelRole.CpuTemperature)], values[new(ChannelRole.CpuFanSpeed)]));
        Assert.Equal([ChannelRole.CpuPower, ChannelRole.CpuClock, ChannelRole.AmbientTemperature], tree.Missing);
        Assert.Equal(2, tree.Doubts.Count);

        using MadeUpMachine bare = new();
        bare["sys/class/thermal/thermal_zone0/type"] = "cpu-thermal";
        bare["sys/class/thermal/thermal_zone0/temp"] = "52500";
        Assert.Equal(52.5, new SensorTree(bare.Root).Read(0)[new(ChannelRole.CpuTemperature)]);
    }

    [Fact]
    public void A_sensor_that_goes_away_is_left_out_and_one_that_talks_nonsense_too()
    {
        using MadeUpMachine machine = MadeUpMachine.Desktop();
        SensorTree tree = new(machine.Root);
        machine["sys/class/hwmon/hwmon0/temp1_input"] = null;
        machine["sys/class/hwmon/hwmon1/fan2_input"] = "many";
        Dictionary<BayChannel, double> values = tree.Read(1);
        Assert.False(values.ContainsKey(new(ChannelRole.CpuTemperature)) || values.ContainsKey(new(ChannelRole.CpuFanSpeed)));
        Assert.Equal(41, new BayReading(1, 0, values).ChipC); // its hottest core stands for it
    }
}
