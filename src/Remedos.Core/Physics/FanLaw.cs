namespace Remedos.Core.Physics;

/// <summary>What is in a filter's meshes.</summary>
public static class FilterState
{
    /// <summary>Whether a case has a dust filter and how it looks.</summary>
    public const string None = "none",
        Clean = "clean",
        Dusty = "dusty";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [None, Clean, Dusty];
}

/// <summary>What a case has before its front and bottom fans.</summary>
public static class CaseFront
{
    /// <summary>What a fan's place in the case is made of.</summary>
    public const string Mesh = "mesh",
        Grille = "grille",
        Closed = "closed";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Mesh, Grille, Closed];
}

/// <summary>
/// A case fan of which no curve is known, by the fan laws from one that is: flow as n·d³, pressure as n²·d², level as 50·log₁₀ n
/// and
/// 70·log₁₀ d; and what stands in its way
/// (docs/science.md, “Air through the case”).
/// </summary>
public static class FanLaw
{
    /// <summary>What a case fan of 120 mm does at 1200 rpm: Pa without flow, m³/h without resistance, dB(A) at 1 m.</summary>
    private const double StallPa = 14,
        FreeM3PerH = 95,
        ReferenceDba = 24;

    private const double ReferenceMm = 120,
        ReferenceRpm = 1200;

    /// <summary>Pa/(m³/h)² for 120 mm: the punched metal, a clean filter before it, one full of dust, and a radiator's fins.</summary>
    private const double GrilleK = 0.0015,
        FilterK = 0.0025,
        DustyFilterK = 0.03,
        FinsK = 0.004;

    /// <summary>Likewise of a front of mesh, and of one of glass or steel with slits at its edges.</summary>
    private const double MeshK = 0.0006,
        ClosedK = 0.012;

    /// <summary>Where a case draws its air through a filter.</summary>
    public static readonly string[] Filtered = ["front", "bottom"];

    /// <summary>The power supply's own fan, and what leaks in and out beside all fans.</summary>
    public static readonly CaseFan Supply = new("supply", false, 10, 62, 1100, 24, 0.006);

    /// <summary>Openings that every case has.</summary>
    public static readonly IReadOnlyList<Opening> Leaks = [new("slots", 0.006), new("top", 0.004)];

    /// <summary>A fan by its size and full speed.</summary>
    /// <param name="noiseAtMaxDba">dB(A) at 1 m; null for what the laws say.</param>
    /// <param name="filter">Of <see cref="FilterState"/>; it matters where the case has one.</param>
    /// <param name="throughFins">Whether it blows through a radiator.</param>
    /// <param name="front">Of <see cref="CaseFront"/>; null when unknown: a grille.</param>
    public static CaseFan Of(
        string place,
        bool inward,
        double sizeMm,
        double maxRpm,
        double? noiseAtMaxDba = null,
        string filter = FilterState.Clean,
        bool throughFins = false,
        string? front = null
    )
    {
        double size = sizeMm / ReferenceMm,
            speed = maxRpm / ReferenceRpm;
        double metal =
            place != "front"
                ? GrilleK
                : front switch
                {
                    CaseFront.Mesh => MeshK,
                    CaseFront.Closed => ClosedK,
                    _ => GrilleK,
                };
        double dust = !Filtered.Contains(place)
            ? 0
            : filter switch
            {
                FilterState.Dusty => DustyFilterK,
                FilterState.Clean => FilterK,
                _ => 0,
            };
        double k = metal + dust + (throughFins ? FinsK : 0);
        return new CaseFan(
            place,
            inward,
            Math.Max(0.01, StallPa * speed * speed * size * size),
            Math.Max(1, FreeM3PerH * speed * size * size * size),
            maxRpm,
            noiseAtMaxDba ?? Dba(sizeMm, maxRpm),
            k / Math.Pow(size, 4)
        );
    }

    /// <summary>By how much a fan is louder at a multiple of its speed, dB.</summary>
    public static double SpeedChangeDba(double ratio) => PhysicalConstants.FanSpeedDb * Math.Log10(ratio);

    /// <summary>The multiple of its speed at which a fan is louder by so much.</summary>
    public static double SpeedRatioFor(double dba) => Math.Pow(10, dba / PhysicalConstants.FanSpeedDb);

    /// <summary>Level of a fan of this size at a speed, dB(A) at 1 m; 0 when it stands.</summary>
    public static double Dba(double sizeMm, double rpm) =>
        rpm <= 0
            ? 0
            : Math.Max(
                0,
                ReferenceDba + SpeedChangeDba(rpm / ReferenceRpm) + (PhysicalConstants.FanSizeDb * Math.Log10(sizeMm / ReferenceMm))
            );
}
