namespace Remedos.Core.Logs;

/// <summary>What a column of a log means. The kebab-case names are the contract's (docs/formats.md).</summary>
public enum ChannelRole
{
    Other, Time,
    CpuTemperature, CpuControlTemperature, CoreTemperature, CpuPower, CpuClock, CoreClock, CpuLoad,
    GpuTemperature, GpuHotspotTemperature, GpuMemoryTemperature, GpuPower, GpuLoad,
    CoolantTemperature, TubeOutTemperature, TubeReturnTemperature, AmbientTemperature, CaseAirTemperature,
    CpuFanSpeed, GpuFanSpeed, CaseFanSpeed, PumpSpeed, ThrottleFlag, SoundLevel, Score,
}

/// <summary>Names of roles as other programs read them.</summary>
public static class ChannelRoles
{
    private static readonly Dictionary<ChannelRole, string> Names =
        Enum.GetValues<ChannelRole>().ToDictionary(role => role, role => Kebab(role.ToString()));

    private static readonly Dictionary<string, ChannelRole> ByName =
        Names.ToDictionary(pair => pair.Value, pair => pair.Key, StringComparer.Ordinal);

    public static string Name(this ChannelRole role) => Names[role];

    public static bool TryParse(string name, out ChannelRole role) => ByName.TryGetValue(name, out role);

    /// <summary>True for what can stand for the processor.</summary>
    public static bool IsProcessorTemperature(this ChannelRole role) => role is ChannelRole.CpuTemperature or ChannelRole.CoreTemperature or ChannelRole.CpuControlTemperature;

    /// <summary>As above, by the contract's name.</summary>
    public static bool IsProcessorTemperature(string name) => TryParse(name, out ChannelRole role) && role.IsProcessorTemperature();

    /// <summary>True for roles in °C, where −40…150 are the possible values.</summary>
    public static bool IsTemperature(this ChannelRole role) => Names[role].EndsWith("-temperature", StringComparison.Ordinal);

    /// <summary>The unit that a role has when its header names none; null where there is no usual one.</summary>
    public static ChannelUnit? Unit(this ChannelRole role)
    {
        string name = Names[role];
        string? unit = role.IsTemperature() ? "°C"
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
        string.Concat(pascal.Select((c, i) => char.IsUpper(c) && i > 0 ? "-" + char.ToLowerInvariant(c) : char.ToLowerInvariant(c).ToString()));
}
