namespace Remedos.Core.Physics;

/// <summary>A fan and what it blows through. Pressures Pa, flows m³/h.</summary>
/// <param name="Place">front, rear, top, bottom, side or supply.</param>
/// <param name="Inward">Whether it draws room air in.</param>
/// <param name="StallPa">Pressure at full speed without flow.</param>
/// <param name="FreeM3PerH">Flow at full speed without resistance.</param>
/// <param name="MaxRpm">Full speed.</param>
/// <param name="NoiseAtMaxDba">At full speed, dB(A) at 1 m.</param>
/// <param name="PathK">Grille, filter and radiator in its way: Δp = k·Q², Pa/(m³/h)².</param>
public sealed record CaseFan(
    string Place,
    bool Inward,
    double StallPa,
    double FreeM3PerH,
    double MaxRpm,
    double NoiseAtMaxDba,
    double PathK
)
{
    /// <summary>What it pushes inward at a share of full speed, Pa. Its curve is p = p₀n²(1 − (Q/(Q₀n))²).</summary>
    /// <param name="speedShare">0 … 1 of full speed.</param>
    public double PushPa(double speedShare) => StallPa * speedShare * speedShare * (Inward ? 1 : -1);

    /// <summary>
    /// What is in its way, Pa/(m³/h)²: its curve and its path are both parabolas, so they are one; a fan that is overcome, or stands,
    /// lets air through the other way.
    /// </summary>
    public double K => PathK + (StallPa / (FreeM3PerH * FreeM3PerH));
}

/// <summary>An opening without a fan: leaks as √Δp.</summary>
/// <param name="Place">front, rear, top, bottom, side or slots.</param>
/// <param name="K">Δp = k·Q², Pa/(m³/h)².</param>
public sealed record Opening(string Place, double K);
