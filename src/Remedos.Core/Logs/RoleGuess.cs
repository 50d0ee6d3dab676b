namespace Remedos.Core.Logs;

/// <summary>What a column probably means, and how sure that is, 0…1.</summary>
public readonly record struct RoleGuessed(ChannelRole Role, ChannelUnit Unit, double Confidence);

/// <summary>
/// Gives a column its role from its name, its unit and its numbers. The rules read from the most particular name to the least.
/// </summary>
public static class RoleGuess
{
    private const double ByUnit = 0.95,
        ByWords = 0.85,
        ByNumbers = 0.5,
        NoRole = 0.6;

    /// <summary>The role and canonical unit of a column; <see cref="ChannelRole.Other"/> when nothing fits.</summary>
    /// <param name="name">Its header.</param>
    /// <param name="first">Its first numbers, which speak where the header names no quantity.</param>
    public static RoleGuessed Of(ChannelName name, IReadOnlyList<double>? first = null)
    {
        ChannelUnit? unit = name.Unit ?? UnitFromWords(name);
        double confidence =
            name.Unit is not null ? ByUnit
            : unit is not null ? ByWords
            : ByNumbers;
        unit ??= UnitFromNumbers(name, first ?? []);
        ChannelRole role =
            name.Has("unused") ? ChannelRole.Other
            : unit is null && name.Has("score") ? ChannelRole.Score
            : unit?.Canonical switch
            {
                "C" => Temperature(name),
                "W" => Power(name),
                "MHz" => Clock(name),
                "%" => Load(name),
                "rpm" => Speed(name),
                "flag" => name.Has("throttle", "throttled", "throttling", "prochot") ? ChannelRole.ThrottleFlag : ChannelRole.Other,
                "dBA" => ChannelRole.SoundLevel,
                _ => ChannelRole.Other,
            };
        return new RoleGuessed(
            role,
            unit ?? ChannelUnit.None,
            role == ChannelRole.Other ? NoRole
                : role == ChannelRole.Score ? ByWords
                : confidence
        );
    }

    /// <summary>
    /// A header that names a part but no quantity: what runs in the hundreds and thousands is a clock, what runs between a room and a
    /// kettle a temperature.
    /// </summary>
    private static ChannelUnit? UnitFromNumbers(ChannelName name, IReadOnlyList<double> first)
    {
        bool air = name.Has("coolant", "liquid", "room", "ambient", "air");
        if (first.Count < 5 || !(IsProcessor(name) || IsGraphics(name) || name.Has("core", "cores") || air))
        {
            return null;
        }

        double middle = first.Order().ElementAt(first.Count / 2);
        string? unit =
            air && middle is > -10 and < 90 ? "°C"
            : middle is > 300 and < 10000 ? "MHz"
            : middle is > 15 and < 110 && first.Min() > 10 ? "°C"
            : null;
        return unit is not null && ChannelUnit.TryParse(unit, out ChannelUnit found) ? found : null;
    }

    /// <summary>A header without a unit says its quantity in words; loggers that leave units out mean °C, W, MHz, % and rpm.</summary>
    private static ChannelUnit? UnitFromWords(ChannelName name)
    {
        string? unit =
            name.Has("temperature", "temp", "temperatures", "tdie", "tctl", "hotspot") ? "°C"
            : name.Has("throttle", "throttled", "throttling", "prochot") ? "flag"
            : name.Has("power", "watts", "watt") ? "W"
            : name.Has("clock", "frequency", "freq") ? "MHz"
            : name.Has("load", "usage", "utilisation", "utilization", "util") ? "%"
            : name.Has("fan", "rpm", "pump") ? "rpm"
            : name.Has("noise", "sound") ? "dBA"
            : null;
        return unit is not null && ChannelUnit.TryParse(unit, out ChannelUnit found) ? found : null;
    }

    private static bool IsGraphics(ChannelName name) => name.Has("gpu", "graphics", "video", "card", "vram");

    private static bool IsProcessor(ChannelName name) => name.Has("cpu", "processor", "package", "pkg", "ppt", "die", "tdie", "soc", "apu");

    private static ChannelRole Temperature(ChannelName name)
    {
        if (IsGraphics(name))
        {
            return name.Has("memory", "mem", "vram") ? ChannelRole.GpuMemoryTemperature
                : name.Has("hotspot", "junction") || (name.Has("hot") && name.Has("spot")) ? ChannelRole.GpuHotspotTemperature
                : ChannelRole.GpuTemperature;
        }

        if (name.Has("tube", "hose"))
        {
            // "block to radiator" leaves the block, "radiator to block" returns to it.
            bool fromRadiator =
                name.Words.ToList() is var words && words.IndexOf("radiator") is var radiator and >= 0 && words.IndexOf("block") > radiator;
            return fromRadiator || name.Has("return", "back", "in") ? ChannelRole.TubeReturnTemperature : ChannelRole.TubeOutTemperature;
        }

        return name.Has("coolant", "liquid", "water", "loop") ? ChannelRole.CoolantTemperature
            : name.Has("room", "ambient", "intake", "inlet") ? ChannelRole.AmbientTemperature
            : name.Has(
                "mainboard",
                "board",
                "motherboard",
                "memory",
                "ram",
                "disk",
                "drive",
                "ssd",
                "nvme",
                "vrm",
                "chipset",
                "supply",
                "psu"
            )
                ? ChannelRole.Other
            : name.Has("control", "tctl") ? ChannelRole.CpuControlTemperature
            : name.Has("case", "chassis") || (name.Has("air") && name.Has("internal", "inside", "inner")) ? ChannelRole.CaseAirTemperature
            : name.Has("core", "cores") && name.Has("max", "maximum", "hottest") ? ChannelRole.CpuTemperature
            : name.Has("core", "cores") && !name.Has("package", "max", "average", "avg") ? ChannelRole.CoreTemperature
            : IsProcessor(name) ? ChannelRole.CpuTemperature
            : ChannelRole.Other;
    }

    private static ChannelRole Power(ChannelName name) =>
        IsGraphics(name) ? ChannelRole.GpuPower
        : IsProcessor(name) && !name.Has("limit", "core", "cores", "uncore") ? ChannelRole.CpuPower
        : ChannelRole.Other;

    private static ChannelRole Clock(ChannelName name) =>
        IsGraphics(name) || name.Has("memory", "ram", "ring", "bus", "uncore") ? ChannelRole.Other
        : name.Has("core") && name.Words.Any(word => char.IsDigit(word[0])) ? ChannelRole.CoreClock
        : IsProcessor(name) || name.Has("cores", "average", "avg", "mean", "effective") ? ChannelRole.CpuClock
        : name.Has("core") ? ChannelRole.CoreClock
        : ChannelRole.Other;

    private static ChannelRole Load(ChannelName name) =>
        name.Has("fan", "memory", "ram", "mem", "disk", "pump", "duty", "humidity", "battery") ? ChannelRole.Other
        : IsGraphics(name) ? ChannelRole.GpuLoad
        : name.Has("core") && name.Words.Any(word => char.IsDigit(word[0])) ? ChannelRole.Other
        : IsProcessor(name) ? ChannelRole.CpuLoad
        : ChannelRole.Other;

    private static ChannelRole Speed(ChannelName name) =>
        name.Has("pump") ? ChannelRole.PumpSpeed
        : IsGraphics(name) ? ChannelRole.GpuFanSpeed
        : name.Has("case", "chassis", "cha", "sys", "system", "front", "rear", "top") ? ChannelRole.CaseFanSpeed
        : IsProcessor(name) ? ChannelRole.CpuFanSpeed
        : ChannelRole.Other;
}
