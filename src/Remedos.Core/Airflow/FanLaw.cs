namespace Remedos.Core.Airflow;

/// <summary>What is in a filter's meshes.</summary>
public static class FilterState
{
    public const string None = "none", Clean = "clean", Dusty = "dusty";

    public static readonly string[] All = [None, Clean, Dusty];
}

/// <summary>
/// A case fan of which no curve is known, by the fan laws from one that is: flow as n·d³, pressure as n²·d², level as 50·log₁₀ n and 50·log₁₀ d; and what stands in its way
/// (docs/science.md, “Air through the case”).
/// </summary>
public static class FanLaw
{
    /// <summary>What a case fan of 120 mm does at 1200 rpm: Pa without flow, m³/h without resistance, dB(A) at 1 m.</summary>
    private const double StallPa = 14, FreeM3PerH = 95, ReferenceDba = 24;

    private const double ReferenceMm = 120, ReferenceRpm = 1200;

    /// <summary>Pa/(m³/h)² for 120 mm: the punched metal, a clean filter before it, one full of dust, and a radiator's fins.</summary>
    private const double GrilleK = 0.0015, FilterK = 0.0025, DustyFilterK = 0.03, FinsK = 0.004;

    /// <summary>Where a case draws its air through a filter.</summary>
    public static readonly string[] Filtered = ["front", "bottom"];

    /// <summary>The power supply's own fan, and what leaks in and out beside all fans.</summary>
    public static readonly CaseFan Supply = new("supply", false, 10, 62, 1100, 24, 0.006);

    public const double SupplyShare = 0.6;

    public static readonly IReadOnlyList<Opening> Leaks = [new("slots", 0.006), new("top", 0.004)];

    /// <summary>A fan by its size and full speed.</summary>
    /// <param name="noiseAtMaxDba">dB(A) at 1 m; null for what the laws say.</param>
    /// <param name="filter">Of <see cref="FilterState"/>; it matters where the case has one.</param>
    /// <param name="throughFins">Whether it blows through a radiator.</param>
    public static CaseFan Of(string place, bool inward, double sizeMm, double maxRpm, double? noiseAtMaxDba = null, string filter = FilterState.Clean, bool throughFins = false)
    {
        double size = sizeMm / ReferenceMm, speed = maxRpm / ReferenceRpm;
        double k = GrilleK + (throughFins ? FinsK : 0) + (!Filtered.Contains(place) ? 0 : filter == FilterState.Dusty ? DustyFilterK : filter == FilterState.Clean ? FilterK : 0);
        return new CaseFan(place, inward, Math.Max(0.01, StallPa * speed * speed * size * size), Math.Max(1, FreeM3PerH * speed * size * size * size), maxRpm, noiseAtMaxDba ?? Dba(sizeMm, maxRpm), k / Math.Pow(size, 4));
    }

    /// <summary>By how much a fan is louder at a multiple of its speed, dB.</summary>
    public static double SpeedChangeDba(double ratio) => SpeedDecibels * Math.Log10(ratio);

    /// <summary>The multiple of its speed at which a fan is louder by so much.</summary>
    public static double SpeedRatioFor(double dba) => Math.Pow(10, dba / SpeedDecibels);

    private const double SpeedDecibels = 50;

    /// <summary>Level of a fan of this size at a speed, dB(A) at 1 m; 0 when it stands.</summary>
    public static double Dba(double sizeMm, double rpm) => rpm <= 0 ? 0 : Math.Max(0, ReferenceDba + (50 * Math.Log10(rpm / ReferenceRpm)) + (50 * Math.Log10(sizeMm / ReferenceMm)));
}
