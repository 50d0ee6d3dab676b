using System.Text.RegularExpressions;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Bench.Probing;

/// <summary>The sensors of a machine, found once by label, kind of device and numbers, and read as one.</summary>
internal sealed partial class SensorTree
{
    private const double Milli = 1000,
        Micro = 1e6;

    private const string DisplayClass = "0x03";

    private static readonly ChannelRole[] Wanted =
    [
        ChannelRole.CpuTemperature,
        ChannelRole.CpuPower,
        ChannelRole.CpuClock,
        ChannelRole.CpuFanSpeed,
        ChannelRole.AmbientTemperature,
    ];

    private readonly List<Sensor> _sensors = [];
    private readonly List<string> _doubts = [];

    /// <summary>Looks through a tree.</summary>
    /// <param name="root">Holds <c>sys</c> and <c>proc</c>, as the file system's root does.</param>
    public SensorTree(string root)
    {
        string sys = Path.Combine(root, "sys"),
            proc = Path.Combine(root, "proc");
        List<(string Path, string Label)> fans = [],
            temperatures = [];
        foreach (string device in Folders(Path.Combine(sys, "class/hwmon")))
        {
            bool display = Text(Path.Combine(device, "device/class"))?.StartsWith(DisplayClass, StringComparison.OrdinalIgnoreCase) == true;
            Temperatures(device, display, temperatures);
            Fans(device, display, fans);
            Powers(device, display);
        }

        Powercap(Path.Combine(sys, "class/powercap"));
        Processors(Path.Combine(sys, "devices/system/cpu"));
        if (File.Exists(Path.Combine(proc, "stat")))
        {
            _sensors.Add(new LoadSensor(Path.Combine(proc, "stat")));
        }

        SecondBest(sys, fans, temperatures);
        // Whatever carries no reading at all is not there.
        _sensors.RemoveAll(sensor => sensor is FileSensor && sensor.Read(0) is null);
    }

    public IReadOnlyList<Sensor> Sensors => _sensors;

    /// <summary>What was taken for something without a label that says so, as sentences.</summary>
    public IReadOnlyList<string> Doubts => _doubts;

    /// <summary>Roles that a bench wants and this machine does not show.</summary>
    public IReadOnlyList<ChannelRole> Missing =>
        [
            .. Wanted.Where(role =>
                !_sensors.Any(sensor =>
                    role switch
                    {
                        ChannelRole.CpuTemperature => sensor.Role.IsProcessorTemperature(),
                        ChannelRole.CpuClock => sensor.Role == ChannelRole.CoreClock,
                        _ => sensor.Role == role,
                    }
                )
            ),
        ];

    /// <summary>Where the kernel says that the processor becomes critical, °C; null when it does not.</summary>
    public double? LimitC => _sensors.Where(sensor => sensor.Role.IsProcessorTemperature()).Min(sensor => sensor.LimitC);

    /// <summary>Reads them all. Of several for one role, the hottest counts, watts add up, and the first fan stands for all.</summary>
    public Dictionary<BayChannel, double> Read(double seconds)
    {
        Dictionary<BayChannel, double> values = [];
        List<double> clocks = [];
        foreach (Sensor sensor in _sensors)
        {
            if (sensor.Read(seconds) is not { } value)
            {
                continue;
            }

            BayChannel channel = new(sensor.Role, sensor.Index);
            bool again = values.TryGetValue(channel, out double before);
            values[channel] =
                !again ? value
                : sensor.Role.IsTemperature() ? Math.Max(before, value)
                : sensor.Role is ChannelRole.CpuPower or ChannelRole.GpuPower ? before + value
                : before;
            if (sensor.Role == ChannelRole.CoreClock)
            {
                clocks.Add(value);
            }
        }

        if (clocks.Count > 0)
        {
            values[new BayChannel(ChannelRole.CpuClock)] = clocks.Average();
        }

        return values;
    }

