namespace Remedos.Core.Logs;

/// <summary>What a column of a log means. The kebab-case names are the contract's (docs/formats.md).</summary>
public enum ChannelRole
{
    /// <summary>Nothing that is read.</summary>
    Other,

    /// <summary>Time since the first row, s, or a moment of a calendar.</summary>
    Time,

    /// <summary>The processor's hottest point or package, °C.</summary>
    CpuTemperature,

    /// <summary>The temperature that fans follow, which may hold an offset, °C.</summary>
    CpuControlTemperature,

    /// <summary>One core, °C.</summary>
    CoreTemperature,

    /// <summary>The processor's package, W.</summary>
    CpuPower,

    /// <summary>The processor's clock, MHz.</summary>
    CpuClock,

    /// <summary>One core's clock, MHz.</summary>
    CoreClock,

    /// <summary>The processor's load, %.</summary>
    CpuLoad,

    /// <summary>The graphics chip, °C.</summary>
    GpuTemperature,

    /// <summary>The graphics chip's hottest point, °C.</summary>
    GpuHotspotTemperature,

    /// <summary>The card's memory, °C.</summary>
    GpuMemoryTemperature,

    /// <summary>The graphics card, W.</summary>
    GpuPower,

    /// <summary>The graphics card's load, %.</summary>
    GpuLoad,

    /// <summary>The liquid, °C.</summary>
    CoolantTemperature,

    /// <summary>The tube that leaves the block, °C.</summary>
    TubeOutTemperature,

    /// <summary>The tube that comes back, °C.</summary>
    TubeReturnTemperature,

    /// <summary>The room, °C.</summary>
    AmbientTemperature,

    /// <summary>The air in the case, °C.</summary>
    CaseAirTemperature,

    /// <summary>The processor cooler's fan, rpm.</summary>
    CpuFanSpeed,

    /// <summary>The card's fan, rpm.</summary>
    GpuFanSpeed,

    /// <summary>A case fan, rpm.</summary>
    CaseFanSpeed,

    /// <summary>The pump, rpm.</summary>
    PumpSpeed,

    /// <summary>Whether the firmware holds the chip back for its heat, 0 or 1.</summary>
    ThrottleFlag,

    /// <summary>A sound meter, dB(A).</summary>
    SoundLevel,

    /// <summary>A benchmark's score, in its own unit.</summary>
    Score,
}

/// <summary>Names of roles as other programs read them.</summary>
public static class ChannelRoles
{
    private static readonly Dictionary<ChannelRole, string> Names = Enum.GetValues<ChannelRole>()
        .ToDictionary(role => role, role => Kebab(role.ToString()));

    private static readonly Dictionary<string, ChannelRole> ByName = Names.ToDictionary(
        pair => pair.Value,
        pair => pair.Key,
        StringComparer.Ordinal
    );

    /// <summary>The name of a role in JSON and in logs.</summary>
    public static string Name(this ChannelRole role) => Names[role];

    /// <summary>The role of a name.</summary>
    public static bool TryParse(string name, out ChannelRole role) => ByName.TryGetValue(name, out role);

    /// <summary>True for what can stand for the processor.</summary>
    public static bool IsProcessorTemperature(this ChannelRole role) =>
        role is ChannelRole.CpuTemperature or ChannelRole.CoreTemperature or ChannelRole.CpuControlTemperature;

    /// <summary>As above, by the contract's name.</summary>
    public static bool IsProcessorTemperature(string name) => TryParse(name, out ChannelRole role) && role.IsProcessorTemperature();

    /// <summary>True for roles in °C, where −40…150 are the possible values.</summary>
    public static bool IsTemperature(this ChannelRole role) => Names[role].EndsWith("-temperature", StringComparison.Ordinal);

    /// <summary>The unit that a role has when its header names none; null where there is no usual one.</summary>
    public static ChannelUnit? Unit(this ChannelRole role)
    {
        string name = Names[role];
        string? unit =
            role.IsTemperature() ? "°C"
            : name.EndsWith("-power", StringComparison.Ordinal) ? "W"
            : name.EndsWith("-clock", StringComparison.Ordinal) ? "MHz"
            : name.EndsWith("-load", StringComparison.Ordinal) ? "%"
            : name.EndsWith("-speed", StringComparison.Ordinal) ? "rpm"
            : role == ChannelRole.ThrottleFlag ? "flag"
            : role == ChannelRole.SoundLevel ? "dBA"
            : null;
        return unit is not null && ChannelUnit.TryParse(unit, out ChannelUnit found) ? found : null;
    }

    private static string Kebab(string pascal) =>
        string.Concat(
            pascal.Select((c, i) => char.IsUpper(c) && i > 0 ? "-" + char.ToLowerInvariant(c) : char.ToLowerInvariant(c).ToString())
        );
}
