using System.Globalization;

namespace Remedos.Server.Tests.Probing;

/// <summary>The kernel's generic files of a machine that does not exist, in a folder of its own.</summary>
internal sealed class MadeUpMachine : IDisposable
{
    private readonly DirectoryInfo _root = Directory.CreateTempSubdirectory("remedos-machine-");

    public string Root => _root.FullName;

    /// <summary>A desktop that shows all that a bench wants but the room.</summary>
    public static MadeUpMachine Desktop()
    {
        MadeUpMachine machine = new();
        machine["sys/class/hwmon/hwmon0/name"] = "chip";
        machine.Temperature(0, 1, "Package id 0", 41_000, critical: 100_000);
        for (int core = 0; core < 4; core++)
        {
            machine.Temperature(0, core + 2, $"Core {core}", 38_000 + (core * 1000));
        }

        machine["sys/class/hwmon/hwmon1/name"] = "board";
        machine.Temperature(1, 1, "Chassis", 29_000);
        machine["sys/class/hwmon/hwmon1/fan1_input"] = "0";
        machine["sys/class/hwmon/hwmon1/fan2_input"] = "910";
        machine["sys/class/hwmon/hwmon1/fan2_label"] = "CPU Fan";
        machine["sys/class/hwmon/hwmon1/fan3_input"] = "2400";
        machine["sys/class/hwmon/hwmon1/fan3_label"] = "Pump";
        machine["sys/class/hwmon/hwmon2/device/class"] = "0x030000";
        machine["sys/class/hwmon/hwmon2/power1_average"] = "35500000";
        machine.Temperature(2, 1, "edge", 47_000);
        machine.Temperature(2, 2, "junction", 55_000);
        machine["sys/class/powercap/zone:0/name"] = "package-0";
        machine["sys/class/powercap/zone:0/energy_uj"] = "1000000";
        machine["sys/class/powercap/zone:0/max_energy_range_uj"] = "50000000";
        machine["sys/class/powercap/zone:0:0/name"] = "core";
        machine["sys/class/powercap/zone:0:0/energy_uj"] = "500000";
        for (int processor = 0; processor < 2; processor++)
        {
            machine[$"sys/devices/system/cpu/cpu{processor}/cpufreq/scaling_cur_freq"] = (2_000_000 + (processor * 400_000)).ToString(
                CultureInfo.InvariantCulture
            );
            machine[$"sys/devices/system/cpu/cpu{processor}/thermal_throttle/package_throttle_count"] = "7";
        }

        machine["sys/devices/system/cpu/cpufreq/boost"] = "1";
        machine["proc/stat"] = "cpu  100 0 50 800 50 0 0 0 0 0\ncpu0 1 2 3 4\n";
        return machine;
    }

    /// <summary>A file under the root; null removes it.</summary>
    public string? this[string path]
    {
        set
        {
            string file = Path.Combine(Root, path);
            if (value is null)
            {
                File.Delete(file);
                return;
            }

            Directory.CreateDirectory(Path.GetDirectoryName(file)!);
            // Never half of it, as the kernel's own files.
            File.WriteAllText(file + ".new", value);
            File.Move(file + ".new", file, overwrite: true);
        }
    }

    public void Temperature(int device, int number, string? label, int thousandths, int? critical = null)
    {
        string stem = $"sys/class/hwmon/hwmon{device}/temp{number}";
        this[$"{stem}_input"] = thousandths.ToString(CultureInfo.InvariantCulture);
        this[$"{stem}_label"] = label;
        this[$"{stem}_crit"] = critical?.ToString(CultureInfo.InvariantCulture);
    }

    public void Dispose() => _root.Delete(recursive: true);
}