    private void Temperatures(string device, bool display, List<(string Path, string Label)> unknown)
    {
        foreach ((string path, string label) in Inputs(device, "temp"))
        {
            double? limit = Sensor.NumberIn(path.Replace("_input", "_crit", StringComparison.Ordinal)) / Milli;
            limit = limit > 40 && limit < 130 ? limit : null;
            ChannelRole role = display
                ? HotspotLabel().IsMatch(label)
                    ? ChannelRole.GpuHotspotTemperature
                    : MemoryLabel().IsMatch(label)
                        ? ChannelRole.GpuMemoryTemperature
                        : ChannelRole.GpuTemperature
                : ControlLabel().IsMatch(label)
                    ? ChannelRole.CpuControlTemperature
                    : CoreLabel().IsMatch(label)
                        ? ChannelRole.CoreTemperature
                        : ChipLabel().IsMatch(label)
                            ? ChannelRole.CpuTemperature
                            : LiquidLabel().IsMatch(label)
                                ? ChannelRole.CoolantTemperature
                                : RoomLabel().IsMatch(label)
                                    ? ChannelRole.AmbientTemperature
                                    : CaseLabel().IsMatch(label)
                                        ? ChannelRole.CaseAirTemperature
                                        : ChannelRole.Other;
            if (role == ChannelRole.Other)
            {
                unknown.Add((path, label));
                continue;
            }

            int index = role == ChannelRole.CoreTemperature ? _sensors.Count(sensor => sensor.Role == role) : 0;
            _sensors.Add(new FileSensor(role, index, label, path, Milli, limit));
        }
    }

    private void Fans(string device, bool display, List<(string Path, string Label)> unknown)
    {
        foreach ((string path, string label) in Inputs(device, "fan"))
        {
            ChannelRole role =
                display ? ChannelRole.GpuFanSpeed
                : PumpLabel().IsMatch(label) ? ChannelRole.PumpSpeed
                : ProcessorFanLabel().IsMatch(label) ? ChannelRole.CpuFanSpeed
                : CaseLabel().IsMatch(label) ? ChannelRole.CaseFanSpeed
                : ChannelRole.Other;
            if (role == ChannelRole.Other)
            {
                unknown.Add((path, label));
            }
            else
            {
                _sensors.Add(new FileSensor(role, 0, label, path, 1));
            }
        }
    }

    private void Powers(string device, bool display)
    {
        if (
            display
            && new[] { "power1_average", "power1_input" }.Select(file => Path.Combine(device, file)).FirstOrDefault(File.Exists) is { } path
        )
        {
            _sensors.Add(new FileSensor(ChannelRole.GpuPower, 0, "graphics card", path, Micro));
        }
    }

    /// <summary>Only whole packages: their parts are in them already.</summary>
    private void Powercap(string folder)
    {
        foreach (string zone in Folders(folder))
        {
            string name = Text(Path.Combine(zone, "name")) ?? "";
            string energy = Path.Combine(zone, "energy_uj");
            if (!name.StartsWith("package", StringComparison.OrdinalIgnoreCase) || !File.Exists(energy))
            {
                continue;
            }

            if (Sensor.NumberIn(energy) is null)
            {
                _doubts.Add($"The power of {name} is there but may not be read: run the probe as root.");
                continue;
            }

            _sensors.Add(
                new EnergySensor(ChannelRole.CpuPower, 0, name, energy, Sensor.NumberIn(Path.Combine(zone, "max_energy_range_uj")))
            );
        }
    }

    private void Processors(string folder)
    {
        List<string> counts = [];
        int index = 0;
        foreach (
            string processor in Folders(folder)
                .Where(one => ProcessorFolder().IsMatch(Path.GetFileName(one)))
                .OrderBy(one => Path.GetFileName(one).Length)
                .ThenBy(one => one, StringComparer.Ordinal)
        )
        {
            string clock = Path.Combine(processor, "cpufreq/scaling_cur_freq"),
                count = Path.Combine(processor, "thermal_throttle/package_throttle_count");
            if (File.Exists(clock))
            {
                _sensors.Add(new FileSensor(ChannelRole.CoreClock, index++, Path.GetFileName(processor), clock, Milli));
            }

            if (File.Exists(count))
            {
                counts.Add(count);
            }
        }

        if (counts.Count > 0)
        {
            _sensors.Add(new ThrottleSensor(counts));
        }
    }

