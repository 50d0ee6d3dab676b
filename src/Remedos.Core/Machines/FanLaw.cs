using Remedos.Core.Physics;

namespace Remedos.Core.Machines;

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
/// A case fan of which no curve is known, by the fan laws from one that is (of 120 mm at 1200 rpm, defaults.json): flow as n·d³,
/// pressure as n²·d², level as 50·log₁₀ n and 70·log₁₀ d; and what stands in its way (docs/science.md, “Air through the
/// case”).
/// </summary>
public static class FanLaw
{
    private const double ReferenceMm = 120,
        ReferenceRpm = 1200;

    /// <summary>Where a case draws its air through a filter.</summary>
    public static readonly string[] Filtered = ["front", "bottom"];

    /// <summary>The power supply's own fan.</summary>
    public static readonly CaseFan Supply = new(
        "supply",
        false,
        Defaults.SupplyStallPa,
        Defaults.SupplyFreeM3PerH,
        Defaults.SupplyMaxRpm,
        Defaults.SupplyDba,
        Defaults.SupplyK
    );

    /// <summary>Openings that every case has, and what is left of them where the front is shut.</summary>
    private static readonly IReadOnlyList<Opening> Leaks = [new("slots", Defaults.SlotsK), new("top", Defaults.TopK)],
        LeaksWhenShut = [new("slots", Defaults.ShutSlotsK)];

    /// <summary>Where air passes a case without a fan.</summary>
    /// <param name="front">Of <see cref="CaseFront"/>; null when unknown.</param>
    public static IReadOnlyList<Opening> LeaksOf(string? front) => front == CaseFront.Closed ? LeaksWhenShut : Leaks;

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
                ? Defaults.GrilleK
                : front switch
                {
                    CaseFront.Mesh => Defaults.MeshK,
                    CaseFront.Closed => Defaults.ClosedFrontK,
                    _ => Defaults.GrilleK,
                };
        double dust = !Filtered.Contains(place)
            ? 0
            : filter switch
            {
                FilterState.Dusty => Defaults.DustyFilterK,
                FilterState.Clean => Defaults.FilterK,
                _ => 0,
            };
        double k = metal + dust + (throughFins ? Defaults.FinsK : 0);
        return new CaseFan(
            place,
            inward,
            Math.Max(0.01, Defaults.FanStallPa * speed * speed * size * size),
            Math.Max(1, Defaults.FanFreeM3PerH * speed * size * size * size),
            maxRpm,
            noiseAtMaxDba ?? Dba(sizeMm, maxRpm),
            k / Math.Pow(size, 4)
        );
    }

    /// <summary>Level of a fan of this size at a speed, dB(A) at 1 m; 0 when it stands.</summary>
    public static double Dba(double sizeMm, double rpm) =>
        rpm <= 0
            ? 0
            : Math.Max(
                0,
                Defaults.FanDba
                    + SoundLevel.SpeedChangeDba(rpm / ReferenceRpm)
                    + (PhysicalConstants.FanSizeDb * Math.Log10(sizeMm / ReferenceMm))
            );
}
