namespace Remedos.Core.Logs;

/// <summary>A unit as a logger writes it, and what turns it into the canonical unit of its kind.</summary>
/// <param name="Canonical">The unit that values are kept in: C, W, MHz, %, rpm, s, V, MB, dBA, flag, or empty.</param>
/// <param name="Scale">canonical = written × Scale + Offset.</param>
/// <param name="Offset">See <paramref name="Scale"/>.</param>
public readonly record struct ChannelUnit(string Canonical, double Scale, double Offset)
{
    /// <summary>A number without a unit.</summary>
    public static readonly ChannelUnit None = new("", 1, 0);

    private static readonly Dictionary<string, ChannelUnit> Known = new(StringComparer.OrdinalIgnoreCase)
    {
        ["°c"] = new("C", 1, 0),
        ["c"] = new("C", 1, 0),
        ["degc"] = new("C", 1, 0),
        ["celsius"] = new("C", 1, 0),
        ["℃"] = new("C", 1, 0),
        ["°f"] = new("C", 5.0 / 9, -160.0 / 9),
        ["f"] = new("C", 5.0 / 9, -160.0 / 9),
        ["degf"] = new("C", 5.0 / 9, -160.0 / 9),
        ["fahrenheit"] = new("C", 5.0 / 9, -160.0 / 9),
        ["k"] = new("C", 1, -273.15),
        ["m°c"] = new("C", 0.001, 0),
        ["w"] = new("W", 1, 0),
        ["watt"] = new("W", 1, 0),
        ["watts"] = new("W", 1, 0),
        ["mw"] = new("W", 0.001, 0),
        ["kw"] = new("W", 1000, 0),
        ["uw"] = new("W", 1e-6, 0),
        ["mhz"] = new("MHz", 1, 0),
        ["ghz"] = new("MHz", 1000, 0),
        ["khz"] = new("MHz", 0.001, 0),
        ["hz"] = new("MHz", 1e-6, 0),
        ["%"] = new("%", 1, 0),
        ["pct"] = new("%", 1, 0),
        ["percent"] = new("%", 1, 0),
        ["rpm"] = new("rpm", 1, 0),
        ["1/min"] = new("rpm", 1, 0),
        ["r/min"] = new("rpm", 1, 0),
        ["s"] = new("s", 1, 0),
        ["sec"] = new("s", 1, 0),
        ["secs"] = new("s", 1, 0),
        ["seconds"] = new("s", 1, 0),
        ["second"] = new("s", 1, 0),
        ["ms"] = new("s", 0.001, 0),
        ["milliseconds"] = new("s", 0.001, 0),
        ["us"] = new("s", 1e-6, 0),
        ["min"] = new("s", 60, 0),
        ["minutes"] = new("s", 60, 0),
        ["h"] = new("s", 3600, 0),
        ["v"] = new("V", 1, 0),
        ["volt"] = new("V", 1, 0),
        ["volts"] = new("V", 1, 0),
        ["mv"] = new("V", 0.001, 0),
        ["a"] = new("A", 1, 0),
        ["mb"] = new("MB", 1, 0),
        ["gb"] = new("MB", 1024, 0),
        ["mib"] = new("MB", 1, 0),
        ["gib"] = new("MB", 1024, 0),
        ["dba"] = new("dBA", 1, 0),
        ["db(a)"] = new("dBA", 1, 0),
        ["db"] = new("dBA", 1, 0),
        ["yes/no"] = new("flag", 1, 0),
        ["no/yes"] = new("flag", 1, 0),
        ["true/false"] = new("flag", 1, 0),
        ["0/1"] = new("flag", 1, 0),
        ["flag"] = new("flag", 1, 0),
    };

    /// <summary>Finds a unit by the text a logger wrote for it, without its brackets; false when it is none that is known.</summary>
    public static bool TryParse(string text, out ChannelUnit unit) => Known.TryGetValue(text.Trim(), out unit);
}