    /// <summary>What stands for the processor and its fan where no label says so.</summary>
    private void SecondBest(string sys, List<(string Path, string Label)> fans, List<(string Path, string Label)> temperatures)
    {
        if (!_sensors.Any(sensor => sensor.Role.IsProcessorTemperature()))
        {
            foreach (
                string zone in Folders(Path.Combine(sys, "class/thermal"))
                    .Where(one => ZoneType().IsMatch(Text(Path.Combine(one, "type")) ?? ""))
            )
            {
                _sensors.Add(
                    new FileSensor(ChannelRole.CpuTemperature, 0, Text(Path.Combine(zone, "type"))!, Path.Combine(zone, "temp"), Milli)
                );
            }

            // The warmest of those without a name: a processor at rest is warmer than its board.
            if (
                !_sensors.Any(sensor => sensor.Role == ChannelRole.CpuTemperature)
                && temperatures
                    .Select(one => (one.Path, one.Label, Value: Sensor.NumberIn(one.Path) / Milli))
                    .Where(one => one.Value is > 10 and < 115)
                    .OrderByDescending(one => one.Value)
                    .FirstOrDefault()
                    is { Path: { } warmest } found
            )
            {
                _sensors.Add(new FileSensor(ChannelRole.CpuTemperature, 0, found.Label, warmest, Milli));
                _doubts.Add($"No temperature says that it is the processor’s; the warmest, “{found.Label}”, is taken for it.");
            }
        }

        foreach ((string path, string label) in fans.OrderByDescending(fan => Sensor.NumberIn(fan.Path) > 0))
        {
            bool cooler = !_sensors.Any(sensor => sensor.Role == ChannelRole.CpuFanSpeed);
            _sensors.Add(new FileSensor(cooler ? ChannelRole.CpuFanSpeed : ChannelRole.CaseFanSpeed, 0, label, path, 1));
            if (cooler)
            {
                _doubts.Add($"No fan says that it is the cooler’s; “{label}” is taken for it.");
            }
        }
    }

    /// <summary>The numbered inputs of a kind with their labels, in order.</summary>
    private static IEnumerable<(string Path, string Label)> Inputs(string device, string kind)
    {
        string name = Text(Path.Combine(device, "name")) ?? Path.GetFileName(device);
        return Files(device, kind + "*_input")
            .OrderBy(file => file.Length)
            .ThenBy(file => file, StringComparer.Ordinal)
            .Select(file =>
                (
                    file,
                    Text(file.Replace("_input", "_label", StringComparison.Ordinal))
                        ?? $"{name} {Path.GetFileName(file).Replace("_input", "", StringComparison.Ordinal)}"
                )
            );
    }

    private static IEnumerable<string> Folders(string folder) =>
        Directory.Exists(folder) ? Directory.EnumerateDirectories(folder).Order(StringComparer.Ordinal) : [];

    private static IEnumerable<string> Files(string folder, string pattern) =>
        Directory.Exists(folder) ? Directory.EnumerateFiles(folder, pattern) : [];

    private static string? Text(string path)
    {
        try
        {
            return File.Exists(path) ? File.ReadAllText(path).Trim() : null;
        }
        catch (Exception failure) when (failure is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    [GeneratedRegex("^cpu[0-9]+$")]
    private static partial Regex ProcessorFolder();

    [GeneratedRegex(@"^core\s*[0-9]+", RegexOptions.IgnoreCase)]
    private static partial Regex CoreLabel();

    [GeneratedRegex(@"ctl|control", RegexOptions.IgnoreCase)]
    private static partial Regex ControlLabel();

    [GeneratedRegex(@"package|die\b|\bcpu\b|processor|\bsoc\b", RegexOptions.IgnoreCase)]
    private static partial Regex ChipLabel();

    [GeneratedRegex(@"coolant|liquid|water", RegexOptions.IgnoreCase)]
    private static partial Regex LiquidLabel();

    [GeneratedRegex(@"ambient|room|intake", RegexOptions.IgnoreCase)]
    private static partial Regex RoomLabel();

    [GeneratedRegex(@"case|chassis|sys|front|rear|exhaust", RegexOptions.IgnoreCase)]
    private static partial Regex CaseLabel();

    [GeneratedRegex(@"junction|hot\s?spot", RegexOptions.IgnoreCase)]
    private static partial Regex HotspotLabel();

    [GeneratedRegex(@"mem|vram", RegexOptions.IgnoreCase)]
    private static partial Regex MemoryLabel();

    [GeneratedRegex(@"pump|loop", RegexOptions.IgnoreCase)]
    private static partial Regex PumpLabel();

    [GeneratedRegex(@"cpu|processor|cooler", RegexOptions.IgnoreCase)]
    private static partial Regex ProcessorFanLabel();

    [GeneratedRegex(@"cpu|pkg|package|x86|soc", RegexOptions.IgnoreCase)]
    private static partial Regex ZoneType();
}
